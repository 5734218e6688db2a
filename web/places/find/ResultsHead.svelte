<script lang="ts">
  import { api } from '@/api/client';
  import type { Found, Search, SortKey, View } from '@/api/types';
  import { count } from '@/parts/format';
  import { app } from '@/state/app.svelte';
  import type { SearchState } from '@/state/search';
  import { keptOf } from '@/state/searches.svelte';
  import { untrack } from 'svelte';
  import ColumnMenu from './ColumnMenu.svelte';
  import type { Columns } from './columns.svelte';
  import GatherMenu from './GatherMenu.svelte';
  import type { ResultList } from './results.svelte';
  import SaveSearch from './SaveSearch.svelte';
  import ViewMenu from './ViewMenu.svelte';

  type Layout = SearchState['layout'];
  interface Props {
    answer: Found | null;
    busy: boolean;
    search: SearchState;
    sort: SortKey[];
    columns: string[];
    arranged: Columns;
    view: View | null;
    list: ResultList;
    layouts: Layout[];
    shown: Layout;
    go: (change: Partial<SearchState>, how?: 'push' | 'replace') => void;
    chooseView: (code: string) => void;
    input: () => Search;
    again: () => void;
  }
  let { answer, busy, search, sort, columns, arranged, view, list, layouts, shown, go, chooseView, input, again }: Props = $props();

  const NAMES: Record<Layout, [string, string]> = {
    table: ['Table', 'One row each, with the columns of the view'],
    digest: ['Digest', 'Title, and the sentence with the hit'],
    outline: ['Outline', 'Groups that open in place'],
    steps: ['Steps', 'One level at a time'],
  };
  const total = $derived(answer?.total ?? 0);
  const chosen = $derived(layouts.includes(search.layout) ? search.layout : 'table');
  const [shared, own] = $derived([app.design!.views.filter((v) => !v.own), app.design!.views.filter((v) => v.own)]);

  // svelte-ignore state_referenced_locally
  let filter = $state(search.within);
  let typing: ReturnType<typeof setTimeout> | undefined;
  $effect(() => {
    const now = search.within;
    untrack(() => {
      if (now !== filter && document.activeElement?.id !== 'filter-within') filter = now;
    });
  });

  let exporting = $state(false);
  async function exportAs(format: 'csv' | 'ods') {
    exporting = true;
    try {
      const blob = await api.exportResult({ ...input(), columns, rows_only: true }, format);
      const link = document.createElement('a');
      link.href = URL.createObjectURL(blob);
      link.download = `result.${format}`;
      link.click();
      setTimeout(() => URL.revokeObjectURL(link.href), 10_000);
    } catch (error) {
      app.fail(error, 'The file could not be made. Try again.');
    } finally {
      exporting = false;
    }
  }
  function arrange(codes: string[] | null) {
    if (codes) {
      arranged.keep(codes);
      return;
    }
    arranged.forget();
    const others = Object.entries(app.person!.preferences.columns ?? {}).filter(([v]) => v !== (search.view || 'none'));
    void app.prefer({ columns: Object.fromEntries(others) });
  }
</script>

<header class="head">
  <div class="line">
    <!-- How long the answer took is for the bench alone. -->
    <p
      class="min-w-0 flex-1 truncate"
      role="status"
      aria-live="polite"
      data-testid="answered"
      data-took={answer?.took_ms}
      data-asking={busy || !answer ? '' : undefined}
    >
      {#if answer}
        <span class="font-serif text-[19px]"
          ><span class="num" data-testid="total">{count(total)}</span> {total === 1 ? 'document' : 'documents'}</span
        >
        {#if answer.unread > 0}<span
            class="unread small quiet ml-1"
            title="Their words are found when their texts have been read. The number of documents found may grow."
            >{count(answer.unread)} still being read</span
          >{/if}
        {#if busy}<span class="small quiet ml-1">updating…</span>{/if}
      {:else}<span class="quiet">Searching…</span>{/if}
    </p>
    <label class="small flex min-w-0 items-center gap-2"
      ><span class="quiet">View</span>
      <select
        class="input"
        style="min-height:28px;width:auto;max-width:170px"
        value={search.view}
        onchange={(e) => chooseView(e.currentTarget.value)}
      >
        <option value="">None</option>
        {#each shared as v (v.code)}<option value={v.code}>{v.name}</option>{/each}
        {#if own.length > 0}<optgroup label="My own"
            >{#each own as v (v.code)}<option value={v.code}>{v.name}</option>{/each}</optgroup
          >{/if}
      </select>
    </label>
    <div class="hidden flex-none md:flex" role="group" aria-label="Layout">
      {#each layouts as layout (layout)}
        <button
          class="layout small"
          aria-pressed={chosen === layout}
          title={NAMES[layout][1]}
          onclick={() => go({ layout, steps: [] }, 'replace')}>{NAMES[layout][0]}</button
        >
      {/each}
    </div>
  </div>
  <div class="line">
    <input
      class="input small filter"
      id="filter-within"
      type="search"
      placeholder="Filter these results"
      aria-label="Filter these results"
      bind:value={filter}
      autocomplete="off"
      oninput={() => {
        clearTimeout(typing);
        typing = setTimeout(() => go({ within: filter.trim() }, 'replace'), 180);
      }}
    />
    <span class="hidden flex-1 sm:block"></span>
    <div data-gather class="flex-none">
      <GatherMenu
        found={() => ({ ...keptOf(search), criteria: input().criteria ?? [] })}
        {total}
        chosen={list.selected}
        onclear={() => list.clear()}
        onchanged={again}
      />
    </div>
    <div class="flex-none"><SaveSearch {search} /></div>
    <div class="hidden flex-none items-center gap-3 md:flex">
      {#if shown === 'table'}<ColumnMenu
          {columns}
          isOwn={!!app.person?.preferences.columns?.[search.view || 'none']}
          onchange={arrange}
          {exporting}
          onexport={exportAs}
        />{/if}
      <div class="own"><ViewMenu {view} {search} {columns} {sort} /></div>
    </div>
  </div>
</header>

<style>
  /* Two lines at every width: when the reading pane opens beside them, the rows stay where they are. */
  .head {
    container-type: inline-size;
    flex: none;
    border-bottom: 1px solid var(--hair);
    padding: 6px 16px 4px;
  }
  .line {
    display: flex;
    align-items: center;
    gap: 12px;
    height: 34px;
    white-space: nowrap;
  }
  .filter {
    min-height: 28px;
    width: 170px;
    min-width: 60px;
    flex: 0 1 auto;
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
  /* Beside an open document there is room for what is used with it. */
  @container (max-width: 600px) {
    .own,
    .unread {
      display: none;
    }
  }
  @media (max-width: 639px) {
    .filter {
      flex: 1;
    }
  }
</style>
