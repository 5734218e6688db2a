<script lang="ts">
  import { Dialog } from 'bits-ui';
  import { api, messageOf } from '@/api/client';
  import type { SheetRow, SheetsPlan } from '@/api/types';
  import { app } from '@/state/app.svelte';
  import { Trying } from '@/state/trying.svelte';
  import { plural } from './format';
  import { KeptCells } from './keptCells';
  import { undoAct } from './undoing';

  /** The index sheets of several documents as one table, to be typed into or pasted into from a spreadsheet. */
  let { documents, onleave, ondone }: { documents: string[]; onleave: () => void; ondone: () => void } = $props();

  let rows = $state.raw<SheetRow[] | null>(null);
  let typed = $state<Record<string, Record<string, string>>>({});
  let plan = $state.raw<SheetsPlan | null>(null);
  const trying = new Trying();
  const kept = new KeptCells();
  // svelte-ignore state_referenced_locally
  void api.openSheets(documents).then(
    (got) => {
      rows = got.rows;
      typed = kept.read(rows);
    },
    (e: unknown) => (trying.fault = messageOf(e, 'The sheets cannot be opened.')),
  );

  /** The fields that any of them has, in the order of their types. */
  const columns = $derived.by(() => {
    const codes = (rows ?? []).flatMap((row) => app.design!.types.find((t) => t.code === row.type)?.fields.map((f) => f.code) ?? []);
    return app
      .design!.fields.filter((f) => codes.includes(f.code) && !f.sensitive)
      .toSorted((a, b) => codes.indexOf(a.code) - codes.indexOf(b.code));
  });
  const has = (row: SheetRow, code: string) =>
    app.design!.types.find((t) => t.code === row.type)?.fields.some((f) => f.code === code && !f.read_only) ?? false;
  const value = (row: SheetRow, code: string) => typed[row.ref]?.[code] ?? row.values[code] ?? '';
  const touched = $derived(Object.values(typed).reduce((n, of) => n + Object.keys(of).length, 0));
  const faultOf = (row: SheetRow, code: string) => plan?.faults.find((f) => f.ref === row.ref)?.fields[code];

  function put(row: SheetRow, code: string, text: string) {
    const of = { ...typed[row.ref] };
    if (text === (row.values[code] ?? '')) delete of[code];
    else of[code] = text;
    typed[row.ref] = of;
    plan = null;
    kept.write(typed, rows!);
  }
  function cell(r: number, c: number) {
    return document.getElementById(`cell-${r}-${c}`) as HTMLInputElement | null;
  }
  /** What a spreadsheet puts on the clipboard is rows by line and cells by tab. */
  function paste(event: ClipboardEvent, r: number, c: number) {
    const text = event.clipboardData?.getData('text/plain') ?? '';
    if (!/[\t\n]/.test(text.replace(/\r?\n$/, ''))) return;
    event.preventDefault();
    text
      .replace(/\r?\n$/, '')
      .split(/\r?\n/)
      .forEach((line, i) =>
        line.split('\t').forEach((cellText, j) => {
          const row = rows![r + i];
          const column = columns[c + j];
          if (row && column && has(row, column.code))
            put(
              row,
              column.code,
              cellText
                .replace(/^"([\s\S]*)"$/, '$1')
                .replaceAll('""', '"')
                .trim(),
            );
        }),
      );
  }
  function keydown(event: KeyboardEvent, r: number, c: number) {
    const input = event.currentTarget as HTMLInputElement;
    const atEnd = input.selectionStart === input.value.length && input.selectionEnd === input.value.length;
    const atStart = input.selectionStart === 0 && input.selectionEnd === 0;
    let to: HTMLInputElement | null = null;
    if (event.key === 'ArrowDown' || event.key === 'Enter') to = cell(r + 1, c);
    else if (event.key === 'ArrowUp') to = cell(r - 1, c);
    else if (event.key === 'ArrowRight' && atEnd) to = cell(r, c + 1);
    else if (event.key === 'ArrowLeft' && atStart) to = cell(r, c - 1);
    else if (event.key === 'd' && event.ctrlKey && rows![r - 1]) put(rows![r]!, columns[c]!.code, value(rows![r - 1]!, columns[c]!.code));
    else return;
    event.preventDefault();
    to?.focus();
    to?.select();
  }
  const asked = () =>
    rows!
      .filter((r) => Object.keys(typed[r.ref] ?? {}).length > 0)
      .map((r) => ({ ref: r.ref, lock_version: r.lock_version, values: typed[r.ref]! }));
  const look = () =>
    trying.run(async () => {
      const got = await api.planSheets(asked());
      // In the order of the table.
      const place = new Map(rows!.map((r, i) => [r.ref, i]));
      plan = { ...got, changes: got.changes.toSorted((a, b) => place.get(a.ref)! - place.get(b.ref)!) };
    });
  /** What somebody else has changed is loaded; what was typed stays typed. */
  const loadAgain = () =>
    trying.run(async () => {
      rows = (await api.openSheets(documents)).rows;
      plan = null;
      kept.write(typed, rows);
    });
  const go = async () => {
    await trying.run(async () => {
      const faults = plan!.faults;
      const { act, documents: n } = await api.giveSheets(asked(), plan!.changes.length);
      for (const change of plan!.changes) delete typed[change.ref];
      kept.write(typed, rows!);
      ondone();
      app.say(`${plural(n, 'document is', 'documents are')} changed.`, { kept: true, undo: () => undoAct(act, ondone) });
      if (faults.length === 0) return onleave();
      // What could not be saved is still typed, beside what is wrong with it.
      rows = (await api.openSheets(documents)).rows;
      plan = { changes: [], same: 0, faults };
    });
    // What was refused is looked at anew before it is tried again.
    if (trying.fault) plan = null;
  };
