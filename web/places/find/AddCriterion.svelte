<script lang="ts">
  import { api, ApiError } from '@/api/client';
  import type { Facet } from '@/api/types';
  import { app } from '@/state/app.svelte';
  import Bars from '@/parts/Bars.svelte';
  import Combobox from '@/parts/Combobox.svelte';
  import { count } from '@/parts/format';
  import { widget } from '@/parts/kinds';
  import { choicesOf, termLabel } from '@/state/choices.svelte';
  import IconPlus from '@lucide/svelte/icons/plus';

  /** `facets` are those of the present result: they give the counts beside what may be chosen. */
  let { add, facets = [] }: { add: (cql: string) => void; facets?: Facet[] } = $props();
  const id = $props.id();

  let open = $state(false);
  let field = $state('');
  let relation = $state('');
  let values = $state<string[]>([]);
  let first = $state('');
  let second = $state('');
  let fault = $state('');

  const fields = $derived([...app.design!.fields, ...app.design!.system_fields].map((f) => ({ value: f.code, label: f.label })));
  const chosen = $derived(app.field(field));
  const choices = $derived(chosen ? choicesOf(chosen, { retired: true }) : undefined);
  const kind = $derived(app.kind(chosen));
  const Widget = $derived(widget(kind?.widget));
  const relations = $derived((choices?.isTree ? kind?.tree_relations : kind?.relations) ?? []);
  const needsValue = $derived(relation !== 'is_empty' && relation !== 'is_filled');
  const facet = $derived(facets.find((f) => f.field === field));
  const counts = $derived(new Map(facet?.values.map((v) => [v.value, v.count])));
  const isChoice = $derived(
    (kind?.options.includes('vocabulary') === true || (facet !== undefined && facet.values.length > 0)) &&
      ['is', 'is_not', 'is_just'].includes(relation) &&
      !kind?.is_ordered &&
      kind?.widget !== 'yes-no',
  );
  /** A list or tree with counts; fields without a vocabulary list what the documents have. */
  const items = $derived.by(() => {
    if (!chosen || !isChoice) return [];
    const terms = choices?.items ?? [];
    if (choices?.source) return [];
    return (
      terms.length > 0
        ? terms.map((t) => ({ ...t, hint: counts.size > 0 ? count(counts.get(t.value) ?? 0) : t.hint }))
        : (facet?.values ?? []).map((v) => ({ value: v.value, label: v.label, hint: count(v.count) }))
    ).filter((i) => !values.includes(i.value));
  });
  const labelOf = (value: string) => facet?.values.find((v) => v.value === value)?.label ?? termLabel(chosen!, value);

  function chooseField(code: string) {
    field = code;
    fault = first = second = '';
    values = [];
    relation = relations[0]?.value ?? '';
  }

  async function submit(event?: SubmitEvent) {
    event?.preventDefault();
    try {
      const given = !needsValue
        ? []
        : relation === 'between'
          ? [first, second]
          : isChoice
            ? values.length > 0
              ? values
              : [first]
            : [first];
      const { cql } = await api.criterion(field, relation, given);
      add(cql);
      open = false;
      field = first = second = fault = '';
      values = [];
    } catch (error) {
      fault = error instanceof ApiError ? (error.fields.value ?? error.message) : 'Try again.';
    }
  }
  async function stretch(from: string, to: string) {
    add((await api.criterion(field, 'between', [from, to])).cql);
    open = false;
    field = '';
  }
</script>

<div class="px-3 pb-3">
  {#if !open}
    <button class="link inline-flex items-center gap-1 py-1" type="button" onclick={() => (open = true)}
      ><IconPlus size={14} strokeWidth={1.8} />Add a criterion</button
    >
  {:else}
    <!-- Within the form of an editor no other form may stand; Enter is caught instead. -->
    <!-- svelte-ignore a11y_no_noninteractive_element_interactions -->
    <div
      class="border-t border-hair pt-2"
      role="group"
      aria-label="A new criterion"
      onkeydown={(e) => {
        if (e.key === 'Enter' && !e.ctrlKey && (e.target as HTMLElement).matches('input:not([role=combobox])')) {
          e.preventDefault();
          void submit();
        }
      }}
    >
      <label class="heading" for={`${id}-field`}>Field</label>
      <Combobox id={`${id}-field`} items={fields} value={field} label="Field" onchange={chooseField} />
      {#if chosen}
        <label class="heading mt-2 block" for={`${id}-relation`}>Relation</label>
        <select class="input" id={`${id}-relation`} bind:value={relation}>
          {#each relations as r (r.value)}<option value={r.value}>{r.label}</option>{/each}
        </select>
        {#if needsValue}
          <label class="heading mt-2 block" for={`${id}-value`}>{relation === 'between' ? 'From' : 'Value'}</label>
          {#if isChoice}
            {#each values as value (value)}<button
                class="link small mr-3 min-h-6"
                type="button"
                title="Take out"
                onclick={() => (values = values.filter((v) => v !== value))}>{labelOf(value)} ✕</button
              >{/each}
            <Combobox
              id={`${id}-value`}
              {items}
              source={choices?.source}
              value=""
              label="Value"
              placeholder={values.length > 0 ? 'or…' : 'Type to choose'}
              onchange={(v) => {
                if (v) values = [...values, v];
              }}
            />
          {:else}
            <Widget
              use="ask"
              field={chosen}
              id={`${id}-value`}
              label="Value"
              hint={kind?.hint}
              value={first}
              onchange={(v) => (first = v)}
            />
          {/if}
          {#if relation === 'between'}
            <label class="heading mt-2 block" for={`${id}-second`}>To</label>
            <Widget
              use="ask"
              field={chosen}
              id={`${id}-second`}
              label="To"
              hint={kind?.hint}
              value={second}
              onchange={(v) => (second = v)}
            />
          {/if}
          {#if facet && facet.ranges.length > 1 && facet.ranges[0]!.from !== undefined}
            <div class="mt-2">
              <Bars
                label={chosen.label}
                ends={facet.ends}
                bars={facet.ranges.map((r, i) => ({ key: String(i), label: r.label, count: r.count }))}
                onchoose={(a, b) => stretch(facet.ranges[Number(a)]!.from, facet.ranges[Number(b)]!.to)}
              />
            </div>
          {/if}
        {/if}
        {#if fault}<p class="fault mt-1" role="alert">{fault}</p>{/if}
        <div class="mt-3 flex gap-2">
          <button class="btn btn-main" type="button" onclick={() => submit()}>Add</button><button
            class="btn"
            type="button"
            onclick={() => (open = false)}>Leave</button
          >
        </div>
      {:else}
        <button class="btn mt-3" type="button" onclick={() => (open = false)}>Leave</button>
      {/if}
    </div>
  {/if}
</div>
