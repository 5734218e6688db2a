<script lang="ts">
  import { api, messageOf } from '@/api/client';
  import type { CollectionHealth } from '@/api/types';
  import { moment, plural } from '@/parts/format';
  import { app } from '@/state/app.svelte';
  import { Trying } from '@/state/trying.svelte';

  /** Whether everything is still there bit by bit, and found. */
  let health = $state.raw<CollectionHealth | null>(null);
  const trying = new Trying();
  let again = 0;
  const AGAIN = 3000;

  function take(got: CollectionHealth) {
    health = got;
    clearTimeout(again);
    // What goes on in the background is looked at again.
    if (got.index.building || (got.files.round && !got.files.round.ended_at)) again = setTimeout(load, AGAIN) as unknown as number;
  }
  function load() {
    api
      .collectionHealth()
      .then(take, (error: unknown) => (trying.fault = messageOf(error, 'The health of the collection cannot be shown.')));
  }
  load();
  $effect(() => () => clearTimeout(again));

  async function act(what: () => Promise<CollectionHealth>, says: string) {
    await trying.run(async () => {
      take(await what());
      app.say(says);
    });
  }
  const round = $derived(health?.files.round ?? null);
</script>

<section class="min-h-0 overflow-y-auto bg-sheet px-8 py-5" aria-label="Health">
  <h1 class="text-[26px]">Health of the collection</h1>
  {#if trying.fault}<p class="fault mt-3" role="alert">{trying.fault}</p>{/if}
  {#if health}
    <div class="mt-5 flex items-baseline gap-4">
      <h2 class="flex-1 text-[18px]">Stored files, bit by bit</h2>
      {#if !round || round.ended_at}<button
          class="btn"
          disabled={trying.busy}
          onclick={() => void act(api.readFilesAgain, 'Every file is being read again.')}>Read all files again</button
        >{/if}
    </div>
    <p class="mt-1">
      {#if !round}The files have not been read again yet.
      {:else if round.ended_at}All files were read again and held against their SHA-256, from {moment(round.begun_at)} to {moment(
          round.ended_at,
        )}.
      {:else}All files are being read again since {moment(round.begun_at)}: {round.percent}%.{/if}
    </p>
    {#if round && !round.ended_at}<progress
        class="mt-1 w-full max-w-xl"
        aria-label="Files that were read again"
        value={round.percent}
        max={100}
      ></progress>{/if}
    {#if health.files.faults.length === 0}<p class="mt-1 text-moss">No file is known to be damaged or missing.</p>
    {:else}
      <p class="mt-2 text-rust">{plural(health.files.faults.length, 'file is', 'files are')} not what was stored.</p>
      <ul class="mt-1">
        {#each health.files.faults as one (one.sha256)}
          <li class="flex items-start gap-4 border-t border-hair py-1.5">
            <div class="min-w-0 flex-1">
              {#each one.documents as document (document.ref)}<a
                  class="block truncate font-serif text-[15.5px] text-ink"
                  href={`/documents/${document.ref}`}>{document.title}</a
                >{:else}<span class="quiet">of no document that you may see</span>{/each}
              <p class="small quiet mono truncate" title={one.sha256}>{one.sha256.slice(0, 24)}…</p>
            </div>
            <span class="small text-rust">{one.fault}, found {moment(one.found_at)}</span>
            {#if health.files.has_backup}<button
                class="btn"
                disabled={trying.busy}
                onclick={() => void act(() => api.restoreFile(one.sha256), 'The file is back, and is what was stored.')}
                >Bring back from the backup</button
              >{/if}
          </li>
        {/each}
      </ul>
      {#if !health.files.has_backup}<p class="small quiet mt-1">No backups are made here, from which they could be brought back.</p>{/if}
    {/if}

    <div class="mt-8 flex items-baseline gap-4">
      <h2 class="flex-1 text-[18px]">Index</h2>
      {#if !health.index.building}<button
          class="btn"
          disabled={trying.busy}
          onclick={() => void act(api.rebuildIndex, 'The index is made anew while it is searched.')}>Rebuild the index</button
        >{/if}
    </div>
    <p class="mt-1">
      {#if health.index.building}Being rebuilt: {health.index.percent}%. Searches see the old index until it is done.{:else}It is kept true
        by every change; making it anew is for after a fault.{/if}
    </p>
    {#if health.index.building}<progress
        class="mt-1 w-full max-w-xl"
        aria-label="Documents in the new index"
        value={health.index.percent}
        max={100}
      ></progress>{/if}

    <h2 class="mt-8 text-[18px]">What runs</h2>
    <ul class="mt-1 max-w-3xl">
      {#each health.checks as check (check.name)}
        <li class="flex gap-4 border-t border-hair py-1">
          <span class="w-32">{check.name}</span><span class="flex-1">{check.says}</span><span
            class="small"
            class:text-rust={!check.is_well}
            class:text-moss={check.is_well}>{check.is_well ? 'well' : 'look after it'}</span
          >
        </li>
      {/each}
    </ul>
  {:else if !trying.fault}<p class="quiet mt-5" role="status">Loading…</p>{/if}
</section>
