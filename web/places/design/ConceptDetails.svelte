<script lang="ts">
  import type { Term } from '@/api/types';
  import Combobox from '@/parts/Combobox.svelte';
  import { nameOf, parentsOf, type Choice } from '@/parts/terms';
  import RetentionEditor from './RetentionEditor.svelte';
  import type { SchemeTree } from './scheme.svelte';
  import TextRow from './TextRow.svelte';

  interface Props {
    tree: SchemeTree;
    concept: Term;
    numbering: 'given' | 'position';
    /** The concepts of the scheme, to choose from. */
    items: Choice[];
  }
  let { tree, concept, numbering, items }: Props = $props();
</script>

<h3 class="truncate pt-1.5 text-[17px]">{nameOf(concept) || 'New concept'}</h3>
<div class="py-1.5">
  <label class="heading" for="concept-label">Label</label><input
    class="input"
    id="concept-label"
    value={concept.label}
    autocomplete="off"
    oninput={(e) => tree.rename(concept, e.currentTarget.value)}
    onkeydown={(e) => {
      if (e.key === 'Enter' && !e.ctrlKey) {
        e.preventDefault();
        tree.go(concept.code);
      }
    }}
  />
</div>
<TextRow
  label="Notation"
  mono
  value={concept.notation ?? ''}
  disabled={numbering === 'position' && concept.parent !== null}
  oninput={(v) => (concept.notation = v)}
/>
<TextRow label="Scope note" rows={2} value={concept.note ?? ''} oninput={(v) => (concept.note = v)} />
<TextRow
  label="Synonyms"
  value={(concept.synonyms ?? []).join(', ')}
  help="Separate with commas. The concept is found by these too."
  oninput={(v) =>
    (concept.synonyms = v
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
        onclick={() => (concept.also_below = concept.also_below!.filter((c) => c !== code))}
        >{items.find((i) => i.value === code)?.label ?? code} ✕</button
      >{/each}
    <Combobox
      label="Also below"
      placeholder="Add another place in the tree…"
      items={items.filter((i) => !tree.within.has(i.value) && !parentsOf(concept).includes(i.value))}
      value=""
      onchange={(v) => {
        if (v) {
          concept.also_below = [...(concept.also_below ?? []), v];
          tree.open[v] = true;
        }
      }}
    />
  </div>
{/if}
<div class="py-1.5">
  <span class="heading">Related concepts</span>
  {#each concept.related ?? [] as code (code)}<button
      class="link mr-3"
      type="button"
      title="Remove"
      onclick={() => (concept.related = concept.related!.filter((c) => c !== code))}
      >{items.find((i) => i.value === code)?.label ?? code} ✕</button
    >{/each}
  <Combobox
    label="Related concepts"
    placeholder="Add…"
    items={items.filter((i) => i.value !== concept.code && !concept.related?.includes(i.value))}
    value=""
    onchange={(v) => {
      if (v) concept.related = [...(concept.related ?? []), v];
    }}
  />
</div>
<RetentionEditor rule={concept.retention} none="As the concept above it" onchange={(rule) => (concept.retention = rule)} />
{#if Object.keys(concept.labels ?? {}).length > 0 || (concept.matches ?? []).length > 0}
  <p class="small quiet">
    {Object.entries(concept.labels ?? {})
      .map(([tag, label]) => `${tag}: ${label}`)
      .join(', ')}
    {#if concept.matches?.length}Same as {concept.matches.join(', ')}{/if}
  </p>
{/if}
{#if concept.retired}<p class="border-t border-hair py-1.5">
    Retired{concept.replaced_by ? `; documents are given “${items.find((i) => i.value === concept.replaced_by)?.label}” instead` : ''}.
    <button
      class="link"
      type="button"
      onclick={() => {
        concept.retired = false;
        concept.replaced_by = null;
      }}>Bring it back</button
    >
  </p>{/if}
