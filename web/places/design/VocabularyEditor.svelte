<script lang="ts">
  import { api } from '@/api/client';
  import type { Term, TermCounts, Vocabulary } from '@/api/types';
  import IconArrowDown from '@lucide/svelte/icons/arrow-down';
  import IconArrowUp from '@lucide/svelte/icons/arrow-up';
  import IconIndentDecrease from '@lucide/svelte/icons/list-indent-decrease';
  import IconIndentIncrease from '@lucide/svelte/icons/list-indent-increase';
  import IconPlus from '@lucide/svelte/icons/plus';
  import IconX from '@lucide/svelte/icons/x';
  import { flushSync } from 'svelte';
  import VocabularyExchange from './VocabularyExchange.svelte';
  import Combobox from '@/parts/Combobox.svelte';
  import { plural } from '@/parts/format';
  import { parentsOf } from '@/parts/terms';
  import { app } from '@/state/app.svelte';
  import { choicesOf } from '@/state/choices.svelte';
  import { codeOf } from './codes';
  import { Editing } from './editing.svelte';
  import EditorFrame from './EditorFrame.svelte';
  import { merge, reparent } from './terms';
  import NameAndCode from './NameAndCode.svelte';

  let { vocabulary }: { vocabulary: Vocabulary | null } = $props();
  // svelte-ignore state_referenced_locally
  const editing = new Editing<Vocabulary>('vocabularies', vocabulary, {
    code: '',
    name: '',
    scheme: false,
    depends_on: null,
    order: 'hand',
    numbering: 'given',
    base: '',
    terms: [],
    lock_version: 1,
  });
  const draft = $derived(editing.draft);
  const known = new Set(editing.original?.terms.map((t) => t.code));
  /** What retiring a term would do, to be looked at before it is done. */
  let retiring = $state<{ code: string; to: string } | null>(null);
  let counts = $state.raw<TermCounts>({ counts: {}, fields: [] });
  // svelte-ignore state_referenced_locally
  if (vocabulary)
    api.termCounts(vocabulary.code).then(
      (got) => (counts = got),
      () => {},
    );
  const choices = $derived(app.design!.fields.filter((f) => f.kind === 'choice' && f.vocabulary !== draft.code));
  const depends = $derived(
    draft.depends_on
      ? choicesOf(
          app.design!.fields.find((f) => f.code === draft.depends_on)!,
          { retired: true },
        )
      : undefined,
  );
  const parents = $derived(depends?.items ?? []);
  const parentName = (code: string) => depends?.source?.label(code) ?? parents.find((p) => p.value === code)?.label ?? code;

  function depth(term: Term): number {
    let steps = 0;
    for (let at: Term | undefined = term; at?.parent && steps < 20; steps++) at = draft.terms.find((t) => t.code === at!.parent);
    return steps;
  }
  function rename(index: number, label: string) {
    const term = draft.terms[index]!;
    if (!known.has(term.code)) {
      let code = codeOf(label) || `term_${index + 1}`;
      while (draft.terms.some((t, i) => i !== index && t.code === code)) code += '_';
      for (const below of draft.terms.filter((t) => parentsOf(t).includes(term.code))) reparent(below, term.code, code);
      term.code = code;
    }
    term.label = label;
  }
  function add() {
    draft.terms.push({ code: `new_${draft.terms.length + 1}`, label: '', parent: draft.terms.at(-1)?.parent ?? null, synonyms: [] });
    // At once: the next key typed belongs to the new term.
    flushSync();
    document.getElementById(`term-${draft.terms.length - 1}`)?.focus();
  }
  function move(index: number, by: number) {
    const [term] = draft.terms.splice(index, 1);
    draft.terms.splice(index + by, 0, term!);
  }
  function indent(index: number) {
    const term = draft.terms[index]!;
    const level = depth(term);
    const above = draft.terms
      .slice(0, index)
      .reverse()
      .find((t) => depth(t) === level);
    if (above) term.parent = above.code;
  }
  function outdent(index: number) {
    const term = draft.terms[index]!;
    term.parent = draft.terms.find((t) => t.code === term.parent)?.parent ?? null;
  }
  function remove(index: number) {
    const [term] = draft.terms.splice(index, 1);
    for (const below of draft.terms.filter((t) => parentsOf(t).includes(term!.code))) reparent(below, term!.code, term!.parent);
  }
  const labelOf = (code: string) => draft.terms.find((t) => t.code === code)?.label ?? '';
  function retire(term: Term) {
    term.retired = true;
    term.replaced_by = retiring!.to || null;
    retiring = null;
  }
  function keydown(event: KeyboardEvent, index: number) {
    if (event.key === 'Enter' && !event.ctrlKey) {
      event.preventDefault();
      add();
    } else if (event.altKey && event.key === 'ArrowRight') indent(index);
    else if (event.altKey && event.key === 'ArrowLeft') outdent(index);
    else return;
    event.preventDefault();
  }
