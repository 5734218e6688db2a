<script lang="ts">
  import { plural } from '@/parts/format';
  import { api, messageOf } from '@/api/client';
  import type { Vocabulary } from '@/api/types';
  import { count } from '@/parts/format';
  import { app } from '@/state/app.svelte';
  import { router } from '@/state/router.svelte';
  import { onDestroy, onMount } from 'svelte';
  import { draft } from './draft.svelte';
  import AccessEditor from './AccessEditor.svelte';
  import DossierKindEditor from './DossierKindEditor.svelte';
  import EffectPanel from './EffectPanel.svelte';
  import FieldEditor from './FieldEditor.svelte';
  import FormEditor from './FormEditor.svelte';
  import LibraryEditor from './LibraryEditor.svelte';
  import People from './People.svelte';
  import Propose from './Propose.svelte';
  import RepositoryEditor from './RepositoryEditor.svelte';
  import SchemeEditor from './SchemeEditor.svelte';
  import ProcedureEditor from './ProcedureEditor.svelte';
  import ReadingEditor from './ReadingEditor.svelte';
  import SourceEditor from './SourceEditor.svelte';
  import TableEditor from './TableEditor.svelte';
  import TypeEditor from './TypeEditor.svelte';
  import ViewEditor from './ViewEditor.svelte';
  import WorkFormEditor from './WorkFormEditor.svelte';
  import VocabularyEditor from './VocabularyEditor.svelte';
  import IconPlus from '@lucide/svelte/icons/plus';

  // Here the design is the draft; everywhere else it is what is published.
  let ready = $state(false);
  onMount(async () => {
    await draft.load();
    ready = true;
  });
  onDestroy(() => {
    draft.stop();
    void app.loadDesign();
  });

  interface Entry {
    code: string;
    name: string;
    hint: string;
  }

  const design = $derived(app.design!);
  /** Places here; schemes are vocabularies that have more to say. */
  const kinds = [
    'fields',
    'types',
    'vocabularies',
    'schemes',
    'tables',
    'views',
    'forms',
    'dossier_kinds',
    'libraries',
    'repositories',
    'access',
    'sources',
    'readings',
    'procedures',
    'work_forms',
    'people',
  ] as const;
  type Kind = (typeof kinds)[number];
  const names: Record<Kind, string> = {
    fields: 'Fields',
    types: 'Document types',
    vocabularies: 'Vocabularies',
    schemes: 'Schemes',
    tables: 'Reference tables',
    views: 'Views',
    forms: 'Search forms',
    dossier_kinds: 'Dossier kinds',
    libraries: 'Libraries',
    repositories: 'Repositories',
    access: 'Access rules',
    sources: 'Sources',
    readings: 'Reading rules',
    procedures: 'Procedures',
    work_forms: 'Work forms',
    people: 'People',
  };
  const empty: Record<Kind, string> = {
    fields: 'A field is a property of documents, such as a date or a vessel. Create the first one.',
    types: 'A document type says which fields a document has. Create the first one.',
    vocabularies: 'A vocabulary is a list of terms for choice fields. Create the first one.',
    schemes:
      'A classification scheme is a tree of concepts by which documents are classified. Create the first one, or import a SKOS file.',
    tables: 'A reference table fills several fields from the value of one. Create the first one.',
    views: 'A view is a saved way to look at documents. Create the first one.',
    forms: 'A search form asks for a few fields of a library or type. Create the first one.',
    dossier_kinds: 'A dossier kind says what the dossiers of one sort have: fields, sections, documents. Create the first one.',
    libraries: 'A library groups similar documents. Create the first one.',
    repositories: 'A repository holds libraries. Create the first one.',
    access: 'An access rule limits who may see, file or change certain documents. Create the first one.',
    sources: 'A source brings documents in by itself, such as a folder that a scanner fills. Create the first one.',
    readings: 'A reading rule reads values of a field out of the text, such as the date behind “Inspected on”. Create the first one.',
    procedures:
      'A procedure says how documents of a type are handled: who looks at them, what they may decide, where they go. Create the first one.',
    work_forms:
      'A work form is filled in by people outside, without an account: an application, the report of a fault. Create the first one.',
    people: '',
  };
  const kind = $derived(kinds.find((k) => k === router.parts[1]) ?? 'fields');
  const code = $derived(router.parts[2] ?? '');
  const isProposing = $derived(router.parts[1] === 'table');
  let filter = $state('');

  const flat = $derived(design.vocabularies.filter((v) => !v.scheme));
  const schemes = $derived(design.vocabularies.filter((v) => v.scheme));
  const views = $derived(design.views.filter((v) => !v.own));
  const entries = $derived.by((): Entry[] => {
    switch (kind) {
      case 'fields':
        return design.fields.map((f) => ({ code: f.code, name: f.label, hint: design.kinds.find((k) => k.value === f.kind)?.label ?? '' }));
      case 'types':
        return design.types.map((t) => ({ code: t.code, name: t.name, hint: plural(t.fields.length, 'field', 'fields') }));
      case 'vocabularies':
        return flat.map((v) => ({ code: v.code, name: v.name, hint: `${count(v.term_count ?? 0)} terms` }));
      case 'schemes':
        return schemes.map((v) => ({ code: v.code, name: v.name, hint: `${count(v.term_count ?? 0)} concepts` }));
      case 'tables':
        return design.tables.map((t) => ({
          code: t.code,
          name: t.name,
          hint: t.source === 'outside' ? 'outside' : `${t.row_count ?? 0} rows`,
        }));
      case 'views':
        return views.map((v) => ({
          code: v.code,
          name: v.name,
          hint: v.levels.length > 0 ? plural(v.levels.length, 'level', 'levels') : '',
        }));
      case 'forms':
        return design.forms.map((f) => ({ code: f.code, name: f.name, hint: plural(f.fields.length, 'field', 'fields') }));
      case 'dossier_kinds':
        return design.dossier_kinds.map((d) => ({ code: d.code, name: d.name, hint: `${d.sections.length} sections` }));
      case 'libraries':
        return design.libraries.map((l) => ({
          code: l.code,
          name: l.name,
          hint: design.repositories.find((r) => r.code === l.repository)?.name ?? '',
        }));
      case 'repositories':
        return design.repositories.map((r) => ({ code: r.code, name: r.name, hint: r.address ? 'remote' : '' }));
      case 'access':
        return design.access.map((r) => ({ code: r.code, name: r.name, hint: r.acts.join(', ') }));
      case 'sources':
        return design.sources.map((s) => ({ code: s.code, name: s.name, hint: app.library(s.library)?.name ?? '' }));
      case 'readings':
        return design.readings.map((r) => ({ code: r.code, name: r.name, hint: app.label(r.field) }));
      case 'procedures':
        return design.procedures.map((p) => ({ code: p.code, name: p.name, hint: plural(p.steps?.length ?? 0, 'step', 'steps') }));
      case 'work_forms':
        return design.work_forms.map((f) => ({ code: f.code, name: f.name, hint: app.library(f.library)?.name ?? '' }));
      default:
        return [];
    }
  });
  const numbers = $derived<Record<Kind, number | null>>({
    fields: design.fields.length,
    types: design.types.length,
    vocabularies: flat.length,
    schemes: schemes.length,
    tables: design.tables.length,
    views: views.length,
    forms: design.forms.length,
    dossier_kinds: design.dossier_kinds.length,
    libraries: design.libraries.length,
    repositories: design.repositories.length,
    access: design.access.length,
    sources: design.sources.length,
    readings: design.readings.length,
    procedures: design.procedures.length,
    work_forms: design.work_forms.length,
    people: null,
  });
  // A tree needs the room that the list of schemes would take.
  const roomy = $derived((kind === 'schemes' || kind === 'procedures') && code !== '');
  const partKind = $derived(kind === 'schemes' ? 'vocabularies' : kind);
  const changed = $derived(new Set(draft.changes.map((c) => `${c.kind}/${c.code}`)));
  const kept = $derived(
    new Set(
      partKind === 'people'
        ? []
        : (design[partKind] as { code: string; kept_by?: string[] }[]).filter((p) => (p.kept_by ?? []).length > 0).map((p) => p.code),
    ),
  );
  const shown = $derived(entries.filter((e) => `${e.name} ${e.code}`.toLowerCase().includes(filter.trim().toLowerCase())));
  const known = $derived(code === 'new' || entries.some((e) => e.code === code));
  const find = <T extends { code: string }>(list: T[]) => list.find((e) => e.code === code) ?? null;
  /** The vocabulary that is edited, with all its terms: the design has those of a large one only by their number. */
  let whole = $state.raw<{ vocabulary: Vocabulary | null; fault: string }>({ vocabulary: null, fault: '' });
  const listed = $derived(partKind === 'vocabularies' ? find(design.vocabularies) : null);
  const isLarge = $derived(listed !== null && listed.terms.length < (listed.term_count ?? 0));
  $effect(() => {
    if (!isLarge || !listed) return;
    const wanted = listed;
    whole = { vocabulary: null, fault: '' };
    api.part<Vocabulary>('vocabularies', wanted.code).then(
      (got) => {
        if (wanted === listed) whole = { vocabulary: { ...wanted, ...got }, fault: '' };
      },
      (error) => {
        if (wanted === listed) whole = { vocabulary: null, fault: messageOf(error, 'The terms could not be loaded. Open it again.') };
      },
    );
  });
  const vocabulary = $derived(isLarge ? whole.vocabulary : listed);

  // A saved change is a new start for the form.
  const stamp = $derived(
    partKind === 'people'
      ? 0
      : ((design[partKind] as { code: string; lock_version: number }[]).find((e) => e.code === code)?.lock_version ?? 0),
  );
