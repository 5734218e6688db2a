<script lang="ts">
  import type { Library } from '@/api/types';
  import { app } from '@/state/app.svelte';
  import { draft as whole } from './draft.svelte';
  import { Editing } from './editing.svelte';
  import EditorFrame from './EditorFrame.svelte';
  import GroupChoice from './GroupChoice.svelte';
  import OrderedCodes from './OrderedCodes.svelte';
  import TextRow from './TextRow.svelte';
  import NameAndCode from './NameAndCode.svelte';
  import PartChoice from './PartChoice.svelte';

  let { library }: { library: Library | null } = $props();
  // svelte-ignore state_referenced_locally
  const editing = new Editing<Library>('libraries', library, {
    code: '',
    name: '',
    note: '',
    repository: app.design!.repositories.find((r) => !r.address)?.code ?? '',
    types: [],
    view: null,
    groups: [],
    designers: [],
    lock_version: 1,
  });
  const draft = $derived(editing.draft);
  const ofRepository = $derived(app.design!.repositories.find((r) => r.code === draft.repository)?.designers ?? []);
  const of = (group: string) => draft.groups?.find((g) => g.group === group);
  const without = (group: string) => (draft.groups ?? []).filter((g) => g.group !== group);
</script>

<EditorFrame {editing} title={draft.name} what="library">
  <NameAndCode {editing} />
  <PartChoice
    label="Repository"
    kind="repositories"
    items={app.design!.repositories.filter((r) => !r.address).map((r) => ({ value: r.code, label: r.name }))}
    value={draft.repository}
    fault={editing.faults.repository}
    onchange={(code) => (draft.repository = code ?? '')}
  />
  <TextRow
    label="Note"
    value={draft.note}
    fault={editing.faults.note}
    help="One line for people who see the library on their desk."
    oninput={(v) => (draft.note = v)}
  />
  <OrderedCodes
    label="Document types filed here"
    codes={draft.types}
    items={app.design!.types.map((t) => ({ value: t.code, label: t.name }))}
    fault={editing.faults.types}
    makes="types"
    onchange={(codes) => (draft.types = codes)}
  />
  <PartChoice
    label="Opens with the view"
    kind="views"
    placeholder="None"
    items={app.design!.views.filter((v) => !v.own).map((v) => ({ value: v.code, label: v.name }))}
    value={draft.view}
    onchange={(code) => (draft.view = code)}
  />
  <fieldset class="py-1.5">
    <legend class="heading">Who may see it, and who may change its documents</legend>
    {#each whole.groups as group (group)}
      <div class="flex gap-6 border-t border-hair py-0.5">
        <label class="flex w-56 items-center gap-1.5"
          ><input
            type="checkbox"
            class="check"
            checked={!!of(group)}
            onchange={(e) => (draft.groups = e.currentTarget.checked ? [...without(group), { group, change: false }] : without(group))}
          />{group}</label
        >
        {#if of(group)}<label class="small flex items-center gap-1.5"
            ><input
              type="checkbox"
              class="check"
              checked={of(group)!.change}
              onchange={(e) => (draft.groups = [...without(group), { group, change: e.currentTarget.checked }])}
            />may change</label
          >{/if}
      </div>
    {/each}
    {#if (draft.groups ?? []).length === 0}<p class="small quiet">
        {editing.isNew ? 'With none chosen, your own groups see it.' : 'Nobody sees it.'}
      </p>{/if}
    {#if editing.faults.groups}<p class="fault" role="alert">{editing.faults.groups}</p>{/if}
  </fieldset>
  <GroupChoice
    label="Who designs it, and what belongs only to it"
    groups={draft.designers ?? []}
    among={whole.designing}
    none={ofRepository.length > 0 ? `As its repository says: ${ofRepository.join(', ')}.` : 'Everybody who designs.'}
    fault={editing.faults.designers}
    onchange={(groups) => (draft.designers = groups)}
  />
</EditorFrame>
