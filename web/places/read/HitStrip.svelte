<script lang="ts">
  import type { Reading } from './document.svelte';
  import { plural } from '@/parts/format';
  import IconChevronDown from '@lucide/svelte/icons/chevron-down';
  import IconChevronUp from '@lucide/svelte/icons/chevron-up';

  let { reading }: { reading: Reading } = $props();
  const pages = $derived(Math.max(1, reading.record?.page_count ?? 1));
  function goToNearest(event: MouseEvent & { currentTarget: HTMLElement }) {
    const { left, width } = event.currentTarget.getBoundingClientRect();
    const pointed = ((event.clientX - left) / Math.max(1, width)) * pages + 0.5;
    const [nearest] = reading.hits.pages.map((p) => p.page).sort((a, b) => Math.abs(a - pointed) - Math.abs(b - pointed));
    if (nearest !== undefined) void reading.goToPage(nearest);
  }
</script>

{#if reading.hits.total > 0}
  <div class="flex items-center gap-1 border-b border-hair px-3 py-1">
    <span class="small flex-1" data-testid="hits">
      <span class="num">{reading.at >= 0 ? `${reading.at + 1} of ` : ''}</span>{plural(reading.hits.total, 'hit', 'hits')}
      <span class="quiet">on {plural(reading.hits.pages.length, 'page', 'pages')}</span>
    </span>
    <button class="icon-btn" onclick={() => reading.step(-1)} aria-label="Previous hit" title="Previous hit (p)"
      ><IconChevronUp size={16} strokeWidth={1.7} /></button
    >
    <button class="icon-btn" onclick={() => reading.step(1)} aria-label="Next hit" title="Next hit (n)"
      ><IconChevronDown size={16} strokeWidth={1.7} /></button
    >
  </div>
  {#if pages > 1}
    <!-- For the eye and the mouse: marks of many pages are too narrow to be targets of their own, and n and p go to the same places. -->
    <div class="strip" role="presentation" onclick={goToNearest}>
      {#each reading.hits.pages as { page, hits } (page)}
        <span
          style={`left:${(100 * (page - 1)) / pages}%;width:max(6px, ${100 / pages}%);opacity:${Math.min(1, 0.45 + hits * 0.15)}`}
          class:here={reading.asked?.page === page}
          title={`Page ${page}: ${plural(hits, 'hit', 'hits')}`}
        ></span>
      {/each}
    </div>
  {/if}
{/if}

<style>
  .strip {
    position: relative;
    height: 12px;
    background: var(--sheet);
    border-bottom: 1px solid var(--hair);
  }
  .strip span {
    position: absolute;
    cursor: pointer;
    top: 0;
    bottom: 0;
    background: var(--brass);
    border-right: 1px solid var(--sheet);
  }
  .strip span.here {
    background: var(--brass-text);
  }
</style>
