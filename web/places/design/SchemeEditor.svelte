<script lang="ts">
  import { keys } from '@/state/keys.svelte';
  import { api } from '@/api/client';
  import type { TermCounts, Vocabulary } from '@/api/types';
  import { count } from '@/parts/format';
  import { inTreeOrder } from '@/parts/terms';
  import IconPlus from '@lucide/svelte/icons/plus';
  import { tick } from 'svelte';
  import ConceptActs from './ConceptActs.svelte';
  import ConceptDetails from './ConceptDetails.svelte';
  import ConceptTree from './ConceptTree.svelte';
  import { codeOf } from './codes';
  import { Editing } from './editing.svelte';
  import EditorFrame from './EditorFrame.svelte';
  import { SchemeTree } from './scheme.svelte';
  import { merge } from './terms';
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
  const tree = new SchemeTree({
    terms: () => editing.draft.terms,
    known,
    focus: async (what) => {
      await tick();
      document.getElementById(what === 'label' ? 'concept-label' : `concept-${tree.row?.key}`)?.focus();
    },
  });

  let counts = $state.raw<TermCounts>({ counts: {}, fields: [] });
  // svelte-ignore state_referenced_locally
  if (scheme)
    api.termCounts(scheme.code).then(
      (got) => (counts = got),
      () => {},
    );
  const of = (code: string) => counts.counts[code] ?? { own: 0, all: 0 };

  const concept = $derived(tree.concept);
  const items = $derived(inTreeOrder(draft.terms));

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
        <label class="heading" for="numbering">Notations</label>
        <select class="input" id="numbering" bind:value={draft.numbering}
          ><option value="given">typed</option><option value="position">made from the place in the tree</option></select
        >
      </div>
      <TextRow label="Base address for SKOS" mono value={draft.base} fault={editing.faults.base} oninput={(v) => (draft.base = v)} />
    </div>
    {#if editing.faults.terms}<p class="fault" role="alert">{editing.faults.terms}</p>{/if}
  </div>
  <div class="scheme mt-2 border-t border-hair">
    <div>
      <div class="flex items-baseline gap-3 py-1.5">
        <h3 class="flex-1 text-[17px]">Concepts <span class="num quiet">{count(draft.terms.length)}</span></h3>
        <span class="heading num w-16">own</span><span class="heading num w-20">with all below</span>
      </div>
      <ConceptTree {tree} {of} />
      <p class="mt-2 flex flex-wrap gap-2">
        <button class="btn" type="button" onclick={() => tree.add(tree.row?.under ?? null, concept?.code ?? null)}
          ><IconPlus size={14} strokeWidth={1.8} />Add beside</button
        >{#if concept}<button class="btn" type="button" onclick={() => tree.add(concept.code, null)}
            ><IconPlus size={14} strokeWidth={1.8} />Add below</button
          >{/if}
      </p>
      <p class="small quiet mt-1">Arrows move; with Alt they move the concept. Enter adds beside, Insert below, F2 renames. Or drag.</p>
    </div>
    <div class="min-w-0 border-l border-hair pl-5">
      {#if concept}
        <ConceptDetails {tree} {concept} numbering={draft.numbering} {items} />
        <ConceptActs {tree} {concept} {known} {items} {of} />
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
      tree.begin(terms);
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
</style>