</script>

<div class="design">
  <nav class="border-r border-hair px-2 py-4" aria-label="Parts of the design">
    <h1 class="mb-2 px-2 text-[22px]">Design</h1>
    {#each kinds as k (k)}
      <a
        class="part"
        class:here={kind === k && !isProposing}
        href={`/design/${k}`}
        aria-current={kind === k && !isProposing ? 'page' : undefined}
        ><span class="flex-1">{names[k]}</span><span class="num quiet">{numbers[k] ?? ''}</span></a
      >
    {/each}
    <a class="part mt-3 border-t border-hair" class:here={isProposing} href="/design/table" aria-current={isProposing ? 'page' : undefined}
      >Propose a design…</a
    >
  </nav>
  {#if isProposing}
    <section class="min-h-0 bg-sheet span" aria-label="A design from a table">
      {#if ready}<Propose />{/if}
    </section>
  {:else if kind === 'people'}
    <section class="min-h-0 bg-sheet span" aria-label="People and groups">
      {#if ready}<People />{/if}
    </section>
  {:else}
    {#if !roomy}
      <section class="flex min-h-0 flex-col border-r border-hair" aria-label={names[kind]}>
        <div class="flex items-center gap-2 px-4 pt-4 pb-2">
          <input class="input" type="search" aria-label={`Search ${names[kind].toLowerCase()}`} placeholder="Search" bind:value={filter} />
          <a class="btn" href={`/design/${kind}/new`}><IconPlus size={14} strokeWidth={1.8} />New</a>
        </div>
        <ul class="min-h-0 flex-1 overflow-y-auto pb-4">
          {#each shown as entry (entry.code)}
            <li>
              <a
                class="entry"
                class:here={entry.code === code}
                href={`/design/${kind}/${entry.code}`}
                aria-current={entry.code === code ? 'true' : undefined}
              >
                <span class="block truncate text-ink"
                  >{entry.name}{#if changed.has(`${partKind}/${entry.code}`)}<span class="small quiet">&ensp;in draft</span
                    >{/if}{#if kept.has(entry.code)}<span class="small quiet">&ensp;kept to others</span>{/if}</span
                >
                <span class="small quiet flex"><span class="mono flex-1 truncate">{entry.code}</span>{entry.hint}</span>
              </a>
            </li>
          {:else}
            <li class="quiet px-4 py-3">{filter ? `Nothing is called “${filter}”.` : empty[kind]}</li>
          {/each}
        </ul>
      </section>
    {/if}
    <section class="min-h-0 bg-sheet" class:span={roomy} aria-label="Editor">
      {#if !ready}
        <p class="quiet p-8">Opening the draft…</p>
      {:else if code === ''}
        <p class="quiet p-8">Choose one on the left, or make a new one.</p>
      {:else if !known}
        <p class="quiet p-8">There is no “{code}” here.</p>
      {:else if isLarge && whole.vocabulary?.code !== code}
        <p class="p-8" class:quiet={!whole.fault} class:fault={!!whole.fault} role="status">
          {whole.fault || `Loading ${count(listed?.term_count ?? 0)} terms…`}
        </p>
      {:else}
        {#key `${kind}/${code}/${stamp}`}
          {#if kind === 'fields'}<FieldEditor field={find(design.fields)} />
          {:else if kind === 'types'}<TypeEditor type={find(design.types)} />
          {:else if kind === 'vocabularies'}<VocabularyEditor {vocabulary} />
          {:else if kind === 'schemes'}<SchemeEditor scheme={vocabulary} />
          {:else if kind === 'tables'}<TableEditor table={find(design.tables)} />
          {:else if kind === 'views'}<ViewEditor view={find(views)} />
          {:else if kind === 'forms'}<FormEditor form={find(design.forms)} />
          {:else if kind === 'dossier_kinds'}<DossierKindEditor kind={find(design.dossier_kinds)} />
          {:else if kind === 'libraries'}<LibraryEditor library={find(design.libraries)} />
          {:else if kind === 'sources'}<SourceEditor source={find(design.sources)} />
          {:else if kind === 'readings'}<ReadingEditor rule={find(design.readings)} />
          {:else if kind === 'procedures'}<ProcedureEditor procedure={find(design.procedures)} />
          {:else if kind === 'work_forms'}<WorkFormEditor form={find(design.work_forms)} />
          {:else if kind === 'access'}<AccessEditor rule={find(design.access)} />
          {:else}<RepositoryEditor repository={find(design.repositories)} />{/if}
        {/key}
      {/if}
    </section>
  {/if}
  <div class="border-l border-hair min-h-0"><EffectPanel /></div>
</div>

<style>
  .design {
    display: grid;
    height: 100%;
    grid-template-columns: 156px 206px minmax(0, 1fr) 276px;
  }
  .span {
    grid-column: 2 / 4;
  }
  .part {
    display: flex;
    padding: 5px 8px;
    color: var(--ink);
    border-radius: 3px;
    text-decoration: none;
  }
  .part:hover,
  .entry:hover {
    background: var(--act-tint);
  }
  .part.here {
    font-weight: 600;
    box-shadow: inset 3px 0 0 var(--act);
  }
  .entry {
    display: block;
    padding: 5px 16px;
    border-top: 1px solid var(--hair);
    text-decoration: none;
  }
  .entry.here {
    background: var(--act-tint);
    box-shadow: inset 3px 0 0 var(--act);
  }
  @media (max-width: 900px) {
    .design {
      display: block;
      overflow-y: auto;
    }
  }
</style>
