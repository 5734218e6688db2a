<script lang="ts">
  import { api } from '@/api/client';
  import type { WorkForm } from '@/api/types';
  import { app } from '@/state/app.svelte';
  import { draft as whole } from './draft.svelte';
  import { Editing } from './editing.svelte';
  import EditorFrame from './EditorFrame.svelte';
  import NameAndCode from './NameAndCode.svelte';
  import OrderedCodes from './OrderedCodes.svelte';
  import TextRow from './TextRow.svelte';

  let { form }: { form: WorkForm | null } = $props();
  // svelte-ignore state_referenced_locally
  const editing = new Editing<WorkForm>('work_forms', form, {
    code: '',
    name: '',
    intro: '',
    thanks: '',
    library: app.design!.libraries[0]?.code ?? '',
    types: [],
    fields: [],
    files: 3,
    group: whole.groups[0] ?? '',
    goes: 'intake',
    lock_version: 1,
  });
  const draft = $derived(editing.draft);
  const takes = $derived(app.design!.libraries.find((l) => l.code === draft.library)?.types ?? []);
  const types = $derived(app.design!.types.filter((t) => takes.includes(t.code)));
  /** The fields that one of its types has on its sheet. */
  const fields = $derived(
    app.design!.fields.filter((f) => types.some((t) => draft.types.includes(t.code) && t.fields.some((entry) => entry.code === f.code))),
  );

  let address = $state<string | null>(null);
  let busy = $state(false);
  // svelte-ignore state_referenced_locally
  if (form)
    api.formAddress(form.code).then(
      (got) => (address = got.address),
      () => undefined,
    );
  async function set(what: () => Promise<{ address: string | null }>, says: string) {
    busy = true;
    try {
      address = (await what()).address;
      app.say(says);
    } catch (error) {
      app.fail(error, 'The address was not changed. Try again.');
    } finally {
      busy = false;
    }
  }
</script>

<EditorFrame {editing} title={draft.name} what="work form">
  <p class="quiet mb-2 max-w-prose">
    People outside fill it in at an address of its own, without an account. What they send becomes a document of each type, with the values
    that the type has; the files they add go with the first.
  </p>
  <NameAndCode {editing} />
  <TextRow label="What stands above it" rows={3} value={draft.intro} oninput={(intro) => (draft.intro = intro)} />
  <TextRow label="What is said once it has arrived" value={draft.thanks} oninput={(thanks) => (draft.thanks = thanks)} />
  <div class="grid grid-cols-2 gap-4 py-1.5">
    <label
      ><span class="heading">Library</span><select class="input" bind:value={draft.library}
        >{#each app.design!.libraries as library (library.code)}<option value={library.code}>{library.name}</option>{/each}</select
      >{#if editing.faults.library}<span class="fault" role="alert">{editing.faults.library}</span>{/if}</label
    >
    <label
      ><span class="heading">Seen by</span><select class="input" bind:value={draft.group}
        >{#each whole.groups as group (group)}<option>{group}</option>{/each}</select
      >{#if editing.faults.group}<span class="fault" role="alert">{editing.faults.group}</span>{/if}</label
    >
  </div>
  <OrderedCodes
    label="Document types; one document is made of each"
    codes={draft.types}
    items={types.map((t) => ({ value: t.code, label: t.name }))}
    fault={editing.faults.types}
    onchange={(codes) => (draft.types = codes)}
  />
  <OrderedCodes
    label="What is asked for"
    codes={draft.fields.map((entry) => entry.code)}
    items={fields.map((f) => ({ value: f.code, label: f.label }))}
    fault={editing.faults.fields}
    onchange={(codes) =>
      (draft.fields = codes.map((code) => draft.fields.find((entry) => entry.code === code) ?? { code, required: false }))}
  >
    {#snippet extra(code)}
      <label class="small inline-flex items-center gap-1"
        ><input
          type="checkbox"
          class="check"
          checked={draft.fields.find((entry) => entry.code === code)?.required ?? false}
          onchange={(e) =>
            (draft.fields = draft.fields.map((entry) => (entry.code === code ? { ...entry, required: e.currentTarget.checked } : entry)))}
        />needed</label
      >
    {/snippet}
  </OrderedCodes>
  <div class="grid grid-cols-2 gap-4 py-1.5">
    <label
      ><span class="heading">Files that may be added, at most</span><input
        class="input"
        type="number"
        min="0"
        max="20"
        bind:value={draft.files}
      /></label
    >
    <label
      ><span class="heading">What is sent</span><select class="input" bind:value={draft.goes}
        ><option value="intake">waits in intake</option><option value="filed">is filed at once, so that procedures begin</option></select
      ></label
    >
  </div>
  {#if !editing.isNew}
    <section class="mt-4" aria-labelledby="form-address">
      <h3 class="text-[17px]" id="form-address">Address</h3>
      <div class="border-t border-hair pt-2">
        {#if address}
          <p class="mono break-all">{address}</p>
          <p class="links flex gap-x-4">
            <a href={address} target="_blank" rel="noopener">Open it</a>
            <button
              class="link"
              type="button"
              disabled={busy}
              onclick={() => void set(() => api.makeFormAddress(draft.code), 'There is a new address; the one before is good no more.')}
              >New address</button
            ><button
              class="link"
              type="button"
              disabled={busy}
              onclick={() => void set(() => api.revokeFormAddress(draft.code), 'Nobody can send anything by it now.')}
              >Close the form</button
            >
          </p>
        {:else}
          <p class="quiet">Nobody can send anything by it yet.</p>
          <button
            class="btn mt-1"
            type="button"
            disabled={busy}
            onclick={() => void set(() => api.makeFormAddress(draft.code), 'The form is open.')}>Make an address</button
          >
        {/if}
      </div>
    </section>
  {/if}
</EditorFrame>
