<script lang="ts">
  import Bars from '@/parts/Bars.svelte';
  import Combobox from '@/parts/Combobox.svelte';
  import { widget } from '@/parts/kinds';
  import type { Search } from '@/api/types';
  import { app } from '@/state/app.svelte';
  import { focusOn } from '@/parts/focus';
  import { onMount } from 'svelte';
  import type { Asking } from './asking.svelte';

  interface Props {
    asking: Asking;
    /** What is done with it: the label of its button. */
    act: string;
    /** Whether what is asked of may be chosen. */
    isNew: boolean;
    reach?: Search['reach'];
    onmade: (cql: string) => void;
    oncancel: () => void;
  }
  let { asking, act, isNew, reach, onmade, oncancel }: Props = $props();
  const id = $props.id();

  const of = $derived([
    ...app.design!.words.places,
    ...[...app.design!.fields, ...app.design!.system_fields].map((f) => ({ value: f.code, label: f.label })),
  ]);
  const Widget = $derived(widget(asking.kind?.widget));

  onMount(() => {
    if (isNew) void focusOn(`${id}-field`);
  });
  async function choose(code: string) {
    asking.choose(code);
    if (code !== '') await focusOn(`${id}-value`);
  }

  async function submit(made = asking.make(reach)) {
    const cql = await made;
    if (cql !== null) onmade(cql);
  }
</script>

{#snippet value(of: string, label: string, given: string, onchange: (value: string) => void)}
  <Widget use="ask" field={asking.field!} id={of} {label} hint={asking.kind?.hint} value={given} {onchange} />
{/snippet}

<!-- Within the form of an editor no other form may stand; Enter is caught instead. -->
<!-- svelte-ignore a11y_no_noninteractive_element_interactions -->
<div
  role="group"
  aria-label={isNew ? 'A new line' : 'Change the line'}
  onkeydown={(e) => {
    if (e.key === 'Enter' && (e.ctrlKey || (e.target as HTMLElement).matches('input:not([role=combobox])'))) {
      e.preventDefault();
      e.stopPropagation();
      void submit();
    }
  }}
>
  {#if isNew}
    <label class="heading" for={`${id}-field`}>Field</label>
    <Combobox id={`${id}-field`} items={of} value={asking.of} label="Field" onchange={choose} />
  {/if}
  {#if asking.field || asking.isWords}
    <label class="heading mt-2 block" for={`${id}-relation`}>Relation</label>
    <select class="input" id={`${id}-relation`} bind:value={asking.relation}>
      {#each asking.relations as r (r.value)}<option value={r.value}>{r.label}</option>{/each}
    </select>
    {#if asking.isWords}
      <label class="heading mt-2 block" for={`${id}-value`}>{asking.relation === 'phrase' ? 'Phrase' : 'Words'}</label>
      <input class="input" id={`${id}-value`} bind:value={asking.first} autocomplete="off" spellcheck="false" />
      {#if asking.isNear}
        <label class="mt-2 flex items-center gap-2"
          ><span>At most</span><input
            class="input num"
            style="width:64px"
            inputmode="numeric"
            placeholder={String(app.design!.words.near)}
            bind:value={asking.second}
            autocomplete="off"
          /><span>words apart</span></label
        >
      {/if}
    {:else if asking.needsValue && asking.field}
      <label class="heading mt-2 block" for={`${id}-value`}>{asking.isBetween ? 'From' : 'Value'}</label>
      {#if asking.isChoice}
        {#each asking.values as value (value)}<button
            class="link small mr-3 min-h-6"
            type="button"
            title="Remove"
            onclick={() => asking.remove(value)}>{asking.labelOf(value)} ✕</button
          >{/each}
        <Combobox
          id={`${id}-value`}
          items={asking.items}
          source={asking.choices?.source}
          value=""
          label="Value"
          placeholder={asking.values.length > 0 ? 'or…' : 'Type to choose'}
          onchange={(v) => asking.add(v)}
        />
      {:else}
        {@render value(`${id}-value`, 'Value', asking.first, (v) => (asking.first = v))}
      {/if}
      {#if asking.isBetween}
        <label class="heading mt-2 block" for={`${id}-second`}>To</label>
        {@render value(`${id}-second`, 'To', asking.second, (v) => (asking.second = v))}
      {/if}
      {#if isNew && asking.facet && asking.facet.ranges.length > 1 && asking.facet.ranges[0]!.from !== undefined}
        <div class="mt-2">
          <Bars
            label={asking.field.label}
            ends={asking.facet.ends}
            bars={asking.facet.ranges.map((r, i) => ({ key: String(i), label: r.label, count: r.count }))}
            onchoose={(a, b) => submit(asking.stretch(asking.facet!.ranges[Number(a)]!.from, asking.facet!.ranges[Number(b)]!.to))}
          />
        </div>
      {/if}
    {/if}
    {#if asking.fault}<p class="fault mt-1" role="alert">{asking.fault}</p>{/if}
  {/if}
  <div class="mt-3 flex gap-2">
    {#if asking.of !== ''}<button class="btn btn-main" type="button" disabled={asking.busy} onclick={() => submit()}>{act}</button>{/if}
    <button class="btn" type="button" onclick={oncancel}>Cancel</button>
  </div>
</div>
