<script lang="ts">
  import type { Repository } from '@/api/types';
  import { draft as whole } from './draft.svelte';
  import { codeOf, Editing } from './editing.svelte';
  import EditorFrame from './EditorFrame.svelte';
  import GroupChoice from './GroupChoice.svelte';
  import TextRow from './TextRow.svelte';

  let { repository }: { repository: Repository | null } = $props();
  // svelte-ignore state_referenced_locally
  const editing = new Editing<Repository>('repositories', repository, { code: '', name: '', designers: [], lock_version: 1 });
  const draft = $derived(editing.draft);
  let codeTouched = false;
</script>

<EditorFrame {editing} title={draft.name} what="repository">
  <TextRow label="Name" value={draft.name} fault={editing.faults.name} oninput={(v) => { draft.name = v; if (editing.isNew && !codeTouched) draft.code = codeOf(v); }} />
  <TextRow label="Code" mono value={draft.code} disabled={!editing.isNew} fault={editing.faults.code} oninput={(v) => { codeTouched = true; draft.code = v; }} />
  <GroupChoice label="Who designs it, its libraries and what belongs only to them" groups={draft.designers ?? []} among={whole.designing} none="Everybody who designs." fault={editing.faults.designers} onchange={(groups) => (draft.designers = groups)} />
</EditorFrame>
