<script lang="ts">
  import { api } from '@/api/client';
  import type { People } from './people.svelte';

  /** Groups, with the groups that are in each. */
  let { people }: { people: People } = $props();

  let open = $state<number | null>(null);
  let chosen = $state<string[]>([]);
  const nested = $derived(people.answer?.nested ?? []);
  const inIt = (name: string) =>
    (people.answer?.people ?? [])
      .filter((p) => !p.out_of_use_at && p.groups.includes(name))
      .map((p) => p.name)
      .join(', ');

  async function save(event: SubmitEvent, id: number) {
    event.preventDefault();
    if (await people.act(() => api.putGroups(id, chosen))) open = null;
  }
</script>

<p class="quiet max-w-xl py-3">
  Whoever is in a group is also in every group that it is in. What a group may see is said in Design, with libraries and access rules.
</p>
<ul class="max-w-3xl">
  {#each nested as g (g.id)}
    <li class="border-t border-hair py-2">
      <p class="flex items-baseline gap-3">
        <span class="flex-1">{g.name}</span>
        <button
          class="link small"
          aria-expanded={open === g.id}
          onclick={() => {
            open = open === g.id ? null : g.id;
            chosen = [...g.groups];
            people.fault = '';
          }}>Groups in it…</button
        >
      </p>
      <p class="small quiet">
        {#if g.groups.length > 0}Everybody in {g.groups.join(', ')}{inIt(g.name) ? '; ' : ''}{/if}{inIt(g.name) ||
          (g.groups.length > 0 ? '' : 'nobody')}
      </p>
      {#if open === g.id}
        <form class="my-2 border-l-2 border-act pl-4" onsubmit={(e) => save(e, g.id)} aria-label={`Groups in ${g.name}`}>
          <p class="flex flex-wrap gap-x-5 gap-y-1">
            {#each nested.filter((o) => o.id !== g.id) as o (o.id)}<label class="flex items-center gap-2"
                ><input type="checkbox" class="check" value={o.name} bind:group={chosen} />{o.name}</label
              >{/each}
          </p>
          {#if people.fault}<p class="fault" role="alert">{people.fault}</p>{/if}
          <p class="mt-2 flex gap-2">
            <button class="btn btn-main" disabled={people.busy}>Save</button><button class="btn" type="button" onclick={() => (open = null)}
              >Cancel</button
            >
          </p>
        </form>
      {/if}
    </li>
  {:else}<li class="quiet">There is no group yet. The records librarian makes groups in Design.</li>{/each}
</ul>
