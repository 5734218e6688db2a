<script lang="ts">
  import type { Answer, CriterionInput, Facet, FacetOrder, FacetValue } from '@/api/types';
  import { api } from '@/api/client';
  import Bars from '@/parts/Bars.svelte';
  import { count } from '@/parts/format';
  import { app } from '@/state/app.svelte';
  import IconArrowDown from '@lucide/svelte/icons/arrow-down';
  import IconArrowUp from '@lucide/svelte/icons/arrow-up';
  import type { FacetAsks } from './facets.svelte';

  interface Props {
    answer: Answer | null;
    asks: FacetAsks;
    criteria: CriterionInput[];
    toggle: (field: string, value: string, exclude: boolean) => void;
    choose: (cql: string) => void;
  }
  let { answer, asks, criteria, toggle, choose }: Props = $props();

  const FIRST = 6;
  const MORE = 200;
  const orders: [FacetOrder, string][] = [['count', 'by count'], ['name', 'by name'], ['standing_out', 'standing out']];
  let opened = $state<Record<string, boolean>>({});
  let whole = $state<Record<string, boolean>>({});

  const isAsked = (f: Facet) => asks.of(f.field).order !== 'count' || !!asks.of(f.field).search;
  const prefer = $derived(app.person?.preferences.margins ?? {});
  let arranging = $state(false);
  const place = (f: Facet) => {
    const at = prefer.order?.indexOf(f.field) ?? -1;
    return at < 0 ? 1000 : at;
  };
  const all = $derived((answer?.facets ?? []).filter((f) => f.values.length > 0 || f.ranges.length > 0 || (isAsked(f) && f.distinct > 0)).map((f, i) => ({ f, i })).sort((a, b) => place(a.f) - place(b.f) || a.i - b.i).map(({ f }) => f));
  const facets = $derived(all.filter((f) => !prefer.hidden?.includes(f.field)));

  function moveFacet(field: string, by: 1 | -1) {
    const order = all.map((f) => f.field);
    const at = order.indexOf(field);
    if (at + by < 0 || at + by >= order.length) return;
    [order[at], order[at + by]] = [order[at + by]!, order[at]!];
    void app.prefer({ margins: { ...prefer, order } });
  }
  const hide = (field: string, hidden: boolean) => app.prefer({ margins: { ...prefer, hidden: hidden ? [...(prefer.hidden ?? []), field] : (prefer.hidden ?? []).filter((f) => f !== field) } });

  /** The years of a date without gaps, so that a stretch drawn over them is what it looks like. */
  function years(facet: Facet) {
    const known = new Map(facet.values.filter((v) => /^\d{4}$/.test(v.value)).map((v) => [Number(v.value), v.count]));
    const [from, to] = [Math.min(...known.keys()), Math.max(...known.keys())];
    return known.size < 3 || to - from > 260 ? [] : Array.from({ length: to - from + 1 }, (_, i) => ({ key: String(from + i), label: String(from + i), count: known.get(from + i) ?? 0 }));
  }
  async function stretch(facet: Facet, from: string, to: string) {
    choose((await api.criterion(facet.field, from === to ? 'is' : 'between', from === to ? [from] : [from, to])).cql);
  }

  /** What every document found has alike divides nothing and needs no room of its own. */
  const isAlike = (f: Facet) => !isAsked(f) && f.distinct === 1 && f.values.length === 1 && f.values[0]!.count === answer?.total && !f.values[0]!.chosen;
  const alike = $derived(facets.filter(isAlike));

  /** The values of a facet by what they are below, and the highest count: worked out once for each answer. */
  interface Shape {
    tops: FacetValue[];
    below: Map<string, FacetValue[]>;
    most: number;
  }
  const shapes = new WeakMap<Facet, Shape>();
  function shape(facet: Facet): Shape {
    const known = shapes.get(facet);
    if (known) return known;
    const names = new Set(facet.values.map((v) => v.value));
    const made: Shape = { tops: [], below: new Map(), most: 1 };
    for (const value of facet.values) {
      made.most = Math.max(made.most, value.count);
      if (value.parent === null || !names.has(value.parent)) made.tops.push(value);
      if (value.parent !== null) made.below.set(value.parent, [...(made.below.get(value.parent) ?? []), value]);
    }
    for (const range of facet.ranges) made.most = Math.max(made.most, range.count);
    if (facet.kind === 'date') for (const of of made.below.values()) of.sort((a, b) => a.value.localeCompare(b.value));
    shapes.set(facet, made);
    return made;
  }
  function top(facet: Facet): FacetValue[] {
    const values = shape(facet).tops;
    const ordered = facet.kind === 'date' && asks.of(facet.field).order === 'count' ? [...values].sort((a, b) => b.value.localeCompare(a.value)) : values;
    return whole[facet.field] ? ordered : ordered.filter((v, i) => i < FIRST || v.chosen || v.excluded);
  }
  const below = (facet: Facet, parent: string) => shape(facet).below.get(parent) ?? [];
  const tops = (facet: Facet) => facet.values.filter((v) => v.parent === null).length;
  const most = (facet: Facet) => shape(facet).most;
  /** Facets whose rare values are not all there: dates and trees always are. */
  const isCut = (facet: Facet) => facet.distinct > facet.values.length && facet.values.every((v) => v.parent === null);

  function more(facet: Facet) {
    whole[facet.field] = !whole[facet.field];
    if (whole[facet.field] && isCut(facet)) asks.change(facet.field, { most: MORE });
  }
