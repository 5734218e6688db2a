<script lang="ts">
  import { api, ApiError, type Sheet } from '@/api/client';
  import type { DocumentRecord, Field, Piece } from '@/api/types';
  import Combobox from '@/parts/Combobox.svelte';
  import Pieces from '@/parts/Pieces.svelte';
  import SheetForm from '@/parts/SheetForm.svelte';
  import { widget } from '@/parts/kinds';
  import { bytes, moment, plural } from '@/parts/format';
  import { app } from '@/state/app.svelte';
  import { termLabel } from '@/state/choices.svelte';
  import { drafts } from '@/state/drafts';
  import { privacy } from '@/state/privacy.svelte';
  import Copies from '@/parts/Copies.svelte';
  import Loans from './Loans.svelte';
  import Remarks from './Remarks.svelte';
  import Sight from './Sight.svelte';
  import Retention from './Retention.svelte';
  import Standings from './Standings.svelte';
  import Versions from './Versions.svelte';
  import type { Reading } from './document.svelte';
  import PutInDossier from './PutInDossier.svelte';

  let { reading }: { reading: Reading } = $props();
  const may = $derived(app.person?.may);
  const seesSight = $derived(!!may && (may.file || may.change || may.design || may.administer || may.oversee));

  const record = $derived(reading.record!);
  const type = $derived(app.design!.types.find((t) => t.code === record.type?.code));
  const shownFields = $derived(
    [...(type?.fields.map((f) => f.code) ?? []), ...Object.keys(record.values).filter((code) => !type?.fields.some((f) => f.code === code))]
      .map((code) => app.design!.fields.find((f) => f.code === code))
      .filter((f): f is Field => !!f),
  );

  /** Where values were lifted from: pointing at one marks its place on the page. */
  let lifted = $state.raw<Awaited<ReturnType<typeof api.lifted>>['lifted']>({});
  $effect(() => {
    const { ref, redacted_only, lock_version } = record;
    if (redacted_only || lock_version < 1) return;
    api.lifted(ref).then(
      (got) => (lifted = got.lifted),
      () => undefined,
    );
  });
  function mark(field: string, value: string | null) {
    const places = value === null ? [] : (lifted[field] ?? []).filter((l) => l.value === value);
    reading.numbered = places.map(({ page, boxes }, i) => ({ page, boxes, number: i + 1 }));
  }
  const placeOf = (field: string, value: string) => lifted[field]?.find((l) => l.value === value)?.page;

  const languages = $derived(
    app
      .terms(app.field('text_language')!)
      .filter((t) => t.code !== record.language.told)
      .map((t): [string, string] => [t.code, t.label]),
  );
  const saidLanguage = $derived(record.language.code === record.language.told ? '' : (record.language.code ?? ''));
  const languageName = (code: string | null) => (code ? termLabel(app.field('text_language')!, code) : '');
  async function sayLanguage(code: string) {
    try {
      reading.record = await api.setLanguage(record.ref, code || null);
      app.say('Saved.');
    } catch (error) {
      app.fail(error, 'The language was not changed. Try again.');
    }
  }

  const draftKey = $derived(`sheet:${record.ref}`);
  let editing = $state(false);
  let typeCode = $state('');
  let values = $state<Sheet>({});
  let faults = $state<Record<string, string>>({});
  let theirs = $state.raw<DocumentRecord | null>(null);
  let busy = $state(false);
  let start = '';

  const editType = $derived(app.design!.types.find((t) => t.code === typeCode));
  const libraryTypes = $derived(
    app.design!.types.filter((t) => app.library(record.library.code)?.types.includes(t.code) || t.code === record.type?.code),
  );

  function valuesOf(of: DocumentRecord): Sheet {
    // What a dossier hands down is no value of the document's own.
    return Object.fromEntries(
      Object.entries(of.values).map(([code, list]) => [code, list.filter((v) => !v.inherited).map((v) => v.value)]),
    );
  }

  /** Values that were uncovered, on record, by field. */
  let uncovered = $state.raw<DocumentRecord['values']>({});
  async function uncover(field: string | null) {
    const got = await api.reveal(record.ref, field);
    uncovered = { ...uncovered, ...got.values };
    return got.values;
  }

  async function edit() {
    // Whoever changes a sheet sees all of it, and that is recorded.
    const all = Object.values(record.values).some((list) => list.some((v) => v.covered)) ? await uncover(null) : {};
    const draft = drafts.getItem(draftKey);
    const kept = draft ? (JSON.parse(draft) as { type: string; values: Sheet }) : null;
    typeCode = kept?.type ?? record.type?.code ?? '';
    values = kept?.values ?? valuesOf({ ...record, values: { ...record.values, ...all } });
    start = JSON.stringify({ type: record.type?.code ?? '', values });
    faults = {};
    theirs = null;
    editing = true;
  }

  // Leaving a changed sheet keeps a draft.
  $effect(() => {
    if (editing) {
      const draft = JSON.stringify({ type: typeCode, values });
      if (draft !== start) drafts.setItem(draftKey, draft);
    }
  });

  async function save(event?: SubmitEvent) {
    event?.preventDefault();
    busy = true;
    try {
      const fits = new Set(editType?.fields.map((f) => f.code));
      const kept = Object.fromEntries(Object.entries(values).filter(([code]) => fits.has(code)));
      reading.record = await api.saveDocument(record.ref, typeCode || null, kept, (theirs ?? record).lock_version);
      drafts.removeItem(draftKey);
      editing = false;
      app.say('Saved.');
    } catch (error) {
      if (!(error instanceof ApiError)) throw error;
      faults = error.fields;
      if (error.code === 'stale') theirs = error.current as DocumentRecord;
      else if (Object.keys(error.fields).length === 0) app.say(error.message, { wrong: true });
    } finally {
      busy = false;
    }
  }

  function leave() {
    drafts.removeItem(draftKey);
    editing = false;
  }

  function takeTheirs() {
    reading.record = theirs;
    leave();
  }

  const folder = $derived(record.path.slice(0, record.path.lastIndexOf('/')));
  const inFolder = $derived(`/find?c=${encodeURIComponent(`path = "${folder}"`)}`);
  const inPlace = (field: string, value: string) => `/find?c=${encodeURIComponent(`${field} == "${value}"`)}`;
