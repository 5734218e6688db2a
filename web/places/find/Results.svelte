<script lang="ts">
  import { keys } from '@/state/keys.svelte';
  import { api } from '@/api/client';
  import type { Found, Row, Search, SortKey, View } from '@/api/types';
  import { lastActs } from '@/state/acts.svelte';
  import { app } from '@/state/app.svelte';
  import { lists } from '@/state/lists.svelte';
  import { router } from '@/state/router.svelte';
  import type { SearchState } from '@/state/search';
  import { atLeaf } from '@/state/steps';
  import { onDestroy, tick, untrack } from 'svelte';
  import ColumnHead from './ColumnHead.svelte';
  import { Columns } from './columns.svelte';
  import Outline from './Outline.svelte';
  import ResultRow from './ResultRow.svelte';
  import { keepPlace, placeKept, ResultList } from './results.svelte';
  import ResultsHead from './ResultsHead.svelte';
  import SameLine from './SameLine.svelte';
  import Steps from './Steps.svelte';
  import Trail from './Trail.svelte';

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
    /** What the answer is to: where the list stood is kept by it. */
    question: string;
    /** Asks the same once more. */
    again: () => void;
  }
  let { answer, rows, busy, search, sort, columns: wanted, widths, view, need, go, chooseView, input, question, again }: Props = $props();
  // What is undone under Last acts shows here at once.
  $effect(() => {
    if (lastActs.undone > 0) untrack(again);
  });

  // A digest has its sentence only where words were found in a text.
  const hasSnippets = $derived(answer?.rows.some((row) => row.snippet || row.text_state === 'none') ?? false);
  const HEIGHTS = $derived({ table: 31, digest: hasSnippets ? 92 : 56, outline: 31, steps: 31 });
  // An outline needs the levels of a view.
  const layouts = $derived<SearchState['layout'][]>(
    view && view.levels.length > 0 ? ['table', 'digest', 'outline', 'steps'] : ['table', 'digest'],
  );
  // Where there is nothing further to divide, the steps end in the table.
  const isStepping = $derived(search.layout === 'steps' && layouts.includes('steps') && !atLeaf(view!, search.steps));
  const shown = $derived(!layouts.includes(search.layout) ? 'table' : search.layout === 'steps' && !isStepping ? 'table' : search.layout);
  const total = $derived(answer?.total ?? 0);
  const height = $derived(HEIGHTS[shown]);
  // The names of the columns stay in sight above the rows.
  const head = $derived(shown === 'table' ? 29 : 0);
  const list = new ResultList({ total: () => total, rows: () => rows, height: () => height });
  let box: HTMLDivElement | undefined = $state();
  let room = $state(1200);
  const numeric = (code: string) => {
    const align = view?.formats?.[code]?.align ?? 'auto';
    return align === 'right' || (align === 'auto' && app.kind(app.field(code))?.is_number === true);
  };
  const SHORT = ['document_date', 'created', 'valid_until', 'file_type', 'condition', 'pages'];
  // Columns that say the same in every row are told once, above the names. What is sorted by stays.
  const same = $derived(Object.fromEntries(Object.entries(answer?.same ?? {}).filter(([code]) => !sort.some((s) => s.field === code))));
  const arranged = new Columns({
    wanted: () => wanted,
    isFolded: (code) => code in same,
    width: (code) => widths[code] ?? view?.formats?.[code]?.width ?? null,
    room: () => room,
    isShort: (code) => SHORT.includes(code) || numeric(code),
    // Columns as the person puts them are kept for this view.
    keep: (kept) => app.prefer({ columns: { ...app.person!.preferences.columns, [search.view || 'none']: kept } }),
  });
  const columns = $derived(arranged.shown);

  $effect(() => {
    if (total > 0) need(list.lines.at(list.from).index, list.lines.at(list.to).index);
  });

  const hasBelow = (row: Row) => row.attachments > 0 || (row.copies ?? 0) > 0;

  /** Shows what is attached to a row below it, and its near copies, or puts them away. */
  async function unfold(index: number, open = !list.lines.isOpen(index)) {
    const row = rows[index];
    if (!row || !hasBelow(row) || open === list.lines.isOpen(index)) return;
    if (!open) {
      list.at = list.lines.of(index);
      list.lines.close(index);
      return;
    }
    try {
      const got = await api.attached(row.ref, input());
      if (rows[index]?.ref === row.ref) list.lines.open(index, got.rows);
    } catch (error) {
      app.fail(error, 'What belongs to it cannot be shown. Try again.');
    }
  }

  // Where the list stands is kept, so that whoever comes back from the reader finds it as it was.
  let answered = '';
  const keep = () => {
    if (answered && box) keepPlace({ question: answered, top: list.top, at: list.at });
  };
  addEventListener('pagehide', keep);
  onDestroy(() => {
    keep();
    removeEventListener('pagehide', keep);
  });
  $effect(() => {
    const now = answer;
    untrack(() => {
      list.lines.clear();
      list.clear();
      if (!now) return;
      const before = answered === '' ? placeKept(question) : undefined;
      answered = question;
      const open = Object.entries(rows).find(([, row]) => row.ref === search.open);
      if (before) void restore(before.at, before.top);
      else {
        list.at = open ? Number(open[0]) : 0;
        if (box && !open && list.top > 0) box.scrollTop = 0;
      }
    });
  });
  async function restore(at: number, top: number) {
    list.at = Math.min(at, Math.max(0, list.length - 1));
    await tick();
    if (!box) return;
    box.scrollTop = top;
    if (document.activeElement === document.body) box.focus({ preventScroll: true });
  }

  function move(index: number) {
    list.at = index;
    if (box) box.scrollTop = list.scrollFor(index, head);
    const row = list.rowAt(index);
    if (search.open && row) go({ open: row.ref }, 'replace');
  }
  function read(row: Row) {
    keep();
    router.go(`/documents/${row.ref}${location.search}`);
  }
  function keydown(event: KeyboardEvent) {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    // The names of the columns are buttons of their own.
    if ((event.target as HTMLElement).closest('button, a') && (event.key === ' ' || event.key === 'Enter')) return;
    const next = list.target(event.key);
    const row = list.rowAt(list.at);
    if (next !== undefined) move(next);
    else if (event.key === ' ' && row) go({ open: search.open === row.ref ? '' : row.ref }, search.open ? 'replace' : 'push');
    else if (event.key === 'Enter' && row) read(row);
    else if (event.key === 'a' && row) void lists.gather({ documents: [row.ref] });
    else if (event.key === 'x' && row) list.select(row.ref);
    else if (event.key === 'ArrowRight') void unfold(list.lines.at(list.at).index, true);
    else if (event.key === 'ArrowLeft') void unfold(list.lines.at(list.at).index, false);
    else return;
    event.preventDefault();
  }
  function click(event: MouseEvent, index: number, row: Row | undefined) {
    if (!row) return;
    if (event.shiftKey) list.selectTo(index);
    else if (event.ctrlKey || event.metaKey) {
      list.at = index;
      list.select(row.ref);
    } else {
      list.at = index;
      go({ open: row.ref }, search.open ? 'replace' : 'push');
    }
  }

  keys.use(() => [
    { shown: '↑ ↓', what: 'Move through the results' },
    { shown: 'Home  End', what: 'First and last result' },
    { shown: 'Space', what: 'Open or close the reading pane' },
    { shown: 'Enter', what: 'Open the reader' },
    { shown: '→  ←', what: 'Show or hide attachments and near copies' },
    { shown: 'a', what: 'Add the document to the pull list' },
    { shown: 'x', what: 'Select the document' },
  ]);
