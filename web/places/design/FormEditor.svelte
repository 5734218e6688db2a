<script lang="ts">
  import type { SearchForm } from '@/api/types';
  import { app } from '@/state/app.svelte';
  import { Editing } from './editing.svelte';
  import EditorFrame from './EditorFrame.svelte';
  import OrderedCodes from './OrderedCodes.svelte';
  import NameAndCode from './NameAndCode.svelte';

  let { form }: { form: SearchForm | null } = $props();
  // svelte-ignore state_referenced_locally
  const editing = new Editing<SearchForm>('forms', form, { code: '', name: '', libraries: [], types: [], fields: [], lock_version: 1 });
  const draft = $derived(editing.draft);
  const items = $derived([...app.design!.fields, ...app.design!.system_fields].map((f) => ({ value: f.code, label: f.label })));
  const relations = (code: string) => app.kind(app.field(code))?.relations ?? [];
</script>

<EditorFrame {editing} title={draft.name} what="search form">
  <NameAndCode {editing} />
  <OrderedCodes
    label="Fields, in their order"
    codes={draft.fields.map((f) => f.code)}
    {items}
    fault={editing.faults.fields}
    makes="fields"
    onchange={(codes) => (draft.fields = codes.map((code) => draft.fields.find((f) => f.code === code) ?? { code, relation: '' }))}
  >
    {#snippet extra(code)}
      {@const field = draft.fields.find((f) => f.code === code)}
      {#if field}
        <label class="small"
          ><span class="sr-only">Relation of {app.label(code)}</span>
          <select class="input" style="min-height:26px;width:auto" bind:value={field.relation}>
            <option value="">as fits</option>
            {#each relations(code) as r (r.value)}<option value={r.value}>{r.label}</option>{/each}
          </select>
        </label>
      {/if}
    {/snippet}
  </OrderedCodes>
  <OrderedCodes
    label="Searches in these libraries (none means all)"
    codes={draft.libraries}
    items={app.design!.libraries.map((l) => ({ value: l.code, label: l.name }))}
    fault={editing.faults.libraries}
    onchange={(codes) => (draft.libraries = codes)}
  />
  <OrderedCodes
    label="For these document types (none means all)"
    codes={draft.types}
    items={app.design!.types.map((t) => ({ value: t.code, label: t.name }))}
    fault={editing.faults.types}
    makes="types"
    onchange={(codes) => (draft.types = codes)}
  />
</EditorFrame>
