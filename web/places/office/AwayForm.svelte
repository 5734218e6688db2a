<script lang="ts">
  import { messageOf, type AwayDays } from '@/api/client';
  import type { Away } from '@/api/types';
  import Combobox from '@/parts/Combobox.svelte';
  import { Attempt } from '@/parts/attempt.svelte';
  import { app } from '@/state/app.svelte';

  interface Props {
    load: () => Promise<Away>;
    save: (away: AwayDays & { manager: string | null }) => Promise<Away>;
    /** Whether the manager is said here too. */
    managed?: boolean;
  }
  let { load, save, managed = false }: Props = $props();

  let known = $state.raw<Away | null>(null);
  let manager = $state('');
  let standIn = $state('');
  let from = $state('');
  let until = $state('');
  let fault = $state('');
  const saving = new Attempt();

  function take(got: Away) {
    known = got;
    manager = got.manager ?? '';
    standIn = got.stand_in ?? '';
    from = got.away_from ?? '';
    until = got.away_until ?? '';
  }
  // svelte-ignore state_referenced_locally
  load().then(take, (error: unknown) => (fault = messageOf(error, 'This cannot be shown.')));
  const items = $derived((known?.people ?? []).map((p) => ({ value: p.sign_in, label: p.name })));

  async function send(event: SubmitEvent) {
    event.preventDefault();
    const done = await saving.run(async () => {
      take(
        await save({
          stand_in: standIn || null,
          away_from: (standIn && from) || null,
          away_until: (standIn && until) || null,
          ...(managed ? { manager: manager || null } : {}),
        } as AwayDays & { manager: string | null }),
      );
    }, 'stand_in');
    if (done) app.say('Saved.');
  }
  const id = $props.id();
</script>

{#if fault}<p class="fault">{fault}</p>
{:else if known}
  <form onsubmit={send} aria-label={managed ? 'Work' : 'While you are away'}>
    {#if managed}
      <label class="heading" for={`${id}-manager`}>Manager</label>
      <Combobox id={`${id}-manager`} label="Manager" {items} value={manager} placeholder="nobody" onchange={(v) => (manager = v)} />
      {#if saving.faults.manager}<p class="fault" role="alert">{saving.faults.manager}</p>{/if}
    {/if}
    <label class="heading mt-1" for={`${id}-stand-in`}>{managed ? 'Stand-in' : 'Who decides for you while you are away'}</label>
    <Combobox id={`${id}-stand-in`} label="Stand-in" {items} value={standIn} placeholder="nobody" onchange={(v) => (standIn = v)} />
    {#if saving.faults.stand_in}<p class="fault" role="alert">{saving.faults.stand_in}</p>{/if}
    {#if standIn}
      <div class="grid grid-cols-2 gap-4 pt-1">
        <label><span class="heading">From, empty for now</span><input class="input" type="date" bind:value={from} /></label>
        <label><span class="heading">Until, empty for open</span><input class="input" type="date" bind:value={until} /></label>
      </div>
      {#if saving.faults.away_until}<p class="fault" role="alert">{saving.faults.away_until}</p>{/if}
    {/if}
    <button class="btn mt-2" disabled={saving.busy}>Save</button>
  </form>
{/if}