</script>

<ResultsHead
  {answer}
  {busy}
  {search}
  {sort}
  columns={wanted}
  {arranged}
  {view}
  {list}
  {layouts}
  {shown}
  {go}
  {chooseView}
  {input}
  {again}
/>

{#if search.layout === 'steps' && view}<Trail {view} {search} {go} />{/if}
{#if shown === 'steps' && view}
  <div class="grid-wrap"><Steps {view} {search} {go} /></div>
{:else if shown === 'outline' && view}
  <div class="grid-wrap">
    {#key search.view}<Outline {view} {search} {go} />{/key}
  </div>
{:else}
  {#if shown === 'table'}<SameLine {arranged} {same} />{/if}
  <div
    class="grid-wrap"
    bind:this={box}
    bind:clientHeight={list.seen}
    bind:clientWidth={room}
    onscroll={(e) => (list.top = e.currentTarget.scrollTop)}
    role="treegrid"
    aria-label={`Results${view ? `, view ${view.name}` : ''}`}
    aria-rowcount={list.length + 1}
    aria-colcount={arranged.shown.length + 1}
    aria-multiselectable="true"
    tabindex="0"
    aria-activedescendant={total > 0 ? `row-${list.at}` : undefined}
    onkeydown={keydown}
  >
    <ColumnHead {arranged} {sort} {numeric} isShown={shown === 'table'} onsort={(by) => go({ sort: by })} />
    {#if total > 0}
      <div role="rowgroup" style={`height:${list.length * height}px;position:relative`}>
        {#each list.inSight as index (index)}
          {@const line = list.lines.at(index)}
          {@const row = line.attached ?? rows[line.index]}
          <!-- svelte-ignore a11y_click_events_have_key_events, a11y_interactive_supports_focus -->
          <div
            role="row"
            id={`row-${index}`}
            aria-rowindex={index + 2}
            aria-selected={list.at === index || list.isSelected(row)}
            aria-level={line.attached ? 2 : 1}
            aria-expanded={row && hasBelow(row) && !line.attached ? list.lines.isOpen(line.index) : undefined}
            class="row {shown}"
            class:at={list.at === index}
            class:attached={line.attached}
            class:shown={row && row.ref === search.open}
            class:picked={list.isSelected(row)}
            style={`top:${index * height}px;height:${height}px;grid-template-columns:${arranged.template}`}
            onclick={(e) => click(e, index, row)}
            ondblclick={() => row && read(row)}
          >
            {#if row}
              <!-- Keyboards select with x. -->
              <span
                class="pick"
                role="presentation"
                title="Select this document. Ctrl+click on a row does the same; Shift+click selects up to it"
                onclick={(e) => {
                  e.stopPropagation();
                  if (e.shiftKey) list.selectTo(index);
                  else {
                    list.at = index;
                    list.select(row.ref);
                  }
                }}
                ondblclick={(e) => e.stopPropagation()}
              ></span>
              <ResultRow
                {row}
                layout={shown === 'table' ? 'table' : 'digest'}
                {columns}
                {numeric}
                isAttached={line.attached !== null}
                isOpen={list.lines.isOpen(line.index)}
                unfold={() => void unfold(line.index)}
              />
            {:else}<div role="gridcell" class="quiet">…</div>{/if}
          </div>
        {/each}
      </div>
    {/if}
  </div>
{/if}
{#if answer && total === 0}
  <div class="absolute inset-x-0 top-44 p-8">
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
  .row {
    position: absolute;
    contain: layout paint style;
    left: 0;
    right: 0;
    padding: 0 16px 0 30px;
    border-bottom: 1px solid color-mix(in srgb, var(--hair) 55%, transparent);
    cursor: pointer;
    user-select: none;
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
    padding-left: 28px;
    padding-right: 14px;
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
  .pick {
    position: absolute;
    left: 4px;
    top: 2px;
    width: 26px;
    height: 26px;
    cursor: default;
  }
  .pick::before {
    content: '';
    position: absolute;
    inset: 7px 8px;
    height: 12px;
    border: 1px solid transparent;
    border-radius: 2px;
    color: var(--brass-text);
    font-size: 11px;
    line-height: 10px;
    text-align: center;
  }
  .row:hover .pick::before,
  .row.at .pick::before {
    border-color: var(--quiet);
  }
  .row.picked .pick::before {
    content: '✓';
    border-color: var(--brass-text);
  }
  .row.attached {
    background: var(--paper);
  }
  .row.attached > :global([role='gridcell']:first-of-type) {
    padding-left: 24px;
  }
</style>