</script>

{#snippet meter(facet: Facet, n: number, chosen: boolean)}
  <span class="meter" aria-hidden="true"><span class:chosen style={`width:${(100 * n) / most(facet)}%`}></span></span>
  <span class="num w-11">{count(n)}</span>
{/snippet}

<!-- Written out: a component for each of some hundred signs takes longer to make than the rows themselves. -->
{#snippet sign(path: string)}
  <svg width="13" height="13" viewBox="0 0 24 24" fill="none" stroke="currentColor" stroke-width="1.8" stroke-linecap="round" stroke-linejoin="round" aria-hidden="true"><path d={path} /></svg>
{/snippet}

{#snippet row(facet: Facet, value: FacetValue, depth: number)}
  {@const children = below(facet, value.value)}
  {@const key = `${facet.field}/${value.value}`}
  <li>
    <div class="row flex items-center" style={`padding-left:${depth * 14}px`}>
      {#if children.length > 0}
        <button class="chevron" class:open={opened[key]} aria-expanded={!!opened[key]} aria-label={`What is below ${value.label}`} onclick={() => (opened[key] = !opened[key])}>{@render sign('m9 18 6-6-6-6')}</button>
      {:else}<span class="w-[18px] flex-none"></span>{/if}
      <button class="value flex min-h-6 min-w-0 flex-1 items-center gap-2 text-left" aria-pressed={value.chosen} onclick={() => toggle(facet.field, value.value, value.excluded)}>
        <span class="min-w-0 flex-1 truncate" class:font-semibold={value.chosen} title={value.label}>{#if value.excluded}<span class="text-rust">left out:</span> <s>{value.label}</s>{:else}{value.label}{/if}</span>
        {@render meter(facet, value.count, value.chosen)}
      </button>
      {#if value.excluded}<span class="w-6 flex-none"></span>{:else}
        <button class="icon-btn exclude" style="width:24px;height:24px" aria-label={`Leave out ${value.label}`} title="Leave this out" onclick={() => toggle(facet.field, value.value, true)}>{@render sign('M5 12h14')}</button>
      {/if}
    </div>
    {#if value.standing_out && answer}
      <p class="usual quiet">{value.standing_out.ratio} times usual: {count(value.count)} of {count(answer.total)} here, {count(value.standing_out.all)} of {count(answer.visible)} in all</p>
    {/if}
    {#if opened[key] && children.length > 0}
      <ul>{#each children as child (child.value)}{@render row(facet, child, depth + 1)}{/each}</ul>
    {/if}
  </li>
{/snippet}

<div class="px-3 pb-6">
  <h2 class="sr-only">Margins</h2>
  {#if arranging}
    <ul class="small border-t border-hair pt-1" aria-label="Arrange the margins">
      {#each all as facet, i (facet.field)}
        <li class="flex min-h-7 items-center gap-1"><label class="flex flex-1 items-center gap-1.5"><input type="checkbox" class="check" checked={!prefer.hidden?.includes(facet.field)} onchange={(e) => hide(facet.field, !e.currentTarget.checked)} />{facet.label}</label>
          <button class="icon-btn" disabled={i === 0} aria-label={`Move ${facet.label} up`} onclick={() => moveFacet(facet.field, -1)}><IconArrowUp size={14} strokeWidth={1.7} /></button><button class="icon-btn" disabled={i === all.length - 1} aria-label={`Move ${facet.label} down`} onclick={() => moveFacet(facet.field, 1)}><IconArrowDown size={14} strokeWidth={1.7} /></button></li>
      {/each}
    </ul>
  {/if}
  {#each facets.filter((f) => !isAlike(f)) as facet (facet.field)}
    <section class="facet border-t border-hair pt-1.5 pb-2" aria-label={facet.label}>
      <div class="flex items-baseline">
        <h3 class="heading mb-0.5 flex-1" style="font-family:var(--font-sans)">{facet.label}</h3>
        {#if facet.ranges.length === 0}
          <select class="order small quiet" class:set={asks.of(facet.field).order !== 'count'} aria-label={`Order of ${facet.label}`} value={asks.of(facet.field).order} onchange={(e) => asks.change(facet.field, { order: e.currentTarget.value as FacetOrder })}>
            {#each orders as [value, label] (value)}<option {value}>{label}</option>{/each}
          </select>
        {/if}
      </div>
      {#if (whole[facet.field] && facet.distinct > FIRST * 2) || asks.of(facet.field).search}
        <input class="input small mb-1" style="min-height:28px" type="search" placeholder={`Among ${count(facet.distinct)} values`} aria-label={`Search within ${facet.label}`} value={asks.of(facet.field).search ?? ''} oninput={(e) => asks.change(facet.field, { search: e.currentTarget.value })} />
      {/if}
      {#if facet.kind === 'date'}{@const bars = years(facet)}{#if bars.length > 0}<div class="mb-1 pr-6 pl-[18px]"><Bars {bars} label={facet.label} onchoose={(from, to) => stretch(facet, from, to)} /></div>{/if}{/if}
      {#if facet.ranges.length > 2}<div class="mb-1 pr-6 pl-[18px]"><Bars bars={facet.ranges.map((r, i) => ({ key: String(i), label: r.label, count: r.count }))} label={facet.label} onchoose={(a, b) => stretch(facet, facet.ranges[Number(a)]!.from, facet.ranges[Number(b)]!.to)} /></div>{/if}
      <ul class="small">
        {#each top(facet) as value (value.value)}{@render row(facet, value, 0)}{/each}
        {#each facet.ranges as range (range.cql)}
          {@const chosen = criteria.some((c) => c.cql === range.cql)}
          <li class="row flex items-center">
            <span class="w-[18px] flex-none"></span>
            <button class="value flex min-h-6 min-w-0 flex-1 items-center gap-2 text-left" aria-pressed={chosen} onclick={() => choose(range.cql)}>
              <span class="min-w-0 flex-1 truncate" class:font-semibold={chosen}>{range.label}</span>
              {@render meter(facet, range.count, chosen)}
            </button>
            <span class="w-6 flex-none"></span>
          </li>
        {/each}
      </ul>
      {#if facet.values.length === 0 && facet.ranges.length === 0}
        <p class="small quiet pl-[18px]">{asks.of(facet.field).search ? 'No value has this in it.' : 'No value stands out here.'}</p>
      {/if}
      {#if tops(facet) > FIRST || (isCut(facet) && !whole[facet.field] && asks.of(facet.field).order !== 'standing_out')}
        <button class="link small min-h-6 pl-4" onclick={() => more(facet)}>
          {#if whole[facet.field]}Fewer{:else}{count((isCut(facet) ? facet.distinct : tops(facet)) - FIRST)} more{/if}
        </button>
      {/if}
    </section>
  {/each}
  {#if all.length > 0}<button class="link small min-h-6 border-t border-hair pt-1" onclick={() => (arranging = !arranging)}>{arranging ? 'Done arranging' : `Arrange the margins${facets.length < all.length ? `, ${all.length - facets.length} hidden` : ''}`}</button>{/if}
  {#if alike.length > 0}
    <p class="small border-t border-hair pt-1.5 leading-relaxed"><span class="heading block">Alike in all {count(answer!.total)}</span>{#each alike as facet, i (facet.field)}{i > 0 ? ' · ' : ''}<span class="quiet">{facet.label}</span> {facet.values[0]!.label}{/each}</p>
  {/if}
</div>

<style>
  /* What is below the fold is laid out when it comes into sight. */
  .facet { content-visibility: auto; contain-intrinsic-size: auto 190px; }
  .row { min-height: 24px; }
  .row:hover { background: var(--act-tint); }
  .value[aria-pressed='true'] { color: var(--act); }
  .chevron { width: 24px; height: 24px; margin-left: -6px; flex: none; color: var(--quiet); display: inline-flex; align-items: center; justify-content: center; }
  .chevron.open :global(svg) { transform: rotate(90deg); }
  .meter { width: 42px; height: 3px; flex: none; }
  .meter span { display: block; height: 100%; background: color-mix(in srgb, var(--quiet) 55%, transparent); }
  .meter span.chosen { background: var(--act); }
  .exclude, .order { opacity: 0; }
  .order { min-height: 24px; margin-right: 22px; background: transparent; text-align: right; }
  .order.set, .facet:hover .order, .order:focus-visible, .row:hover .exclude, .exclude:focus-visible { opacity: 1; }
  .usual { margin: -2px 24px 3px 18px; font-size: 12px; line-height: 1.3; }
  @media (hover: none) { .exclude, .order { opacity: 1; } }
</style>
