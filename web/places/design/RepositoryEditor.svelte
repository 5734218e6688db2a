<script lang="ts">
  import { api, messageOf } from '@/api/client';
  import type { RemoteLook, Repository } from '@/api/types';
  import { draft as whole } from './draft.svelte';
  import { Editing } from './editing.svelte';
  import EditorFrame from './EditorFrame.svelte';
  import GroupChoice from './GroupChoice.svelte';
  import TextRow from './TextRow.svelte';
  import NameAndCode from './NameAndCode.svelte';

  let { repository }: { repository: Repository | null } = $props();
  // svelte-ignore state_referenced_locally
  const editing = new Editing<Repository>('repositories', repository, {
    code: '',
    name: '',
    address: '',
    groups: [],
    designers: [],
    lock_version: 1,
  });
  const draft = $derived(editing.draft);

  // Where a repository is belongs to what it is: it is chosen once.
  // svelte-ignore state_referenced_locally
  let remote = $state(!!repository?.address);
  let look = $state.raw<RemoteLook | null>(null);
  let looking = $state(false);
  async function ask() {
    looking = true;
    try {
      look = await api.lookRemote((draft.address ?? '').trim(), draft.name);
    } catch (error) {
      look = { state: 'unreachable', says: messageOf(error, 'It cannot be asked.'), title: '', fields: [] };
    } finally {
      looking = false;
    }
  }
</script>

<EditorFrame {editing} title={draft.name} what="repository">
  <NameAndCode {editing} />
  <fieldset class="py-1.5">
    <legend class="heading">Its documents are</legend>
    <label class="mr-4 inline-flex items-center gap-1.5"
      ><input
        type="radio"
        class="check"
        name="remote"
        checked={!remote}
        onchange={() => {
          remote = false;
          draft.address = '';
          draft.groups = [];
        }}
      />here, in its libraries</label
    >
    <label class="inline-flex items-center gap-1.5"
      ><input type="radio" class="check" name="remote" checked={remote} onchange={() => (remote = true)} />elsewhere, searched by SRU</label
    >
  </fieldset>
  {#if remote}
    <TextRow
      label="Address of its SRU server"
      mono
      value={draft.address ?? ''}
      fault={editing.faults.address}
      help="Searches are sent there as CQL, in the elements of Dublin Core that the fields are mapped to. What is looked for in sensitive fields is never sent."
      oninput={(v) => {
        draft.address = v.trim();
        look = null;
      }}
    />
    <button type="button" class="btn" disabled={looking || !draft.address} onclick={ask}
      >{looking ? 'Testing…' : 'Test the connection'}</button
    >
    {#if look}
      <div class="py-2" role="status">
        {#if look.state !== 'found'}<p class="text-rust">{look.says}</p>
        {:else}
          <p class="text-moss">Connected.{look.title ? ` The server calls itself “${look.title}”.` : ''} {look.says}</p>
          <table class="mt-2 w-full">
            <caption class="sr-only">What the fields are called there</caption>
            <thead class="small quiet text-left"
              ><tr
                ><th scope="col" class="py-0.5 font-medium">Field here</th><th scope="col" class="font-medium">There</th><th
                  scope="col"
                  class="font-medium">Searched</th
                ><th scope="col" class="font-medium">Sorted by</th></tr
              ></thead
            >
            <tbody>
              {#each look.fields as field (field.code)}
                <tr class="border-t border-hair" class:quiet={!field.searched}
                  ><td class="py-0.5">{field.label}</td><td class="mono">{field.element ? `dc.${field.element}` : ''}</td><td
                    >{field.searched ? 'yes' : field.element ? 'not there' : 'not mapped'}</td
                  ><td>{field.sorted ? 'yes' : ''}</td></tr
                >
              {/each}
            </tbody>
          </table>
        {/if}
      </div>
    {/if}
    <GroupChoice
      label="Who searches it"
      groups={draft.groups ?? []}
      none="Everybody."
      fault={editing.faults.groups}
      onchange={(groups) => (draft.groups = groups)}
    />
  {/if}
  <GroupChoice
    label="Who designs it, its libraries and what belongs only to them"
    groups={draft.designers ?? []}
    among={whole.designing}
    none="Everybody who designs."
    fault={editing.faults.designers}
    onchange={(groups) => (draft.designers = groups)}
  />
</EditorFrame>
