<script lang="ts">
  import { keys } from '@/state/keys.svelte';
  import { api } from '@/api/client';
  import type { Found, Row, Search, SortKey, View } from '@/api/types';
  import { lastActs } from '@/state/acts.svelte';
  import { app } from '@/state/app.svelte';
  import { router } from '@/state/router.svelte';
  import { count } from '@/parts/format';
  import Pieces from '@/parts/Pieces.svelte';
  import ColumnMenu from './ColumnMenu.svelte';
  import Outline from './Outline.svelte';
  import SaveSearch from './SaveSearch.svelte';
  import Steps from './Steps.svelte';
  import Trail from './Trail.svelte';
  import { Columns, sortedBy } from './columns.svelte';
  import { Lines } from './lines.svelte';
  import { atLeaf } from '@/state/steps';
  import ViewMenu from './ViewMenu.svelte';
  import GatherMenu from './GatherMenu.svelte';
  import { lists } from '@/state/lists.svelte';
  import { keptOf } from '@/state/searches.svelte';
  import IconArrowDown from '@lucide/svelte/icons/arrow-down';
  import IconArrowUp from '@lucide/svelte/icons/arrow-up';
  import IconPaperclip from '@lucide/svelte/icons/paperclip';
  import { untrack } from 'svelte';
  import type { SearchState } from '@/state/search';

  interface Props {
    answer: Found | null;
    rows: Record<number, Row>;
    busy: boolean;
    search: SearchState;
    sort: SortKey[];
    /** Those of the view, or the person's own; as many are shown as there is room for. */
    columns: string[];
    widths: Record<string, number | null>;
    view: View | null;
    need: (from: number, to: number) => void;
    go: (change: Partial<SearchState>, how?: 'push' | 'replace') => void;
    chooseView: (code: string) => void;
    /** The search as the API takes it. */
    input: () => Search;
    /** Asks the same once more. */
    again: () => void;
  }
  let { answer, rows, busy, search, sort, columns: wanted, widths, view, need, go, chooseView, input, again }: Props = $props();
  // What is undone under Last acts shows here at once.
  $effect(() => {
    if (lastActs.undone > 0) untrack(again);
  });

  const HEIGHTS = { table: 31, digest: 92, outline: 31, steps: 31 };
  const names = { table: 'Table', digest: 'Digest', outline: 'Outline', steps: 'Steps' };
  // An outline needs the levels of a view.
  const layouts = $derived<SearchState['layout'][]>(
    view && view.levels.length > 0 ? ['table', 'digest', 'outline', 'steps'] : ['table', 'digest'],
  );
  // Where there is nothing further to divide, the steps end in the table.
  const isStepping = $derived(search.layout === 'steps' && layouts.includes('steps') && !atLeaf(view!, search.steps));
  const shown = $derived(!layouts.includes(search.layout) ? 'table' : search.layout === 'steps' && !isStepping ? 'table' : search.layout);
  const total = $derived(answer?.total ?? 0);
  const lines = new Lines();
  const length = $derived(total + lines.more);
  const height = $derived(HEIGHTS[shown]);
  // The names of the columns stay in sight above the rows.
  const head = $derived(shown === 'table' ? 30 : 0);
  let list: HTMLDivElement | undefined = $state();
  let top = $state(0);
  let seen = $state(600);
  let at = $state(0);
  let room = $state(1200);
  const numeric = (code: string) => {
    const align = view?.formats?.[code]?.align ?? 'auto';
    return align === 'right' || (align === 'auto' && app.kind(app.field(code))?.is_number === true);
  };
  const SHORT = ['document_date', 'created', 'valid_until', 'file_type', 'condition', 'pages'];
  const arranged = new Columns({
    wanted: () => wanted,
    width: (code) => widths[code] ?? view?.formats?.[code]?.width ?? null,
    room: () => room,
    isShort: (code) => SHORT.includes(code) || numeric(code),
    // Columns as the person puts them are kept for this view.
    keep: (kept) => app.prefer({ columns: { ...app.person!.preferences.columns, [search.view || 'none']: kept } }),
  });
  const columns = $derived(arranged.shown);

  // Only the rows in sight are in the document, however many there are.
  const from = $derived(Math.max(0, Math.floor(top / height) - 5));
  const to = $derived(Math.min(length - 1, Math.ceil((top + seen) / height) + 5));
  const inSight = $derived(Array.from({ length: Math.max(0, to - from + 1) }, (_, i) => from + i));
  $effect(() => {
    if (total > 0) need(lines.at(from).index, lines.at(to).index);
  });
  const rowAt = (line: number): Row | undefined => {
    const { index, attached } = lines.at(line);
    return attached ?? rows[index];
  };

  /** Shows what is attached to a row below it, or puts it away. */
  async function unfold(index: number, open = !lines.isOpen(index)) {
    const row = rows[index];
    if (!row || row.attachments === 0 || open === lines.isOpen(index)) return;
    if (!open) {
      at = lines.of(index);
      lines.close(index);
      return;
    }
    try {
      const got = await api.attached(row.ref, input());
      if (rows[index]?.ref === row.ref) lines.open(index, got.rows);
    } catch (error) {
      app.fail(error, 'What is attached cannot be shown.');
    }
  }
  $effect(() => {
    void answer;
    untrack(() => {
      lines.clear();
      const shown = Object.entries(rows).find(([, row]) => row.ref === search.open);
      at = shown ? Number(shown[0]) : 0;
      if (list && !shown && top > 0) list.scrollTop = 0;
    });
  });

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
  function headKey(event: KeyboardEvent, code: string) {
    if (code === 'title' || !event.altKey) return;
    if (event.key === 'ArrowLeft' || event.key === 'ArrowRight') arranged.move(code, event.key === 'ArrowLeft' ? -1 : 1);
    else if (['+', '-', '='].includes(event.key)) arranged.widen(code, event.key === '-' ? -1 : 1);
    else return;
    event.preventDefault();
    event.stopPropagation();
  }

  function move(index: number) {
    if (total === 0) return;
    at = Math.min(length - 1, Math.max(0, index));
    if (list) {
      if (at * height < list.scrollTop) list.scrollTop = at * height;
      else if (head + (at + 1) * height > list.scrollTop + list.clientHeight) list.scrollTop = head + (at + 1) * height - list.clientHeight;
    }
    const row = rowAt(at);
    if (search.open && row) go({ open: row.ref }, 'replace');
  }

  const addressOfReader = (ref: string) => `/documents/${ref}${location.search}`;

  function keydown(event: KeyboardEvent) {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    // The names of the columns are buttons of their own.
    if ((event.target as HTMLElement).closest('button, a') && (event.key === ' ' || event.key === 'Enter')) return;
    const page = Math.max(1, Math.floor(seen / height) - 1);
    const moves: Record<string, number> = {
      ArrowDown: at + 1,
      ArrowUp: at - 1,
      PageDown: at + page,
      PageUp: at - page,
      Home: 0,
      End: length - 1,
    };
    const next = moves[event.key];
    const row = rowAt(at);
    if (next !== undefined) move(next);
    else if (event.key === ' ' && row) go({ open: search.open === row.ref ? '' : row.ref }, search.open ? 'replace' : 'push');
    else if (event.key === 'Enter' && row) router.go(addressOfReader(row.ref));
    else if (event.key === 'a' && row) void lists.gather({ documents: [row.ref] });
    else if (event.key === 'x' && row) pick(row.ref);
    else if (event.key === 'ArrowRight') void unfold(lines.at(at).index, true);
    else if (event.key === 'ArrowLeft') void unfold(lines.at(at).index, false);
    else return;
    event.preventDefault();
  }

  // Rows chosen for what is done to several at once; a new search begins with none.
  let chosen = $state<string[]>([]);
  $effect(() => {
    void answer;
    untrack(() => (chosen = []));
  });
  const pick = (ref: string) => (chosen = chosen.includes(ref) ? chosen.filter((r) => r !== ref) : [...chosen, ref]);

  function choose(index: number) {
    at = index;
    const row = rowAt(index);
    if (row) go({ open: row.ref }, search.open ? 'replace' : 'push');
  }

  let exporting = $state(false);
  async function exportAs(format: 'csv' | 'ods') {
    exporting = true;
    try {
      const blob = await api.exportResult({ ...input(), columns: wanted, rows_only: true }, format);
      const link = document.createElement('a');
      link.href = URL.createObjectURL(blob);
      link.download = `result.${format}`;
      link.click();
      setTimeout(() => URL.revokeObjectURL(link.href), 10_000);
    } catch (error) {
      app.fail(error, 'The file could not be made.');
    } finally {
      exporting = false;
    }
  }
  // svelte-ignore state_referenced_locally
  let filter = $state(search.within);
  let typing: ReturnType<typeof setTimeout> | undefined;
  $effect(() => {
    const now = search.within;
    untrack(() => {
      if (now !== filter && document.activeElement?.id !== 'filter-within') filter = now;
    });
  });

  keys.use(() => [
    { shown: '↑ ↓', what: 'Move along the results' },
    { shown: 'Home  End', what: 'First and last result' },
    { shown: 'Space', what: 'Open or close the reading pane' },
    { shown: 'Enter', what: 'Open the reader' },
    { shown: '→  ←', what: 'Show what is attached, put it away' },
    { shown: 'a', what: 'Gather the document into the pull list' },
    { shown: 'x', what: 'Choose the document' },
  ]);
