<script lang="ts">
  import { api } from '@/api/client';
  import type { Answer, ColumnFormat, Level, View } from '@/api/types';
  import { count } from '@/parts/format';
  import { app } from '@/state/app.svelte';
  import { router } from '@/state/router.svelte';
  import { addressOf, emptySearch } from '@/state/search';
  import Advice from './Advice.svelte';
  import CriterionEditor from './CriterionEditor.svelte';
  import { codeOf } from './codes';
  import { Editing } from './editing.svelte';
  import EditorFrame from './EditorFrame.svelte';
  import GroupChoice from './GroupChoice.svelte';
  import OrderedCodes from './OrderedCodes.svelte';
  import TextRow from './TextRow.svelte';
  import NameAndCode from './NameAndCode.svelte';

  let { view }: { view: View | null } = $props();
  const blank: View = {
    code: '',
    name: '',
    criterion: '',
    columns: ['type', 'library'].filter((c) => app.field(c)),
    formats: {},
    sort: [],
    levels: [],
    opens: 'table',
    groups: [],
    position: 100,
    lock_version: 1,
  };
  // A new view may begin as a copy of another.
  const like = app.design!.views.find((v) => v.code === router.params.get('like'));
  // svelte-ignore state_referenced_locally
  const editing = new Editing<View>(
    'views',
    view,
    like ? ({ ...$state.snapshot(like), code: '', name: '', own: undefined } as View) : blank,
  );
  const draft = $derived(editing.draft);
  const all = $derived([...app.design!.fields, ...app.design!.system_fields]);
  const items = $derived(all.map((f) => ({ value: f.code, label: f.label })));
  const ordered = $derived(
    all.filter((f) => app.kind(f)?.is_ordered).map((f) => ({ value: f.code, label: f.label, hasSum: app.kind(f)?.has_sum === true })),
  );
  const plain: ColumnFormat = { width: null, align: 'auto', format: 'plain', mask: 'none' };
  const format = (code: string) => draft.formats[code] ?? plain;
  const setFormat = (code: string, change: Partial<ColumnFormat>) =>
    (draft.formats = { ...draft.formats, [code]: { ...format(code), ...change } });
  const forms = (code: string) => app.kind(app.field(code))?.formats ?? [];
  const said = (code: string) => {
    const f = format(code);
    return [
      f.width ? `${f.width} px` : '',
      f.align === 'auto' ? '' : f.align,
      f.format === 'plain' ? '' : (forms(code).find((k) => k.value === f.format)?.label ?? ''),
      { none: '', all: 'masked', last4: 'masked but the last four' }[f.mask],
    ]
      .filter(Boolean)
      .join(', ');
  };
  const level = (code: string): Level => draft.levels.find((l) => l.field === code) ?? { field: code, total: null, total_as: 'sum' };

  let sample = $state.raw<Answer | null>(null);
  const ask = $derived({
    columns: [...draft.columns],
    sort: $state.snapshot(draft.sort),
    formats: $state.snapshot(draft.formats) as Record<string, ColumnFormat>,
    limit: 8,
  });

  async function toPersonal() {
    const code = `my-${codeOf(draft.name) || 'view'}`.slice(0, 40);
    await api.saveOwnView(code, $state.snapshot(draft) as View);
    await app.loadDesign();
    router.go(
      addressOf({ ...emptySearch, view: code, criteria: draft.criterion ? [{ cql: draft.criterion, negated: false, on: true }] : [] }),
    );
  }
</script>

