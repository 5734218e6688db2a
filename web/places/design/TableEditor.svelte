<script lang="ts">
  import { api, messageOf } from '@/api/client';
  import type { ReferenceTable } from '@/api/types';
  import { count } from '@/parts/format';
  import { app } from '@/state/app.svelte';
  import { Editing } from './editing.svelte';
  import EditorFrame from './EditorFrame.svelte';
  import OrderedCodes from './OrderedCodes.svelte';
  import PartChoice from './PartChoice.svelte';
  import TextRow from './TextRow.svelte';
  import NameAndCode from './NameAndCode.svelte';

  let { table }: { table: ReferenceTable | null } = $props();
  const SHOWN = 20;
  // svelte-ignore state_referenced_locally
  const editing = new Editing<ReferenceTable>('tables', table, {
    code: '',
    name: '',
    key: '',
    fills: [],
    source: 'rows',
    rows: [],
    connection: '',
    outside: '',
    columns: [],
    lock_version: 1,
  });
  const draft = $derived(editing.draft);
  let fault = $state('');
  // svelte-ignore state_referenced_locally
  let whole = $state(table === null);
  const items = $derived(app.design!.fields.map((f) => ({ value: f.code, label: f.label })));

  // The rows of a table come only when it is opened: there may be thousands.
  // svelte-ignore state_referenced_locally
  if (table)
    void api.part<ReferenceTable>('tables', table.code).then((got) => {
      if (!editing.changed || draft.rows.length === 0) draft.rows = got.rows;
      editing.settle();
      whole = true;
    });

  let source = $state.raw<{ works: boolean; says: string } | null>(null);
  $effect(() => {
    if (table?.source === 'outside')
      api.tableState(table.code).then(
        (got) => (source = got),
        () => {},
      );
  });

  async function take(event: Event & { currentTarget: HTMLInputElement }) {
    const file = event.currentTarget.files?.[0];
    event.currentTarget.value = '';
    if (!file) return;
    try {
      Object.assign(draft, await api.readTable(file), { source: 'rows' });
      fault = '';
    } catch (error) {
      fault = messageOf(error, 'The file cannot be read.');
    }
  }
</script>

<EditorFrame {editing} title={draft.name} what="reference table">
  <p class="quiet mb-2">When the key is filled in, the other fields are filled in from this table.</p>
  <NameAndCode {editing} />
  <fieldset class="py-1.5">
    <legend class="heading">Its rows are</legend>
    <label class="mr-4 inline-flex items-center gap-1.5"
      ><input type="radio" class="check" name="source" value="rows" bind:group={draft.source} />kept in the design</label
    >
    <label class="inline-flex items-center gap-1.5"
      ><input type="radio" class="check" name="source" value="outside" bind:group={draft.source} />in an outside database</label
    >
  </fieldset>
  <PartChoice
    label="Key"
    kind="fields"
    {items}
    value={draft.key}
    fault={editing.faults.key}
    onchange={(code) => (draft.key = code ?? '')}
  />
  <OrderedCodes
    label="Fields that are filled in"
    codes={draft.fills}
    {items}
    fault={editing.faults.fills}
    makes="fields"
    onchange={(codes) => {
      // The cells go where their field goes.
      const at = codes.map((c) => draft.fills.indexOf(c));
      draft.rows = draft.rows.map((row) => [row[0] ?? '', ...at.map((i) => (i < 0 ? '' : (row[i + 1] ?? '')))]);
      draft.columns =
        draft.columns.length > 0 ? [draft.columns[0] ?? '', ...at.map((i) => (i < 0 ? '' : (draft.columns[i + 1] ?? '')))] : draft.columns;
      draft.fills = codes;
    }}
  />
  {#if draft.source === 'outside'}
    <div class="grid grid-cols-2 gap-4">
      <TextRow
        label="Connection"
        mono
        value={draft.connection}
        fault={editing.faults.connection}
        help="Its name in config/brenvic.php, where its time limit stands too."
        oninput={(v) => (draft.connection = v)}
      />
      <TextRow label="Table there" mono value={draft.outside} fault={editing.faults.outside} oninput={(v) => (draft.outside = v)} />
    </div>
    {#each [draft.key, ...draft.fills] as code, i (i)}
      <TextRow
        label={`Column of ${app.label(code) || 'the key'}`}
        mono
        value={draft.columns[i] ?? ''}
        fault={i === 0 ? editing.faults.columns : undefined}
        oninput={(v) => {
          const next = [draft.key, ...draft.fills].map((_, n) => draft.columns[n] ?? '');
          next[i] = v;
          draft.columns = next;
        }}
      />
    {/each}
    {#if source}<p class="mt-2" class:text-moss={source.works} class:fault={!source.works} role="status">
        {source.works ? 'Connected: ' : 'Not connected: '}{source.says}
      </p>{/if}
  {:else}
    <div class="mt-2 border-t border-hair pt-2">
      <p>
        <span class="num font-semibold">{count(draft.rows.length)}</span> rows.
        <label class="link cursor-pointer"
          >Import a CSV file<input class="sr-only" type="file" accept=".csv,text/csv" onchange={take} /></label
        > <span class="small quiet">Its first line names the fields, the key first.</span>
      </p>
      {#if fault || editing.faults.rows}<p class="fault" role="alert">{fault || editing.faults.rows}</p>{/if}
      {#if !whole}<p class="quiet">Loading the rows…</p>{/if}
      {#if draft.rows.length > 0}
        <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
        <div class="overflow-x-auto" tabindex="0" role="region" aria-label="Rows">
          <table class="small w-full">
            <thead
              ><tr class="quiet text-left"
                >{#each [draft.key, ...draft.fills] as code (code)}<th class="py-1 pr-4 font-normal">{app.label(code)}</th>{/each}</tr
              ></thead
            >
            <tbody
              >{#each draft.rows.slice(0, SHOWN) as row, i (i)}<tr class="border-t border-hair"
                  >{#each row as cell, n (n)}<td class="max-w-48 truncate py-0.5 pr-4" class:mono={n === 0}>{cell}</td>{/each}</tr
                >{/each}</tbody
            >
          </table>
        </div>
        {#if draft.rows.length > SHOWN}<p class="quiet small">and {count(draft.rows.length - SHOWN)} more</p>{/if}
      {/if}
    </div>
  {/if}
</EditorFrame>
