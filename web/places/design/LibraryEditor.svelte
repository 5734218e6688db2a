<script lang="ts">
  import type { Library } from '@/api/types';
  import { app } from '@/state/app.svelte';
  import { codeOf, Editing } from './editing.svelte';
  import EditorFrame from './EditorFrame.svelte';
  import OrderedCodes from './OrderedCodes.svelte';
  import TextRow from './TextRow.svelte';

  let { library }: { library: Library | null } = $props();
  // svelte-ignore state_referenced_locally
  const editing = new Editing<Library>('libraries', library, { code: '', name: '', note: '', repository: app.design!.repositories[0]?.code ?? '', types: [], lock_version: 1 });
  const draft = $derived(editing.draft);
  let codeTouched = false;
</script>

<EditorFrame {editing} title={draft.name} what="library">
  <TextRow label="Name" value={draft.name} fault={editing.faults.name} oninput={(v) => { draft.name = v; if (editing.isNew && !codeTouched) draft.code = codeOf(v); }} />
  <TextRow label="Code" mono value={draft.code} disabled={!editing.isNew} fault={editing.faults.code} oninput={(v) => { codeTouched = true; draft.code = v; }} />
  <div class="py-1.5">
    <label class="heading" for="repository">Repository</label>
    <select class="input" id="repository" bind:value={draft.repository}>
      {#each app.design!.repositories as r (r.code)}<option value={r.code}>{r.name}</option>{/each}
    </select>
    {#if editing.faults.repository}<p class="fault" role="alert">{editing.faults.repository}</p>{/if}
    {#if app.design!.repositories.length === 0}<p class="small quiet">There is no repository yet. <a href="/design/repositories/new">Make one first</a>.</p>{/if}
  </div>
  <TextRow label="Note" value={draft.note} fault={editing.faults.note} help="One line for people who see the library on their desk." oninput={(v) => (draft.note = v)} />
  <OrderedCodes label="Document types filed here" codes={draft.types} items={app.design!.types.map((t) => ({ value: t.code, label: t.name }))} fault={editing.faults.types} onchange={(codes) => (draft.types = codes)} />
</EditorFrame>
