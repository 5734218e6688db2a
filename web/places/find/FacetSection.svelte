<script lang="ts">
  import type { Answer, CriterionInput, Facet, FacetOrder, FacetValue } from '@/api/types';
  import { api } from '@/api/client';
  import Bars from '@/parts/Bars.svelte';
  import { count } from '@/parts/format';
  import type { FacetAsks, FacetShape } from './facets.svelte';

  interface Props {
    facet: Facet;
    answer: Answer;
    asks: FacetAsks;
    /** How far the person has opened it. */
    shape: FacetShape;
    criteria: CriterionInput[];
    toggle: (field: string, value: string, exclude: boolean) => void;
    choose: (cql: string) => void;
  }
  let { facet, answer, asks, shape, criteria, toggle, choose }: Props = $props();

  const FIRST = 6;
  const MORE = 200;
  const orders: [FacetOrder, string][] = [
    ['count', 'by count'],
    ['name', 'by name'],
    ['standing_out', 'standing out'],
  ];
  const ask = $derived(asks.of(facet.field));

  /** The years of a date without gaps, so that a stretch drawn over them is what it looks like. */
  const years = $derived.by(() => {
    const known = new Map(
      facet.kind !== 'date' ? [] : facet.values.filter((v) => /^\d{4}$/.test(v.value)).map((v) => [Number(v.value), v.count]),
    );
    const [from, to] = [Math.min(...known.keys()), Math.max(...known.keys())];
    return known.size < 3 || to - from > 260
      ? []
      : Array.from({ length: to - from + 1 }, (_, i) => ({
          key: String(from + i),
          label: String(from + i),
          count: known.get(from + i) ?? 0,
        }));
  });
  async function stretch(from: string, to: string) {
    choose((await api.criterion(facet.field, from === to ? 'is' : 'between', from === to ? [from] : [from, to])).cql);
  }

  /** The values by what they are below, and the highest count. */
  const tree = $derived.by(() => {
    const names = new Set(facet.values.map((v) => v.value));
    const tops: FacetValue[] = [];
    const below: Record<string, FacetValue[]> = {};
    let most = 1;
    for (const value of facet.values) {
      most = Math.max(most, value.count);
      if (!value.parents.some((p) => names.has(p))) tops.push(value);
      for (const parent of value.parents) (below[parent] ??= []).push(value);
    }
    for (const range of facet.ranges) most = Math.max(most, range.count);
    if (facet.kind === 'date') for (const of of Object.values(below)) of.sort((a, b) => a.value.localeCompare(b.value));
    return { tops, below, most };
  });
  const top = $derived.by(() => {
    const ordered =
      facet.kind === 'date' && ask.order === 'count' ? [...tree.tops].sort((a, b) => b.value.localeCompare(a.value)) : tree.tops;
    return shape.whole ? ordered : ordered.filter((v, i) => i < FIRST || v.chosen || v.excluded);
  });
  const tops = $derived(facet.values.filter((v) => v.parents.length === 0).length);
  /** Whether its rare values are not all there: dates and trees always are. */
  const isCut = $derived(facet.distinct > facet.values.length && facet.values.every((v) => v.parents.length === 0));

  function open(value: FacetValue) {
    const opened = (shape.opened[value.value] = !shape.opened[value.value]);
    // Of a large tree only what is opened has come.
    if (opened && value.more && !tree.below[value.value]) asks.change(facet.field, { opened: [...(ask.opened ?? []), value.value] });
  }
  function more() {
    shape.whole = !shape.whole;
    if (shape.whole && isCut) asks.change(facet.field, { most: MORE });
  }
</script>

