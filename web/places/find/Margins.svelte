<script lang="ts">
  import type { Answer, CriterionInput, Facet } from '@/api/types';
  import { count } from '@/parts/format';
  import { app } from '@/state/app.svelte';
  import IconArrowDown from '@lucide/svelte/icons/arrow-down';
  import IconArrowUp from '@lucide/svelte/icons/arrow-up';
  import { SvelteMap } from 'svelte/reactivity';
  import { untrack } from 'svelte';
  import { FacetShape, type FacetAsks } from './facets.svelte';
  import FacetSection from './FacetSection.svelte';

  interface Props {
    answer: Answer | null;
    /** Whether those of the present answer are still being counted. */
    counting: boolean;
    asks: FacetAsks;
    criteria: CriterionInput[];
    toggle: (field: string, value: string, exclude: boolean) => void;
    choose: (cql: string) => void;
  }
  let { answer, counting, asks, criteria, toggle, choose }: Props = $props();

  const isAsked = (f: Facet) => asks.of(f.field).order !== 'count' || !!asks.of(f.field).search;
  const prefer = $derived(app.person?.preferences.margins ?? {});
  let arranging = $state(false);
  const place = (f: Facet) => {
    const at = prefer.order?.indexOf(f.field) ?? -1;
    return at < 0 ? 1000 : at;
  };
  const all = $derived(
    (answer?.facets ?? [])
      .filter((f) => f.values.length > 0 || f.ranges.length > 0 || (isAsked(f) && f.distinct > 0))
      .map((f, i) => ({ f, i }))
      .sort((a, b) => place(a.f) - place(b.f) || a.i - b.i)
      .map(({ f }) => f),
  );
  const facets = $derived(all.filter((f) => !prefer.hidden?.includes(f.field)));

  function moveFacet(field: string, by: 1 | -1) {
    const order = all.map((f) => f.field);
    const at = order.indexOf(field);
    if (at + by < 0 || at + by >= order.length) return;
    [order[at], order[at + by]] = [order[at + by]!, order[at]!];
    void app.prefer({ margins: { ...prefer, order } });
  }
  const hide = (field: string, hidden: boolean) =>
    app.prefer({
      margins: { ...prefer, hidden: hidden ? [...(prefer.hidden ?? []), field] : (prefer.hidden ?? []).filter((f) => f !== field) },
    });

  /** What every document found has alike divides nothing and needs no room of its own. */
  const isAlike = (f: Facet) =>
    !isAsked(f) && f.distinct === 1 && f.values.length === 1 && f.values[0]!.count === answer?.total && !f.values[0]!.chosen;
  const alike = $derived(facets.filter(isAlike));

  const shapes: Record<string, FacetShape> = {};
  const shapeOf = (field: string) => (shapes[field] ??= new FacetShape());

  /** So many are likely in sight before their places are known. */
  const AT_FIRST = 4;
  /**
   * What each facet shows. Those in sight change with the answer; the others one after another when it has been painted,
   * so that nobody waits for what they cannot see.
   */
  const shown = new SvelteMap<string, { facet: Facet; answer: Answer }>();
  const near: Record<string, boolean> = {};
  let late: Facet[] = [];
  $effect.pre(() => {
    const given = answer;
    if (!given) return;
    const now = facets.filter((f) => !isAlike(f));
    untrack(() => {
      late = [];
      // What comes back later must not show what it had before.
      for (const field of [...shown.keys()]) if (!now.some((f) => f.field === field)) shown.delete(field);
      now.forEach((facet, i) => {
        if (near[facet.field] || i < AT_FIRST) shown.set(facet.field, { facet, answer: given });
        else if (shown.get(facet.field)?.facet !== facet) late.push(facet);
      });
    });
    let timer: ReturnType<typeof setTimeout>;
    const next = () => {
      const facet = late.shift();
      if (!facet) return;
      shown.set(facet.field, { facet, answer: given });
      timer = setTimeout(next);
    };
    const frame = requestAnimationFrame(() => (timer = setTimeout(next)));
    return () => {
      cancelAnimationFrame(frame);
      clearTimeout(timer);
    };
  });

  let sight: IntersectionObserver | undefined;
  const fields = new WeakMap<Element, string>();
  function seen(changes: IntersectionObserverEntry[]) {
    for (const { target, isIntersecting } of changes) {
      const field = fields.get(target)!;
      near[field] = isIntersecting;
      const facet = isIntersecting && late.find((f) => f.field === field);
      if (facet && answer) {
        late = late.filter((f) => f !== facet);
        shown.set(field, { facet, answer });
      }
    }
  }
  const watched = (field: string) => (section: Element) => {
    sight ??= new IntersectionObserver(seen, { root: section.closest('aside'), rootMargin: '150px 0px' });
    fields.set(section, field);
    sight.observe(section);
    return () => {
      sight?.unobserve(section);
      near[field] = false;
    };
  };
</script>

<div class="px-3 pb-6" aria-busy={counting}>
  <h2 class="text-[15px]">Margins <span class="small quiet font-sans">narrow by a value</span></h2>
  {#if arranging}
    <ul class="small border-t border-hair pt-1" aria-label="Arrange the margins">
      {#each all as facet, i (facet.field)}
        <li class="flex min-h-7 items-center gap-1">
          <label class="flex flex-1 items-center gap-1.5"
            ><input
              type="checkbox"
              class="check"
              checked={!prefer.hidden?.includes(facet.field)}
              onchange={(e) => hide(facet.field, !e.currentTarget.checked)}
            />{facet.label}</label
          >
          <button class="icon-btn" disabled={i === 0} aria-label={`Move ${facet.label} up`} onclick={() => moveFacet(facet.field, -1)}
            ><IconArrowUp size={14} strokeWidth={1.7} /></button
          ><button
            class="icon-btn"
            disabled={i === all.length - 1}
            aria-label={`Move ${facet.label} down`}
            onclick={() => moveFacet(facet.field, 1)}><IconArrowDown size={14} strokeWidth={1.7} /></button
          >
        </li>
      {/each}
    </ul>
  {/if}
  {#each facets.filter((f) => !isAlike(f)) as facet (facet.field)}
    {@const given = shown.get(facet.field)}
    <section class="facet border-t border-hair pt-1.5 pb-2" aria-label={facet.label} {@attach watched(facet.field)}>
      {#if given}<FacetSection {...given} {asks} shape={shapeOf(facet.field)} {criteria} {toggle} {choose} />{:else}<div
          class="late"
        ></div>{/if}
    </section>
  {/each}
  {#if all.length > 0}<button class="link small min-h-6 border-t border-hair pt-1" onclick={() => (arranging = !arranging)}
      >{arranging
        ? 'Done arranging'
        : `Arrange the margins${facets.length < all.length ? `, ${all.length - facets.length} hidden` : ''}`}</button
    >{/if}
  {#if alike.length > 0}
    <p class="small border-t border-hair pt-1.5 leading-relaxed">
      <span class="heading block">The same in all {count(answer!.total)}</span>{#each alike as facet, i (facet.field)}{i > 0
          ? ' · '
          : ''}<span class="quiet">{facet.label}</span>
        {facet.values[0]!.label}{/each}
    </p>
  {/if}
</div>

<style>
  .late {
    height: 182px;
  }
</style>