</script>

<Dialog.Root
  open
  onOpenChange={(open) => {
    if (!open) onleave();
  }}
>
  <Dialog.Portal>
    <Dialog.Overlay class="fixed inset-0 z-40 bg-black/25" />
    <Dialog.Content
      class="fixed inset-[4vh_3vw] z-50 flex flex-col border border-hair bg-sheet shadow-xl"
      interactOutsideBehavior={touched > 0 ? 'ignore' : 'close'}
    >
      <div class="px-6 pt-4 pb-2">
        <Dialog.Title class="font-serif text-xl">Values in a table</Dialog.Title>
        <Dialog.Description class="quiet"
          >Type, or paste cells from a spreadsheet. Separate several values with semicolons. Arrow keys move between cells; Ctrl+D copies
          what stands above.</Dialog.Description
        >
      </div>
      <div class="min-h-0 flex-1 overflow-auto border-t border-hair">
        {#if rows}
          <table class="sheets">
            <thead
              ><tr
                ><th class="heading lead">Document</th>{#each columns as column (column.code)}<th class="heading">{column.label}</th
                  >{/each}</tr
              ></thead
            >
            <tbody>
              {#each rows as row, r (row.ref)}
                <tr
                  ><th class="lead" scope="row"
                    ><a class="block truncate font-serif font-normal" href={`/documents/${row.ref}`} target="_blank">{row.title}</a
                    >{#if faultOf(row, '')}<span class="fault">{faultOf(row, '')}</span>{/if}</th
                  >
                  {#each columns as column, c (column.code)}
                    <td class:changed={typed[row.ref]?.[column.code] !== undefined}
                      >{#if has(row, column.code)}<input
                          id={`cell-${r}-${c}`}
                          aria-label={`${column.label} of ${row.title}`}
                          aria-invalid={!!faultOf(row, column.code)}
                          title={faultOf(row, column.code)}
                          value={value(row, column.code)}
                          oninput={(e) => put(row, column.code, e.currentTarget.value)}
                          onpaste={(e) => paste(e, r, c)}
                          onkeydown={(e) => keydown(e, r, c)}
                          autocomplete="off"
                        />{:else}<span class="none" aria-hidden="true"></span>{/if}{#if faultOf(row, column.code)}<span class="fault"
                          >{faultOf(row, column.code)}</span
                        >{/if}</td
                    >
                  {/each}</tr
                >
              {/each}
            </tbody>
          </table>
        {:else if !trying.fault}<p class="quiet p-6" role="status">Opening the sheets…</p>{/if}
        {#if plan && plan.changes.length > 0}
          <div class="border-t border-hair px-6 py-3" role="region" aria-label="What it would do">
            <p>
              <strong>{plural(plan.changes.length, 'document', 'documents')}</strong> would change{#if plan.faults.length > 0}; <span
                  class="text-rust">{plural(plan.faults.length, 'is', 'are')} left alone, as marked above</span
                >{/if}.
            </p>
            <ul class="small mt-1 columns-2">
              {#each plan.changes.slice(0, 60) as change (change.ref)}<li class="break-inside-avoid border-t border-hair py-0.5">
                  <span class="font-serif">{change.title}</span>{#each change.fields as f (f.label)}<span class="block"
                      ><span class="quiet">{f.label}:</span>
                      {#if f.before}<s class="quiet">{f.before}</s>{/if}
                      {f.after || 'emptied'}</span
                    >{/each}
                </li>{/each}
            </ul>
          </div>
        {/if}
      </div>
      {#if trying.fault}<p class="fault px-6 pt-2" role="alert">{trying.fault}</p>{/if}
      <p class="flex items-center gap-2 border-t border-hair px-6 py-3">
        {#if plan && plan.changes.length > 0}<button class="btn btn-main" disabled={trying.busy} onclick={go}
            >Change {plural(plan.changes.length, 'document', 'documents')}</button
          >
        {:else}<button class="btn btn-main" disabled={trying.busy || touched === 0} onclick={look}>Show the effect</button>{/if}
        {#if plan?.faults.some((f) => f.fields[''])}<button class="btn" disabled={trying.busy} onclick={loadAgain}
            >Load the table again</button
          >{/if}
        <button class="btn" onclick={onleave}>Cancel</button>
        <span class="small quiet ml-3" role="status"
          >{touched > 0 ? plural(touched, 'cell', 'cells') + ' typed' : ''}{#if plan && plan.changes.length === 0}{plan.faults.length > 0
              ? ', not saved: what is marked needs correcting'
              : '; nothing would change'}{/if}</span
        >
      </p>
    </Dialog.Content>
  </Dialog.Portal>
</Dialog.Root>

<style>
  .sheets {
    border-collapse: separate;
    border-spacing: 0;
  }
  th,
  td {
    border-right: 1px solid var(--hair);
    border-bottom: 1px solid var(--hair);
    text-align: left;
    vertical-align: top;
  }
  thead th {
    position: sticky;
    top: 0;
    z-index: 2;
    padding: 5px 8px;
    background: var(--paper);
    white-space: nowrap;
  }
  .lead {
    position: sticky;
    left: 0;
    z-index: 1;
    width: 260px;
    min-width: 260px;
    max-width: 260px;
    padding: 5px 10px;
    background: var(--paper);
  }
  thead .lead {
    z-index: 3;
  }
  td input {
    width: 190px;
    min-height: 30px;
    padding: 3px 8px;
    background: transparent;
  }
  td input:focus {
    outline: 2px solid var(--act);
    outline-offset: -2px;
  }
  td.changed {
    background: var(--act-tint);
  }
  .none {
    display: block;
    width: 190px;
    min-height: 30px;
    background: var(--paper);
  }
  .fault {
    display: block;
    max-width: 240px;
    padding: 0 8px 4px;
    white-space: normal;
  }
</style>
