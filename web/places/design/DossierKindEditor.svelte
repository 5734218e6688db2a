<script lang="ts">
  import type { DossierKind, SheetEntry } from '@/api/types';
  import { entryWords } from '@/parts/sheet';
  import { app } from '@/state/app.svelte';
  import IconPlus from '@lucide/svelte/icons/plus';
  import IconX from '@lucide/svelte/icons/x';
  import { flushSync } from 'svelte';
  import { codeOf } from './codes';
  import { Editing } from './editing.svelte';
  import EditorFrame from './EditorFrame.svelte';
  import EntryDetails from './EntryDetails.svelte';
  import OrderedCodes from './OrderedCodes.svelte';
  import RetentionEditor from './RetentionEditor.svelte';
  import TitlePattern from './TitlePattern.svelte';
  import NameAndCode from './NameAndCode.svelte';
  import PartChoice from './PartChoice.svelte';

  let { kind }: { kind: DossierKind | null } = $props();
  // svelte-ignore state_referenced_locally
  const editing = new Editing<DossierKind>('dossier_kinds', kind, {
    code: '',
    name: '',
    title_pattern: '',
    fields: [],
    sections: [],
    types: [],
    view: null,
    list_view: null,
    lock_version: 1,
  });
  const draft = $derived(editing.draft);
  const items = $derived(app.design!.fields.map((f) => ({ value: f.code, label: f.label, hint: app.kind(f)?.label })));
  const views = $derived(app.design!.views.filter((v) => !v.own));
  const entry = (code: string): SheetEntry =>
    draft.fields.find((f) => f.code === code) ?? { code, required: false, default: '', handed_down: false };

  function addSection() {
    draft.sections.push({ code: `section_${draft.sections.length + 1}`, name: '' });
    flushSync();
    document.getElementById(`section-${draft.sections.length - 1}`)?.focus();
  }
</script>

<EditorFrame {editing} title={draft.name} what="dossier kind">
  <NameAndCode {editing} />
  <TitlePattern
    value={draft.title_pattern}
    fields={draft.fields.map((f) => f.code)}
    fault={editing.faults.title_pattern}
    help="How titles are made: text, and the fields of the dossier."
    oninput={(v) => (draft.title_pattern = v)}
  />
  <OrderedCodes
    label="Fields of the dossier"
    codes={draft.fields.map((f) => f.code)}
    {items}
    fault={editing.faults.fields}
    makes="fields"
    says={(code) => entryWords(draft.fields.find((f) => f.code === code))}
    onchange={(codes) => (draft.fields = codes.map(entry))}
  >
    {#snippet extra(code)}
      {@const field = draft.fields.find((f) => f.code === code)}
      {#if field}
        <label class="small flex items-center gap-1"><input type="checkbox" class="check" bind:checked={field.required} />required</label>
        <label class="small flex items-center gap-1" title="Documents inside that have no value of their own have the dossier’s"
          ><input type="checkbox" class="check" bind:checked={field.handed_down} />handed down</label
        >
      {/if}
    {/snippet}
    {#snippet more(code)}
      {@const i = draft.fields.findIndex((f) => f.code === code)}
      {#if i >= 0}<EntryDetails bind:entry={draft.fields[i]!} />{/if}
    {/snippet}
  </OrderedCodes>
  <RetentionEditor
    rule={draft.retention}
    none="No rule: those of the documents inside hold"
    fault={editing.faults.retention}
    onchange={(rule) => (draft.retention = rule)}
  />
  <div class="py-1.5">
    <h3 class="heading">Sections a new dossier comes with</h3>
    <ol>
      {#each draft.sections as section, i (section)}
        <li class="flex items-center gap-2 border-t border-hair py-0.5">
          <input
            class="input"
            id={`section-${i}`}
            bind:value={section.name}
            aria-label={`Section ${i + 1}`}
            oninput={() => {
              if (!kind?.sections.some((s) => s.code === section.code)) section.code = codeOf(section.name) || `section_${i + 1}`;
            }}
            onkeydown={(e) => {
              if (e.key === 'Enter' && !e.ctrlKey) {
                e.preventDefault();
                addSection();
              }
            }}
          />
          <button
            class="icon-btn"
            type="button"
            onclick={() => draft.sections.splice(i, 1)}
            aria-label={`Remove ${section.name || `section ${i + 1}`}`}
            title="Remove"><IconX size={15} strokeWidth={1.7} /></button
          >
        </li>
      {/each}
    </ol>
    <button class="btn mt-1" type="button" onclick={addSection}><IconPlus size={14} strokeWidth={1.8} />Add a section</button>
    {#if editing.faults.sections}<p class="fault" role="alert">{editing.faults.sections}</p>{/if}
  </div>
  <OrderedCodes
    label="Document types that belong inside (all, if none is chosen)"
    codes={draft.types}
    items={app.design!.types.map((t) => ({ value: t.code, label: t.name }))}
    fault={editing.faults.types}
    makes="types"
    onchange={(codes) => (draft.types = codes)}
  />
  {#each [['view', 'View inside the dossier'], ['list_view', 'View for the documents of all these dossiers']] as const as [property, label] (property)}
    <PartChoice
      {label}
      kind="views"
      placeholder="None"
      items={views.map((v) => ({ value: v.code, label: v.name }))}
      value={draft[property]}
      onchange={(code) => (draft[property] = code)}
    />
  {/each}
</EditorFrame>
