<script lang="ts">
  import type { Term } from '@/api/types';
  import Combobox from '@/parts/Combobox.svelte';
  import { plural } from '@/parts/format';
  import type { Choice } from '@/parts/terms';
  import CriterionEditor from './CriterionEditor.svelte';
  import type { SchemeTree } from './scheme.svelte';
  import TextRow from './TextRow.svelte';

  interface Props {
    tree: SchemeTree;
    concept: Term;
    /** Concepts that documents may have already. */
    known: Set<string>;
    items: Choice[];
    /** How many documents have a concept itself, and with all below it. */
    of: (code: string) => { own: number; all: number };
  }
  let { tree, concept, known, items, of }: Props = $props();
  const asked = $derived(tree.asked);
</script>

<div class="mt-2 border-t border-hair pt-2">
  <p class="flex flex-wrap gap-x-4 gap-y-1">
    <button class="link" type="button" onclick={() => tree.ask('move')}>Move…</button>
    {#if known.has(concept.code) && !concept.retired}
      <button class="link" type="button" onclick={() => tree.ask('merge')}>Merge into…</button>
      <button class="link" type="button" onclick={() => tree.ask('split')}>Split…</button>
      <button class="link" type="button" onclick={() => tree.ask('retire')}>Retire…</button>
    {/if}
    {#if of(concept.code).all === 0}<button class="link" type="button" onclick={() => tree.remove(concept)}>Remove</button>{/if}
  </p>
  {#if asked}
    <div
      class="mt-2 border-l-2 border-act pl-3"
      role="group"
      aria-label="Effect"
      {@attach (shown: HTMLElement) => shown.scrollIntoView({ block: 'nearest' })}
    >
      {#if asked.act === 'split'}
        <TextRow label="Name of the new concept" value={asked.to} oninput={(v) => (asked.to = v)} />
        <CriterionEditor
          label="Documents that go to it, of those that have this one"
          criterion={asked.criterion}
          onchange={(cql) => (asked.criterion = cql)}
        />
      {:else}
        <label class="heading" for="concept-to"
          >{asked.act === 'move' ? 'Below' : asked.act === 'retire' ? 'Replacement, if there is one' : 'Into'}</label
        >
        <Combobox
          id="concept-to"
          label={asked.act === 'move' ? 'Below' : asked.act === 'retire' ? 'Replacement, if there is one' : 'Into'}
          placeholder={asked.act === 'move' ? 'At the top' : asked.act === 'retire' ? 'None: documents keep it' : 'Choose a concept'}
          items={items.filter(
            (i) => !tree.within.has(i.value) && !(asked.act !== 'move' && tree.terms.find((t) => t.code === i.value)?.retired),
          )}
          value={asked.to}
          onchange={(v) => (asked.to = v)}
        />
      {/if}
      <p class="mt-1">
        {#if asked.act === 'move'}{plural(of(concept.code).all, 'document', 'documents')} in {plural(
            tree.within.size,
            'concept',
            'concepts',
          )} would stand elsewhere in the tree.{:else if asked.act === 'retire'}{@const kept = plural(
            of(concept.code).own,
            'document',
            'documents',
          )}{asked.to
            ? `${kept} would be given “${items.find((i) => i.value === asked.to)?.label ?? ''}” instead.`
            : `${kept} would keep this concept; it could not be chosen any more.`}{tree.within.size > 1
            ? ` The ${plural(tree.within.size - 1, 'concept', 'concepts')} below it stay.`
            : ''}{:else if asked.act === 'merge'}{plural(of(concept.code).own, 'document', 'documents')} would be given the other concept;
          {plural(tree.within.size - 1, 'concept', 'concepts')} below it go along.{:else}{plural(
            of(concept.code).own,
            'document has',
            'documents have',
          )} this concept now.{/if}
      </p>
      <p class="mt-1 flex gap-2">
        <button class="btn btn-main" type="button" disabled={!tree.ready} onclick={() => tree.act()}
          >{{ move: 'Move concept', merge: 'Merge concept', split: 'Split concept', retire: 'Retire concept' }[asked.act]}</button
        ><button class="btn" type="button" onclick={() => (tree.asked = null)}>Cancel</button>
      </p>
    </div>
  {/if}
</div>
