<script lang="ts">
  import { api, ApiError } from '@/api/client';
  import type { DocumentCopy, DossierRecord, SheetProposal, ValuesReport, WaitingDocument } from '@/api/types';
  import Combobox from '@/parts/Combobox.svelte';
  import { focusOn } from '@/parts/focus';
  import { plural } from '@/parts/format';
  import Pieces from '@/parts/Pieces.svelte';
  import Pin from '@/parts/Pin.svelte';
  import Popover from '@/parts/Popover.svelte';
  import SheetForm from '@/parts/SheetForm.svelte';
  import { Reading } from '@/places/read/document.svelte';
  import Pages from '@/places/read/Pages.svelte';
  import { app } from '@/state/app.svelte';
  import { keys } from '@/state/keys.svelte';
  import { router } from '@/state/router.svelte';
  import IconCamera from '@lucide/svelte/icons/camera';
  import IconTrash from '@lucide/svelte/icons/trash-2';
  import IconUpload from '@lucide/svelte/icons/upload';
  import { onDestroy, tick, untrack } from 'svelte';
  import Copies from '@/parts/Copies.svelte';
  import DossierWalk from './DossierWalk.svelte';
  import FromTemplates from './FromTemplates.svelte';
  import HandOver from './HandOver.svelte';
  import TableReport from './TableReport.svelte';
  import { areaOf, Lifting, pageAt, pointedAt } from './lifting.svelte';
  import { evidence, oneLine, Proposing } from './proposing.svelte';
  import Scan from './Scan.svelte';
  import { Sheets } from './sheets.svelte';
  import { filesOf, isValuesTable, lacking, type Brought } from './waiting';
  import { Waiting } from './waiting.svelte';
  import WaitingList from './WaitingList.svelte';

  type ProposedSpeaking = Pick<SheetProposal, 'kept' | 'made' | 'from' | 'documents'>;

  const libraries = $derived(app.design!.libraries.filter((l) => l.may_change));
  let library = $state(localStorage.getItem('intake:library') ?? '');
  let over = $state(false);
  let busy = $state(false);
  let walking = $state(false);
  const FILED_TODAY = `/find?c=${encodeURIComponent('created = today')}`;
  let looks = $state(false);
  let templating = $state(false);
  let columns = $state<string[]>(JSON.parse(localStorage.getItem('intake:columns') ?? '["document_date"]') as string[]);
  let picker: HTMLInputElement;
  let tablePicker: HTMLInputElement;
  let camera: HTMLInputElement;
  let sheet: HTMLFormElement;

  const sheets = new Sheets((act) => waiting.change(act));
  const waiting = new Waiting();

  $effect(() => {
    if (!libraries.some((l) => l.code === library)) library = libraries[0]?.code ?? '';
  });
  $effect(() => localStorage.setItem('intake:library', library));
  $effect(() => localStorage.setItem('intake:columns', JSON.stringify(columns)));
  $effect(() => waiting.keepLook());
  $effect(() => {
    JSON.stringify(sheets.now);
    sheets.note();
  });
  // Several have one sheet together; one has its own.
  $effect(() => {
    const isMany = waiting.chosen.length > 1;
    const one = isMany ? null : waiting.looked;
    untrack(() => sheets.open(one, isMany));
  });
  onDestroy(() => void sheets.leave());
  void waiting.load();
  // The text of what came in is read in the background; what arrives by itself is there soon after.
  let hidden = $state(document.hidden);
  $effect(() => {
    if (hidden) return;
    const timer = setInterval(() => void waiting.load(), waiting.documents.some((d) => d.text_state === 'pending') ? 1500 : 5000);
    return () => clearInterval(timer);
  });

  let reading = $state.raw<Reading | null>(null);
  const shownKey = $derived(
    waiting.looked ? `${waiting.looked.ref} ${waiting.looked.text_state} ${waiting.looked.bytes} ${waiting.looked.drawn_pages}` : '',
  );
  const isBesidePages = $derived(waiting.shape === 'names');
  $effect(() => {
    const ref = shownKey.split(' ')[0];
    if (!ref || !isBesidePages) {
      reading = null;
      return;
    }
    const next = new Reading(ref, { words: '', criteria: [] });
    void next.load().then(() => {
      if (shownKey.startsWith(ref)) reading = next;
    });
    return () => next.close();
  });

  const types = $derived.by(() => {
    const of = waiting.targets.length > 0 ? waiting.targets.map((d) => d.library.code) : [library];
    return app.design!.types.filter((t) => of.every((code) => app.library(code)?.types.includes(t.code)));
  });
  const type = $derived(types.find((t) => t.code === sheets.now.type));
  const target = $derived(waiting.targets.length === 1 ? waiting.targets[0]! : null);
  const oneLibrary = $derived(
    waiting.targets.length > 0 && waiting.targets.every((d) => d.library.code === waiting.targets[0]!.library.code)
      ? waiting.targets[0]!.library.code
      : '',
  );
  const paged = (d: WaitingDocument) => (d.file_kind === 'pdf' || d.file_kind === 'image') && d.page_count > 0;
  const sortable = $derived(waiting.targets.filter(paged));

  const lifting = new Lifting(
    () => waiting.looking,
    (code, value, from) => {
      const now = sheets.now.values[code] ?? [];
      const field = app.design!.fields.find((f) => f.code === code);
      // Into the last of several values, beside those that are there.
      sheets.set(code, field?.multiple ? [...now.filter((v) => v !== '' && v !== value), value] : [value]);
      sheets.lift(code, value, from);
      void tick().then(() => nextField(code));
    },
  );
  const proposing = new Proposing({
    lacks: (code, values) => {
      const entry = type?.fields.find((f) => f.code === code && !f.read_only);
      const has = (sheets.now.values[code] ?? []).filter((v) => v.trim() !== '');
      const begins = entry?.default || app.design!.fields.find((f) => f.code === code)?.default;
      return entry !== undefined && (has.length === 0 || (has.join() === begins && has.join() !== values.join()));
    },
    take: (code, places) => {
      sheets.set(
        code,
        places.map((p) => p.value),
      );
      for (const p of places)
        if (p.page !== null) sheets.lift(code, p.value, { page: p.page, text: p.pieces.find(([, isIt]) => isIt)?.[0] ?? '' });
    },
    type: () => sheets.now.type,
    takeType: (code) => sheets.chooseType(code),
    dossier: () => sheets.now.dossier,
    takeDossier: (ref) =>
      void api.dossier(ref).then(choose, () => {
        // It may be chosen by hand.
        sheets.now.dossier = ref;
      }),
  });
  // What is read of the pages is proposed once they are read.
  $effect(() => {
    const ref = target && target.text_state !== 'pending' ? target.ref : '';
    const of = sheets.now.type;
    untrack(() => void proposing.ask(ref, of));
  });
  function takeProposed(focused: string) {
    const { field } = lifting;
    if (focused === 'intake-dossier') proposing.takeDossier();
    else if (proposing.takeType()) void tick().then(() => focusOn(firstField()));
    else if (field !== '' && proposing.take(field)) void tick().then(() => nextField(field));
  }
  // Another document, or its text: what the pages say is another thing.
  $effect(() => {
    if (shownKey !== '') lifting.again();
  });
  // What can be taken by a key is marked on the page with its number.
  $effect(() => {
    if (reading) reading.numbered = lifting.places.map(({ page, boxes }, i) => ({ page, boxes, number: i + 1 }));
  });
  let pressedAt = { x: 0, y: 0 };
  /** Words that are pointed at fill the field; where a drawn page has none, they are read first. */
  function point(event: MouseEvent) {
    const words = pointedAt(event);
    const page = (event.target as Element).closest('article');
    if (words.trim() !== '' || !page?.querySelector('canvas, img')) void lifting.lift(words, pageAt(event));
    else void lifting.read(pageAt(event), areaOf(page.getBoundingClientRect(), pressedAt, { x: event.clientX, y: event.clientY }));
  }
  const last = $derived(sheets.lastOf(lifting.field));
  function shownValue(code: string, value: string): string {
    const field = app.design!.fields.find((f) => f.code === code);
    return (field && app.terms(field).find((t) => t.code === value)?.label) || value;
  }
  function enter(event: FocusEvent) {
    const field = (event.target as HTMLElement).closest<HTMLElement>('[data-field]')?.dataset.field;
    if (field) void lifting.enter(field);
  }
  function nextField(code: string) {
    const all = [...sheet.querySelectorAll<HTMLElement>('[data-field]')];
    const next = all[all.findIndex((e) => e.dataset.field === code) + 1];
    const into =
      next?.querySelector<HTMLElement>('input:not([readonly]), select, textarea') ?? sheet.querySelector<HTMLElement>('button.btn-main');
    into?.focus();
  }
  function again() {
    if (lifting.field === '' || last.length === 0) return;
    sheets.set(lifting.field, [...last]);
    const { field } = lifting;
    void tick().then(() => nextField(field));
  }
  function sheetKey(event: KeyboardEvent) {
    if (!event.altKey || event.ctrlKey || event.metaKey) return;
    const digit = /^Digit([0-9])$/.exec(event.code)?.[1];
    if (digit === '0' && last.length > 0) again();
    else if (digit && digit !== '0') lifting.take(Number(digit));
    else if (event.code === 'KeyP' && lifting.field !== '') sheets.togglePin(lifting.field);
    else if (event.code === 'KeyT') takeProposed((event.target as HTMLElement).id);
    else if (event.code === 'KeyA') proposing.takeAll();
    else if (event.code === 'KeyD' && app.design!.dossier_kinds.length > 0) walking = true;
    else if (event.key === 'PageDown' || event.key === 'PageUp') waiting.step(event.key === 'PageDown' ? 1 : -1);
    else return;
    event.preventDefault();
    // A list of choices would open by it.
    event.stopPropagation();
  }

  async function drop(event: DragEvent) {
    event.preventDefault();
    over = false;
    if (event.dataTransfer) await bring(await filesOf(event.dataTransfer));
  }
  /** A table that comes with other files may be a document, or say what the values of the others are: that is asked. */
  async function bring(files: Brought[]) {
    const isTable = await Promise.all(files.map(({ file }) => isValuesTable(file)));
    const found = isTable.filter(Boolean).length === 1 && files.length > 1 ? isTable.indexOf(true) : -1;
    const came = await waiting.receive(
      files.filter((_, i) => i !== found),
      library,
    );
    if (found >= 0 && came.length > 0) table = { ...files[found]!, came };
    else if (found >= 0) await waiting.receive([files[found]!], library);
  }
  /** A table, and what came with it. */
  let table = $state.raw<(Brought & { came: string[] }) | null>(null);
  let report = $state.raw<{ name: string; report: ValuesReport } | null>(null);
  async function fillIn(file: File, documents: string[] = []) {
    await sheets.leave();
    const got = await waiting.values(file, documents);
    if (!got) return;
    table = null;
    const named = got.rows.map((r) => r.ref);
    sheets.given(waiting.documents.filter((d) => named.includes(d.ref)));
    if (got.rows.every((r) => r.outcome === 'filled') && got.without === 0)
      app.say(`${plural(got.rows.length, 'sheet was', 'sheets were')} filled in from “${file.name}”.`);
    else report = { name: file.name, report: got };
  }
  async function asDocument() {
    const files = [table!];
    table = null;
    await waiting.receive(files, library);
  }
  function pickTable(event: Event & { currentTarget: HTMLInputElement }) {
    const file = event.currentTarget.files?.[0];
    event.currentTarget.value = '';
    if (file) void fillIn(file);
  }
  function paste(event: ClipboardEvent) {
    const files = [...(event.clipboardData?.files ?? [])];
    if (files.length === 0 || library === '') return;
    event.preventDefault();
    void bring(files.map((file) => ({ file, path: '' })));
  }
  function pick(event: Event & { currentTarget: HTMLInputElement }) {
    const files = [...(event.currentTarget.files ?? [])];
    event.currentTarget.value = '';
    void bring(files.map((file) => ({ file, path: '' })));
  }

  async function file(event?: Event) {
    event?.preventDefault();
    if (busy || waiting.targets.length === 0 || !type) return;
    busy = true;
    const isByKeys = sheet.contains(document.activeElement);
    const filed = [...waiting.chosen];
    const index = waiting.inOrder.findIndex((d) => d.ref === filed[0]);
    try {
      const { act } = await waiting.change(async () => {
        const got = await api.fileDocuments(sheets.filing(filed));
        sheets.done(filed);
        return got;
      }, filed);
      sheets.faults = {};
      waiting.chosen = [];
      waiting.look(waiting.inOrder[Math.min(index, waiting.inOrder.length - 1)]?.ref ?? '');
      const into = sheets.last?.dossierTitle ? ` into “${sheets.last.dossierTitle}”` : '';
      app.say(`${plural(filed.length, 'document', 'documents')} filed${into}.`, { undo: () => waiting.unfile(act) });
      if (isByKeys) await tick().then(() => focusOn(firstField()));
    } catch (error) {
      if (!(error instanceof ApiError)) throw error;
      sheets.faults = error.fields;
      if (Object.keys(error.fields).length === 0) app.say(error.message, { wrong: true });
      else await tick().then(() => sheet.querySelector<HTMLElement>('[aria-invalid=true]')?.focus());
    } finally {
      busy = false;
    }
  }
  async function asVersion(copy: DocumentCopy) {
    const filed = target!.ref;
    try {
      const { version } = await waiting.change(() => api.fileAsVersion(filed, copy.ref), [filed]);
      app.say(`Filed as version ${version} of “${copy.title}”.`);
    } catch (error) {
      app.fail(error, 'No version was made of it.');
    }
  }
  /** Where one goes on with the next document: its type, if that is still to be chosen, else its first field without a value. */
  function firstField(): string {
    if (!type) return 'type';
    const empty = [...sheet.querySelectorAll<HTMLInputElement>('[data-field] input:not([readonly]), [data-field] textarea')].find(
      (i) => i.value === '',
    );
    return empty?.id ?? 'type';
  }

  /** A dossier gives what it hands down to the fields of the sheet that have none of it. */
  function choose(dossier: DossierRecord) {
    walking = false;
    sheets.now.dossier = dossier.ref;
    sheets.now.dossierTitle = dossier.title;
    sheets.now.section = null;
    sections = dossier.sections;
    delete sheets.faults.dossier;
    const kind = app.design!.dossier_kinds.find((k) => k.code === dossier.kind.code);
    const given = (kind?.fields ?? []).filter((f) => f.handed_down).map((f) => f.code);
    for (const field of type?.fields ?? [])
      if (given.includes(field.code) && dossier.values[field.code] && !(sheets.now.values[field.code] ?? []).some((v) => v !== ''))
        sheets.set(
          field.code,
          dossier.values[field.code]!.map((v) => v.value),
        );
    void focusOn('intake-dossier');
  }
  let sections = $state.raw<DossierRecord['sections']>([]);

  keys.use(() => [
    { on: 'Enter', ctrl: true, typing: true, what: 'File the chosen documents', run: (event) => void file(event) },
    { shown: '↑ ↓', what: 'Move along the waiting documents' },
    { shown: 'Alt PgDn – Alt PgUp', what: 'The next and the previous document, from its sheet' },
    { shown: 'Alt 1 – Alt 9', what: 'Take what the page says for the field' },
    { shown: 'Alt 0', what: 'Take what the field had in the document that was filed last' },
    { shown: 'Alt p', what: 'Keep the field’s value for the documents that follow' },
    { shown: 'Alt t', what: 'Take what is proposed for the field' },
    { shown: 'Alt a', what: 'Take all that is proposed' },
    { shown: 'Alt d', what: 'Choose a dossier' },
    {
      on: 'p',
      what: 'Page work on the chosen documents',
      when: () => sortable.length > 0,
      run: () => router.go(`/intake/pages/${sortable.map((d) => d.ref).join(',')}`),
    },
    { on: 'i', what: 'Go to the index sheet', run: () => void focusOn(firstField()) },
  ]);
  const fieldItems = $derived(app.design!.fields.filter((f) => !f.sensitive));
