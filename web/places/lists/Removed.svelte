<script lang="ts">
  import { api, messageOf } from '@/api/client';
  import type { RemovedDocument } from '@/api/types';
  import { moment, plural } from '@/parts/format';
  import { app } from '@/state/app.svelte';

  let documents = $state.raw<RemovedDocument[] | null>(null);
  let fault = $state('');
  let chosen = $state<string[]>([]);
  let destroying = $state(false);
  let reason = $state('');
  const load = () =>
    api.removed().then(
      (got) => (documents = got.documents),
      (error: unknown) => (fault = messageOf(error, 'It cannot be shown.')),
    );
  void load();

  async function act(what: () => Promise<string>) {
    try {
      app.say(await what());
      chosen = [];
      destroying = false;
      reason = '';
      await load();
    } catch (error) {
      app.fail(error, 'Nothing was changed. Try again.');
    }
  }
</script>

<div class="h-full overflow-y-auto">
  <div class="mx-auto max-w-[900px] px-6 py-5">
    <h1 class="text-[26px]">Removed documents</h1>
    <p class="quiet mt-1">Hidden from everyone, but kept. Destroying them is a separate act, for the records manager.</p>
    {#if fault}<p class="fault mt-3" role="alert">{fault}</p>{/if}
    <p class="mt-3 flex flex-wrap items-center gap-3">
      <button
        class="btn btn-main"
        disabled={chosen.length === 0}
        onclick={() => act(async () => `${plural((await api.restoreDocuments(chosen)).restored, 'document is', 'documents are')} back.`)}
        >Bring back</button
      >
      {#if app.person?.may.destroy}<button
          class="btn"
          disabled={chosen.length === 0}
          aria-expanded={destroying}
          onclick={() => (destroying = !destroying)}>Destroy…</button
        >{/if}
      <span class="small quiet">{chosen.length > 0 ? `${chosen.length} chosen` : 'Choose documents below.'}</span>
    </p>
    {#if destroying && chosen.length > 0}
      <form
        class="mt-3 max-w-lg border-l-2 border-rust pl-3"
        onsubmit={(e) => {
          e.preventDefault();
          void act(
            async () =>
              `${plural((await api.destroyDocuments(chosen, reason.trim())).destroyed, 'document is', 'documents are')} destroyed.`,
          );
        }}
      >
        <p class="text-rust">
          {plural(chosen.length, 'document', 'documents')} with files, text and values will be gone for good. The history stays.
        </p>
        <label class="heading mt-1" for="destroy-reason">Reason, and who decided</label><input
          class="input"
          id="destroy-reason"
          bind:value={reason}
          maxlength="500"
          autocomplete="off"
        />
        <p class="mt-2 flex gap-2">
          <button class="btn btn-main" disabled={reason.trim() === ''}>Destroy them</button><button
            class="btn"
            type="button"
            onclick={() => (destroying = false)}>Cancel</button
          >
        </p>
      </form>
    {/if}
    <ul class="mt-4">
      {#each documents ?? [] as d (d.ref)}
        <li class="flex items-baseline gap-3 border-t border-hair py-1.5">
          <input type="checkbox" class="check relative top-[2px]" value={d.ref} bind:group={chosen} aria-label={`Select ${d.title}`} />
          <div class="min-w-0 flex-1">
            <span class="font-serif text-[15.5px]">{d.title}</span> <span class="mono small quiet">{d.ref}</span>
            <p class="small quiet">{d.reason}</p>
          </div>
          <span class="small quiet">{moment(d.at)}{d.by ? `, ${d.by}` : ''}</span>
        </li>
      {:else}
        {#if documents}<li class="quiet border-t border-hair py-3">Nothing is removed.</li>{/if}
      {/each}
    </ul>
  </div>
</div>
