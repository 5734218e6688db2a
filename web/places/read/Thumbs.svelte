<script lang="ts">
  import type { Reading } from './document.svelte';
  import type { Pdf } from './pdf';
  import { isDrawnPage } from './shown';
  import { thumb } from './thumb';

  /** The pages in small, with how many hits each has. */
  let { reading, pdf }: { reading: Reading; pdf: Pdf | null } = $props();

  const WIDTH = 84;
  const numbers = $derived(Array.from({ length: reading.record!.page_count }, (_, i) => i + 1));
  const hits = $derived(new Map(reading.hits.pages.map((p) => [p.page, p.hits])));
</script>

<nav class="thumbs" aria-label="Thumbnails">
  {#each numbers as number (number)}
    <button class:here={reading.asked?.page === number} aria-label={`Go to page ${number}`} onclick={() => reading.goToPage(number)}>
      {#if pdf && isDrawnPage(reading.record!, number)}<canvas
          use:thumb={{ pdf, page: number, width: WIDTH }}
          style={`width:${WIDTH}px;min-height:60px`}
        ></canvas>{/if}
      <span class="small num"
        >{number}{#if hits.has(number)}<span class="text-brass-text"> · {hits.get(number)}</span>{/if}</span
      >
    </button>
  {/each}
</nav>

<style>
  .thumbs {
    flex: none;
    width: 112px;
    overflow-y: auto;
    padding: 8px 12px;
    border-right: 1px solid var(--hair);
    background: var(--paper);
  }
  .thumbs button {
    display: block;
    width: 88px;
    margin-bottom: 8px;
    text-align: center;
  }
  .thumbs canvas {
    display: block;
    background: #fff;
    box-shadow: 0 0 0 1px var(--hair);
  }
  .thumbs button.here canvas {
    box-shadow: 0 0 0 2px var(--act);
  }
</style>
