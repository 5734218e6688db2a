<script lang="ts">
  import { api } from '@/api/client';
  import type { HealthAnswer } from '@/api/types';
  import { Attempt } from '@/parts/attempt.svelte';
  import { moment } from '@/parts/format';
  import { app } from '@/state/app.svelte';

  /** What needs looking after, and whether everything that should be there is. */
  let health = $state.raw<HealthAnswer | null>(null);
  const attempt = new Attempt();
  const fault = $derived(attempt.faults.all);

  const act = (what: () => Promise<HealthAnswer>) =>
    attempt.run(
      async () => {
        health = await what();
        if (app.person) app.person = { ...app.person, alarms: health.alarms.length };
      },
      'all',
      'This cannot be shown. Try again.',
    );
  void act(() => api.health());
</script>

{#if fault}<p class="fault py-2" role="alert">{fault}</p>{/if}
{#if health}
  {#if health.alarms.length > 0}
    <h2 class="mt-4 text-[17px]">To look after</h2>
    <ul class="max-w-3xl">
      {#each health.alarms as alarm (alarm.id)}
        <li class="flex items-baseline gap-4 border-t border-hair py-2">
          <span class="flex-1">{alarm.says}<span class="small quiet block">since {moment(alarm.raised_at)}</span></span>
          <button class="btn" onclick={() => act(() => api.alarmDone(alarm.id))} aria-label={`Done: ${alarm.says}`}>Done</button>
        </li>
      {/each}
    </ul>
  {:else}<p class="py-3">Nothing needs looking after.</p>{/if}
  <h2 class="mt-4 text-[17px]">Now</h2>
  <table class="max-w-3xl">
    <tbody>
      {#each health.checks as check (check.name)}
        <tr class="border-t border-hair align-baseline">
          <th class="py-1 pr-6 text-left font-normal whitespace-nowrap" scope="row">{check.name}</th>
          <td class="pr-6" class:fault={!check.is_well}>{check.is_well ? 'well' : 'not well'}</td>
          <td class="small quiet">{check.says}</td>
        </tr>
      {/each}
    </tbody>
  </table>
  <p class="py-3"><button class="btn" onclick={() => act(() => api.health())}>Look again</button></p>
{:else if !fault}<p class="quiet py-3">Loading…</p>{/if}