<EditorFrame {editing} title={draft.name} what="view">
  <NameAndCode {editing} />
  <CriterionEditor
    label="Criterion"
    criterion={draft.criterion}
    fault={editing.faults.criterion}
    {ask}
    onchange={(cql) => (draft.criterion = cql)}
    onanswer={(answer) => (sample = answer)}
  />
  <OrderedCodes
    label="Columns beside the title"
    codes={draft.columns}
    {items}
    fault={editing.faults.columns ?? editing.faults.formats}
    makes="fields"
    says={said}
    onchange={(codes) => (draft.columns = codes)}
  >
    {#snippet more(code)}
      <div class="grid grid-cols-4 gap-3 pb-1">
        <label class="small"
          ><span class="heading block">Width, px</span><input
            class="input"
            inputmode="numeric"
            value={format(code).width ?? ''}
            onchange={(e) => setFormat(code, { width: Number.parseInt(e.currentTarget.value) || null })}
          /></label
        >
        <label class="small"
          ><span class="heading block">Alignment</span><select
            class="input"
            value={format(code).align}
            onchange={(e) => setFormat(code, { align: e.currentTarget.value as ColumnFormat['align'] })}
            ><option value="auto">as fits</option><option value="left">left</option><option value="right">right</option></select
          ></label
        >
        <label class="small"
          ><span class="heading block">Form</span><select
            class="input"
            value={format(code).format}
            disabled={forms(code).length === 0}
            onchange={(e) => setFormat(code, { format: e.currentTarget.value as ColumnFormat['format'] })}
            ><option value="plain">as it is</option>{#each forms(code) as { value, label } (value)}<option {value}>{label}</option
              >{/each}</select
          ></label
        >
        <label class="small"
          ><span class="heading block">Mask</span><select
            class="input"
            value={format(code).mask}
            onchange={(e) => setFormat(code, { mask: e.currentTarget.value as ColumnFormat['mask'] })}
            ><option value="none">nothing</option><option value="last4">all but the last four</option><option value="all">all</option
            ></select
          ></label
        >
      </div>
    {/snippet}
  </OrderedCodes>
  <OrderedCodes
    label="Order"
    codes={draft.sort.map((s) => s.field)}
    {items}
    fault={editing.faults.sort}
    onchange={(codes) => (draft.sort = codes.map((field) => draft.sort.find((s) => s.field === field) ?? { field, descending: false }))}
  >
    {#snippet extra(code)}
      {@const key = draft.sort.find((s) => s.field === code)}
      {#if key}<label class="small flex items-center gap-1"
          ><input type="checkbox" class="check" bind:checked={key.descending} />descending</label
        >{/if}
    {/snippet}
  </OrderedCodes>
  <OrderedCodes
    label="Levels, the outermost first"
    codes={draft.levels.map((l) => l.field)}
    {items}
    fault={editing.faults.levels}
    makes="fields"
    onchange={(codes) => (draft.levels = codes.map(level))}
  >
    {#snippet extra(code)}
      {@const of = draft.levels.find((l) => l.field === code)}
      {#if of}
        {@const total = ordered.find((f) => f.value === of.total)}
        <label class="small"
          ><span class="sr-only">Total for each {app.label(code)}</span>
          <select
            class="input"
            style="min-height:26px;width:auto"
            value={of.total ?? ''}
            onchange={(e) => {
              of.total = e.currentTarget.value || null;
              if (ordered.find((f) => f.value === of.total)?.hasSum === false) of.total_as = 'range';
            }}
          >
            <option value="">no total</option>
            {#each ordered as f (f.value)}<option value={f.value}>{f.label}</option>{/each}
          </select>
        </label>
        {#if total}<label class="small"
            ><span class="sr-only">How {total.label} is summed up</span><select
              class="input"
              style="min-height:26px;width:auto"
              bind:value={of.total_as}
              disabled={!total.hasSum}><option value="sum">sum</option><option value="range">range</option></select
            ></label
          >{/if}
      {/if}
    {/snippet}
  </OrderedCodes>
  <div class="grid grid-cols-2 gap-4">
    <div class="py-1.5">
      <label class="heading" for="view-opens">Opens as</label>
      <select class="input" id="view-opens" bind:value={draft.opens}
        ><option value="table">table</option><option value="outline" disabled={draft.levels.length === 0}>outline</option><option
          value="steps"
          disabled={draft.levels.length === 0}>steps</option
        ></select
      >
    </div>
    <TextRow
      label="Place among the views"
      value={String(draft.position)}
      fault={editing.faults.position}
      help="Lower numbers come first."
      oninput={(v) => (draft.position = Number.parseInt(v) || 0)}
    />
  </div>
  <GroupChoice
    label="Offered to"
    groups={draft.groups}
    none="Everybody who may see something in it."
    fault={editing.faults.groups}
    onchange={(groups) => (draft.groups = groups)}
  />
  <p class="small flex gap-4">
    {#if !editing.isNew}<a href={`/design/views/new?like=${draft.code}`}>Copy this view</a>{/if}
    <button class="link" type="button" onclick={toPersonal} disabled={draft.name.trim() === ''}>Save only for me</button>
  </p>
  <Advice view={draft} />
  <section class="mt-4 border-t border-hair pt-2" aria-label="The view on the documents that are there">
    <p>
      <span class="font-serif text-[17px]">{sample ? count(sample.total) : '–'} documents</span>
      <span class="quiet small">would be in it now.</span>
      {#if !editing.isNew}<a
          class="small"
          href={addressOf({
            ...emptySearch,
            view: draft.code,
            layout: draft.opens,
            criteria: draft.criterion ? [{ cql: draft.criterion, negated: false, on: true }] : [],
          })}>Open it in Find</a
        >{/if}
    </p>
    {#if sample && sample.rows.length > 0}
      <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
      <div class="overflow-x-auto" tabindex="0" role="region" aria-label="First rows">
        <table class="small w-full">
          <thead
            ><tr class="quiet text-left"
              ><th class="py-1 pr-4 font-normal">Title</th>{#each draft.columns as code (code)}<th
                  class="pr-4 font-normal whitespace-nowrap">{app.label(code)}</th
                >{/each}</tr
            ></thead
          >
          <tbody>
            {#each sample.rows as row (row.ref)}
              <tr class="border-t border-hair"
                ><td class="max-w-56 truncate py-1 pr-4 font-serif">{row.title}</td>{#each draft.columns as code (code)}<td
                    class="max-w-40 truncate pr-4"
                    class:text-right={format(code).align === 'right'}>{row.cells[code]}</td
                  >{/each}</tr
              >
            {/each}
          </tbody>
        </table>
      </div>
    {/if}
  </section>
</EditorFrame>
