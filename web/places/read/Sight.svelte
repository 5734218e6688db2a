<script lang="ts">
  import { api, type Seer } from '@/api/client';
  import type { Reasons } from '@/api/types';
  import { plural } from '@/parts/format';
  import ReasonLists from '@/parts/ReasonLists.svelte';
  import { app } from '@/state/app.svelte';

  /** Who may see a document, asked for when it is opened; and why, for those who answer for what people may do. */
  let { document: ref }: { document: string } = $props();

  let sight = $state.raw<Awaited<ReturnType<typeof api.documentSight>> | null>(null);
  let open = $state(false);
  let asked = $state('');
  let reasons = $state.raw<Reasons | null>(null);
  const mayAsk = $derived(!!app.person && (app.person.may.design || app.person.may.administer || app.person.may.oversee));

  async function toggle() {
    open = !open;
    if (!open || sight) return;
    try {
      sight = await api.documentSight(ref);
    } catch (error) {
      open = false;
      app.fail(error, 'Who may see it cannot be shown. Try again.');
    }
  }
  async function ask(person: string) {
    if (asked === person) {
      asked = '';
      return;
    }
    try {
      reasons = await api.why(ref, person);
      asked = person;
    } catch (error) {
      app.fail(error, 'The reasons cannot be shown. Try again.');
    }
  }
</script>

{#snippet row(person: Seer)}
  <li class="border-t border-hair py-0.5">
    <p class="flex items-baseline gap-2">
      <span class="flex-1">{person.name}</span><span class="small quiet">{person.role}</span>
      {#if mayAsk}<button
          class="link small min-h-6"
          aria-expanded={asked === person.sign_in}
          aria-label={`Why, of ${person.name}`}
          onclick={() => ask(person.sign_in)}>Why</button
        >{/if}
    </p>
    {#if asked === person.sign_in && reasons}<ReasonLists {reasons} />{/if}
  </li>
{/snippet}

<div class="mt-3">
  <button class="link min-h-6" aria-expanded={open} onclick={toggle}>Who can see this document</button>
  {#if open}
    {#if sight}
      <p class="small quiet">{plural(sight.people.length, 'person', 'people')} of {sight.of}</p>
      <ul>
        {#each sight.people as person (person.sign_in)}{@render row(person)}{/each}
      </ul>
      {#if sight.others.length > 0}
        <p class="small quiet mt-2">Not seen by</p>
        <ul>
          {#each sight.others as person (person.sign_in)}{@render row(person)}{/each}
        </ul>
      {/if}
    {:else}<p class="small quiet" role="status">Loading…</p>{/if}
  {/if}
</div>