</script>

{#snippet label(text: string, pieces: Piece[] | undefined)}{#if pieces && !editing}<Pieces {pieces} />{:else}{text}{/if}{/snippet}

<section class="px-4 py-3" aria-labelledby="sheet">
  <div class="flex items-baseline">
    <h3 class="flex-1 text-[17px]" id="sheet">Index sheet</h3>
    {#if record.may_change && !editing}
      <button class="link" onclick={edit}>{drafts.getItem(draftKey) ? 'Continue your draft' : 'Change'}</button>
    {/if}
  </div>
  {#if record.holds.length > 0}<p class="small text-rust">On hold: {record.holds.join('; ')}</p>
  {:else if record.why_not && app.person?.may.change}<p class="small quiet">{record.why_not}</p>{/if}
  {#if editing}
    <form onsubmit={save}>
      {#if theirs}
        <div class="my-2 border-l-2 border-rust pl-3" role="alert">
          <p class="text-rust">Somebody else changed this in the meantime. Nothing was overwritten.</p>
          <dl class="small mt-1">
            {#each Object.entries(theirs.values).filter(([code, list]) => list.map((v) => v.value).join() !== (record.values[code] ?? [])
                  .map((v) => v.value)
                  .join()) as [code, list] (code)}
              <div>
                <dt class="quiet inline">{app.label(code)} is now</dt>
                <dd class="inline font-semibold">{list.map((v) => v.label).join(', ')}</dd>
              </div>
            {/each}
          </dl>
          <button class="link mr-4" type="button" onclick={takeTheirs}>Use their version</button><span class="small quiet"
            >or save again to keep yours.</span
          >
        </div>
      {/if}
      <label class="heading" for="sheet-type">Document type</label>
      <Combobox
        id="sheet-type"
        label="Document type"
        items={libraryTypes.map((t) => ({ value: t.code, label: t.name }))}
        value={typeCode}
        onchange={(v) => (typeCode = v)}
      />
      <SheetForm entries={editType?.fields ?? []} {values} {faults} onchange={(code, given) => (values[code] = given)} />
      <div class="sticky bottom-0 flex gap-2 bg-paper py-3">
        <button class="btn btn-main" disabled={busy}>Save</button><button class="btn" type="button" onclick={leave}>Cancel</button>
      </div>
    </form>
  {:else if shownFields.length === 0}
    <p class="quiet mt-1">No index values yet.</p>
  {:else}
    <dl class="mt-1">
      {#each shownFields as field (field.code)}
        {@const Widget = widget(app.kind(field)?.widget)}
        {@const list = (!privacy.on && uncovered[field.code]) || (record.values[field.code] ?? [])}
        <div class="grid grid-cols-[120px_1fr] gap-3 border-t border-hair py-1">
          <dt class="quiet small pt-px">{field.label}</dt>
          <dd
            class:mono={field.kind === 'identifier'}
            class="break-words"
            onpointerenter={() => mark(field.code, list[0]?.value ?? null)}
            onpointerleave={() => mark(field.code, null)}
          >
            {#each list as value, i (value.value + i)}{@const pieces = reading.hits.values[field.code]?.[i]}{#if i > 0},
              {/if}{#if value.covered}<span class="tracking-widest" aria-label="masked">{value.label}</span
                >{#if i === list.length - 1 && !privacy.on}
                  <button class="link small" title="Revealing is recorded" onclick={() => uncover(field.code)}>reveal</button
                  >{/if}{:else}{#if field.faceted && field.kind !== 'date'}<a
                    href={inPlace(field.code, value.value)}
                    title={`Everything with this ${field.label.toLowerCase()}`}>{@render label(value.label, pieces)}</a
                  >{:else}<Widget use="show" {field} value={value.value}>{@render label(value.label, pieces)}</Widget
                  >{/if}{#if value.inherited && i === list.length - 1}<span class="small quiet">
                    from {#if value.from}<a href={`/dossiers/${value.from.ref}`}>{value.from.title}</a>{:else}its dossier{/if}</span
                  >{/if}{/if}{:else}<span class="quiet">—</span>{/each}{#if list[0] && placeOf(field.code, list[0].value)}
              {@const page = placeOf(field.code, list[0].value)!}
              <button
                class="link small"
                onclick={() => reading.goToPage(page)}
                onfocus={() => mark(field.code, list[0]!.value)}
                onblur={() => mark(field.code, null)}
                title="Lifted from this page; its place is marked">p. {page}</button
              >{/if}
          </dd>
        </div>
      {/each}
    </dl>
  {/if}
  {#if record.attachments.length > 0 || record.parent}
    <h3 class="mt-4 text-[17px]">{record.parent ? 'Attached to' : 'Attachments'}</h3>
    <ul>
      {#if record.parent}<li class="border-t border-hair py-1">
          <a href={`/documents/${record.parent.ref}`}>{record.parent.title}</a>
        </li>{/if}
      {#each record.attachments as attachment (attachment.ref)}
        <li class="border-t border-hair py-1"><a href={`/documents/${attachment.ref}`}>{attachment.file_name}</a></li>
      {/each}
    </ul>
  {/if}
  {#if record.exchange.length > 0}
    <h3 class="mt-4 text-[17px]">Correspondence</h3>
    <ul>
      {#each record.exchange as mail (mail.ref)}<li class="border-t border-hair py-1">
          <a href={`/documents/${mail.ref}`}>{mail.title}</a>
        </li>{/each}
    </ul>
  {/if}
  <h3 class="mt-4 text-[17px]">Where it lives</h3>
  {#if record.may_change}<PutInDossier document={record.ref} ondone={() => reading.reload()} />{/if}
  <dl class="mt-1">
    {#each record.dossiers as dossier (dossier.ref)}
      <div class="grid grid-cols-[120px_1fr] gap-3 border-t border-hair py-1">
        <dt class="quiet small pt-px">{dossier.kind}</dt>
        <dd><a href={`/dossiers/${dossier.ref}`}>{dossier.title}</a></dd>
      </div>
    {/each}
    {#if record.path.includes('/')}<div class="grid grid-cols-[120px_1fr] gap-3 border-t border-hair py-1">
        <dt class="quiet small pt-px">Path</dt>
        <dd class="break-words">
          {#if reading.hits.path}<Pieces pieces={reading.hits.path} /> <a class="small" href={inFolder}>its folder</a>{:else}<a
              class="underline"
              href={inFolder}>{folder}</a
            >{record.path.slice(folder.length)}{/if}
        </dd>
      </div>{/if}
    {#each [['Reference', record.ref], ['File', record.destroyed_at ? '' : `${record.file_name}, ${bytes(record.bytes)}${record.page_count > 0 ? `, ${plural(record.page_count, 'page', 'pages')}` : ''}`], ['Brought in', `${moment(record.created_at)}${record.brought_in_by ? ` by ${record.brought_in_by}` : ''}`], ['Filed', record.filed_at ? moment(record.filed_at) : ''], ['Text', record.destroyed_at ? '' : record.text_reason]] as const as [name, value] (name)}
      {#if value}<div class="grid grid-cols-[120px_1fr] gap-3 border-t border-hair py-1">
          <dt class="quiet small pt-px">{name}</dt>
          <dd class="break-words" class:mono={name === 'Reference'}>{value}</dd>
        </div>{/if}
    {/each}
    {#if record.state === 'filed' && (record.language.code || record.may_change)}
      <div class="grid grid-cols-[120px_1fr] items-baseline gap-3 border-t border-hair py-1">
        <dt class="quiet small pt-px"><label for="text-language">Language</label></dt>
        <dd>
          {#if record.may_change}
            <select class="input" id="text-language" value={saidLanguage} onchange={(e) => void sayLanguage(e.currentTarget.value)}>
              <option value="">{languageName(record.language.told) || 'Not recognised'}{record.language.told ? ' (recognised)' : ''}</option
              >
              {#each languages as [code, name] (code)}<option value={code}>{name}</option>{/each}
            </select>
          {:else}{languageName(record.language.code)}{/if}
        </dd>
      </div>
    {/if}
  </dl>
  <Standings {reading} />
  {#if record.state === 'filed'}<Retention {reading} />{/if}
  {#if record.state === 'filed' && seesSight}<Sight document={record.ref} />{/if}
  {#if record.state === 'filed' && !record.redacted_only && !record.destroyed_at}
    {#key record.ref}<Copies document={record.ref}>{#snippet heading()}<h3 class="mt-4 text-[17px]">Copies</h3>{/snippet}</Copies>{/key}
  {/if}
  {#if record.state === 'filed' && !record.destroyed_at}<Versions {reading} />{#if !record.redacted_only}<Loans {reading} />{/if}{/if}
  <Remarks {reading} />
</section>
