<script lang="ts">
  import { api, messageOf } from '@/api/client';
  import type { CollectionHealth } from '@/api/types';
  import { moment, plural } from '@/parts/format';
  import { app } from '@/state/app.svelte';
  import { Trying } from '@/state/trying.svelte';
  import Check from './Check.svelte';

  /** Whether everything is still there bit by bit, and found; what failed; and what all of it runs on. */
  let health = $state.raw<CollectionHealth | null>(null);
  const trying = new Trying();
  let again = 0;
  const AGAIN = 3000;
  const WAYS = { folder: 'watched folder', mailbox: 'mailbox', scanner: 'scanner' };
  const FAILED = {
    text: 'Its text was not read',
    pages: 'Its pages were not drawn',
    redacted: 'Its redacted copy was not made',
    loan: 'Its loan did not come back',
    case: 'Its procedure stopped',
  };

  function take(got: CollectionHealth) {
    health = got;
    clearTimeout(again);
    // What goes on in the background is looked at again.
    const isGoingOn = got.index.building || (got.files.round && !got.files.round.ended_at) || (comparison && !comparison.ended_at);
    if (isGoingOn) again = setTimeout(load, AGAIN) as unknown as number;
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
  const comparison = $derived(health?.index.comparison ?? null);
</script>

{#snippet going(label: string, percent: number)}
  <progress class="mt-1 w-full max-w-xl" aria-label={label} value={percent} max={100}></progress>
{/snippet}

{#snippet button(name: string, what: () => Promise<CollectionHealth>, says: string, label: string = name)}
  <button class="btn" disabled={trying.busy} aria-label={label} onclick={() => void act(what, says)}>{name}</button>
{/snippet}

<section class="min-h-0 overflow-y-auto bg-sheet px-8 py-5" aria-label="Health">
  <div class="max-w-4xl">
    <h1 class="text-[26px]">Health of the collection</h1>
    {#if trying.fault}<p class="fault mt-3" role="alert">{trying.fault}</p>{/if}
    {#if health}
      <div class="mt-5 flex items-baseline gap-4">
        <h2 class="flex-1 text-[18px]">Stored files, bit by bit</h2>
        {#if !round || round.ended_at}{@render button('Read all files again', api.readFilesAgain, 'Every file is being read again.')}{/if}
      </div>
      <p class="mt-1">
        {#if !round}The files have not been read again yet.
        {:else if round.ended_at}All files were read again and held against their SHA-256, from {moment(round.begun_at)} to {moment(
            round.ended_at,
          )}.
        {:else}All files are being read again since {moment(round.begun_at)}: {round.percent}%.{/if}
      </p>
      {#if round && !round.ended_at}{@render going('Files that were read again', round.percent)}{/if}
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
              {#if health.files.has_backup}{@render button(
                  'Bring back from the backup',
                  () => api.restoreFile(one.sha256),
                  'The file is back, and is what was stored.',
                )}{/if}
            </li>
          {/each}
        </ul>
        {#if !health.files.has_backup}<p class="small quiet mt-1">No backups are made here, from which they could be brought back.</p>{/if}
      {/if}

      <div class="mt-8 flex items-baseline gap-4">
        <h2 class="flex-1 text-[18px]">Index</h2>
        {#if !comparison || comparison.ended_at}{@render button(
            'Compare with the documents',
            api.compareIndex,
            'The index is being compared with the documents.',
          )}{/if}
        {#if !health.index.building}{@render button(
            'Rebuild the index',
            api.rebuildIndex,
            'The index is made anew while it is searched.',
          )}{/if}
      </div>
      <p class="mt-1">
        {#if health.index.building}Being rebuilt: {health.index.percent}%. Searches see the old index until it is done.{:else}It is kept
          true by every change; making it anew is for after a fault.{/if}
      </p>
      {#if health.index.building}{@render going('Documents in the new index', health.index.percent)}{/if}
      {#if comparison && !comparison.ended_at}
        <p class="mt-1">It is being compared with the documents since {moment(comparison.begun_at)}: {comparison.percent}%.</p>
        {@render going('Documents that were compared', comparison.percent)}
      {:else if comparison?.agrees}
        <p class="mt-1 text-moss">It was compared with the documents {moment(comparison.ended_at)}, and they agree.</p>
      {:else if comparison}
        <p class="mt-1 text-rust">
          The index and the documents do not agree (compared {moment(comparison.ended_at)}){comparison.differing > 0
            ? `: ${plural(comparison.differing, 'document that you may see is', 'documents that you may see are')} indexed otherwise than ${comparison.differing === 1 ? 'it is' : 'they are'}`
            : ', though with nothing that you may see'}. {health.index.design_is_carried_out
            ? 'A change of the design is being carried out: compare again when it is done.'
            : 'Rebuild the index.'}
        </p>
        <ul class="mt-1">
          {#each comparison.documents as document (document.ref)}<li class="border-t border-hair py-1">
              <a class="block truncate font-serif text-[15.5px] text-ink" href={`/documents/${document.ref}`}>{document.title}</a>
            </li>{/each}
        </ul>
      {/if}
      {#if health.index.memory}<p class="small quiet mt-1">Memory that holds parts of it ready: {health.index.memory}</p>{/if}

      <h2 class="mt-8 text-[18px]">What failed lately</h2>
      {#if health.failed.length === 0 && !health.mail_given_up}<p class="mt-1 text-moss">Nothing.</p>{/if}
      {#if health.mail_given_up}<p class="mt-1 flex items-baseline gap-4 border-t border-hair py-1.5">
          <span class="flex-1">Mail could not be sent. What the mail server said is in the outbox of who sent it.</span>
          {@render button('Try again', api.sendMailAgain, 'It is sent again.', 'Send the mail again')}
        </p>{/if}
      <ul class="mt-1">
        {#each health.failed as one (`${one.what} ${one.document.ref}`)}
          <li class="flex items-start gap-4 border-t border-hair py-1.5">
            <div class="min-w-0 flex-1">
              <a class="block truncate font-serif text-[15.5px] text-ink" href={`/documents/${one.document.ref}`}>{one.document.title}</a>
              <p class="small quiet">{FAILED[one.what]}{one.at ? `, ${moment(one.at)}` : ''}. {one.says}</p>
            </div>
            {#if one.again}{@render button(
                'Try again',
                () => api.tryAgain(one.what, one.document.ref),
                'It is being done again.',
                `Try again: ${one.document.title}`,
              )}{/if}
          </li>
        {/each}
      </ul>

      {#if health.sources.length > 0}
        <h2 class="mt-8 text-[18px]">Sources</h2>
        <ul class="mt-1">
          {#each health.sources as source (source.code)}
            <Check
              name={source.name}
              says={source.says ||
                (source.way === 'scanner'
                  ? 'scanner, asked by whoever stands at it'
                  : source.looked_at
                    ? `${WAYS[source.way]}, looked at ${moment(source.looked_at)}`
                    : `${WAYS[source.way]}, not looked at yet`)}
              isWell={source.says === ''}
            >
              {#if source.again_at}{@render button(
                  'Try again',
                  () => api.lookAtSource(source.code),
                  'It is looked at now.',
                  `Try again: ${source.name}`,
                )}{/if}
            </Check>
          {/each}
        </ul>
      {/if}

      {#if health.remotes.length > 0}
        <h2 class="mt-8 text-[18px]">Repositories elsewhere</h2>
        <ul class="mt-1">
          {#each health.remotes as remote (remote.code)}
            <Check
              name={remote.name}
              says={remote.last
                ? `${remote.last.says || `answered in ${remote.last.milliseconds} ms`}, ${moment(remote.last.at)}`
                : 'nobody asked it lately'}
              isWell={remote.last ? remote.last.says === '' : null}
            >
              {@render button('Ask now', () => api.askRemote(remote.code), 'It was asked.', `Ask ${remote.name} now`)}
            </Check>
          {/each}
        </ul>
      {/if}

      <h2 class="mt-8 text-[18px]">What runs</h2>
      <ul class="mt-1">
        {#each health.checks as check (check.name)}<Check name={check.name} says={check.says} isWell={check.is_well} />{/each}
      </ul>

      {#if health.tools.length > 0}
        <h2 class="mt-8 text-[18px]">Programs on the server</h2>
        <ul class="mt-1">
          {#each health.tools as tool (tool.name)}
            <Check
              name={tool.name}
              says={`${tool.for}${tool.version ? `: ${tool.version}` : ''}`}
              isWell={tool.version === null ? false : null}
              unwell="not there"
            />
          {/each}
        </ul>
      {/if}
    {:else if !trying.fault}<p class="quiet mt-5" role="status">Loading…</p>{/if}
  </div>
</section>
