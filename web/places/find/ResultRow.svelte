<script lang="ts">
  import type { Row } from '@/api/types';
  import { plural } from '@/parts/format';
  import Pieces from '@/parts/Pieces.svelte';
  import IconFiles from '@lucide/svelte/icons/files';
  import IconPaperclip from '@lucide/svelte/icons/paperclip';

  interface Props {
    row: Row;
    layout: 'table' | 'digest';
    columns: string[];
    numeric: (code: string) => boolean;
    /** Whether it stands below what it is attached to. */
    isAttached: boolean;
    /** Whether what is attached to it is shown. */
    isOpen: boolean;
    unfold: () => void;
  }
  let { row, layout, columns, numeric, isAttached, isOpen, unfold }: Props = $props();
</script>

{#snippet clip()}
  <button
    class="clip"
    tabindex="-1"
    aria-label={isOpen ? 'Hide the attachments' : `Show the ${row.attachments} attached`}
    title={`${row.attachments} attached: → shows them, ← hides them`}
    onclick={(e) => {
      e.stopPropagation();
      unfold();
    }}
    ondblclick={(e) => e.stopPropagation()}><IconPaperclip size={13} strokeWidth={1.7} /><span class="num">{row.attachments}</span></button
  >
{/snippet}
{#snippet copies()}
  <button
    class="clip"
    tabindex="-1"
    aria-label={isOpen ? 'Hide the near copies' : `Show the near copies, ${row.copies}`}
    title={`${plural(row.copies ?? 0, 'near copy', 'near copies')} counted with it: → shows them, ← hides them`}
    onclick={(e) => {
      e.stopPropagation();
      unfold();
    }}
    ondblclick={(e) => e.stopPropagation()}><IconFiles size={13} strokeWidth={1.7} /><span class="num">{row.copies}</span></button
  >
{/snippet}
{#snippet mark()}{#if isAttached}{#if row.is_copy}<span class="small quiet ml-2 flex-none font-sans">near copy</span
      >{:else if row.is_found}<span class="small ml-2 flex-none font-sans text-brass-text">found too</span
      >{/if}{:else}{#if row.attachments > 0}{@render clip()}{/if}{#if row.copies}{@render copies()}{/if}{/if}{/snippet}
{#snippet name()}{#if row.parent}<span class="quiet" title={`Attached to ${row.parent.title}`}>↳ </span>{/if}<Pieces
    pieces={row.title_pieces}
  />{/snippet}

{#if layout === 'table'}
  <div role="gridcell" aria-colindex="1" class="title flex items-baseline" title={row.title}>
    <span class="truncate">{@render name()}</span>
    {@render mark()}
    {#if row.text_state === 'destroyed'}<span class="small quiet ml-1 flex-none font-sans">destroyed</span>{/if}
    {#if row.text_state === 'none'}<span class="small ml-1 flex-none font-sans text-rust" title={row.text_reason}>no text</span>{/if}
  </div>
  {#each columns as code, i (code)}<div
      role="gridcell"
      aria-colindex={i + 2}
      class="truncate"
      class:num={numeric(code)}
      title={row.cells[code]}
    >
      {row.cells[code]}
    </div>{/each}
{:else}
  <div role="gridcell" aria-colindex="1" class="min-w-0">
    <p class="title truncate">{@render name()}{@render mark()}</p>
    <p class="small quiet truncate">
      {row.repository} › {row.library}{#each columns.slice(0, 3) as code (code)}{#if row.cells[code] && code !== 'library'}<span
            class="mx-1.5">·</span
          >{row.cells[code]}{/if}{/each}{#if row.found.length > 0}<span class="mx-1.5">·</span><span class="text-ink"
          >in {row.found.join(', ')}</span
        >{/if}
    </p>
    <p class="snippet">
      {#if row.snippet}<Pieces pieces={row.snippet} />{#if row.snippet_comment}<span class="quiet">&ensp;in a comment</span
          >{/if}{#if row.snippet_version}<span class="quiet">&ensp;in version {row.snippet_version}</span
          >{/if}{#if row.snippet_page && row.snippet_page > 1}<span class="quiet">&ensp;page {row.snippet_page}</span>{/if}
      {:else if row.parent}<span class="quiet">Attached to {row.parent.title}</span>
      {:else if row.text_reason}<span class="quiet">{row.text_reason}</span>{/if}
    </p>
  </div>
{/if}

<style>
  .clip {
    display: inline-flex;
    flex: none;
    align-items: center;
    gap: 2px;
    min-height: 20px;
    line-height: 18px;
    align-self: center;
    margin-left: 4px;
    padding: 0 4px;
    vertical-align: -4px;
    font-family: var(--font-sans);
    font-size: 12px;
    color: var(--quiet);
  }
  .clip:hover {
    color: var(--act);
  }
  .title {
    font-family: var(--font-serif);
    font-size: 15.5px;
  }
  p.title {
    font-size: 17px;
    line-height: 1.3;
  }
  .snippet {
    display: -webkit-box;
    -webkit-box-orient: vertical;
    -webkit-line-clamp: 2;
    line-clamp: 2;
    overflow: hidden;
    font-size: 13px;
    line-height: 1.4;
  }
</style>