</script>

<EditorFrame {editing} title={draft.name} what="vocabulary">
  <NameAndCode {editing} />
  <div class="grid grid-cols-2 gap-4">
    <div class="py-1.5">
      <label class="heading" for="term-order">Terms are listed</label>
      <select class="input" id="term-order" bind:value={draft.order}
        ><option value="hand">as they stand here</option><option value="name">by name</option></select
      >
    </div>
    <div class="py-1.5">
      <label class="heading" for="depends-on">The choice depends on</label>
      <select
        class="input"
        id="depends-on"
        value={draft.depends_on ?? ''}
        onchange={(e) => (draft.depends_on = e.currentTarget.value || null)}
      >
        <option value="">no other field</option>
        {#each choices as f (f.code)}<option value={f.code}>{f.label}</option>{/each}
      </select>
      {#if editing.faults.depends_on}<p class="fault" role="alert">{editing.faults.depends_on}</p>{/if}
    </div>
  </div>
  <h3 class="heading mt-2">Terms</h3>
  <ol>
    {#each draft.terms as term, i (term)}
      <li class="border-t border-hair py-0.5" style={`padding-left:${depth(term) * 22}px`}>
        <div class="flex items-center gap-1">
          <input
            class="input min-w-0 flex-1"
            class:line-through={term.retired}
            title={`Code ${term.code}`}
            id={`term-${i}`}
            value={term.label}
            aria-label={`Term ${i + 1}`}
            oninput={(e) => rename(i, e.currentTarget.value)}
            onkeydown={(e) => keydown(e, i)}
          />
          <input
            class="input small"
            style="width:128px"
            placeholder="synonyms…"
            value={(term.synonyms ?? []).join(', ')}
            aria-label={`Synonyms of ${term.label || `term ${i + 1}`}, separate with commas`}
            onchange={(e) =>
              (term.synonyms = e.currentTarget.value
                .split(',')
                .map((s) => s.trim())
                .filter(Boolean))}
            onkeydown={(e) => keydown(e, i)}
          />
          <button
            class="icon-btn"
            type="button"
            onclick={() => outdent(i)}
            disabled={!term.parent}
            aria-label={`${term.label} one level up`}
            title="One level up (Alt+←)"><IconIndentDecrease size={15} strokeWidth={1.7} /></button
          >
          <button
            class="icon-btn"
            type="button"
            onclick={() => indent(i)}
            disabled={i === 0}
            aria-label={`${term.label} below the term before it`}
            title="Below the term before it (Alt+→)"><IconIndentIncrease size={15} strokeWidth={1.7} /></button
          >
          <button
            class="icon-btn"
            type="button"
            onclick={() => move(i, -1)}
            disabled={i === 0}
            aria-label={`Move ${term.label} up`}
            title="Up"><IconArrowUp size={15} strokeWidth={1.7} /></button
          >
          <button
            class="icon-btn"
            type="button"
            onclick={() => move(i, 1)}
            disabled={i === draft.terms.length - 1}
            aria-label={`Move ${term.label} down`}
            title="Down"><IconArrowDown size={15} strokeWidth={1.7} /></button
          >
          <button class="icon-btn" type="button" onclick={() => remove(i)} aria-label={`Remove ${term.label}`} title="Remove"
            ><IconX size={15} strokeWidth={1.7} /></button
          >
        </div>
        {#if known.has(term.code) || draft.depends_on}
          <details class="pb-1 pl-2">
            <summary class="small quiet cursor-pointer py-1"
              >{[
                term.retired
                  ? `retired${term.replaced_by ? `, ${draft.terms.find((t) => t.code === term.replaced_by)?.label ?? ''} instead` : ''}`
                  : '',
                term.under?.length ? `under ${term.under.map(parentName).join(', ')}` : '',
              ]
                .filter(Boolean)
                .join('; ') || 'More'}</summary
            >
            <div class="flex flex-wrap items-end gap-4 pb-1">
              {#if term.retired}
                <p class="small min-h-8 flex-1">
                  Nobody can choose it any more{term.replaced_by
                    ? `; documents are given “${labelOf(term.replaced_by)}” instead`
                    : '; documents keep it'}.
                  <button
                    class="link"
                    type="button"
                    onclick={() => {
                      term.retired = false;
                      term.replaced_by = null;
                    }}>Bring back</button
                  >
                </p>
              {:else if retiring?.code === term.code}
                <div class="w-full border-l-2 border-act pl-3" role="group" aria-label={`Retire ${term.label}`}>
                  <span class="heading">Replacement, if there is one</span>
                  <div class="w-72">
                    <Combobox
                      label={`Replacement of ${term.label}`}
                      placeholder="None: documents keep it"
                      items={draft.terms.filter((t) => t.code !== term.code && !t.retired).map((t) => ({ value: t.code, label: t.label }))}
                      value={retiring.to}
                      onchange={(v) => (retiring!.to = v)}
                    />
                  </div>
                  <p class="mt-1">
                    {plural(counts.counts[term.code]?.own ?? 0, 'document', 'documents')} would {retiring.to
                      ? `be given “${labelOf(retiring.to)}” instead.`
                      : 'keep this term; it could not be chosen any more.'}
                  </p>
                  <p class="mt-1 flex gap-2">
                    <button class="btn btn-main" type="button" onclick={() => retire(term)}>Retire term</button><button
                      class="btn"
                      type="button"
                      onclick={() => (retiring = null)}>Cancel</button
                    >
                  </p>
                </div>
              {:else if known.has(term.code)}<button
                  class="link small min-h-8"
                  type="button"
                  onclick={() => (retiring = { code: term.code, to: '' })}>Retire…</button
                >{/if}
              {#if draft.depends_on}
                <div class="w-52">
                  <span class="heading">May be chosen under</span>
                  <Combobox
                    label={`${term.label} may be chosen under`}
                    placeholder={term.under?.length ? 'one more…' : 'everything'}
                    items={parents.filter((p) => !term.under?.includes(p.value))}
                    source={depends?.source}
                    value=""
                    onchange={(v) => {
                      if (v) term.under = [...(term.under ?? []), v];
                    }}
                  />
                  {#each term.under ?? [] as u (u)}<button
                      class="link small mr-2"
                      type="button"
                      title="Remove"
                      onclick={() => (term.under = term.under!.filter((o) => o !== u))}>{parentName(u)} ✕</button
                    >{/each}
                </div>
              {/if}
            </div>
          </details>
        {/if}
      </li>
    {/each}
  </ol>
  <button class="btn mt-2" type="button" onclick={add}><IconPlus size={14} strokeWidth={1.8} />Add a term</button>
  {#if editing.faults.terms}<p class="fault mt-1" role="alert">{editing.faults.terms}</p>{/if}
  <VocabularyExchange
    vocabulary={draft}
    isNew={editing.isNew}
    ontake={(taken) => {
      draft.terms = taken.terms;
      if (editing.isNew && !draft.name) draft.name = taken.name;
    }}
    onmerge={(from, into) => merge(draft.terms, from, into)}
  />
</EditorFrame>
