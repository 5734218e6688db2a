<script lang="ts">
  import { api } from '@/api/client';
  import type { KeptUntil } from '@/api/types';
  import { focusOn } from '@/parts/focus';
  import { day, moment } from '@/parts/format';
  import { app } from '@/state/app.svelte';
  import type { Reading } from './document.svelte';

  /** How long the document is kept, by which rule and why, and what was decided about that. */
  let { reading }: { reading: Reading } = $props();
  const record = $derived(reading.record!);

  let kept = $state.raw<KeptUntil | null>(null);
  let open = $state(false);
  let deciding = $state(false);
  let decision = $state('postpone');
  let on = $state('');
  let reason = $state('');
  let busy = $state(false);
  // svelte-ignore state_referenced_locally
  api.retention(record.ref).then(
    (got) => (kept = got),
    () => undefined,
  );
  const says = $derived(
    !kept ? '' : kept.destroyed ? `Destroyed ${moment(kept.destroyed.at)}` : kept.due ? `${kept.action} on ${day(kept.due)}` : kept.label,
  );
  const DECISIONS = {
    postpone: 'Postpone to a day',
    begin_anew: 'Begin the period anew from a day',
    exempt: 'Keep it: exempt from its rules',
    as_ruled: 'As its rules say',
  };
  const wantsDay = $derived(decision === 'postpone' || decision === 'begin_anew');
  const mayLook = $derived(!!app.person && (app.person.may.oversee || app.person.may.destroy || app.person.may.remove));

  async function decide(event: SubmitEvent) {
    event.preventDefault();
    busy = true;
    try {
      kept = await api.decideRetention(record.ref, { decision, day: wantsDay ? on : null, reason });
      deciding = false;
      reason = on = '';
      app.say('Decided. It is in the history of the document.');
    } catch (error) {
      app.fail(error, 'Nothing was changed. Try again.');
    } finally {
      busy = false;
    }
  }
</script>

{#if kept && kept.state !== 'no_rule'}
  <h3 class="mt-4 text-[17px]">Retention</h3>
  <div class="border-t border-hair py-1.5">
    <p class="flex items-baseline gap-3">
      <span class="min-w-0 flex-1 font-semibold" class:text-rust={kept.state === 'no_date' || kept.state === 'destroyed'}>{says}</span>
      {#if kept.destroyed?.disposal && mayLook}<a class="whitespace-nowrap" href={`/oversight/disposals/${kept.destroyed.disposal}`}
          >Disposal {kept.destroyed.disposal}</a
        >{/if}
    </p>
    {#if !kept.destroyed}<p class="small quiet">{kept.reason.charAt(0).toUpperCase() + kept.reason.slice(1)}.</p>{/if}
    <p class="small links flex flex-wrap gap-x-4">
      {#if kept.rules.length > 1 || kept.rules[0]?.authority}<button class="link" aria-expanded={open} onclick={() => (open = !open)}
          >{open ? 'Hide the rules' : 'Rules'}</button
        >{/if}
      {#if app.person?.may.destroy && !kept.destroyed}<button
          class="link"
          aria-expanded={deciding}
          onclick={() => {
            deciding = !deciding;
            if (deciding) void focusOn('retention-decision');
          }}>Decide otherwise…</button
        >{/if}
    </p>
    {#if open}
      <ul class="small mt-1">
        {#each kept.rules as rule (rule.of)}
          <li class="border-t border-hair py-1">
            <span class="flex gap-3"
              ><span class="flex-1">{rule.of}: {rule.words}</span><span class="num">{rule.due ? day(rule.due) : rule.state}</span></span
            >
            {#if rule.authority}<span class="quiet block">{rule.authority}</span>{/if}
          </li>
        {/each}
      </ul>
    {/if}
    {#if deciding}
      <form class="mt-1" onsubmit={decide}>
        <label class="small block"
          >Decision<select class="input" id="retention-decision" bind:value={decision}
            >{#each Object.entries(DECISIONS) as [code, label] (code)}<option value={code}>{label}</option>{/each}</select
          ></label
        >
        {#if wantsDay}<label class="small mt-1 block">Day<input class="input" type="date" bind:value={on} required /></label>{/if}
        <label class="small mt-1 block">Reason<input class="input" bind:value={reason} required maxlength="1000" /></label>
        <p class="mt-1.5 flex gap-2">
          <button class="btn" disabled={busy}>Decide</button><button class="btn" type="button" onclick={() => (deciding = false)}
            >Cancel</button
          >
        </p>
      </form>
    {/if}
  </div>
{/if}