{#snippet meter(n: number, chosen: boolean)}
  <span class="meter" class:chosen style={`--part:${(100 * n) / tree.most}%`}></span>
  <span class="num w-11">{count(n)}</span>
{/snippet}

{#snippet row(value: FacetValue, depth: number)}
  {@const children = tree.below[value.value] ?? []}
  <li>
    <div class="row flex items-center" style={`padding-left:${depth * 14 + (value.more || children.length > 0 ? 0 : 18)}px`}>
      {#if value.more || children.length > 0}
        <button
          class="chevron"
          class:open={shape.opened[value.value]}
          aria-expanded={!!shape.opened[value.value]}
          aria-label={`What is below ${value.label}`}
          onclick={() => open(value)}
          ><svg
            width="13"
            height="13"
            viewBox="0 0 24 24"
            fill="none"
            stroke="currentColor"
            stroke-width="1.8"
            stroke-linecap="round"
            stroke-linejoin="round"
            aria-hidden="true"><path d="m9 18 6-6-6-6" /></svg
          ></button
        >
      {/if}
      <button class="value" aria-pressed={value.chosen} onclick={() => toggle(facet.field, value.value, value.excluded)}>
        <span class="name" class:font-semibold={value.chosen} title={value.label}
          >{#if value.excluded}<span class="text-rust">left out:</span> <s>{value.label}</s>{:else}{value.label}{/if}</span
        >
        {@render meter(value.count, value.chosen)}
      </button>
      {#if !value.excluded}<button
          class="exclude"
          aria-label={`Leave out ${value.label}`}
          title="Leave this out"
          onclick={() => toggle(facet.field, value.value, true)}
        ></button>{/if}
    </div>
    {#if value.standing_out}
      <p class="usual quiet">
        {value.standing_out.ratio} times usual: {count(value.count)} of {count(answer.total)} here, {count(value.standing_out.all)} of {count(
          answer.visible,
        )} in all
      </p>
    {/if}
    {#if shape.opened[value.value] && children.length > 0}
      <ul>
        {#each children as child (child.value)}{@render row(child, depth + 1)}{/each}
      </ul>
    {/if}
  </li>
{/snippet}

<div class="flex items-baseline">
  <h3 class="heading mb-0.5 flex-1" style="font-family:var(--font-sans)">{facet.label}</h3>
  {#if facet.ranges.length === 0}
    <select
      class="order small quiet"
      class:set={ask.order !== 'count'}
      aria-label={`Order of ${facet.label}`}
      value={ask.order}
      onchange={(e) => asks.change(facet.field, { order: e.currentTarget.value as FacetOrder })}
    >
      {#each orders as [value, label] (value)}<option {value}>{label}</option>{/each}
    </select>
  {/if}
</div>
{#if (shape.whole && facet.distinct > FIRST * 2) || ask.search}
  <input
    class="input small mb-1"
    style="min-height:28px"
    type="search"
    placeholder={`Search ${count(facet.distinct)} values`}
    aria-label={`Search within ${facet.label}`}
    value={ask.search ?? ''}
    oninput={(e) => asks.change(facet.field, { search: e.currentTarget.value })}
  />
{/if}
{#if years.length > 0}<div class="mb-1 pr-6 pl-[18px]"><Bars bars={years} label={facet.label} onchoose={stretch} /></div>{/if}
{#if facet.ranges.length > 2}<div class="mb-1 pr-6 pl-[18px]">
    <Bars
      bars={facet.ranges.map((r, i) => ({ key: String(i), label: r.label, count: r.count }))}
      ends={facet.ends}
      label={facet.label}
      onchoose={(a, b) => stretch(facet.ranges[Number(a)]!.from, facet.ranges[Number(b)]!.to)}
    />
  </div>{/if}
<ul class="small">
  {#each top as value (value.value)}{@render row(value, 0)}{/each}
  {#each facet.ranges as range (range.cql)}
    {@const chosen = criteria.some((c) => c.cql === range.cql)}
    <li class="row flex items-center" style="padding-left:18px">
      <button class="value" aria-pressed={chosen} onclick={() => choose(range.cql)}>
        <span class="name" class:font-semibold={chosen}>{range.label}</span>
        {@render meter(range.count, chosen)}
      </button>
    </li>
  {/each}
</ul>
{#if facet.values.length === 0 && facet.ranges.length === 0}
  <p class="small quiet pl-[18px]">{ask.search ? 'No value has this in it.' : 'No value stands out here.'}</p>
{/if}
{#if tops > FIRST || (isCut && !shape.whole && ask.order !== 'standing_out')}
  <button class="link small min-h-6 pl-4" onclick={() => more()}>
    {#if shape.whole}Fewer{:else}{count((isCut ? facet.distinct : tops) - FIRST)} more{/if}
  </button>
{/if}

<style>
  /* Few elements and few classes: there are some hundred rows. */
  .row {
    min-height: 24px;
  }
  .row:hover {
    background: var(--act-tint);
  }
  .value {
    display: flex;
    min-width: 0;
    min-height: 24px;
    flex: 1;
    align-items: center;
    gap: 8px;
    margin-right: 24px;
    text-align: left;
  }
  .value[aria-pressed='true'] {
    color: var(--act);
  }
  .name {
    min-width: 0;
    flex: 1;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  .chevron {
    width: 24px;
    height: 24px;
    margin-left: -6px;
    flex: none;
    color: var(--quiet);
    display: inline-flex;
    align-items: center;
    justify-content: center;
  }
  .chevron.open :global(svg) {
    transform: rotate(90deg);
  }
  .meter {
    --ink: color-mix(in srgb, var(--quiet) 55%, transparent);
    width: 42px;
    height: 3px;
    flex: none;
    background: linear-gradient(var(--ink), var(--ink)) no-repeat 0 0 / var(--part) 100%;
  }
  .meter.chosen {
    --ink: var(--act);
  }
  .exclude {
    width: 24px;
    height: 24px;
    flex: none;
    margin-left: -24px;
    display: inline-flex;
    align-items: center;
    justify-content: center;
    border-radius: 3px;
    color: var(--quiet);
  }
  .exclude:hover {
    color: var(--act);
  }
  .exclude::before {
    width: 9px;
    height: 1.5px;
    background: currentColor;
    content: '';
  }
  .exclude,
  .order {
    opacity: 0;
  }
  .order {
    min-height: 24px;
    margin-right: 22px;
    background: transparent;
    text-align: right;
  }
  .order.set,
  :global(.facet:hover) .order,
  .order:focus-visible,
  .row:hover .exclude,
  .exclude:focus-visible {
    opacity: 1;
  }
  .usual {
    margin: -2px 24px 3px 18px;
    font-size: 12px;
    line-height: 1.3;
  }
  @media (hover: none) {
    .exclude,
    .order {
      opacity: 1;
    }
  }
</style>
