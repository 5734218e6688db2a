<script lang="ts">
  import type { RemoteAnswer } from '@/api/types';
  import { count, plural } from '@/parts/format';
  import Pieces from '@/parts/Pieces.svelte';
  import { app } from '@/state/app.svelte';
  import type { SearchState } from '@/state/search';

  interface Props {
    code: string;
    /** null while it is asked. */
    answer: RemoteAnswer | null;
    columns: string[];
    search: SearchState;
    go: (change: Partial<SearchState>, how?: 'push' | 'replace') => void;
    more: () => Promise<void>;
    again: () => Promise<void>;
  }
  /** The records that a remote repository found, under the names that fields have here. */
  let { code, answer, columns, search, go, more, again }: Props = $props();

  let room = $state(900);
  const name = $derived(app.design!.remote.find((r) => r.code === code)?.name ?? code);
  const rows = $derived(answer?.rows ?? []);
  // Columns without a value in any row tell nothing.
  const shown = $derived(columns.filter((c) => rows.some((row) => row.cells[c])).slice(0, room < 600 ? 3 : Math.floor((room - 260) / 116)));
  const template = $derived(`minmax(180px, 2.4fr) ${shown.map(() => 'minmax(84px, 1fr)').join(' ')}`);
  const at = $derived(
    Math.max(
      0,
      rows.findIndex((r) => r.position === search.record),
    ),
  );
  let spelled = $state(false);
  let list: HTMLElement | undefined = $state();

  // A link may lead to a record further down.
  $effect(() => {
    if (search.record !== null && search.record >= rows.length && search.record < (answer?.total ?? 0)) void more();
  });

  function show(index: number) {
    const row = rows[index];
    if (!row) return;
    go({ record: row.position }, search.record === null ? 'push' : 'replace');
    list?.querySelector(`#remote-${row.position}`)?.scrollIntoView({ block: 'nearest' });
  }
  function keydown(event: KeyboardEvent) {
    const next = { ArrowDown: search.record === null ? at : at + 1, ArrowUp: at - 1, Home: 0, End: rows.length - 1, Enter: at, ' ': at }[
      event.key
    ];
    if (next === undefined || event.ctrlKey || event.metaKey || event.altKey) return;
    event.preventDefault();
    if (event.key === ' ' && search.record !== null) go({ record: null }, 'replace');
    else show(Math.min(rows.length - 1, Math.max(0, next)));
    if (next >= rows.length - 1) void more();
  }
  function scrolled(event: Event) {
    const box = event.currentTarget as HTMLElement;
    if (box.scrollTop + box.clientHeight > box.scrollHeight - 300) void more();
  }
</script>

<header class="flex flex-none flex-wrap items-baseline gap-x-3 gap-y-1 border-b border-hair px-4 py-2">
  <p role="status" aria-live="polite" class="min-w-0">
    {#if !answer}<span class="quiet">Searching {name}. Results here do not wait for it.</span>
    {:else if answer.total !== null}<span class="font-serif text-[19px]"
        ><span class="num" data-testid="remote-total">{count(answer.total)}</span>
        {answer.total === 1 ? 'record' : 'records'} at {name}</span
      >
    {:else}<span class="text-rust">{answer.says}</span>{/if}
  </p>
  {#if answer?.cql}<button class="link small" aria-expanded={spelled} onclick={() => (spelled = !spelled)}>Show the query sent</button>{/if}
  {#if answer && answer.total === null && answer.state !== 'refused'}<button class="btn" onclick={again}>Search again</button>{/if}
  {#if answer && answer.total !== null && answer.says}<span class="small text-rust">{name} says: {answer.says}</span>{/if}
</header>
{#if spelled && answer?.cql}<p class="mono flex-none border-b border-hair bg-paper px-4 py-1.5 break-words" style="font-size:12.5px">
    {answer.cql}
  </p>{/if}
{#if answer && answer.left_out.length > 0}
  <div class="flex-none border-b border-hair bg-paper px-4 py-1.5" role="note" aria-label="What was not asked there">
    <p class="small text-rust">
      {plural(answer.left_out.length, 'line', 'lines')} of the ledger could not be used there as {answer.left_out.length === 1
        ? 'it is'
        : 'they are'}:
    </p>
    <ul>
      {#each answer.left_out as line, i (i)}<li class="small">
          <span class="font-semibold">{line.subject} {line.relation} {line.value}</span> <span class="quiet">{line.reason}</span>
        </li>{/each}
    </ul>
  </div>
{/if}

<div
  class="rows"
  bind:this={list}
  bind:clientWidth={room}
  role="grid"
  tabindex="0"
  aria-label={`Records at ${name}`}
  aria-rowcount={(answer?.total ?? 0) + 1}
  aria-activedescendant={rows[at] ? `remote-${rows[at].position}` : undefined}
  onkeydown={keydown}
  onscroll={scrolled}
>
  {#if rows.length > 0}
    <div class="head small" role="row" style={`grid-template-columns:${template}`}>
      <div role="columnheader">Title</div>
      {#each shown as c (c)}<div role="columnheader" class="truncate">{app.label(c)}</div>{/each}
    </div>
  {/if}
  {#each rows as row (row.position)}
    <!-- svelte-ignore a11y_click_events_have_key_events, a11y_interactive_supports_focus -->
    <div
      role="row"
      id={`remote-${row.position}`}
      class="row"
      class:shown={row.position === search.record}
      aria-selected={row.position === search.record}
      style={`grid-template-columns:${template}`}
      onclick={() => show(rows.indexOf(row))}
    >
      <div role="gridcell" class={row.is_faulty ? 'quiet truncate' : 'title truncate'} title={row.title}>
        <Pieces pieces={row.title_pieces} />
      </div>
      {#each shown as c (c)}<div role="gridcell" class="truncate" title={row.cells[c]}>{row.cells[c]}</div>{/each}
    </div>
  {/each}
  {#if answer?.total === 0}<p class="p-8 font-serif text-xl">Nothing found there</p>{/if}
  {#if answer && answer.total !== null && rows.length < answer.total && rows.length > 0}<p class="p-4">
      <button class="link" onclick={more}>Show more of the {count(answer.total)}</button>
    </p>{/if}
</div>

<style>
  .rows {
    min-height: 0;
    flex: 1;
    overflow-y: auto;
    overflow-x: hidden;
  }
  .rows:focus-visible {
    outline-offset: -2px;
  }
  .head,
  .row {
    display: grid;
    gap: 12px;
    align-items: baseline;
    padding: 4px 16px;
    border-bottom: 1px solid color-mix(in srgb, var(--hair) 55%, transparent);
  }
  .head {
    position: sticky;
    top: 0;
    background: var(--sheet);
    color: var(--quiet);
    border-color: var(--hair);
  }
  .row {
    min-height: 31px;
    font-size: 13.5px;
    line-height: 20px;
    cursor: pointer;
  }
  .row:hover {
    background: color-mix(in srgb, var(--act-tint) 45%, transparent);
  }
  .row.shown {
    background: var(--act-tint);
    box-shadow: inset 3px 0 0 var(--act);
  }
  .title {
    font-family: var(--font-serif);
    font-size: 15.5px;
  }
  @media (max-width: 767px) {
    .head {
      display: none;
    }
    .row {
      display: block;
      padding: 8px 16px;
    }
    .row > div {
      display: inline;
      margin-right: 8px;
      color: var(--quiet);
    }
    .row > .title {
      display: block;
      color: var(--ink);
      white-space: normal;
    }
  }
</style>
