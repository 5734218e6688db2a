<script lang="ts">
  import { keys } from '@/state/keys.svelte';
  import { Dialog } from 'bits-ui';
  import type { LastAct } from '@/api/types';
  import { lastActs, type OwnAct } from '@/state/acts.svelte';
  import { moment, plural } from './format';

  /** One's last acts on documents, each with its Undo as long as it can be undone. */
  const all = $derived<(LastAct | OwnAct)[]>(
    [...(lastActs.kept ?? []), ...lastActs.own].toSorted((a, b) => Date.parse(b.at) - Date.parse(a.at)),
  );
  const isRunning = (act: LastAct) => (act.state === 'running' || act.state === 'undoing') && act.stopped === '';
  $effect(() => {
    if (!lastActs.open || !lastActs.kept?.some(isRunning)) return;
    const timer = setTimeout(() => void lastActs.load().catch(() => {}), 1000);
    return () => clearTimeout(timer);
  });

  keys.use(() => [{ on: 'u', common: true, what: 'Last acts, to undo them', run: () => void lastActs.show(), when: () => !lastActs.open }]);
</script>

<Dialog.Root bind:open={lastActs.open}>
  <Dialog.Portal>
    <Dialog.Overlay class="fixed inset-0 z-40 bg-black/25" />
    <Dialog.Content
      class="fixed top-[10vh] left-1/2 z-50 flex max-h-[80vh] w-[600px] max-w-[94vw] -translate-x-1/2 flex-col border border-hair bg-sheet shadow-xl"
    >
      <div class="px-6 pt-5 pb-2">
        <Dialog.Title class="font-serif text-xl">Last acts</Dialog.Title>
        <Dialog.Description class="quiet"
          >What you did to documents, the newest first. Undo leaves alone what was changed in the meantime, and names it.</Dialog.Description
        >
      </div>
      <ul class="min-h-0 flex-1 overflow-y-auto px-6">
        {#each all as act ('key' in act ? `own ${act.key}` : `${act.of} ${act.id}`)}
          <li class="border-t border-hair py-1.5">
            {#if 'key' in act}
              <div class="flex items-baseline gap-3">
                <span class="min-w-0 flex-1">{act.text}</span><span class="small quiet flex-none">{moment(act.at)}</span>
                {#if act.undone}<span class="act quiet">undone</span>{:else}<button
                    class="act link"
                    disabled={lastActs.busy}
                    onclick={() => lastActs.undoOwn(act.key)}
                    aria-label={`Undo: ${act.text}`}>Undo</button
                  >{/if}
              </div>
            {:else}
              <div class="flex items-baseline gap-3">
                <span class="min-w-0 flex-1">{act.says}<span class="quiet">, {plural(act.documents, 'document', 'documents')}</span></span
                ><span class="small quiet flex-none">{moment(act.at)}</span>
                {#if act.undoable}<button
                    class="act link"
                    disabled={lastActs.busy}
                    onclick={() => lastActs.undo(act)}
                    aria-label={`Undo: ${act.says}, ${plural(act.documents, 'document', 'documents')}`}>Undo</button
                  >
                {:else if act.stopped}<button class="act link" disabled={lastActs.busy} onclick={() => lastActs.goOn(act)}>Try again</button
                  >
                {:else}<span class="act quiet">{isRunning(act) ? 'under way' : act.state === 'undone' ? 'undone' : ''}</span>{/if}
              </div>
              {#if act.stopped || act.why_not}<p class="small" class:text-rust={act.stopped !== ''}>{act.stopped || act.why_not}</p>{/if}
              {#if act.left > 0}
                <details>
                  <summary class="small cursor-pointer text-rust">{plural(act.left, 'document was', 'documents were')} left alone</summary>
                  <ul class="small ml-4">
                    {#each act.left_alone as d (d.ref)}<li>
                        <a href={`/documents/${d.ref}`} onclick={() => (lastActs.open = false)}>{d.title}</a>
                        <span class="quiet">{d.why}</span>
                      </li>{/each}{#if act.left > act.left_alone.length}<li class="quiet">
                        {act.left_alone.length > 0 ? 'and ' : ''}{plural(act.left - act.left_alone.length, 'other', 'others')}, not in your
                        sight now or not listed
                      </li>{/if}
                  </ul>
                </details>
              {/if}
            {/if}
          </li>
        {:else}
          <li class="quiet border-t border-hair py-2">
            <span role="status"
              >{lastActs.kept === null && !lastActs.fault
                ? 'Loading…'
                : 'Nothing yet. What you move, copy, change or remove appears here.'}</span
            >
          </li>
        {/each}
      </ul>
      {#if lastActs.fault}<p class="fault px-6 pt-2" role="alert">{lastActs.fault}</p>{/if}
      <p class="border-t border-hair px-6 py-3"><Dialog.Close class="btn">Close</Dialog.Close></p>
    </Dialog.Content>
  </Dialog.Portal>
</Dialog.Root>

<style>
  .act {
    flex: none;
    width: 74px;
    text-align: right;
  }
</style>
