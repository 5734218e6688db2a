<script lang="ts">
  import { keys } from '@/state/keys.svelte';
  import { api } from '@/api/client';
  import type { Term, TermCounts, Vocabulary } from '@/api/types';
  import Combobox from '@/parts/Combobox.svelte';
  import { count, plural } from '@/parts/format';
  import { inTreeOrder, levelsOf, nameOf, parentsOf } from '@/parts/terms';
  import { app } from '@/state/app.svelte';
  import IconChevronRight from '@lucide/svelte/icons/chevron-right';
  import IconPlus from '@lucide/svelte/icons/plus';
  import { tick } from 'svelte';
  import CriterionEditor from './CriterionEditor.svelte';
  import { codeOf, Editing } from './editing.svelte';
  import EditorFrame from './EditorFrame.svelte';
  import { below, branch, freeCode, merge, place, reparent } from './terms';
  import TextRow from './TextRow.svelte';
  import VocabularyExchange from './VocabularyExchange.svelte';
  import NameAndCode from './NameAndCode.svelte';

  let { scheme }: { scheme: Vocabulary | null } = $props();
  // svelte-ignore state_referenced_locally
  const editing = new Editing<Vocabulary>('vocabularies', scheme, {
    code: '',
    name: '',
    scheme: true,
    depends_on: null,
    order: 'hand',
    numbering: 'given',
    base: '',
    terms: [],
    lock_version: 1,
  });
  const draft = $derived(editing.draft);
  const known = new Set(editing.original?.terms.map((t) => t.code));
  let at = $state(editing.original?.terms[0]?.code ?? '');
  /** Below which concept the one at hand is looked at, where it has several places. */
  let spot = $state<string | null>(null);
  /** A tree of more concepts than this begins closed. */
  const OPENED = 500;
  let open = $state<Record<string, boolean>>(
    Object.fromEntries(
      (editing.original?.terms ?? []).filter((t, _, all) => t.parent === null && all.length <= OPENED).map((t) => [t.code, true]),
    ),
  );
  let dragged = $state('');
  /** Below which concept the dragged one was taken up. */
  let taken: string | null = null;
  let over = $state<{ key: string; how: 'into' | 'after' } | null>(null);
  /** What a move, merge or split would touch, to be looked at before it is done. */
  let asked = $state<{ act: 'move' | 'merge' | 'split' | 'retire'; to: string; criterion: string } | null>(null);

  let counts = $state.raw<TermCounts>({ counts: {}, fields: [] });
  // svelte-ignore state_referenced_locally
  if (scheme)
    api.termCounts(scheme.code).then(
      (got) => (counts = got),
      () => {},
    );
  const of = (code: string) => counts.counts[code] ?? { own: 0, all: 0 };

  const concept = $derived(draft.terms.find((t) => t.code === at));
  const items = $derived(inTreeOrder(draft.terms));
  const dates = $derived([...app.design!.fields, ...app.design!.system_fields].filter((f) => f.kind === 'date'));
  /** The concepts in sight, with how deep each stands. */
  const rows = $derived.by(() => {
    const found: { term: Term; depth: number; parents: boolean; under: string | null; key: string }[] = [];
    const levels = levelsOf(draft.terms);
    const walk = (under: string | null, path: string[]) => {
      for (const term of levels.get(under ?? '') ?? []) {
        if (path.includes(term.code)) continue;
        const place = [...path, term.code];
        found.push({ term, depth: path.length, parents: levels.has(term.code), under, key: place.join('/') });
        if (open[term.code]) walk(term.code, place);
      }
    };
    walk(null, []);
    return found;
  });
  /** The row that is looked at: of several places of a concept the one that was gone to. */
  const row = $derived(rows.find((r) => r.term.code === at && r.under === spot) ?? rows.find((r) => r.term.code === at));

  async function focus(code: string, under = draft.terms.find((t) => t.code === code)?.parent ?? null) {
    at = code;
    spot = under;
    await tick();
    document.getElementById(`concept-${row?.key ?? code}`)?.focus();
  }
  async function add(parent: string | null, after: string | null) {
    const code = freeCode(draft.terms, 'concept');
    draft.terms.push({
      code,
      label: '',
      parent,
      synonyms: [],
      notation: '',
      note: '',
      related: [],
      matches: [],
      labels: {},
      retention: null,
      retired: false,
      replaced_by: null,
      from: null,
      under: [],
    });
    place(
      draft.terms,
      code,
      parent,
      after ??
        below(draft.terms, parent)
          .filter((t) => t.code !== code)
          .at(-1)?.code ??
        null,
    );
    if (parent) open[parent] = true;
    at = code;
    spot = parent;
    asked = null;
    await tick();
    document.getElementById('concept-label')?.focus();
  }
  function rename(term: Term, label: string) {
    // The code of a new concept follows its name; one that documents may have stays.
    if (!known.has(term.code)) {
      const code = freeCode(
        draft.terms.filter((t) => t !== term),
        codeOf(label) || 'concept',
      );
      for (const t of draft.terms) if (parentsOf(t).includes(term.code)) reparent(t, term.code, code);
      open[code] = open[term.code] ?? false;
      term.code = code;
      at = code;
    }
    term.label = label;
  }
  function remove(term: Term) {
    for (const t of below(draft.terms, term.code)) reparent(t, term.code, term.parent);
    const next =
      below(draft.terms, term.parent).find((t) => t.code !== term.code)?.code ??
      term.parent ??
      draft.terms.find((t) => t.code !== term.code)?.code ??
      '';
    draft.terms.splice(draft.terms.indexOf(term), 1);
    void focus(next);
  }
  function shift(term: Term, under: string | null, by: 1 | -1) {
    const list = below(draft.terms, under);
    const index = list.indexOf(term);
    if (by < 0 && index > 0) place(draft.terms, term.code, under, list[index - 2]?.code ?? null, under);
    if (by > 0 && index < list.length - 1) place(draft.terms, term.code, under, list[index + 1]!.code, under);
    void focus(term.code, under);
  }
  function keydown(event: KeyboardEvent, term: Term, under: string | null, placed: string) {
    const index = rows.findIndex((r) => r.key === placed);
    const key = event.key;
    if (event.altKey && key === 'ArrowUp') shift(term, under, -1);
    else if (event.altKey && key === 'ArrowDown') shift(term, under, 1);
    else if (event.altKey && key === 'ArrowRight') {
      const siblings = below(draft.terms, under);
      const before = siblings[siblings.indexOf(term) - 1];
      if (before) {
        place(draft.terms, term.code, before.code, below(draft.terms, before.code).at(-1)?.code ?? null, under);
        open[before.code] = true;
        void focus(term.code, before.code);
      }
    } else if (event.altKey && key === 'ArrowLeft') {
      const parent = draft.terms.find((t) => t.code === under);
      if (parent) {
        place(draft.terms, term.code, parent.parent ?? null, parent.code, under);
        void focus(term.code, parent.parent ?? null);
      }
    } else if (key === 'ArrowDown' || key === 'ArrowUp') {
      const next = rows[index + (key === 'ArrowDown' ? 1 : -1)];
      if (next) void focus(next.term.code, next.under);
    } else if (key === 'ArrowRight') open[term.code] = true;
    else if (key === 'ArrowLeft') {
      if (open[term.code]) open[term.code] = false;
      else if (under) void focus(under, rows.slice(0, index).findLast((r) => r.term.code === under)?.under ?? null);
    } else if (key === 'Home') void focus(rows[0]!.term.code, rows[0]!.under);
    else if (key === 'End') void focus(rows.at(-1)!.term.code, rows.at(-1)!.under);
    else if (key === 'Enter' && !event.ctrlKey) void add(under, term.code);
    else if (key === 'Insert') void add(term.code, null);
    else if (key === 'F2') document.getElementById('concept-label')?.focus();
    else if (key === 'Delete' && !known.has(term.code)) remove(term);
    else return;
    event.preventDefault();
  }
  function drop(event: DragEvent, term: Term, under: string | null) {
    event.preventDefault();
    if (dragged && over && dragged !== term.code) {
      if (over.how === 'into') {
        place(draft.terms, dragged, term.code, below(draft.terms, term.code).at(-1)?.code ?? null, taken);
        open[term.code] = true;
      } else place(draft.terms, dragged, under, term.code, taken);
      void focus(dragged, over.how === 'into' ? term.code : under);
    }
    dragged = '';
    over = null;
  }
  function act() {
    if (!asked || !concept) return;
    if (asked.act === 'move')
      place(draft.terms, concept.code, asked.to || null, below(draft.terms, asked.to || null).at(-1)?.code ?? null, row?.under);
    else if (asked.act === 'retire') {
      concept.retired = true;
      concept.replaced_by = asked.to || null;
    } else if (asked.act === 'merge') merge(draft.terms, concept.code, asked.to);
    else {
      const code = freeCode(draft.terms, codeOf(asked.to));
      draft.terms.push({
        code,
        label: asked.to,
        parent: concept.parent,
        also_below: [...(concept.also_below ?? [])],
        synonyms: [],
        notation: '',
        note: '',
        related: [],
        matches: [],
        labels: {},
        retention: concept.retention ?? null,
        retired: false,
        replaced_by: null,
        from: { code: concept.code, criterion: asked.criterion },
        under: [],
      });
      place(draft.terms, code, concept.parent ?? null, concept.code);
      at = code;
    }
    if (asked.act !== 'split' && asked.to) open[asked.to] = true;
    asked = null;
  }
  const within = $derived(concept ? branch(draft.terms, concept.code) : new Set<string>());
  const ready = $derived(
    asked !== null &&
      (asked.act === 'move' ||
        asked.act === 'retire' ||
        (asked.to.trim() !== '' && (asked.act === 'merge' || asked.criterion.trim() !== ''))),
  );

  keys.use(() => [
    { shown: 'Insert', what: 'A concept below' },
    { shown: 'Alt+↑ ↓', what: 'Move a concept among its neighbours' },
    { shown: 'Alt+← →', what: 'Move a concept out or in' },
  ]);
