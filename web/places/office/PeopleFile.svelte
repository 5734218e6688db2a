<script lang="ts">
  import { api } from '@/api/client';
  import { plural } from '@/parts/format';
  import { app } from '@/state/app.svelte';
  import type { People } from './people.svelte';

  /** People as a table: taken out, changed elsewhere, and imported after looking at what that would do. */
  let { people }: { people: People } = $props();

  let file = $state.raw<File | null>(null);
  const table = $derived(file ? people.answer?.table : undefined);
  const codes = $derived(Object.entries(table?.codes ?? {}));

  async function look(given: File | undefined) {
    file = given ?? null;
    if (file) await people.act(() => api.peopleTable(file!, false));
  }
  async function take() {
    if (await people.act(() => api.peopleTable(file!, true))) app.say('Imported.');
  }
</script>

<p class="quiet max-w-xl py-3">
  One line a person: sign-in name, name, e-mail address, role, groups, separated with semicolons. Nobody is put out of use by not being in
  the table.
</p>
<p class="flex flex-wrap items-center gap-3">
  <a class="btn no-underline" href="/api/office/people.csv" download>Export people as CSV</a>
  <label class="btn cursor-pointer"
    >Import people from CSV…<input
      class="sr-only"
      type="file"
      accept=".csv,text/csv"
      onchange={(e) => {
        void look(e.currentTarget.files?.[0]);
        e.currentTarget.value = '';
      }}
    /></label
  >
</p>
{#if people.fault}<p class="fault" role="alert">{people.fault}</p>{/if}
{#if file && table}
  <div class="mt-4 max-w-xl border-l-2 border-act pl-4" role="status">
    {#if codes.length > 0}
      <p>Imported. These one-time codes are shown only now; those with an e-mail address have theirs by mail.</p>
      <ul class="mono my-2 select-all">
        {#each codes as [signIn, code] (signIn)}<li>{signIn} {code}</li>{/each}
      </ul>
    {:else}
      <p><span class="mono">{file.name}</span></p>
      <p>
        {plural(table.added.length, 'new person', 'new people')}, {table.changed.length} changed, {table.same} the same{#if table.faults.length},
          {plural(table.faults.length, 'fault', 'faults')}{/if}.
      </p>
      {#if table.added.length}<p class="small">New: <span class="mono">{table.added.slice(0, 20).join(', ')}</span></p>{/if}
      {#if table.changed.length}<p class="small">Changed: <span class="mono">{table.changed.slice(0, 20).join(', ')}</span></p>{/if}
      {#each table.faults as fault (fault)}<p class="fault">{fault}</p>{/each}
      {#if table.faults.length === 0 && table.added.length + table.changed.length > 0}<p class="mt-2 flex gap-2">
          <button class="btn btn-main" disabled={people.busy} onclick={take}>Import</button><button
            class="btn"
            onclick={() => (file = null)}>Cancel</button
          >
        </p>{/if}
    {/if}
  </div>
{/if}
