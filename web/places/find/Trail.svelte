<script lang="ts">
  import type { View } from '@/api/types';
  import IconChevronRight from '@lucide/svelte/icons/chevron-right';
  import type { SearchState } from '@/state/search';

  /** The way back through the steps. */
  let { view, search, go }: { view: View; search: SearchState; go: (change: Partial<SearchState>) => void } = $props();
</script>

<nav class="flex flex-none flex-wrap items-center gap-x-1 border-b border-hair px-4 py-1.5" aria-label="Steps taken">
  {#if search.steps.length === 0}<span class="font-semibold">{view.name}</span>{:else}<button
      class="link min-h-6"
      onclick={() => go({ steps: [] })}>{view.name}</button
    >{/if}
  {#each search.steps as step, i (step.cql)}
    <span class="quiet" aria-hidden="true"><IconChevronRight size={13} strokeWidth={1.8} /></span>
    {#if i === search.steps.length - 1}<span class="font-semibold">{step.label}</span>{:else}<button
        class="link min-h-6"
        onclick={() => go({ steps: search.steps.slice(0, i + 1) })}>{step.label}</button
      >{/if}
  {/each}
</nav>
