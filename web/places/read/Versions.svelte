<script lang="ts">
  import { api } from '@/api/client';
  import type { DocumentRecord, DocumentVersion } from '@/api/types';
  import { bytes, moment } from '@/parts/format';
  import { app } from '@/state/app.svelte';
  import { router } from '@/state/router.svelte';
  import type { Reading } from './document.svelte';

  /** The versions of a document, who works on the next one, and how it comes in. */
  let { reading }: { reading: Reading } = $props();
  const record = $derived(reading.record!);
  const out = $derived(record.checked_out);

  let versions = $state.raw<DocumentVersion[] | null>(null);
  let note = $state('');
  let file = $state.raw<File | null>(null);
  let busy = $state(false);
  let asks = $state(false);
  // Again when there is another one.
  $effect(() => {
    if (record.version > 1)
      void api.versionsOf(record.ref).then(
        (got) => (versions = got.versions),
        () => {},
      );
  });

  async function act(what: () => Promise<DocumentRecord>, done: string): Promise<void> {
    busy = true;
    const before = record.version;
    try {
      const got = await what();
      note = '';
      file = null;
      asks = false;
      app.say(done);
      if (got.version !== before && reading.version > 0) router.go(`/documents/${record.ref}`);
      else reading.take(got);
    } catch (error) {
      app.fail(error, 'The document was not changed. Try again.');
    } finally {
      busy = false;
    }
  }
  async function fromTemplate() {
    try {
      await api.newFromTemplate(record.ref);
      router.go('/intake');
      app.say('A new document with the values of the template waits in intake.');
    } catch (error) {
      app.fail(error, 'No document could be made of it.');
    }
  }
</script>

<h3 class="mt-4 text-[17px]" id="versions">Versions</h3>
{#if versions}
  <ol aria-labelledby="versions">
    {#each versions as version (version.number)}
      <li class="border-t border-hair py-1">
        <p class="flex items-baseline gap-2">
          <span class="num font-semibold">{version.number}</span>{#if version.number === record.shown_version}<span
              class="min-w-0 flex-1 truncate">{version.file_name}</span
            >{:else}<a class="min-w-0 flex-1 truncate" href={`/documents/${record.ref}?version=${version.number}`}>{version.file_name}</a
            >{/if}<span class="small quiet"
            >{bytes(version.bytes)}{#if version.current}, current{/if}</span
          >
        </p>
        <p class="small quiet">
          {version.note || version.how}{#if version.by}, {version.by}{/if}, {moment(version.at)}
        </p>
        {#if !version.current}
          <p class="small links">
            <a href={`/documents/${record.ref}/compare?from=${version.number}&to=${record.version}`}>Compare with the current version</a
            >{#if record.may_change && !out && !record.is_template}<button
                class="link"
                disabled={busy}
                onclick={() =>
                  act(() => api.makeCurrent(record.ref, version.number), `Version ${version.number} is current again, as a new version.`)}
                >Make it current again</button
              >{/if}
          </p>
        {/if}
      </li>
    {/each}
  </ol>
{:else}
  <p class="small quiet border-t border-hair py-1">One version, unchanged since it arrived.</p>
{/if}
{#if record.is_template}
  <p class="small links border-t border-hair py-1">
    <span>This is a template and cannot be overwritten.</span>
    {#if app.person?.may.file}<button class="link" onclick={fromTemplate}>New document from this template</button
      >{/if}{#if record.may_change}
      <button
        class="link ml-3"
        disabled={busy}
        onclick={() => act(() => api.keepAsTemplate(record.ref, false), 'It is no longer a template.')}>Stop using as a template</button
      >{/if}
  </p>
{:else if out && !out.own}
  <p class="small links border-t border-hair py-1">
    <span
      >{out.by} has it checked out since {moment(out.since)}{#if out.note}: {out.note}{/if}.</span
    >
    {#if app.person?.may.remove}<button
        class="link"
        disabled={busy}
        onclick={() => act(() => api.giveUpCheckOut(record.ref), 'The check-out is cancelled.')}>Cancel the check-out</button
      >{/if}
  </p>
{:else if out}
  <form
    class="border-t border-hair py-1"
    onsubmit={(e) => {
      e.preventDefault();
      void act(() => api.checkIn(record.ref, file, note.trim()), 'Checked in as a new version.');
    }}
  >
    <p>
      You have it checked out{#if out.note}: {out.note}{/if}.
      <a href={api.fileUrl(record.ref, record.version, true)} download>Download the file</a>
    </p>
    {#if out.copy}<p class="small quiet">Saved, not checked in: {out.copy.file_name}, {moment(out.copy.at)}. Only you see it.</p>{/if}
    <label class="heading mt-1" for="new-version">The changed file</label>
    <input class="w-full" id="new-version" type="file" onchange={(e) => (file = e.currentTarget.files?.[0] ?? null)} />
    <label class="heading mt-1" for="version-note">What changed</label>
    <input class="input" id="version-note" bind:value={note} maxlength="500" autocomplete="off" />
    <p class="mt-2 flex flex-wrap gap-2">
      <button class="btn btn-main" disabled={busy || (!file && !out.copy)}>Check in</button>
      {#if file}<button
          class="btn"
          type="button"
          disabled={busy}
          title="Keeps the file here without making a version of it"
          onclick={() => act(() => api.putBy(record.ref, file!), 'The copy is saved. Only you see it until it is checked in.')}
          >Save without checking in</button
        >{/if}
      <button
        class="btn"
        type="button"
        disabled={busy}
        onclick={() =>
          act(
            () => api.giveUpCheckOut(record.ref),
            out.copy ? 'The check-out and the saved copy are cancelled.' : 'The check-out is cancelled.',
          )}>Cancel the check-out</button
      >
    </p>
  </form>
{:else if record.may_change}
  {#if asks}
    <form
      class="border-t border-hair py-1"
      onsubmit={(e) => {
        e.preventDefault();
        void act(() => api.checkOut(record.ref, note.trim()), 'Checked out. Nobody else makes a version of it until you check it in.');
      }}
    >
      <label class="heading" for="out-note">Reason</label>
      <!-- svelte-ignore a11y_autofocus -->
      <input
        class="input"
        id="out-note"
        bind:value={note}
        maxlength="500"
        autocomplete="off"
        autofocus
        onkeydown={(e) => {
          if (e.key === 'Escape') asks = false;
        }}
      />
      <button class="btn btn-main mt-2" disabled={busy}>Check out</button>
    </form>
  {:else}
    <p class="small links border-t border-hair py-1">
      <button class="link" onclick={() => (asks = true)}>Check out to change the file</button
      >{#if !record.is_template && record.page_count > 0 && (record.file_kind === 'pdf' || record.file_kind === 'image')}<a
          href={`/documents/${record.ref}/pages`}>Rearrange the pages</a
        >{/if}<button class="link" disabled={busy} onclick={() => act(() => api.keepAsTemplate(record.ref, true), 'Kept as a template.')}
        >Use as a template</button
      >
    </p>
  {/if}
{/if}
