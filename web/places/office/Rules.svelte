<script lang="ts">
  import { api } from '@/api/client';
  import { untrack } from 'svelte';
  import { app } from '@/state/app.svelte';
  import type { People } from './people.svelte';

  /** How long people stay signed in, and whether they need a second factor. */
  let { people }: { people: People } = $props();

  let rules = $state(untrack(() => ({ ...people.answer!.rules })));
  const changed = $derived(JSON.stringify(rules) !== JSON.stringify(people.answer!.rules));
  const without = $derived(people.answer!.people.filter((p) => !p.out_of_use_at && !p.has_factor).length);

  async function save(event: SubmitEvent) {
    event.preventDefault();
    if (await people.act(() => api.signInRules($state.snapshot(rules)))) app.say('Saved. It holds for everybody at once.');
  }
</script>

{#snippet number(id: 'idle_minutes' | 'hours' | 'stay_days', label: string, unit: string, min: number, max: number, says: string)}
  <div class="py-2">
    <label class="heading" for={id}>{label}</label>
    <p class="flex items-center gap-2">
      <input class="input w-24!" {id} type="number" {min} {max} required bind:value={rules[id]} />{unit}
    </p>
    {#if people.faults[id]}<p class="fault" role="alert">{people.faults[id]}</p>{:else}<p class="small quiet">{says}</p>{/if}
  </div>
{/snippet}

<form class="max-w-xl py-2" onsubmit={save}>
  {@render number('idle_minutes', 'Signed out when nothing is done for', 'minutes', 5, 1440, 'Not those who chose to stay signed in')}
  {@render number('hours', 'Signed out in any case after', 'hours', 1, 720, 'Counted from signing in')}
  {@render number('stay_days', 'Who stays signed in is signed out after', 'days', 0, 365, '0 offers nobody to stay signed in')}
  <label class="flex items-baseline gap-2 py-2"
    ><input type="checkbox" class="check translate-y-0.5" bind:checked={rules.second_factor} /><span
      >Everybody needs a second factor<span class="small quiet block"
        >{without === 0
          ? 'Everybody has one.'
          : `${without} of those in use have none yet. They turn it on when they sign in, before they see anything else.`}</span
      ></span
    ></label
  >
  {#if people.fault}<p class="fault" role="alert">{people.fault}</p>{/if}
  <button class="btn btn-main mt-1" disabled={people.busy || !changed}>Save</button>
</form>
