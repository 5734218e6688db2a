<script lang="ts">
  import type { Answer, Facet, FacetValue } from '@/api/types';
  import { count } from '@/parts/format';
  import IconChevronRight from '@lucide/svelte/icons/chevron-right';
  import IconMinus from '@lucide/svelte/icons/minus';

  interface Props {
    answer: Answer | null;
    toggle: (field: string, value: string, exclude: boolean) => void;
  }
  let { answer, toggle }: Props = $props();

  const FIRST = 6;
  let opened = $state<Record<string, boolean>>({});
  let whole = $state<Record<string, boolean>>({});

  const facets = $derived((answer?.facets ?? []).filter((f) => f.values.length > 0));

  function top(facet: Facet): FacetValue[] {
    const values = facet.values.filter((v) => v.parent === null || !facet.values.some((o) => o.value === v.parent));
    const ordered = facet.kind === 'date' ? [...values].sort((a, b) => b.value.localeCompare(a.value)) : values;
    return whole[facet.field] ? ordered : ordered.filter((v, i) => i < FIRST || v.chosen);
  }
  const below = (facet: Facet, parent: string) => {
    const values = facet.values.filter((v) => v.parent === parent);
    return facet.kind === 'date' ? values.sort((a, b) => a.value.localeCompare(b.value)) : values;
  };
  const tops = (facet: Facet) => facet.values.filter((v) => v.parent === null).length;
  const most = (facet: Facet) => Math.max(1, ...facet.values.map((v) => v.count));
</script>

{#snippet row(facet: Facet, value: FacetValue, depth: number)}
  {@const children = below(facet, value.value)}
  {@const key = `${facet.field}/${value.value}`}
  <li>
    <div class="row flex items-center" style={`padding-left:${depth * 14}px`}>
      {#if children.length > 0}
        <button class="chevron" class:open={opened[key]} aria-expanded={!!opened[key]} aria-label={`What is below ${value.label}`} onclick={() => (opened[key] = !opened[key])}><IconChevronRight size={13} strokeWidth={1.8} /></button>
      {:else}<span class="w-[18px] flex-none"></span>{/if}
      <button class="value flex min-h-6 min-w-0 flex-1 items-center gap-2 text-left" aria-pressed={value.chosen} onclick={() => toggle(facet.field, value.value, false)}>
        <span class="min-w-0 flex-1 truncate" class:font-semibold={value.chosen} title={value.label}>{value.label}</span>
        <span class="meter" aria-hidden="true"><span class:chosen={value.chosen} style={`width:${(100 * value.count) / most(facet)}%`}></span></span>
        <span class="num w-11">{count(value.count)}</span>
      </button>
      <button class="icon-btn exclude" style="width:24px;height:24px" aria-label={`Leave out ${value.label}`} title="Leave this out" onclick={() => toggle(facet.field, value.value, true)}><IconMinus size={13} strokeWidth={1.8} /></button>
    </div>
    {#if opened[key] && children.length > 0}
      <ul>{#each children as child (child.value)}{@render row(facet, child, depth + 1)}{/each}</ul>
    {/if}
  </li>
{/snippet}

<div class="px-3 pb-6">
  <h2 class="sr-only">Margins</h2>
  {#each facets as facet (facet.field)}
    <section class="border-t border-hair pt-1.5 pb-2" aria-label={facet.label}>
      <h3 class="heading mb-0.5" style="font-family:var(--font-sans)">{facet.label}</h3>
      <ul class="small">
        {#each top(facet) as value (value.value)}{@render row(facet, value, 0)}{/each}
      </ul>
      {#if tops(facet) > FIRST}
        <button class="link small min-h-6 pl-4" onclick={() => (whole[facet.field] = !whole[facet.field])}>
          {whole[facet.field] ? 'Fewer' : `${tops(facet) - FIRST} more`}{#if whole[facet.field] !== true && facet.distinct > facet.values.length}&nbsp;of {count(facet.distinct)}{/if}
        </button>
      {/if}
    </section>
  {/each}
</div>

<style>
  .row { min-height: 24px; }
  .row:hover { background: var(--act-tint); }
  .value[aria-pressed='true'] { color: var(--act); }
  .chevron { width: 24px; height: 24px; margin-left: -6px; flex: none; color: var(--quiet); display: inline-flex; align-items: center; justify-content: center; }
  .chevron.open :global(svg) { transform: rotate(90deg); }
  .meter { width: 42px; height: 3px; flex: none; }
  .meter span { display: block; height: 100%; background: color-mix(in srgb, var(--quiet) 55%, transparent); }
  .meter span.chosen { background: var(--act); }
  .exclude { opacity: 0; }
  .row:hover .exclude, .exclude:focus-visible { opacity: 1; }
  @media (hover: none) { .exclude { opacity: 1; } }
</style>
