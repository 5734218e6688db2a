<script lang="ts">
  import { api, type CasesAnswer } from '@/api/client';
  import type { Case } from '@/api/types';
  import CaseRecord from '@/parts/CaseRecord.svelte';
  import { day, moment } from '@/parts/format';
  import { app } from '@/state/app.svelte';
  import type { Reading } from './document.svelte';

  /** Where the document stands in procedures, who has it, and what was decided by whom and why. */
  let { reading }: { reading: Reading } = $props();
  const record = $derived(reading.record!);

  let got = $state.raw<CasesAnswer | null>(null);
  let open = $state<number | null>(null);
  let acts = $state<{ id: number; what: 'move' | 'cancel' } | null>(null);
  let step = $state('');
  let reason = $state('');
  let beginning = $state('');
  let busy = $state(false);
  // svelte-ignore state_referenced_locally
  if (record.state === 'filed')
    api.cases(record.ref).then(
      (answer) => (got = answer),
      () => undefined,
    );

  async function act(what: () => Promise<CasesAnswer>, says: string) {
    busy = true;
    try {
      got = await what();
      acts = null;
      reason = '';
      beginning = '';
      app.say(says);
    } catch (error) {
      app.fail(error, 'Nothing was changed. Try again.');
    } finally {
      busy = false;
    }
  }
  const STATUS: Record<string, string> = { acting: 'at work', stopped: 'stopped', ended: 'ended', given_up: 'cancelled', fresh: 'begins' };
  const standing = (one: Case) =>
    [
      one.waits_for.length > 0 ? `waits for ${one.waits_for.join(', ')}` : (STATUS[one.status] ?? ''),
      one.due ? `${one.overdue ? 'overdue since' : 'due'} ${day(one.due)}` : '',
      `since ${moment(one.since)}`,
    ]
      .filter(Boolean)
      .join(', ');
</script>

{#if got && (got.cases.length > 0 || got.procedures.length > 0)}
  <h3 class="mt-4 text-[17px]">Procedures</h3>
  <ul>
    {#each got.cases as one (one.id)}
      <li class="border-t border-hair py-1.5">
        <p class="flex items-baseline gap-3">
          <span class="min-w-0 flex-1">{one.procedure.name}: <span class="font-semibold">{one.step.name}</span></span>
          {#if one.task !== null}<a class="whitespace-nowrap" href={`/tasks/${one.task}`}>Decide</a>{/if}
        </p>
        <p class="small" class:text-rust={one.overdue || one.status === 'stopped'} class:quiet={!one.overdue && one.status !== 'stopped'}>
          {standing(one)}
        </p>
        {#if one.fault}<p class="small text-rust">{one.fault}</p>{/if}
        <p class="small links flex flex-wrap gap-x-4">
          <button class="link" aria-expanded={open === one.id} onclick={() => (open = open === one.id ? null : one.id)}
            >{open === one.id ? 'Hide what happened' : 'What happened'}</button
          >
          {#if one.may_keep}
            {#if one.status === 'stopped'}<button
                class="link"
                disabled={busy}
                onclick={() => void act(() => api.resumeCase(one.id), 'It goes on.')}>Try again</button
              >{/if}
            <button class="link" onclick={() => (acts = { id: one.id, what: 'move' })}>Move to…</button>
            <button class="link" onclick={() => (acts = { id: one.id, what: 'cancel' })}>Cancel the procedure…</button>
          {/if}
        </p>
        {#if acts?.id === one.id && acts.what === 'move'}
          <form
            class="mt-1 flex items-end gap-2"
            onsubmit={(e) => {
              e.preventDefault();
              void act(() => api.moveCase(one.id, step), 'Moved.');
            }}
          >
            <label class="small min-w-0 flex-1"
              >Step<select class="input" bind:value={step}
                >{#each one.steps as to (to.code)}<option value={to.code}>{to.name}</option>{/each}</select
              ></label
            ><button class="btn" disabled={busy || !step}>Move</button><button class="btn" type="button" onclick={() => (acts = null)}
              >Cancel</button
            >
          </form>
        {:else if acts?.id === one.id}
          <form
            class="mt-1 flex items-end gap-2"
            onsubmit={(e) => {
              e.preventDefault();
              void act(() => api.cancelCase(one.id, reason), 'The procedure is cancelled.');
            }}
          >
            <label class="small min-w-0 flex-1">Reason<input class="input" bind:value={reason} required /></label><button
              class="btn"
              disabled={busy}>Cancel the procedure</button
            ><button class="btn" type="button" onclick={() => (acts = null)}>Keep it</button>
          </form>
        {/if}
        {#if open === one.id}<CaseRecord record={one.record} />{/if}
      </li>
    {/each}
  </ul>
  {#if got.procedures.length > 0}
    <form
      class="flex items-center gap-2 border-t border-hair py-1.5"
      onsubmit={(e) => {
        e.preventDefault();
        void act(() => api.beginCase(record.ref, beginning), 'The procedure has begun.');
      }}
    >
      <label class="sr-only" for="begin">Begin a procedure</label>
      <select id="begin" class="input" bind:value={beginning}
        ><option value="">Begin a procedure…</option>{#each got.procedures as one (one.code)}<option value={one.code}>{one.name}</option
          >{/each}</select
      ><button class="btn" disabled={busy || !beginning}>Begin</button>
    </form>
  {/if}
{/if}
