<script lang="ts">
  import type { DocumentType, SheetEntry } from '@/api/types';
  import { entryWords } from '@/parts/sheet';
  import { app } from '@/state/app.svelte';
  import { draft as whole } from './draft.svelte';
  import { Editing } from './editing.svelte';
  import EditorFrame from './EditorFrame.svelte';
  import EntryDetails from './EntryDetails.svelte';
  import GroupChoice from './GroupChoice.svelte';
  import OrderedCodes from './OrderedCodes.svelte';
  import SheetPreview from './SheetPreview.svelte';
  import RetentionEditor from './RetentionEditor.svelte';
  import TextRow from './TextRow.svelte';
  import NameAndCode from './NameAndCode.svelte';
  import TitlePattern from './TitlePattern.svelte';

  let { type }: { type: DocumentType | null } = $props();
  // svelte-ignore state_referenced_locally
  const editing = new Editing<DocumentType>('types', type, {
    code: '',
    name: '',
    title_pattern: '',
    names: [],
    fields: [],
    filers: [],
    designers: [],
    lock_version: 1,
  });
  const draft = $derived(editing.draft);
  const items = $derived(app.design!.fields.map((f) => ({ value: f.code, label: f.label, hint: app.kind(f)?.label })));
  const filedIn = $derived(app.design!.libraries.filter((l) => l.types.includes(draft.code)));
  const entry = (code: string): SheetEntry =>
    draft.fields.find((f) => f.code === code) ?? { code, required: false, section: '', default: '', read_only: false, below: null };
</script>

<EditorFrame {editing} title={draft.name} what="document type">
  <NameAndCode {editing} />
  <TitlePattern
    value={draft.title_pattern}
    fields={draft.fields.map((f) => f.code)}
    fault={editing.faults.title_pattern}
    help="How titles are made: text, and the fields of the sheet. Without a value the file’s name is the title."
    oninput={(v) => (draft.title_pattern = v)}
  />
  {#if !draft.title_pattern}
    <TextRow
      label="Titles to choose from"
      rows={2}
      value={draft.names.join('\n')}
      fault={editing.faults.names}
      help="One per line. Offered when filing, if there is no title pattern."
      oninput={(v) =>
        (draft.names = v
          .split('\n')
          .map((n) => n.trim())
          .filter(Boolean))}
    />
  {/if}
  <OrderedCodes
    label="Fields, in the order of the index sheet"
    codes={draft.fields.map((f) => f.code)}
    {items}
    fault={editing.faults.fields}
    makes="fields"
    says={(code) => entryWords(draft.fields.find((f) => f.code === code))}
    onchange={(codes) => (draft.fields = codes.map(entry))}
  >
    {#snippet extra(code)}
      {@const field = draft.fields.find((f) => f.code === code)}
      {#if field}<label class="small flex items-center gap-1"
          ><input type="checkbox" class="check" bind:checked={field.required} />required</label
        >{/if}
    {/snippet}
    {#snippet more(code)}
      {@const i = draft.fields.findIndex((f) => f.code === code)}
      {#if i >= 0}<EntryDetails bind:entry={draft.fields[i]!} sections />{/if}
    {/snippet}
  </OrderedCodes>
  <RetentionEditor
    rule={draft.retention}
    none="No rule: that of its concepts or its dossier holds"
    fault={editing.faults.retention}
    onchange={(rule) => (draft.retention = rule)}
  />
  <GroupChoice
    label="Who may file it"
    groups={draft.filers}
    none="Everybody who may file in the library."
    fault={editing.faults.filers}
    onchange={(groups) => (draft.filers = groups)}
  />
  <GroupChoice
    label="Who designs it"
    groups={draft.designers ?? []}
    among={whole.designing}
    none="Whoever designs all the libraries that file it."
    fault={editing.faults.designers}
    onchange={(groups) => (draft.designers = groups)}
  />
  {#if !editing.isNew}
    <p class="quiet mt-3 border-t border-hair pt-2">
      {#if filedIn.length > 0}Filed in {#each filedIn as l, i (l.code)}{i > 0 ? ', ' : ''}<a href={`/design/libraries/${l.code}`}
            >{l.name}</a
          >{/each}.{:else}No library takes it yet; give it to one under Libraries.{/if}
      <a href={`/find?c=${encodeURIComponent(`type == "${draft.code}"`)}`}>Documents of this type</a>
    </p>
  {/if}
  <SheetPreview type={draft.code} entries={draft.fields} />
</EditorFrame>
