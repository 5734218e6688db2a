<script lang="ts">
  import { api } from '@/api/client';
  import type { CriterionInput, Group, Row, View } from '@/api/types';
  import { count } from '@/parts/format';
  import { app } from '@/state/app.svelte';
  import IconChevronRight from '@lucide/svelte/icons/chevron-right';
  import GroupLine from './GroupLine.svelte';
  import Outline from './Outline.svelte';
  import type { SearchState } from '@/state/search';

  interface Props {
    view: View;
    search: SearchState;
    /** The criteria of the levels above. */
    path?: CriterionInput[];
    depth?: number;
    /** Which level of the view this is, and the value of it that is opened. */
    level?: number;
    below?: string | null;
    go: (change: Partial<SearchState>, how?: 'push' | 'replace') => void;
  }
  let { view, search, path = [], depth = 0, level = 0, below = null, go }: Props = $props();

  const ROWS = 50;
  let groups = $state.raw<Group[] | null>(null);
  let rows = $state.raw<Row[]>([]);
  let total = $state(0);
  let opened = $state<Record<string, boolean>>({});

  const field = $derived(view.levels[level]?.field);
  const asked = $derived({
    words: search.words,
    any: search.any,
    reach: search.reach || undefined,
    where: search.where,
    once: search.once || undefined,
    criteria: [...search.criteria, ...path],
  });
  const question = $derived(JSON.stringify([asked, field, below]));
  const most = $derived(Math.max(1, ...(groups ?? []).map((g) => g.count)));

  $effect(() => {
    void question;
    let stale = false;
    const got = field
      ? api.groups({ ...asked, level: field, below, total: view.levels[level]!.total, as: search.person || undefined }).then((answer) => {
          if (!stale) groups = answer.groups;
        })
      : api
          .search({
            ...asked,
            columns: view.columns,
            formats: view.formats,
            sort: view.sort,
            as: search.person || undefined,
            limit: ROWS,
            rows_only: true,
          })
          .then((answer) => {
            if (!stale) {
              rows = answer.rows;
              total = answer.total;
            }
          });
    got.catch(() => {});
    return () => (stale = true);
  });

  const own = (group: Group): CriterionInput => ({ cql: group.cql, negated: false, on: true });

  /** Up and down lead along all that is open; other keys act on what they are pressed on. */
  function keydown(event: KeyboardEvent, act: (key: string) => boolean) {
    const item = event.currentTarget as HTMLElement;
    const all = [...(item.closest('[role="tree"]')?.querySelectorAll<HTMLElement>('[data-step]') ?? [])];
    const by = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (by) all[all.indexOf(item) + by]?.focus();
    else if (!act(event.key)) return;
    event.preventDefault();
  }
  const onGroup = (group: Group) => (key: string) => {
    if (key !== 'ArrowRight' && key !== 'ArrowLeft') return false;
    opened[group.cql] = key === 'ArrowRight';
    return true;
  };
  const onRow = (row: Row) => (key: string) => {
    if (key !== ' ') return false;
    go({ open: search.open === row.ref ? '' : row.ref }, 'replace');
    return true;
  };
</script>

<ul
  role={depth === 0 ? 'tree' : 'group'}
  aria-label={depth === 0 ? `${view.name}, by ${view.levels.map((l) => app.label(l.field)).join(', ')}` : undefined}
>
  {#if field}
    {#each groups ?? [] as group (group.cql)}
      <li role="treeitem" aria-expanded={!!opened[group.cql]} aria-selected="false">
        <button
          class="group"
          data-step
          style={`padding-left:${16 + depth * 20}px`}
          onclick={() => (opened[group.cql] = !opened[group.cql])}
          onkeydown={(e) => keydown(e, onGroup(group))}
        >
          <span class="chevron" class:open={opened[group.cql]} aria-hidden="true"><IconChevronRight size={14} strokeWidth={1.8} /></span>
          <GroupLine {group} {field} {most} total={view.levels[level]?.total ?? null} totalAs={view.levels[level]?.total_as ?? 'sum'} />
        </button>
        {#if opened[group.cql]}
          <Outline
            {view}
            {search}
            {go}
            path={[...path, own(group)]}
            depth={depth + 1}
            level={group.deeper ? level : level + 1}
            below={group.deeper}
          />
        {/if}
      </li>
    {/each}
  {:else}
    {#each rows as row (row.ref)}
      <li role="treeitem" aria-selected={row.ref === search.open}>
        <a
          class="row"
          class:shown={row.ref === search.open}
          data-step
          href={`/documents/${row.ref}${location.search}`}
          style={`padding-left:${38 + depth * 20}px`}
          onclick={(e) => {
            e.preventDefault();
            go({ open: row.ref }, search.open ? 'replace' : 'push');
          }}
          onkeydown={(e) => keydown(e, onRow(row))}
        >
          <span class="title min-w-0 flex-1 truncate">{row.title}</span>
          {#each view.columns.filter((c) => !view.levels.some((l) => l.field === c)).slice(0, 3) as code (code)}<span
              class="small w-32 truncate text-ink">{row.cells[code]}</span
            >{/each}
        </a>
      </li>
    {/each}
    {#if total > rows.length}
      <li role="none">
        <button
          class="link small"
          style={`padding-left:${38 + depth * 20}px`}
          onclick={() => go({ criteria: asked.criteria, layout: 'table' })}>All {count(total)} of these as a table</button
        >
      </li>
    {/if}
  {/if}
</ul>

<style>
  .group,
  .row {
    display: flex;
    width: 100%;
    align-items: center;
    gap: 10px;
    min-height: 31px;
    padding-right: 16px;
    text-align: left;
    border-bottom: 1px solid color-mix(in srgb, var(--hair) 55%, transparent);
    color: var(--ink);
    text-decoration: none;
  }
  .group:hover,
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
  .chevron {
    flex: none;
    color: var(--quiet);
  }
  .chevron.open :global(svg) {
    transform: rotate(90deg);
  }
</style>
