<script lang="ts">
  import { keys } from '@/state/keys.svelte';
  import { tick } from 'svelte';
  import { api, ApiError, messageOf, type Sheet } from '@/api/client';
  import type { DocumentRecord, TroubledSource } from '@/api/types';
  import Combobox from '@/parts/Combobox.svelte';
  import SheetForm from '@/parts/SheetForm.svelte';
  import { defaultsOf } from '@/parts/sheet';
  import { bytes, plural } from '@/parts/format';
  import { Reading } from '@/places/read/document.svelte';
  import Pages from '@/places/read/Pages.svelte';
  import { app } from '@/state/app.svelte';
  import { drafts } from '@/state/drafts';
  import { Whole } from '@/state/whole';
  import { Lifting, pointedAt } from './lifting.svelte';
  import IconTrash from '@lucide/svelte/icons/trash-2';
  import IconUpload from '@lucide/svelte/icons/upload';

  interface Coming {
    key: number;
    name: string;
    fault: string;
  }

  const AT_ONCE = 3;
  const DRAFT = 'intake';
  const libraries = $derived(app.design!.libraries.filter((l) => l.may_change));
  let library = $state(localStorage.getItem('intake:library') ?? '');
  let waiting = $state.raw<DocumentRecord[]>([]);
  let troubled = $state.raw<TroubledSource[]>([]);
  let coming = $state<Coming[]>([]);
  let chosen = $state<string[]>([]);
  let looking = $state('');
  let over = $state(false);
  let busy = $state(false);
  let typeCode = $state('');
  let values = $state<Sheet>({});
  let faults = $state<Record<string, string>>({});
  /** One of the type's predefined names, and the dossier that what is filed goes into. */
  let named = $state('');
  let dossier = $state('');
  let proposedDossier = '';
  let picker: HTMLInputElement;
  let sent = 0;

  const kept = JSON.parse(drafts.getItem(DRAFT) ?? 'null') as { type: string; values: Sheet } | null;
  if (kept) {
    typeCode = kept.type;
    values = kept.values;
  }
  $effect(() => {
    if (!libraries.some((l) => l.code === library)) library = libraries[0]?.code ?? '';
  });
  $effect(() => localStorage.setItem('intake:library', library));
  $effect(() => drafts.setItem(DRAFT, JSON.stringify({ type: typeCode, values })));

  type Answer = { documents: DocumentRecord[]; sources: TroubledSource[] };
  const list = new Whole<Answer>(
    () => api.intake(),
    (got) => {
      troubled = got.sources;
      show(got.documents);
    },
  );
  const load = () => list.read().catch((error: unknown) => app.fail(error, 'The waiting documents cannot be shown. Reload the page.'));
  function show(documents: DocumentRecord[]) {
    // What has not changed stays as it is, so that the page one reads is not drawn anew.
    const before = Object.fromEntries(waiting.map((d) => [d.ref, d]));
    waiting = documents.map((d) => (JSON.stringify(before[d.ref]) === JSON.stringify(d) ? before[d.ref]! : d));
    chosen = chosen.filter((ref) => documents.some((d) => d.ref === ref));
    if (!documents.some((d) => d.ref === looking)) look(documents[0]?.ref ?? '');
  }
  void load();
  // The text of what came in is read in the background; what arrives by itself is there soon after.
  $effect(() => {
    const timer = setTimeout(load, waiting.some((d) => d.text_state === 'pending') ? 1500 : 5000);
    return () => clearTimeout(timer);
  });

  /** What the server answers once some of what waited has gone; they are out of sight even if the list must be read again. */
  const without = (gone: string[]) => (got: Answer) => {
    waiting = waiting.filter((d) => !gone.includes(d.ref));
    return got;
  };

  function look(ref: string) {
    if (ref !== looking) propose(waiting.find((d) => d.ref === ref));
    looking = ref;
    if (ref && chosen.length <= 1) chosen = [ref];
  }

  /** What is known of a document by the way it came is on its sheet, to be looked at and filed. */
  function propose(document: DocumentRecord | undefined) {
    // What was proposed for another document is not meant for this one; what was typed stays.
    if (document?.proposed_dossier || dossier === proposedDossier) {
      dossier = proposedDossier = document?.proposed_dossier ?? '';
    }
    const known = app.design!.types.find((t) => t.code === document?.type?.code);
    const given = Object.entries(document?.values ?? {});
    if (!known && given.length === 0) return;
    if (known) typeCode = known.code;
    values = { ...defaultsOf(known?.fields ?? []), ...Object.fromEntries(given.map(([code, list]) => [code, list.map((v) => v.value)])) };
    faults = {};
  }

  /** By the source they came from, each in the order of arrival; what people brought themselves is first. */
  const groups = $derived(
    [...new Set(waiting.map((d) => d.source ?? ''))]
      .sort((a, b) => a.localeCompare(b))
      .map((source) => ({
        source,
        documents: waiting.filter((d) => (d.source ?? '') === source),
      })),
  );

  async function move(to: string) {
    const moved = [...chosen];
    try {
      await list.change(
        () => api.moveWaiting(moved, to),
        (got) => got,
      );
      app.say(`${plural(moved.length, 'document', 'documents')} for ${app.library(to)?.name ?? to}.`);
    } catch (error) {
      app.fail(error, 'The library was not changed.');
    }
  }

  const looked = $derived(waiting.find((d) => d.ref === looking) ?? null);
  const reading = $derived.by(() => {
    if (!looked) return null;
    const of = new Reading(looked.ref, { words: '', criteria: [] });
    of.record = looked;
    return of;
  });
  const shownKey = $derived(looked ? `${looked.ref} ${looked.text_state}` : '');

  async function receive(files: FileList | File[]) {
    const limit = app.person!.limits.file_bytes;
    const all = [...files].map((file) => ({
      file,
      entry: {
        key: ++sent,
        name: file.name,
        fault: file.size > limit ? `“${file.name}” is larger than ${bytes(limit)} and was not sent.` : '',
      },
    }));
    coming = [...coming, ...all.map((q) => q.entry)];
    const queue = all.filter((q) => q.entry.fault === '');
    const to = library;
    const worker = async () => {
      for (let next = queue.shift(); next; next = queue.shift()) {
        const { file, entry } = next;
        try {
          await list.change(
            () => api.upload(file, to),
            (record) => {
              waiting = [...waiting.filter((d) => d.ref !== record.ref), record];
              if (!looking) look(record.ref);
              return undefined;
            },
          );
          coming = coming.filter((c) => c.key !== entry.key);
        } catch (error) {
          const message = error instanceof ApiError ? (error.fields.file ?? error.message) : 'It did not arrive.';
          coming = coming.map((c) => (c.key === entry.key ? { ...c, fault: message } : c));
        }
      }
    };
    await Promise.all(Array.from({ length: AT_ONCE }, worker));
  }

  function drop(event: DragEvent) {
    event.preventDefault();
    over = false;
    if (event.dataTransfer?.files.length) void receive(event.dataTransfer.files);
  }

  const targets = $derived(waiting.filter((d) => chosen.includes(d.ref)));
  const types = $derived.by(() => {
    const of = targets.length > 0 ? targets.map((d) => d.library.code) : [library];
    return app.design!.types.filter((t) => of.every((code) => app.library(code)?.types.includes(t.code)));
  });
  const type = $derived(types.find((t) => t.code === typeCode));

  /** Choosing another type keeps what fits, and begins what is new with its default. */
  function chooseType(code: string) {
    typeCode = code;
    named = '';
    const chosenType = app.design!.types.find((t) => t.code === code);
    if (chosenType)
      values = {
        ...defaultsOf(chosenType.fields),
        ...Object.fromEntries(Object.entries(values).filter(([, v]) => v.some((text) => text !== ''))),
      };
  }

  let sheet: HTMLFormElement;
  const lifting = new Lifting(
    () => looking,
    (code, value) => {
      const now = values[code] ?? [];
      const field = app.design!.fields.find((f) => f.code === code);
      // Into the last of several values, beside those that are there.
      values[code] = field?.multiple ? [...now.filter((v) => v !== '' && v !== value), value] : [value];
      delete faults[code];
      void tick().then(() => nextField(code));
    },
  );
  // Another document, or its text: what the pages say is another thing.
  $effect(() => {
    if (shownKey !== '') lifting.again();
  });
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
  function sheetKey(event: KeyboardEvent) {
    const digit = /^Digit([1-9])$/.exec(event.code)?.[1];
    if (event.altKey && digit && lifting.take(Number(digit))) event.preventDefault();
  }

  async function file(event?: Event) {
    event?.preventDefault();
    if (busy || targets.length === 0 || !type) return;
    busy = true;
    const filed = [...chosen];
    const count = targets.length;
    const index = waiting.findIndex((d) => d.ref === chosen[0]);
    try {
      const fits = new Set(type.fields.map((f) => f.code));
      const given = Object.fromEntries(Object.entries(values).filter(([code]) => fits.has(code)));
      await list.change(() => api.fileDocuments(filed, type.code, given, named), without(filed));
      faults = {};
      values = defaultsOf(type.fields);
      chosen = [];
      look(waiting[Math.min(index, waiting.length - 1)]?.ref ?? '');
      app.say(`${plural(count, 'document', 'documents')} filed.`);
      if (dossier.trim() !== '')
        await api.putInDossier(dossier.trim(), filed, null).then(
          (got) => app.say(`${plural(count, 'document', 'documents')} filed into “${got.title}”.`),
          (error: unknown) => app.say(`Filed, but not put into the dossier. ${messageOf(error, '')}`, { wrong: true }),
        );
    } catch (error) {
      if (!(error instanceof ApiError)) throw error;
      faults = error.fields;
      if (Object.keys(error.fields).length === 0) app.say(error.message, { wrong: true });
    } finally {
      busy = false;
    }
  }

  async function discard() {
    const gone = [...chosen];
    try {
      await list.change(() => api.discard(gone), without(gone));
      app.say(`${plural(gone.length, 'document', 'documents')} removed from intake.`, {
        undo: () =>
          list
            .change(
              () => api.restore(gone),
              (got) => got,
            )
            .catch((error: unknown) => app.fail(error, 'The filing could not be undone. Nothing was changed.')),
      });
    } catch (error) {
      app.fail(error, 'Nothing was removed.');
    }
  }

  keys.use(() => [
    { on: 'Enter', ctrl: true, typing: true, what: 'File the chosen documents', run: (event) => void file(event) },
    { shown: '↑ ↓', what: 'Move along the waiting documents' },
    { shown: 'Alt 1 – Alt 9', what: 'Take what the page says for the field' },
  ]);
  function listKey(event: KeyboardEvent) {
    const by = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (!by) return;
    event.preventDefault();
    const order = groups.flatMap((g) => g.documents);
    const index = order.findIndex((d) => d.ref === looking);
    const next = order[Math.min(order.length - 1, Math.max(0, index + by))];
    if (next) {
      look(next.ref);
      (document.getElementById(`waiting-${next.ref}`) as HTMLElement | null)?.focus();
    }
  }
  const states = { pending: 'reading its text…', read: '', none: 'no text' };