</script>

{#snippet clip(row: Row, index: number)}
  <button
    class="clip"
    tabindex="-1"
    aria-label={lines.isOpen(index) ? 'Put away what is attached' : `Show the ${row.attachments} attached`}
    title={`${row.attachments} attached: → shows, ← puts away`}
    onclick={(e) => {
      e.stopPropagation();
      void unfold(index);
    }}
    ondblclick={(e) => e.stopPropagation()}><IconPaperclip size={13} strokeWidth={1.7} /><span class="num">{row.attachments}</span></button
  >
{/snippet}
{#snippet also(row: Row)}{#if row.is_found}<span class="small ml-2 flex-none font-sans text-brass-text">found too</span>{/if}{/snippet}

<header class="flex flex-none flex-wrap items-center gap-x-3 gap-y-1 border-b border-hair px-4 py-2">
  <p class="min-w-0" role="status" aria-live="polite">
    {#if answer}
      <span class="font-serif text-[19px]"
        ><span class="num" data-testid="total">{count(total)}</span> {total === 1 ? 'document' : 'documents'}</span
      >
      <span class="small quiet ml-1" data-testid="took"
        >in {answer.took_ms} ms{shown === 'table' && columns.length < wanted.length
          ? `, ${wanted.length - columns.length} columns have no room`
          : ''}{busy ? ', asking again…' : ''}</span
      >
    {:else}<span class="quiet">Asking…</span>{/if}
  </p>
  <span class="flex-1"></span>
  <input
    class="input small hidden sm:block"
    style="min-height:28px;width:128px"
    id="filter-within"
    type="search"
    placeholder="Filter within"
    aria-label="Filter within what was found"
    bind:value={filter}
    autocomplete="off"
    oninput={() => {
      clearTimeout(typing);
      typing = setTimeout(() => go({ within: filter.trim() }, 'replace'), 180);
    }}
  />
  <label class="small flex items-center gap-2"
    ><span class="quiet">View</span>
    <select
      class="input"
      style="min-height:28px;width:auto;max-width:170px"
      value={search.view}
      onchange={(e) => chooseView(e.currentTarget.value)}
    >
      <option value="">None</option>
      {#each app.design!.views.filter((v) => !v.own) as v (v.code)}<option value={v.code}>{v.name}</option>{/each}
      {#if app.design!.views.some((v) => v.own)}<optgroup label="My own"
          >{#each app.design!.views.filter((v) => v.own) as v (v.code)}<option value={v.code}>{v.name}</option>{/each}</optgroup
        >{/if}
    </select>
  </label>
  <div class="hidden items-center gap-3 md:flex">
    <ViewMenu {view} {search} {columns} {sort} />
    <SaveSearch {search} />
    <div data-gather>
      <GatherMenu
        found={() => ({ ...keptOf(search), criteria: input().criteria ?? [] })}
        {total}
        {chosen}
        onclear={() => (chosen = [])}
        onchanged={again}
      />
    </div>
    {#if shown === 'table'}<ColumnMenu
        columns={wanted}
        isOwn={!!app.person?.preferences.columns?.[search.view || 'none']}
        onchange={(codes) => {
          if (codes) arranged.keep(codes);
          else {
            arranged.forget();
            void app.prefer({
              columns: Object.fromEntries(
                Object.entries(app.person!.preferences.columns ?? {}).filter(([v]) => v !== (search.view || 'none')),
              ),
            });
          }
        }}
        {exporting}
        onexport={exportAs}
      />{/if}
    <div class="flex" role="group" aria-label="Layout">
      {#each layouts as layout (layout)}
        <button
          class="layout small"
          aria-pressed={(layouts.includes(search.layout) ? search.layout : 'table') === layout}
          onclick={() => go({ layout, steps: [] }, 'replace')}>{names[layout]}</button
        >
      {/each}
    </div>
  </div>
</header>

{#if search.layout === 'steps' && view}<Trail {view} {search} {go} />{/if}
{#if shown === 'steps' && view}
  <div class="grid-wrap"><Steps {view} {search} {go} /></div>
{:else if shown === 'outline' && view}
  <div class="grid-wrap">
    {#key search.view}<Outline {view} {search} {go} />{/key}
  </div>
{:else}
  <div
    class="grid-wrap"
    bind:this={list}
    bind:clientHeight={seen}
    bind:clientWidth={room}
    onscroll={(e) => (top = e.currentTarget.scrollTop)}
    role="treegrid"
    aria-label={`Results${view ? `, view ${view.name}` : ''}`}
    aria-rowcount={length + 1}
    tabindex="0"
    aria-activedescendant={total > 0 ? `row-${at}` : undefined}
    onkeydown={keydown}
  >
    <div class="head" role="row" aria-rowindex="1" class:sr-only={shown === 'digest'} style={`grid-template-columns:${arranged.template}`}>
      {#each ['title', ...columns] as code (code)}
        {@const key = sort.findIndex((s) => s.field === code)}
        <!-- svelte-ignore a11y_interactive_supports_focus -->
        <div
          role="columnheader"
          aria-sort={key >= 0 ? (sort[key]!.descending ? 'descending' : 'ascending') : 'none'}
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
            tabindex={shown === 'digest' ? -1 : 0}
            onclick={(e) => go({ sort: sortedBy(sort, code, e.shiftKey) })}
            onkeydown={(e) => headKey(e, code)}
            title={`Sort by ${app.label(code)}; with Shift behind the others. Alt with ← → moves the column, with + − changes its width`}
          >
            {app.label(code)}{#if key >= 0}{#if sort[key]!.descending}<IconArrowDown size={12} strokeWidth={2} />{:else}<IconArrowUp
                  size={12}
                  strokeWidth={2}
                />{/if}{#if sort.length > 1}<span class="num">{key + 1}</span>{/if}{/if}
          </button>
          {#if code !== 'title' && shown === 'table'}<span class="grip" role="presentation" onpointerdown={(e) => resize(e, code)}
            ></span>{/if}
        </div>
      {/each}
    </div>
    {#if total > 0}
      <div role="rowgroup" style={`height:${length * height}px;position:relative`}>
        {#each inSight as index (index)}
          {@const line = lines.at(index)}
          {@const row = line.attached ?? rows[line.index]}
          <!-- svelte-ignore a11y_click_events_have_key_events, a11y_interactive_supports_focus -->
          <div
            role="row"
            id={`row-${index}`}
            aria-rowindex={index + 2}
            aria-selected={at === index}
            aria-level={line.attached ? 2 : 1}
            aria-expanded={row && row.attachments > 0 && !line.attached ? lines.isOpen(line.index) : undefined}
            class="row {shown}"
            class:at={at === index}
            class:attached={line.attached}
            class:shown={row && row.ref === search.open}
            class:picked={row && chosen.includes(row.ref)}
            style={`top:${index * height}px;height:${height}px;grid-template-columns:${arranged.template}`}
            onclick={(e) => {
              if ((e.ctrlKey || e.metaKey) && row) {
                at = index;
                pick(row.ref);
              } else if (e.shiftKey && row) {
                const [a, b] = [Math.min(at, index), Math.max(at, index)];
                chosen = [
                  ...new Set([...chosen, ...Array.from({ length: b - a + 1 }, (_, i) => rowAt(a + i)?.ref).filter((r) => r !== undefined)]),
                ];
              } else choose(index);
            }}
            ondblclick={() => row && router.go(addressOfReader(row.ref))}
          >
            {#if !row}
              <div role="gridcell" class="quiet">…</div>
            {:else if shown === 'table'}
              <div role="gridcell" class="title flex items-baseline" title={row.title}>
                <span class="truncate"
                  >{#if row.parent}<span class="quiet" title={`Attached to ${row.parent.title}`}>↳ </span>{/if}<Pieces
                    pieces={row.title_pieces}
                  /></span
                >
                {#if line.attached}{@render also(row)}{:else if row.attachments > 0}{@render clip(row, line.index)}{/if}
                {#if row.text_state === 'none'}<span class="small ml-1 flex-none font-sans text-rust" title={row.text_reason}>no text</span
                  >{/if}
              </div>
              {#each columns as code (code)}<div role="gridcell" class="truncate" class:num={numeric(code)} title={row.cells[code]}>
                  {row.cells[code]}
                </div>{/each}
            {:else}
              <div role="gridcell" class="min-w-0">
                <p class="title truncate">
                  {#if row.parent}<span class="quiet" title={`Attached to ${row.parent.title}`}>↳ </span>{/if}<Pieces
                    pieces={row.title_pieces}
                  />{#if line.attached}{@render also(row)}{:else if row.attachments > 0}{@render clip(row, line.index)}{/if}
                </p>
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
          </div>
        {/each}
      </div>
    {/if}
  </div>
{/if}
{#if answer && total === 0}
  <div class="absolute inset-x-0 top-28 p-8">
    <p class="font-serif text-xl">Nothing found</p>
    <p class="quiet mt-1">The ledger says what each line costs. Switch a line off to see what comes back.</p>
  </div>
{/if}

<style>
  .grid-wrap {
    contain: layout paint style;
    min-height: 0;
    flex: 1;
    overflow-y: auto;
    overflow-x: hidden;
  }
  .grid-wrap:focus-visible {
    outline-offset: -2px;
  }
  .head {
    position: sticky;
    top: 0;
    z-index: 2;
    display: grid;
    gap: 12px;
    height: 30px;
    padding: 4px 16px;
    background: var(--sheet);
    border-bottom: 1px solid var(--hair);
    color: var(--quiet);
  }
  .head:global(.sr-only) {
    position: absolute;
    height: 1px;
    padding: 0;
  }
  .head .num button {
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
  .row {
    position: absolute;
    contain: layout paint style;
    left: 0;
    right: 0;
    padding: 0 16px;
    border-bottom: 1px solid color-mix(in srgb, var(--hair) 55%, transparent);
    cursor: pointer;
  }
  .row.table {
    display: grid;
    gap: 12px;
    align-items: baseline;
    padding-top: 5px;
    line-height: 20px;
    font-size: 13.5px;
  }
  .row.digest {
    padding-top: 8px;
  }
  /* The rows leave the ring of the focus in sight. */
  .grid-wrap:focus-visible .row {
    left: 2px;
    right: 2px;
    padding: 0 14px;
  }
  .grid-wrap:focus-visible .row.table {
    padding-top: 5px;
  }
  .grid-wrap:focus-visible .row.digest {
    padding-top: 8px;
  }
  .row:hover {
    background: color-mix(in srgb, var(--act-tint) 45%, transparent);
  }
  .row.at {
    box-shadow: inset 3px 0 0 var(--act);
  }
  .row.shown {
    background: var(--act-tint);
  }
  .row.picked {
    background: color-mix(in srgb, var(--brass) 30%, transparent);
  }
  .row.picked::before {
    content: '✓';
    position: absolute;
    left: 3px;
    top: 5px;
    color: var(--brass-text);
    font-size: 12px;
  }
  .row.attached {
    background: var(--paper);
  }
  .row.attached > :global(:first-child) {
    padding-left: 24px;
  }
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
  .digest .title {
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
  .layout {
    padding: 3px 8px;
    color: var(--quiet);
    border-bottom: 2px solid transparent;
  }
  .layout[aria-pressed='true'] {
    color: var(--ink);
    border-bottom-color: var(--act);
    font-weight: 600;
  }
</style>