</script>

<svelte:document onpaste={paste} onvisibilitychange={() => (hidden = document.hidden)} />

<div class="intake" class:wide={!isBesidePages}>
  <section
    class="flex min-h-0 flex-col border-r border-hair"
    aria-label="Waiting"
    class:over
    ondragover={(e) => {
      if (!e.dataTransfer?.types.includes('Files')) return;
      e.preventDefault();
      over = true;
    }}
    ondragleave={() => (over = false)}
    ondrop={drop}
  >
    <div class="px-4 pt-3">
      <div class="flex items-baseline gap-3">
        <h1 class="flex-1 text-[22px]">Intake</h1>
        <a class="link small" href={FILED_TODAY} title="To change values, copy or move what was filed today">Filed today</a>
      </div>
      <div class="bring">
        <div class="w-full max-w-80">
          <label class="heading" for="library">Library for new files</label>
          <select class="input" id="library" bind:value={library}>
            {#each libraries as l (l.code)}<option value={l.code}>{l.name}</option>{/each}
          </select>
        </div>
        <button class="btn" disabled={library === ''} onclick={() => picker.click()} title="Or drop files and folders here, or paste them"
          ><IconUpload size={15} strokeWidth={1.6} />Choose files</button
        >
        <Scan ondone={(document) => void waiting.load().then(() => document && waiting.look(document))} />
        <button class="btn camera" disabled={library === ''} onclick={() => camera.click()}
          ><IconCamera size={15} strokeWidth={1.6} />Take a picture</button
        >
        <input bind:this={picker} type="file" multiple class="sr-only" tabindex="-1" aria-label="Files" onchange={pick} />
        <input
          bind:this={camera}
          type="file"
          accept="image/*"
          capture="environment"
          class="sr-only"
          tabindex="-1"
          aria-label="Camera"
          onchange={pick}
        />
      </div>
      <p class="small quiet">Drop files and folders in this list, or paste them.</p>
      <div class="flex flex-wrap gap-x-4 pt-1">
        <button class="link small" onclick={() => (templating = true)}>From templates</button>
        <button
          class="link small"
          onclick={() => tablePicker.click()}
          title="A table with a row for each file: a column “file”, perhaps “type”, and one for each field"
          disabled={waiting.total === 0}>Values from a table</button
        >
        <input
          bind:this={tablePicker}
          type="file"
          accept=".csv,.tsv,.xlsx,.ods"
          class="sr-only"
          tabindex="-1"
          aria-label="Table with values"
          onchange={pickTable}
        />
      </div>
    </div>
    {#if table}
      <div class="small mx-4 mt-2 border-l-2 border-brass pl-2" role="status">
        <p>“{table.file.name}” says what the values of files are.</p>
        <button class="link" onclick={() => fillIn(table!.file, table!.came)}>Fill in their sheets</button>
        <button class="link ml-3" onclick={asDocument}>Bring it in as a document</button>
      </div>
    {/if}
    {#each waiting.troubled as s (s.code)}
      <p class="small mx-4 mt-2 border-l-2 border-rust pl-2" role="status">
        {s.name}: <span class="text-rust">{s.says}</span> It is tried again by itself.
      </p>
    {/each}
    <ul class="small max-h-40 overflow-y-auto px-4" aria-live="polite">
      {#if waiting.coming.filter((c) => !c.fault).length > 4}
        <li class="py-1.5" role="status">{plural(waiting.coming.filter((c) => !c.fault).length, 'file is', 'files are')} on the way…</li>
      {/if}
      {#each waiting.coming.filter((c) => c.fault || waiting.coming.length <= 4) as c (c.key)}
        <li class="flex items-start gap-2 border-b border-hair py-1.5">
          <span class="min-w-0 flex-1 break-words" class:fault={c.fault}>{c.fault || `${c.name}: uploading…`}</span>
          {#if c.fault}<button class="link" onclick={() => waiting.dismiss(c.key)}>Dismiss</button>{/if}
        </li>
      {/each}
    </ul>
    <div class="flex items-center gap-3 px-4 pt-3">
      <h2 class="flex-1 text-[17px] whitespace-nowrap">Waiting <span class="num quiet">{waiting.total}</span></h2>
      <Popover label="Show" bind:open={looks} width={250} called="How the list is shown">
        <label class="heading" for="look-shape">As</label>
        <select class="input mb-2" id="look-shape" bind:value={waiting.shape}
          ><option value="names">names, beside the page</option><option value="pictures">first pages</option><option value="table"
            >a table</option
          ></select
        >
        <label class="heading" for="look-by">Grouped by</label>
        <select class="input mb-2" id="look-by" bind:value={waiting.by}
          ><option value="source">source</option><option value="age">age</option><option value="state">state</option></select
        >
        <label class="heading" for="look-order">Order</label>
        <select class="input mb-2" id="look-order" bind:value={waiting.order}
          ><option value="arrival">as they arrived</option><option value="latest">the latest first</option><option value="name"
            >by name</option
          ><option value="type">by document type</option></select
        >
        {#if waiting.shape === 'table'}
          <p class="heading">Columns</p>
          <div class="max-h-44 overflow-y-auto">
            {#each fieldItems as f (f.code)}<label class="flex items-center gap-2 py-0.5"
                ><input
                  type="checkbox"
                  class="check"
                  checked={columns.includes(f.code)}
                  onchange={(e) => (columns = e.currentTarget.checked ? [...columns, f.code] : columns.filter((c) => c !== f.code))}
                />{f.label}</label
              >{/each}
          </div>
        {/if}
      </Popover>
      <button
        class="icon-btn"
        disabled={waiting.chosen.length === 0}
        onclick={() => void waiting.discard()}
        aria-label="Remove from intake"
        title="Remove from intake"><IconTrash size={16} strokeWidth={1.6} /></button
      >
    </div>
    <div class="small flex min-h-[26px] flex-wrap items-center gap-x-3 px-4 pb-1">
      {#if waiting.documents.length > 1}<button class="link" onclick={() => waiting.chooseAll()}
          >{waiting.chosen.length === waiting.documents.length ? 'Select one' : 'Select all'}</button
        >{/if}
      {#if sortable.length > 0}<a class="link" href={`/intake/pages/${sortable.map((d) => d.ref).join(',')}`}>Page work</a>{/if}
      {#if waiting.chosen.length > 0}<HandOver {waiting} />{/if}
      {#if waiting.complete.length > 0}<button class="link" onclick={() => void waiting.fileComplete()}
          >File {waiting.complete.length} complete</button
        >{/if}
    </div>
    <WaitingList {waiting} {columns} onopen={() => (waiting.shape = 'names')} />
  </section>

  {#snippet speaking(of: ProposedSpeaking, says: string)}
    {#if of.made > 0}<span class="quiet block">filed unchanged {of.kept} of {plural(of.made, 'time', 'times')}</span>{/if}
    {#if of.from > 0}
      <details class="quiet">
        <summary class="min-h-6">{says}</summary>
        <ul>
          {#each of.documents as d (d.ref)}<li>
              <a class="link" href={`/documents/${encodeURIComponent(d.ref)}`} target="_blank">{d.title}</a>
            </li>{/each}
          {#if of.from > of.documents.length}<li>and {plural(of.from - of.documents.length, 'other', 'others')}</li>{/if}
        </ul>
      </details>
    {/if}
  {/snippet}
  {#snippet proposed(code: string)}
    {@const proposal = proposing.of(code)}
    {#if proposal}
      <div class="small flex items-baseline gap-3 border-l-2 border-brass pl-2">
        <div class="min-w-0 flex-1">
          {proposal.places.map((p) => p.label).join(', ')}
          {#if proposal.places[0]!.page !== null && evidence(proposal) !== proposal.places[0]!.label}
            <span class="quiet block truncate" title={`${evidence(proposal)} Page ${proposal.places[0]!.page}. ${proposal.by}`}
              ><Pieces pieces={oneLine(proposal)} /></span
            >
          {/if}
          {@render speaking(proposal, `${proposal.by}: ${plural(proposal.from, 'document', 'documents')}`)}
        </div>
        <button
          class="link min-h-6"
          type="button"
          title="Alt t"
          aria-label={`Take what is proposed for ${app.label(code)}`}
          onclick={() => proposing.take(code)}>Take</button
        >
      </div>
    {/if}
  {/snippet}
  <form
    class="min-h-0 overflow-y-auto border-r border-hair px-4 py-3"
    onsubmit={file}
    bind:this={sheet}
    onfocusin={enter}
    onkeydowncapture={sheetKey}
    aria-label="Index sheet"
  >
    <h2 class="text-[17px]">Index sheet</h2>
    <p class="small quiet mb-2 break-words">
      {waiting.targets.length > 1
        ? `The same values for ${waiting.targets.length} documents.`
        : (target?.file_name ?? 'Choose a document on the left.')}
    </p>
    {#if target?.at_it}<p class="small mb-2 border-l-2 border-brass pl-2">{target.at_it} is working on this document too.</p>{/if}
    {#if target?.intake_note}
      <p class="small mb-2 border-l-2 border-brass pl-2">When it arrived: {target.intake_note}</p>
    {/if}
    {#if target && target.text_state !== 'pending'}
      {#key target.ref + target.text_state}
        <div class="copies">
          <Copies document={target.ref}>
            {#snippet acts(copy)}
              {#if copy.may_version}<button class="link" type="button" onclick={() => asVersion(copy)}>File as its next version</button
                >{/if}
            {/snippet}
          </Copies>
        </div>
      {/key}
    {/if}
    {#if waiting.targets.length > 0 && libraries.length > 1}
      <label class="heading" for="its-library">Library</label>
      <select class="input mb-2" id="its-library" value={oneLibrary} onchange={(e) => void waiting.move(e.currentTarget.value)}>
        {#if oneLibrary === ''}<option value="" disabled>several</option>{/if}
        {#each libraries as l (l.code)}<option value={l.code}>{l.name}</option>{/each}
      </select>
    {/if}
    <div class="flex items-baseline">
      <label class="heading flex-1" for="type">Document type</label>
      <Pin what="the document type" on={sheets.pins.includes('type')} toggle={() => sheets.togglePin('type')} />
    </div>
    <Combobox
      id="type"
      label="Document type"
      items={types.map((t) => ({ value: t.code, label: t.name }))}
      value={sheets.now.type}
      onchange={(code) => sheets.chooseType(code)}
    />
    {#if proposing.type}
      {@const proposal = proposing.type}
      <div class="small mt-1 flex items-baseline gap-3 border-l-2 border-brass pl-2" role="status">
        <div class="min-w-0 flex-1">
          {types.find((t) => t.code === proposal.code)?.name ?? proposal.code}
          {@render speaking(proposal, `It looks like ${plural(proposal.from, 'other', 'others')}`)}
        </div>
        <button
          class="link min-h-6"
          type="button"
          title="Alt t; with all that is proposed Alt a"
          aria-label="Take the proposed document type"
          onclick={() => proposing.takeType()}>Take</button
        >
      </div>
    {/if}
    {#if type}
      {#if proposing.count > 0}
        <p class="small mt-2 flex items-baseline gap-3" role="status">
          <span class="flex-1">{plural(proposing.count, 'value is', 'values are')} proposed.</span>
          <button class="link min-h-6" type="button" title="Alt a" onclick={() => proposing.takeAll()}>Take all</button>
        </p>
      {/if}
      {#if type.names.length > 0 && !type.title_pattern}
        <label class="heading mt-2" for="named">Title</label>
        <Combobox
          id="named"
          label="Title"
          placeholder="The file name"
          items={type.names.map((n) => ({ value: n, label: n }))}
          value={sheets.now.named}
          onchange={(v) => (sheets.now.named = v)}
        />
      {/if}
      <SheetForm
        entries={type.fields}
        values={sheets.now.values}
        faults={sheets.faults}
        pins={sheets.pins}
        onpin={(code) => sheets.togglePin(code)}
        onchange={(code, given) => sheets.set(code, given)}
        below={proposed}
      />
      {#if sheets.faults.type}<p class="fault" role="alert">{sheets.faults.type}</p>{/if}
      {#if app.design!.dossier_kinds.length > 0}
        <div class="mt-2 border-t border-hair pt-1.5">
          <div class="flex items-baseline gap-3">
            <label class="heading flex-1" for="intake-dossier">Dossier, if any</label>
            <button class="link small min-h-6" type="button" onclick={() => (walking = true)} title="Alt d">Choose…</button>
            <Pin what="the dossier" on={sheets.pins.includes('dossier')} toggle={() => sheets.togglePin('dossier')} />
          </div>
          <input
            class="input mono"
            id="intake-dossier"
            bind:value={sheets.now.dossier}
            oninput={() => {
              sheets.now.dossierTitle = '';
              sheets.now.section = null;
              delete sheets.faults.dossier;
            }}
            placeholder="DS-00012-X, if any"
            autocomplete="off"
            aria-invalid={sheets.faults.dossier ? true : undefined}
            aria-describedby={sheets.faults.dossier ? 'intake-dossier-fault' : undefined}
          />
          {#if proposing.dossier}
            {@const proposal = proposing.dossier}
            <div class="small mt-1 flex items-baseline gap-3 border-l-2 border-brass pl-2">
              <div class="min-w-0 flex-1">
                {proposal.title}
                {@render speaking(proposal, `${plural(proposal.from, 'document', 'documents')} with the same value there`)}
              </div>
              <button
                class="link min-h-6"
                type="button"
                title="Alt t"
                aria-label="Take the proposed dossier"
                onclick={() => proposing.takeDossier()}>Take</button
              >
            </div>
          {/if}
          {#if sheets.faults.dossier}<p class="fault" id="intake-dossier-fault" role="alert">{sheets.faults.dossier}</p>{/if}
          {#if sheets.now.dossierTitle}
            <p class="small quiet">{sheets.now.dossierTitle}</p>
            {#if sections.length > 0}
              <select
                class="input mt-1"
                aria-label="Section"
                value={sheets.now.section === null ? '' : String(sheets.now.section)}
                onchange={(e) => (sheets.now.section = e.currentTarget.value === '' ? null : Number(e.currentTarget.value))}
                ><option value="">no section</option>{#each sections as s (s.id)}<option value={String(s.id)}>{s.name}</option
                  >{/each}</select
              >
            {/if}
          {/if}
        </div>
      {/if}
    {:else}
      <p class="quiet mt-3">
        {types.length === 0
          ? 'This library has no document types yet. They are given to it in Design.'
          : 'Type the name of the document type; its fields appear here.'}
      </p>
    {/if}
    <div class="sticky bottom-0 bg-paper py-3 max-[900px]:bottom-[38px]">
      <button class="btn btn-main w-full" disabled={busy || waiting.targets.length === 0 || !type}
        >{waiting.targets.length > 1 ? `File ${waiting.targets.length} documents` : 'File this document'}</button
      >
      {#if target && !sheets.changed && target.lacks.length > 0 && type}<p class="small quiet pt-1 text-center">{lacking(target)}</p>{/if}
    </div>
  </form>

  {#if isBesidePages}
    <section class="flex min-h-0 flex-col bg-sheet" aria-label="The document">
      {#if waiting.looked}
        <div class="lift small" role="group" aria-label="What the pages say">
          {#if lifting.field === '' || !type}<span class="quiet"
              >In a field, click on words of the page or drag over them to fill it in.</span
            >
          {:else}
            <span class="heading">{app.label(lifting.field)}</span>
            {#if lifting.reading}<span class="quiet" role="status">Reading…</span>
            {:else if lifting.fault}<span class="text-rust" role="alert">{lifting.fault}</span>
            {:else}
              {#each lifting.places as place, i (place.value)}
                <button
                  class="place"
                  type="button"
                  title={`“${place.text}” on page ${place.page}. Alt ${i + 1}`}
                  onclick={() => lifting.take(i + 1)}><span class="num quiet">{i + 1}</span> {place.label}</button
                >
              {:else}<span class="quiet">Click on words of the page or drag over them.</span>{/each}
            {/if}
            {#if last.length > 0}<button class="place" type="button" title="As in the document that was filed last. Alt 0" onclick={again}
                ><span class="num quiet">0</span> last: {last.map((v) => shownValue(lifting.field, v)).join(', ')}</button
              >{/if}
          {/if}
        </div>
        <div class="min-h-0 flex-1" role="presentation" onmousedown={(e) => (pressedAt = { x: e.clientX, y: e.clientY })} onmouseup={point}>
          {#if reading?.record}{#key reading}<Pages {reading} />{/key}{/if}
        </div>
      {:else}<p class="quiet p-8">The document you are indexing is shown here.</p>{/if}
    </section>
  {/if}
</div>

{#if templating}<FromTemplates
    change={(act) => waiting.change(act)}
    onmade={(made) => {
      templating = false;
      waiting.chosen = [];
      waiting.look(made[0] ?? '');
    }}
    onleave={() => (templating = false)}
  />{/if}
{#if report}<TableReport
    {...report}
    onlook={(document) => {
      report = null;
      waiting.chosen = [];
      waiting.look(document);
    }}
    onleave={() => (report = null)}
  />{/if}
{#if walking}<DossierWalk
    library={oneLibrary || library}
    onchoose={choose}
    onleave={() => {
      walking = false;
      void focusOn('intake-dossier');
    }}
  />{/if}

<style>
  .copies :global(ul) {
    margin-bottom: 8px;
    padding-left: 8px;
    border-left: 2px solid var(--color-brass);
  }
  .copies :global(li:first-child) {
    border-top: 0;
  }
  .intake {
    display: grid;
    height: 100%;
    grid-template-columns: 310px 330px minmax(0, 1fr);
  }
  .intake.wide {
    grid-template-columns: minmax(0, 1fr) 330px;
  }
  .over {
    box-shadow: inset 0 0 0 2px var(--act);
    background: var(--act-tint);
  }
  .bring {
    display: flex;
    flex-wrap: wrap;
    gap: 8px;
    align-items: flex-end;
    padding: 4px 0;
  }
  .bring > :global(.btn) {
    flex: 1;
    max-width: 160px;
  }
  .camera {
    display: none;
  }
  /* As high without places as with them: nothing moves when one goes from field to field. */
  .lift {
    display: flex;
    gap: 10px;
    align-items: center;
    height: 38px;
    flex: none;
    overflow-x: auto;
    padding: 0 14px;
    border-bottom: 1px solid var(--hair);
    background: var(--paper);
    white-space: nowrap;
  }
  .place {
    min-height: 26px;
    padding: 0 8px;
    border: 1px solid var(--hair);
    border-radius: 3px;
    background: var(--sheet);
    color: var(--ink);
  }
  .place:hover {
    border-color: var(--act);
  }
  @media (max-width: 900px) {
    .intake,
    .intake.wide {
      display: block;
      overflow-y: auto;
      padding-bottom: 38px;
    }
    .intake > section:first-child {
      max-height: 70vh;
    }
    .camera {
      display: inline-flex;
    }
    /* The document lies far below the sheet here; what it says stays in sight. */
    .lift {
      position: fixed;
      right: 0;
      bottom: 0;
      left: 0;
      z-index: 5;
      border-top: 1px solid var(--hair);
      border-bottom: 0;
    }
  }
</style>