</script>

<div class="intake">
  <section class="flex min-h-0 flex-col border-r border-hair" aria-label="Waiting">
    <div class="px-4 pt-3">
      <h1 class="text-[22px]">Intake</h1>
      <label class="heading mt-2 block" for="library">Library for new files</label>
      <select class="input" id="library" bind:value={library}>
        {#each libraries as l (l.code)}<option value={l.code}>{l.name}</option>{/each}
      </select>
      <div
        class="drop mt-3"
        class:over
        role="group"
        aria-label="Bring in files"
        ondragover={(e) => {
          e.preventDefault();
          over = true;
        }}
        ondragleave={() => (over = false)}
        ondrop={drop}
      >
        <p class="quiet">Drop files here, or</p>
        <button class="btn mt-1" disabled={library === ''} onclick={() => picker.click()}
          ><IconUpload size={15} strokeWidth={1.6} />Choose files</button
        >
        <input
          bind:this={picker}
          type="file"
          multiple
          class="sr-only"
          tabindex="-1"
          aria-label="Files"
          onchange={(e) => {
            if (e.currentTarget.files) void receive(e.currentTarget.files);
            e.currentTarget.value = '';
          }}
        />
      </div>
    </div>
    {#each troubled as s (s.code)}
      <p class="small mx-4 mt-2 border-l-2 border-rust pl-2" role="status">
        {s.name}: <span class="text-rust">{s.says}</span> It is tried again by itself.
      </p>
    {/each}
    <ul class="small px-4" aria-live="polite">
      {#each coming as c (c.key)}
        <li class="flex items-start gap-2 border-b border-hair py-1.5">
          <span class="min-w-0 flex-1 break-words" class:fault={c.fault}>{c.fault || `${c.name}: uploading…`}</span>
          {#if c.fault}<button class="link" onclick={() => (coming = coming.filter((o) => o.key !== c.key))}>Dismiss</button>{/if}
        </li>
      {/each}
    </ul>
    <div class="flex items-center gap-3 px-4 pt-3 pb-1">
      <h2 class="flex-1 text-[17px]">Waiting <span class="num quiet">{waiting.length}</span></h2>
      {#if waiting.length > 1}<button
          class="link small"
          onclick={() => (chosen = chosen.length === waiting.length ? [looking] : waiting.map((d) => d.ref))}
          >{chosen.length === waiting.length ? 'Select one' : 'Select all'}</button
        >{/if}
      <button class="icon-btn" disabled={chosen.length === 0} onclick={discard} aria-label="Remove from intake" title="Remove from intake"
        ><IconTrash size={16} strokeWidth={1.6} /></button
      >
    </div>
    <!-- svelte-ignore a11y_no_noninteractive_element_interactions -->
    <ul class="min-h-0 flex-1 overflow-y-auto px-4 pb-4" onkeydown={listKey}>
      {#each groups as group (group.source)}
        {#if group.source !== '' || groups.length > 1}<li class="heading pt-2 pb-0.5">
            {group.source || 'Brought in by you'} <span class="num">{group.documents.length}</span>
          </li>{/if}
        {#each group.documents as document (document.ref)}
          <li class="flex items-start gap-2 border-t border-hair py-1.5" class:looked={document.ref === looking}>
            <input
              type="checkbox"
              class="check mt-1"
              aria-label={`Select ${document.file_name}`}
              checked={chosen.includes(document.ref)}
              onchange={(e) =>
                (chosen = e.currentTarget.checked ? [...chosen, document.ref] : chosen.filter((ref) => ref !== document.ref))}
            />
            <button
              id={`waiting-${document.ref}`}
              class="min-w-0 flex-1 text-left"
              aria-pressed={document.ref === looking}
              onclick={() => look(document.ref)}
            >
              <span class="block truncate" title={document.file_name}>{document.file_name}</span>
              <span class="small quiet block truncate"
                >{document.library.name} · {bytes(document.bytes)}{#if states[document.text_state]}&nbsp;· <span
                    class:text-rust={document.text_state === 'none'}>{states[document.text_state]}</span
                  >{/if}{#if document.attachments.length > 0}&nbsp;· {plural(
                    document.attachments.length,
                    'attachment',
                    'attachments',
                  )}{/if}</span
              >
            </button>
          </li>
        {/each}
      {:else}
        <li class="quiet border-t border-hair py-3">Nothing is waiting. Documents you bring in stay here until they are filed.</li>
      {/each}
    </ul>
  </section>

  <!-- svelte-ignore a11y_no_noninteractive_element_interactions -->
  <form
    class="min-h-0 overflow-y-auto border-r border-hair px-4 py-3"
    onsubmit={file}
    bind:this={sheet}
    onfocusin={enter}
    onkeydown={sheetKey}
    aria-label="Index sheet"
  >
    <h2 class="text-[17px]">Index sheet</h2>
    <p class="small quiet mb-2">
      {targets.length > 1
        ? `The same values for ${targets.length} documents.`
        : (targets[0]?.file_name ?? 'Choose a document on the left.')}
    </p>
    {#if targets.length === 1 && targets[0]?.intake_note}
      <p class="small mb-2 border-l-2 border-brass pl-2">When it arrived: {targets[0].intake_note}</p>
    {/if}
    {#if targets.length > 0 && libraries.length > 1}
      <label class="heading" for="its-library">Library</label>
      <select
        class="input mb-2"
        id="its-library"
        value={targets.every((d) => d.library.code === targets[0]!.library.code) ? targets[0]!.library.code : ''}
        onchange={(e) => void move(e.currentTarget.value)}
      >
        {#if !targets.every((d) => d.library.code === targets[0]!.library.code)}<option value="" disabled>several</option>{/if}
        {#each libraries as l (l.code)}<option value={l.code}>{l.name}</option>{/each}
      </select>
    {/if}
    <label class="heading" for="type">Document type</label>
    <Combobox
      id="type"
      label="Document type"
      items={types.map((t) => ({ value: t.code, label: t.name }))}
      value={typeCode}
      onchange={chooseType}
    />
    {#if type}
      {#if type.names.length > 0 && !type.title_pattern}
        <label class="heading mt-2" for="named">Title</label>
        <Combobox
          id="named"
          label="Title"
          placeholder="The file name"
          items={type.names.map((n) => ({ value: n, label: n }))}
          value={named}
          onchange={(v) => (named = v)}
        />
      {/if}
      <SheetForm
        entries={type.fields}
        {values}
        {faults}
        onchange={(code, given) => {
          values[code] = given;
          delete faults[code];
        }}
      />
      {#if faults.type}<p class="fault" role="alert">{faults.type}</p>{/if}
      {#if app.design!.dossier_kinds.length > 0}
        <div class="mt-2 border-t border-hair pt-1.5">
          <label class="heading" for="intake-dossier">Dossier, if any</label>
          <input class="input mono" id="intake-dossier" bind:value={dossier} placeholder="DS-00012-X, if any" autocomplete="off" />
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
      <button class="btn btn-main w-full" disabled={busy || targets.length === 0 || !type}
        >{targets.length > 1 ? `File ${targets.length} documents` : 'File this document'}</button
      >
    </div>
  </form>

  <section class="flex min-h-0 flex-col bg-sheet" aria-label="The document">
    {#if reading}
      <div class="lift small" role="group" aria-label="What the pages say">
        {#if lifting.field === '' || !type}<span class="quiet">In a field, click on words of the page or drag over them to fill it in.</span
          >
        {:else}
          <span class="heading">{app.label(lifting.field)}</span>
          {#if lifting.fault}<span class="text-rust" role="alert">{lifting.fault}</span>
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
        {/if}
      </div>
      <div class="min-h-0 flex-1" role="presentation" onmouseup={(e) => void lifting.lift(pointedAt(e))}>
        {#key shownKey}<Pages {reading} />{/key}
      </div>
    {:else}<p class="quiet p-8">The document you are indexing is shown here.</p>{/if}
  </section>
</div>

<style>
  .intake {
    display: grid;
    height: 100%;
    grid-template-columns: 300px 330px minmax(0, 1fr);
  }
  .drop {
    border: 1px dashed var(--quiet);
    padding: 10px 14px;
    text-align: center;
    border-radius: 3px;
  }
  .drop.over {
    border-color: var(--act);
    background: var(--act-tint);
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
  .looked {
    box-shadow: inset 3px 0 0 var(--act);
    padding-left: 8px;
  }
  @media (max-width: 900px) {
    .intake {
      display: block;
      overflow-y: auto;
      padding-bottom: 38px;
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
