<script lang="ts">
  import type { Field } from '@/api/types';
  import Combobox from '@/parts/Combobox.svelte';
  import { app } from '@/state/app.svelte';
  import { codeOf, Editing } from './editing.svelte';
  import EditorFrame from './EditorFrame.svelte';
  import TextRow from './TextRow.svelte';

  let { field }: { field: Field | null } = $props();
  // svelte-ignore state_referenced_locally
  const editing = new Editing<Field>('fields', field, { code: '', label: '', kind: 'text', help: '', multiple: false, faceted: false, sensitive: false, vocabulary: null, unit: '', pattern: '', dublin_core: null, minimum: null, maximum: null, lock_version: 1 });
  const draft = $derived(editing.draft);
  const kind = $derived(app.design!.kinds.find((k) => k.value === draft.kind));
  const usedBy = $derived(app.design!.types.filter((t) => t.fields.some((f) => f.code === draft.code)));
  let codeTouched = false;

  const number = (text: string) => (text.trim() === '' || Number.isNaN(Number(text)) ? null : Number(text));
  const flags: ['multiple' | 'faceted' | 'sensitive', string, string][] = [
    ['multiple', 'Several values', 'A document may have more than one.'],
    ['faceted', 'Facet', 'Its values are listed with counts beside the results.'],
    ['sensitive', 'Sensitive', 'Hidden from readers, in searches too.'],
  ];
</script>

<EditorFrame {editing} title={draft.label} what="field">
  <TextRow label="Label" value={draft.label} fault={editing.faults.label} oninput={(v) => { draft.label = v; if (editing.isNew && !codeTouched) draft.code = codeOf(v); }} />
  <TextRow label="Code" mono value={draft.code} disabled={!editing.isNew} fault={editing.faults.code} help="What queries and files call it. It stays once the field exists." oninput={(v) => { codeTouched = true; draft.code = v; }} />
  <div class="py-1.5">
    <label class="heading" for="kind">Kind</label>
    <select class="input" id="kind" bind:value={draft.kind} onchange={() => { if (!kind?.may_be_faceted) draft.faceted = false; }}>
      {#each app.design!.kinds as k (k.value)}<option value={k.value}>{k.label}</option>{/each}
    </select>
    {#if editing.faults.kind}<p class="fault" role="alert">{editing.faults.kind}</p>{/if}
  </div>
  {#if draft.kind === 'choice'}
    <div class="py-1.5">
      <label class="heading" for="vocabulary">Vocabulary</label>
      <Combobox id="vocabulary" label="Vocabulary" items={app.design!.vocabularies.map((v) => ({ value: v.code, label: v.name, hint: `${v.terms.length} terms` }))} value={draft.vocabulary ?? ''} invalid={!!editing.faults.vocabulary} onchange={(v) => (draft.vocabulary = v || null)} />
      {#if editing.faults.vocabulary}<p class="fault" role="alert">{editing.faults.vocabulary}</p>{/if}
    </div>
  {:else if draft.kind === 'number'}
    <div class="grid grid-cols-3 gap-4">
      <TextRow label="Unit" value={draft.unit} fault={editing.faults.unit} oninput={(v) => (draft.unit = v)} />
      <TextRow label="Lowest" value={draft.minimum?.toString() ?? ''} fault={editing.faults.minimum} oninput={(v) => (draft.minimum = number(v))} />
      <TextRow label="Highest" value={draft.maximum?.toString() ?? ''} fault={editing.faults.maximum} oninput={(v) => (draft.maximum = number(v))} />
    </div>
  {:else if draft.kind === 'identifier'}
    <TextRow label="Pattern" mono value={draft.pattern} fault={editing.faults.pattern} help="9 is a digit, A a capital letter, X either, ? at the end the check character (ISO 7064). AA-9999-? fits LK-0417-T." oninput={(v) => (draft.pattern = v)} />
  {/if}
  <TextRow label="Help" value={draft.help} fault={editing.faults.help} help="Shown below the field on index sheets." oninput={(v) => (draft.help = v)} />
  <div class="py-1.5">
    <label class="heading" for="dublin-core">Exchanged as</label>
    <select class="input" id="dublin-core" value={draft.dublin_core ?? ''} onchange={(e) => (draft.dublin_core = e.currentTarget.value || null)}>
      <option value="">no element of Dublin Core</option>
      {#each app.design!.dublin_core as element (element)}<option value={element}>dc.{element}</option>{/each}
    </select>
    <p class="quiet small mt-0.5">Searches for this element look in the field too, and exports give its values under it.</p>
  </div>
  <fieldset class="py-1.5">
    <legend class="heading">Behaviour</legend>
    {#each flags as [name, label, what] (name)}
      <label class="flex items-baseline gap-2 py-0.5"><input type="checkbox" class="check relative top-[2px]" bind:checked={draft[name]} disabled={name === 'faceted' && !kind?.may_be_faceted} /><span>{label} <span class="quiet small">{what}</span></span></label>
    {/each}
    {#if editing.faults.faceted}<p class="fault" role="alert">{editing.faults.faceted}</p>{/if}
  </fieldset>
  {#if !editing.isNew}
    <p class="quiet mt-3 border-t border-hair pt-2">
      {#if usedBy.length > 0}Used by {#each usedBy as type, i (type.code)}{i > 0 ? ', ' : ''}<a href={`/design/types/${type.code}`}>{type.name}</a>{/each}.{:else}No document type uses it yet.{/if}
      <a href={`/find?c=${encodeURIComponent(`${draft.code} <> ""`)}`}>Documents that have it</a>
    </p>
  {/if}
</EditorFrame>