</script>

<EditorFrame {editing} title={draft.name} what="classification scheme" wide>
  <div>
    <div class="grid grid-cols-4 gap-x-4">
      <NameAndCode {editing} />
      <div class="py-1.5">
        <label class="heading" for="numbering">Notations are</label>
        <select class="input" id="numbering" bind:value={draft.numbering}
          ><option value="given">typed</option><option value="position">made from the place in the tree</option></select
        >
      </div>
      <TextRow label="Addresses in SKOS begin with" mono value={draft.base} fault={editing.faults.base} oninput={(v) => (draft.base = v)} />
    </div>
    {#if editing.faults.terms}<p class="fault" role="alert">{editing.faults.terms}</p>{/if}
  </div>
  <div class="scheme mt-2 border-t border-hair">
    <div>
      <div class="flex items-baseline gap-3 py-1.5">
        <h3 class="flex-1 text-[17px]">Concepts <span class="num quiet">{count(draft.terms.length)}</span></h3>
        <span class="heading num w-16">itself</span><span class="heading num w-20">with below</span>
      </div>
      <ul role="tree" aria-label="Concepts" class="tree">
        {#each rows as { term, depth, parents, under, key } (key)}
          <li
            role="treeitem"
            id={`concept-${key}`}
            aria-level={depth + 1}
            aria-expanded={parents ? !!open[term.code] : undefined}
            aria-selected={row?.key === key}
            aria-label={`${nameOf(term) || 'New concept'}, ${plural(of(term.code).all, 'document', 'documents')}`}
            tabindex={row?.key === key ? 0 : -1}
            class:at={row?.key === key}
            class:elsewhere={at === term.code && row?.key !== key}
            class:into={over?.key === key && over.how === 'into'}
            class:after={over?.key === key && over.how === 'after'}
            style={`padding-left:${depth * 18}px`}
            draggable="true"
            ondragstart={(e) => {
              dragged = term.code;
              taken = under;
              e.dataTransfer?.setData('text/plain', term.code);
            }}
            ondragover={(e) => {
              if (!dragged || branch(draft.terms, dragged).has(term.code)) return;
              e.preventDefault();
              const box = e.currentTarget.getBoundingClientRect();
              over = { key, how: e.clientY - box.top > box.height * 0.65 ? 'after' : 'into' };
            }}
            ondragend={() => {
              dragged = '';
              over = null;
            }}
            ondrop={(e) => drop(e, term, under)}
            onclick={() => {
              at = term.code;
              spot = under;
              asked = null;
            }}
            onkeydown={(e) => keydown(e, term, under, key)}
          >
            {#if parents}
              <span
                class="chevron"
                class:open={open[term.code]}
                role="presentation"
                onclick={(e) => {
                  e.stopPropagation();
                  open[term.code] = !open[term.code];
                }}><IconChevronRight size={13} strokeWidth={1.8} /></span
              >
            {:else}<span class="w-[17px] flex-none"></span>{/if}
            {#if term.notation}<span class="mono quiet flex-none">{term.notation}</span>{/if}
            <span class="min-w-0 flex-1 truncate" class:line-through={term.retired} class:quiet={term.retired || !term.label}
              >{term.label || 'New concept'}</span
            >
            <span class="num quiet small w-16">{of(term.code).own ? count(of(term.code).own) : ''}</span><span class="num w-20"
              >{of(term.code).all ? count(of(term.code).all) : ''}</span
            >
          </li>
        {/each}
      </ul>
      <p class="mt-2 flex flex-wrap gap-2">
        <button class="btn" type="button" onclick={() => add(row?.under ?? null, concept?.code ?? null)}
          ><IconPlus size={14} strokeWidth={1.8} />Beside it</button
        >{#if concept}<button class="btn" type="button" onclick={() => add(concept!.code, null)}
            ><IconPlus size={14} strokeWidth={1.8} />Below it</button
          >{/if}
      </p>
      <p class="small quiet mt-1">Arrows move; with Alt they move the concept. Enter adds beside, Insert below, F2 renames. Or drag.</p>
    </div>
    <div class="min-w-0 border-l border-hair pl-5">
      {#if concept}
        <h3 class="truncate pt-1.5 text-[17px]">{nameOf(concept) || 'New concept'}</h3>
        <div class="py-1.5">
          <label class="heading" for="concept-label">Label</label><input
            class="input"
            id="concept-label"
            value={concept.label}
            autocomplete="off"
            oninput={(e) => rename(concept!, e.currentTarget.value)}
            onkeydown={(e) => {
              if (e.key === 'Enter' && !e.ctrlKey) {
                e.preventDefault();
                void focus(concept!.code);
              }
            }}
          />
        </div>
        <TextRow
          label="Notation"
          mono
          value={concept.notation ?? ''}
          disabled={draft.numbering === 'position' && concept.parent !== null}
          oninput={(v) => (concept!.notation = v)}
        />
        <TextRow label="Scope note" rows={2} value={concept.note ?? ''} oninput={(v) => (concept!.note = v)} />
        <TextRow
          label="Also called"
          value={(concept.synonyms ?? []).join(', ')}
          help="With commas between; it is found and filled in by these too."
          oninput={(v) =>
            (concept!.synonyms = v
              .split(',')
              .map((s) => s.trimStart())
              .filter((s, i, all) => s !== '' || i === all.length - 1)
              .filter(Boolean))}
        />
        {#if concept.parent !== null}
          <div class="py-1.5">
            <span class="heading">Also below</span>
            {#each concept.also_below ?? [] as code (code)}<button
                class="link mr-3"
                type="button"
                title="Remove from there"
                onclick={() => (concept!.also_below = concept!.also_below!.filter((c) => c !== code))}
                >{items.find((i) => i.value === code)?.label ?? code} ✕</button
              >{/each}
            <Combobox
              label="Also below"
              placeholder="Add another place in the tree…"
              items={items.filter((i) => !within.has(i.value) && !parentsOf(concept!).includes(i.value))}
              value=""
              onchange={(v) => {
                if (v) {
                  concept!.also_below = [...(concept!.also_below ?? []), v];
                  open[v] = true;
                }
              }}
            />
          </div>
        {/if}
        <div class="py-1.5">
          <span class="heading">See also</span>
          {#each concept.related ?? [] as code (code)}<button
              class="link mr-3"
              type="button"
              title="Take out"
              onclick={() => (concept!.related = concept!.related!.filter((c) => c !== code))}
              >{items.find((i) => i.value === code)?.label ?? code} ✕</button
            >{/each}
          <Combobox
            label="See also"
            placeholder="Add…"
            items={items.filter((i) => i.value !== concept!.code && !concept!.related?.includes(i.value))}
            value=""
            onchange={(v) => {
              if (v) concept!.related = [...(concept!.related ?? []), v];
            }}
          />
        </div>
        <fieldset class="py-1.5">
          <legend class="heading">Retention</legend>
          <label class="flex items-center gap-1.5"
            ><input
              type="checkbox"
              class="check"
              checked={!!concept.retention}
              onchange={(e) =>
                (concept!.retention = e.currentTarget.checked ? { after: dates[0]?.code ?? 'created', years: 10, action: 'review' } : null)}
            />{concept.retention ? 'Has a rule of its own:' : 'As the concept above it'}</label
          >
          {#if concept.retention}
            <div class="mt-1 flex flex-wrap items-center gap-2">
              <input
                class="input num"
                style="width:64px"
                inputmode="numeric"
                aria-label="Years"
                value={concept.retention.years}
                onchange={(e) => (concept!.retention!.years = Math.min(999, Math.max(0, Number.parseInt(e.currentTarget.value) || 0)))}
              /><span>years after</span>
              <select class="input" style="width:auto" aria-label="After which date" bind:value={concept.retention.after}
                >{#each dates as f (f.code)}<option value={f.code}>{f.label}</option>{/each}</select
              >
              <select class="input" style="width:auto" aria-label="Then" bind:value={concept.retention.action}
                ><option value="review">review</option><option value="destroy">destroy</option><option value="keep">keep for ever</option
                ></select
              >
            </div>
          {/if}
        </fieldset>
        {#if Object.keys(concept.labels ?? {}).length > 0 || (concept.matches ?? []).length > 0}
          <p class="small quiet">
            {Object.entries(concept.labels ?? {})
              .map(([tag, label]) => `${tag}: ${label}`)
              .join(', ')}
            {#if concept.matches?.length}Same as {concept.matches.join(', ')}{/if}
          </p>
        {/if}
        {#if concept.retired}<p class="border-t border-hair py-1.5">
            Retired{concept.replaced_by
              ? `; documents are given “${items.find((i) => i.value === concept!.replaced_by)?.label}” instead`
              : ''}.
            <button
              class="link"
              type="button"
              onclick={() => {
                concept!.retired = false;
                concept!.replaced_by = null;
              }}>Bring it back</button
            >
          </p>{/if}
        <div class="mt-2 border-t border-hair pt-2">
          <p class="flex flex-wrap gap-x-4 gap-y-1">
            <button class="link" type="button" onclick={() => (asked = { act: 'move', to: row?.under ?? '', criterion: '' })}>Move…</button>
            {#if known.has(concept.code) && !concept.retired}
              <button class="link" type="button" onclick={() => (asked = { act: 'merge', to: '', criterion: '' })}>Merge into…</button>
              <button class="link" type="button" onclick={() => (asked = { act: 'split', to: '', criterion: '' })}>Split…</button>
              <button class="link" type="button" onclick={() => (asked = { act: 'retire', to: '', criterion: '' })}>Retire…</button>
            {/if}
            {#if of(concept.code).all === 0}<button class="link" type="button" onclick={() => remove(concept!)}>Take out</button>{/if}
          </p>
          {#if asked}
            <div
              class="mt-2 border-l-2 border-act pl-3"
              role="group"
              aria-label="Effect"
              {@attach (shown: HTMLElement) => shown.scrollIntoView({ block: 'nearest' })}
            >
              {#if asked.act === 'split'}
                <TextRow label="Name of the new concept" value={asked.to} oninput={(v) => (asked!.to = v)} />
                <CriterionEditor
                  label="Documents that go to it, of those that have this one"
                  criterion={asked.criterion}
                  onchange={(cql) => (asked!.criterion = cql)}
                />
              {:else}
                <label class="heading" for="concept-to"
                  >{asked.act === 'move' ? 'Below' : asked.act === 'retire' ? 'Replacement, if there is one' : 'Into'}</label
                >
                <Combobox
                  id="concept-to"
                  label={asked.act === 'move' ? 'Below' : asked.act === 'retire' ? 'Replacement, if there is one' : 'Into'}
                  placeholder={asked.act === 'move'
                    ? 'At the top'
                    : asked.act === 'retire'
                      ? 'None: documents keep it'
                      : 'Choose a concept'}
                  items={items.filter(
                    (i) => !within.has(i.value) && !(asked!.act !== 'move' && draft.terms.find((t) => t.code === i.value)?.retired),
                  )}
                  value={asked.to}
                  onchange={(v) => (asked!.to = v)}
                />
              {/if}
              <p class="mt-1">
                {#if asked.act === 'move'}{plural(of(concept.code).all, 'document', 'documents')} in {plural(
                    within.size,
                    'concept',
                    'concepts',
                  )} would stand elsewhere in the tree.{:else if asked.act === 'retire'}{@const kept = plural(
                    of(concept.code).own,
                    'document',
                    'documents',
                  )}{asked.to
                    ? `${kept} would be given “${items.find((i) => i.value === asked!.to)?.label ?? ''}” instead.`
                    : `${kept} would keep this concept; it could not be chosen any more.`}{within.size > 1
                    ? ` The ${plural(within.size - 1, 'concept', 'concepts')} below it stay.`
                    : ''}{:else if asked.act === 'merge'}{plural(of(concept.code).own, 'document', 'documents')} would be given the other concept;
                  {plural(within.size - 1, 'concept', 'concepts')} below it go along.{:else}{plural(
                    of(concept.code).own,
                    'document has',
                    'documents have',
                  )} this concept now.{/if}
              </p>
              <p class="mt-1 flex gap-2">
                <button class="btn btn-main" type="button" disabled={!ready} onclick={act}
                  >{{ move: 'Move concept', merge: 'Merge concept', split: 'Split concept', retire: 'Retire concept' }[asked.act]}</button
                ><button class="btn" type="button" onclick={() => (asked = null)}>Cancel</button>
              </p>
            </div>
          {/if}
        </div>
      {:else}<p class="quiet py-2">A scheme is a tree of concepts. Add the first one, or take in a SKOS file below.</p>{/if}
    </div>
  </div>
  <VocabularyExchange
    vocabulary={draft}
    isNew={editing.isNew}
    ontake={(taken) => {
      const { terms, base, name } = taken;
      draft.terms = terms;
      if (editing.isNew) {
        draft.base = base;
        if (!draft.name) {
          draft.name = name;
          draft.code = codeOf(name);
        }
      }
      at = terms[0]?.code ?? '';
      for (const t of terms) if (t.parent === null) open[t.code] = true;
    }}
    onmerge={(from, into) => merge(draft.terms, from, into)}
  />
</EditorFrame>

<style>
  .scheme {
    display: grid;
    grid-template-columns: minmax(0, 1fr) minmax(260px, 320px);
    gap: 20px;
  }
  .tree li {
    display: flex;
    align-items: center;
    gap: 6px;
    min-height: 27px;
    padding-right: 4px;
    border-top: 1px solid color-mix(in srgb, var(--hair) 55%, transparent);
    cursor: default;
  }
  .tree li:hover {
    background: color-mix(in srgb, var(--act-tint) 45%, transparent);
  }
  .tree li.at {
    background: var(--act-tint);
    box-shadow: inset 3px 0 0 var(--act);
  }
  .tree li.elsewhere {
    background: color-mix(in srgb, var(--act-tint) 55%, transparent);
  }
  .tree li.into {
    outline: 2px solid var(--act);
    outline-offset: -2px;
  }
  .tree li.after {
    box-shadow: inset 0 -2px 0 var(--act);
  }
  .tree li:focus-visible {
    outline-offset: -2px;
  }
  .chevron {
    flex: none;
    padding: 2px;
    color: var(--quiet);
    cursor: pointer;
  }
  .chevron.open :global(svg) {
    transform: rotate(90deg);
  }
</style>
