<script lang="ts">
  import { api } from '@/api/client';
  import { plural } from '@/parts/format';
  import { app } from '@/state/app.svelte';

  /** Who may see a document, asked for when it is opened. */
  let { document: ref }: { document: string } = $props();

  let sight = $state.raw<Awaited<ReturnType<typeof api.documentSight>> | null>(null);
  let open = $state(false);
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
</script>

<div class="mt-3">
  <button class="link min-h-6" aria-expanded={open} onclick={toggle}>Who can see this document</button>
  {#if open}
    {#if sight}
      <p class="small quiet">{plural(sight.people.length, 'person', 'people')} of {sight.of}</p>
      <ul>
        {#each sight.people as person (person.name)}<li class="flex border-t border-hair py-0.5">
            <span class="flex-1">{person.name}</span><span class="small quiet">{person.role}</span>
          </li>{/each}
      </ul>
    {:else}<p class="small quiet" role="status">Loading…</p>{/if}
  {/if}
</div>
