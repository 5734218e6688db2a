<script lang="ts">
  import type { AccessRule } from '@/api/types';
  import CriterionEditor from './CriterionEditor.svelte';
  import { Editing } from './editing.svelte';
  import EditorFrame from './EditorFrame.svelte';
  import GroupChoice from './GroupChoice.svelte';
  import NameAndCode from './NameAndCode.svelte';

  let { rule }: { rule: AccessRule | null } = $props();
  // svelte-ignore state_referenced_locally
  const editing = new Editing<AccessRule>('access', rule, {
    code: '',
    name: '',
    criterion: '',
    acts: ['see'],
    groups: [],
    lock_version: 1,
  });
  const draft = $derived(editing.draft);
  const acts: [AccessRule['acts'][number], string, string][] = [
    ['see', 'see', 'No count, facet, suggestion or name tells others of them.'],
    ['file', 'file', 'Others cannot file documents that match.'],
    ['change', 'change', 'Others may read them and not change them.'],
    ['original', 'see the originals', 'Others get only the redacted copy.'],
  ];
</script>

<EditorFrame {editing} title={draft.name} what="access rule">
  <p class="quiet mb-2 max-w-prose">
    Libraries say who sees what is in them. A rule narrows that: only the groups named here may do what is ticked, with the documents it
    covers.
  </p>
  <NameAndCode {editing} />
  <CriterionEditor
    label="The documents it covers"
    criterion={draft.criterion}
    fault={editing.faults.criterion}
    onchange={(cql) => (draft.criterion = cql)}
  />
  <fieldset class="py-1.5">
    <legend class="heading">Only these groups may</legend>
    {#each acts as [act, label, what] (act)}
      <label class="flex items-baseline gap-2 py-0.5"
        ><input
          type="checkbox"
          class="check relative top-[2px]"
          checked={draft.acts.includes(act)}
          onchange={(e) => (draft.acts = e.currentTarget.checked ? [...draft.acts, act] : draft.acts.filter((a) => a !== act))}
        /><span>{label} <span class="quiet small">{what}</span></span></label
      >
    {/each}
    {#if editing.faults.acts}<p class="fault" role="alert">{editing.faults.acts}</p>{/if}
  </fieldset>
  <GroupChoice
    label="The groups"
    groups={draft.groups}
    none="Nobody."
    fault={editing.faults.groups}
    onchange={(groups) => (draft.groups = groups)}
  />
</EditorFrame>
