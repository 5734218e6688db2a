<script lang="ts">
  import type { SortKey } from '@/api/types';
  import { app } from '@/state/app.svelte';
  import IconArrowDown from '@lucide/svelte/icons/arrow-down';
  import IconArrowUp from '@lucide/svelte/icons/arrow-up';
  import { sortedBy, type Columns } from './columns.svelte';

  interface Props {
    arranged: Columns;
    sort: SortKey[];
    /** Whether the names are in sight; only the sorting is told otherwise. */
    isShown: boolean;
    numeric: (code: string) => boolean;
    onsort: (sort: SortKey[]) => void;
  }
  let { arranged, sort, isShown, numeric, onsort }: Props = $props();

  function resize(event: PointerEvent, code: string) {
    event.preventDefault();
    const start = event.clientX;
    const cell = (event.currentTarget as HTMLElement).closest<HTMLElement>('[role=columnheader]')!;
    const was = cell.offsetWidth;
    const move = (e: PointerEvent) => arranged.draw(code, was + e.clientX - start);
    const done = () => {
      removeEventListener('pointermove', move);
      arranged.keep();
    };
    addEventListener('pointermove', move);
    addEventListener('pointerup', done, { once: true });
  }
  function key(event: KeyboardEvent, code: string) {
    if (code === 'title' || !event.altKey) return;
    if (event.key === 'ArrowLeft' || event.key === 'ArrowRight') arranged.move(code, event.key === 'ArrowLeft' ? -1 : 1);
    else if (['+', '-', '='].includes(event.key)) arranged.widen(code, event.key === '-' ? -1 : 1);
    else return;
    event.preventDefault();
    event.stopPropagation();
  }
</script>

<div class="names" class:sr-only={!isShown} role="row" aria-rowindex="1" style={`grid-template-columns:${arranged.template}`}>
  {#each ['title', ...arranged.shown] as code, i (code)}
    {@const at = sort.findIndex((s) => s.field === code)}
    <!-- svelte-ignore a11y_interactive_supports_focus -->
    <div
      role="columnheader"
      aria-colindex={i + 1}
      aria-sort={at >= 0 ? (sort[at]!.descending ? 'descending' : 'ascending') : 'none'}
      class:num={numeric(code)}
      class="relative"
      draggable={code !== 'title'}
      ondragstart={() => (arranged.dragged = code)}
      ondragover={(e) => {
        if (arranged.dragged && code !== 'title') e.preventDefault();
      }}
      ondrop={(e) => {
        e.preventDefault();
        arranged.dropOn(code);
      }}
    >
      <button
        class="small flex max-w-full items-center gap-1 truncate"
        tabindex={isShown ? 0 : -1}
        onclick={(e) => onsort(sortedBy(sort, code, e.shiftKey))}
        onkeydown={(e) => key(e, code)}
        title={`Sort by ${app.label(code)}. Shift+click: sort by it as well. Alt+← → moves the column, Alt+ + − changes its width`}
      >
        {app.label(code)}{#if at >= 0}{#if sort[at]!.descending}<IconArrowDown size={12} strokeWidth={2} />{:else}<IconArrowUp
              size={12}
              strokeWidth={2}
            />{/if}{#if sort.length > 1}<span class="num">{at + 1}</span>{/if}{/if}
      </button>
      {#if code !== 'title' && isShown}<span class="grip" role="presentation" onpointerdown={(e) => resize(e, code)}></span>{/if}
    </div>
  {/each}
</div>

<style>
  .names {
    position: sticky;
    top: 0;
    z-index: 2;
    background: var(--sheet);
    border-bottom: 1px solid var(--hair);
    display: grid;
    gap: 12px;
    height: 28px;
    padding: 3px 16px 0 30px;
    color: var(--quiet);
  }
  .names:global(.sr-only) {
    position: absolute;
    height: 1px;
    padding: 0;
  }
  .num button {
    margin-left: auto;
  }
  .grip {
    position: absolute;
    top: -2px;
    right: -9px;
    bottom: -2px;
    width: 8px;
    cursor: col-resize;
  }
  .grip:hover {
    border-right: 2px solid var(--act);
  }
</style>
