<script lang="ts">
  import { api, ApiError } from '@/api/client';
  import type { Answer, View } from '@/api/types';
  import { count } from '@/parts/format';
  import { app } from '@/state/app.svelte';
  import { addressOf, emptySearch } from '@/places/find/search';
  import { codeOf, Editing } from './editing.svelte';
  import EditorFrame from './EditorFrame.svelte';
  import Advice from './Advice.svelte';
  import OrderedCodes from './OrderedCodes.svelte';
  import TextRow from './TextRow.svelte';

  let { view }: { view: View | null } = $props();
  // svelte-ignore state_referenced_locally
  const editing = new Editing<View>('views', view, { code: '', name: '', criterion: '', columns: ['type', 'library'].filter((c) => app.field(c)), sort: [], levels: [], total: null, total_as: 'sum', lock_version: 1 });
  const draft = $derived(editing.draft);
  let codeTouched = false;
  const items = $derived([...app.design!.fields, ...app.design!.system_fields].map((f) => ({ value: f.code, label: f.label })));

  const numbers = $derived([...app.design!.fields, ...app.design!.system_fields].filter((f) => f.kind === 'number').map((f) => ({ value: f.code, label: f.label })));

  // The view as it would be, on the documents that are there.
  let sample = $state.raw<Answer | null>(null);
  let fault = $state('');
  $effect(() => {
    const asked = { words: '', criteria: draft.criterion.trim() ? [{ cql: draft.criterion, negated: false, on: true }] : [], columns: [...draft.columns], sort: $state.snapshot(draft.sort), limit: 8, rows_only: true, draft: true };
    const stop = new AbortController();
    const timer = setTimeout(() => {
      api.search(asked, stop.signal).then(
        (got) => { sample = got; fault = ''; },
        (error: unknown) => { if (error instanceof ApiError) { sample = null; fault = error.message; } },
      );
    }, 200);
    return () => { clearTimeout(timer); stop.abort(); };
  });
</script>

<EditorFrame {editing} title={draft.name} what="view">
  <TextRow label="Name" value={draft.name} fault={editing.faults.name} oninput={(v) => { draft.name = v; if (editing.isNew && !codeTouched) draft.code = codeOf(v); }} />
  <TextRow label="Code" mono value={draft.code} disabled={!editing.isNew} fault={editing.faults.code} oninput={(v) => { codeTouched = true; draft.code = v; }} />
  <TextRow label="Criterion" mono rows={2} value={draft.criterion} fault={editing.faults.criterion ?? fault} help="CQL, like type == dredging_survey. Empty shows everything a person may see." oninput={(v) => (draft.criterion = v)} />
  <OrderedCodes label="Columns beside the title" codes={draft.columns} {items} fault={editing.faults.columns} onchange={(codes) => (draft.columns = codes)} />
  <OrderedCodes label="Order" codes={draft.sort.map((s) => s.field)} {items} fault={editing.faults.sort} onchange={(codes) => (draft.sort = codes.map((field) => draft.sort.find((s) => s.field === field) ?? { field, descending: false }))}>
    {#snippet extra(code)}
      {@const key = draft.sort.find((s) => s.field === code)}
      {#if key}<label class="small flex items-center gap-1"><input type="checkbox" class="check" bind:checked={key.descending} />highest first</label>{/if}
    {/snippet}
  </OrderedCodes>
  <OrderedCodes label="Levels, the outermost first" codes={draft.levels.map((l) => l.field)} {items} fault={editing.faults.levels} onchange={(codes) => (draft.levels = codes.map((field) => ({ field })))} />
  {#if draft.levels.length > 0}
    <div class="py-1.5">
      <label class="heading" for="view-total">Each group sums up</label>
      <select class="input" id="view-total" value={draft.total ?? ''} onchange={(e) => (draft.total = e.currentTarget.value || null)}>
        <option value="">nothing</option>
        {#each numbers as f (f.value)}<option value={f.value}>{f.label}</option>{/each}
      </select>
      {#if draft.total}
        <label class="small mr-4 mt-1 inline-flex items-center gap-1.5"><input type="radio" class="check" name="total-as" value="sum" bind:group={draft.total_as} />as a sum</label>
        <label class="small mt-1 inline-flex items-center gap-1.5"><input type="radio" class="check" name="total-as" value="range" bind:group={draft.total_as} />from the lowest to the highest</label>
      {/if}
      {#if editing.faults.total}<p class="fault" role="alert">{editing.faults.total}</p>{/if}
    </div>
  {/if}
  <Advice view={draft} />
  <section class="mt-4 border-t border-hair pt-2" aria-label="The view on the documents that are there">
    <p><span class="font-serif text-[17px]">{sample ? count(sample.total) : '–'} documents</span> <span class="quiet small">would be in it now.</span>
      {#if !editing.isNew}<a class="small" href={addressOf({ ...emptySearch, view: draft.code, criteria: draft.criterion ? [{ cql: draft.criterion, negated: false, on: true }] : [] })}>Open it in Find</a>{/if}</p>
    {#if sample && sample.rows.length > 0}
      <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
      <div class="overflow-x-auto" tabindex="0" role="region" aria-label="First rows">
        <table class="small w-full">
          <thead><tr class="quiet text-left"><th class="py-1 pr-4 font-normal">Title</th>{#each draft.columns as code (code)}<th class="pr-4 font-normal whitespace-nowrap">{app.label(code)}</th>{/each}</tr></thead>
          <tbody>
            {#each sample.rows as row (row.ref)}
              <tr class="border-t border-hair"><td class="max-w-56 truncate py-1 pr-4 font-serif">{row.title}</td>{#each draft.columns as code (code)}<td class="max-w-40 truncate pr-4">{row.cells[code]}</td>{/each}</tr>
            {/each}
          </tbody>
        </table>
      </div>
    {/if}
  </section>
</EditorFrame>
