<script lang="ts">
  import { count, plural } from '@/parts/format';
  import { app } from '@/state/app.svelte';
  import { onDestroy } from 'svelte';
  import { BringingIn, type Outcome } from './bringing.svelte';

  /** Brings in the files of the register or the folders that a design was made from: looked at first, then sent. */
  interface Props {
    what: 'table' | 'folders';
    /** Whether what was accepted is still in the draft only. */
    isDraft: boolean;
  }
  let { what, isDraft }: Props = $props();

  const bringing = new BringingIn();
  void bringing.load();
  onDestroy(() => bringing.leave());
  const now = $derived(bringing.now);
  const libraries = $derived(app.design!.libraries.filter((l) => l.may_change));
  $effect(() => {
    if (!libraries.some((l) => l.code === bringing.library)) bringing.library = libraries[0]?.code ?? '';
  });
  const libraryName = $derived(app.design!.libraries.find((l) => l.code === now?.library)?.name ?? '');
  const done = $derived(bringing.count('in'));
  const all = $derived(done + bringing.toCome);
  const says: Record<Outcome, (n: number) => string> = {
    new: (n) => `${plural(n, 'file comes', 'files come')} in`,
    in: (n) => `${plural(n, 'file is', 'files are')} in`,
    changed: (n) => `${plural(n, 'document changes', 'documents change')} as the table did`,
    altered: (n) => `${plural(n, 'document was', 'documents were')} changed as the table was`,
    known: (n) => `${plural(n, 'file is', 'files are')} in already, with nothing new`,
    rest: (n) => `${plural(n, 'file has', 'files have')} no row`,
    missing: (n) => `${plural(n, 'row names', 'rows name')} no file here`,
    refused: (n) => `${plural(n, 'file', 'files')} cannot come in`,
  };
  const order: Outcome[] = ['in', 'new', 'altered', 'changed', 'known', 'rest', 'missing', 'refused'];
  // While files are coming their number is said by the line above the bar.
  const counts = $derived(
    order
      .filter((o) => now?.state !== 'open' || (o !== 'in' && o !== 'new'))
      .flatMap((o) => now?.counts.filter((c) => c.outcome === o) ?? []),
  );
  const act = $derived(
    [
      bringing.toCome > 0 ? `Bring in ${plural(bringing.toCome, 'file', 'files')}` : '',
      bringing.count('changed') > 0
        ? `${bringing.toCome > 0 ? 'change' : 'Change'} ${plural(bringing.count('changed'), 'document', 'documents')}`
        : '',
    ]
      .filter(Boolean)
      .join(' and '),
  );

  function take(event: Event & { currentTarget: HTMLInputElement }) {
    const files = [...(event.currentTarget.files ?? [])];
    event.currentTarget.value = '';
    if (files.length > 0) void bringing.choose(files);
  }
</script>

{#snippet folder(label: string, look: string)}
  <label class={`${look} cursor-pointer`}
    >{label}<input class="sr-only" type="file" webkitdirectory multiple disabled={bringing.trying.busy} onchange={take} /></label
  >
{/snippet}

<section class="mt-4 border-l-2 border-moss pl-4" aria-label="Bring the files in">
  <h3 class="font-serif text-[17px]">Bring the files in</h3>
  {#if bringing.trying.fault}<p class="fault my-2" role="alert">{bringing.trying.fault}</p>{/if}
  {#if isDraft}
    <p class="mt-1">It is in the draft. Publish it; then the files can come in.</p>
  {:else if !bringing.known}<p class="quiet" role="status">Loading…</p>
  {:else if now === null}
    <p class="mt-1 max-w-prose">
      {what === 'table'
        ? 'Each file gets the values of its row. A column names it by its path, its name, or its name without the ending.'
        : 'Each file gets the values of the folders it lies in.'}
      First you see what would happen.
    </p>
    <div class="mt-2 flex flex-wrap items-end gap-3">
      <label class="w-56"
        ><span class="heading">Library</span><select class="input" bind:value={bringing.library}>
          {#each libraries as l (l.code)}<option value={l.code}>{l.name}</option>{/each}
        </select></label
      >
      {@render folder('Choose the folder with the files…', 'btn btn-main')}
      {#if what === 'table'}<button class="link small pb-2" disabled={bringing.trying.busy} onclick={() => bringing.lookAtRows()}
          >Only what the table changed</button
        >{/if}
    </div>
  {:else if now.state === 'looking'}
    <p class="mt-1" role="status">Looking at the files… <button class="link" onclick={() => bringing.drop()}>Cancel</button></p>
  {:else if now.state === 'failed'}
    <p class="mt-1 text-rust" role="alert">{now.says}</p>
    <button class="link" onclick={() => bringing.drop()}>Choose again</button>
  {:else}
    {#if now.state === 'open'}
      <p class="mt-1" role="status">{count(done)} of {count(all)} files are in {libraryName}.</p>
      <progress class="my-2 block w-80" value={done} max={Math.max(1, all)} aria-label="Files that are in"></progress>
    {/if}
    <ul class="mt-1">
      {#each counts as c (c.outcome)}
        <li class:text-rust={c.outcome === 'refused'}>
          {#if c.noted > 0 || ['missing', 'rest', 'refused'].includes(c.outcome)}
            <details>
              <summary class="cursor-pointer py-0.5"
                >{says[c.outcome](c.count)}{c.noted > 0 && c.outcome !== 'refused' ? `, ${count(c.noted)} with a note` : ''}</summary
              >
              <ul class="small ml-4">
                {#each c.examples as e (e.source)}<li>
                    {e.source}{#if e.note}: <span class="quiet">{e.note}</span>{/if}
                  </li>{/each}
                {#if c.count > c.examples.length}<li class="quiet">and {count(c.count - c.examples.length)} more</li>{/if}
              </ul>
            </details>
          {:else}<span class="block py-0.5">{says[c.outcome](c.count)}</span>{/if}
        </li>
      {/each}
    </ul>
    <div class="mt-2 flex flex-wrap items-center gap-4">
      {#if now.state === 'ready'}
        {#if bringing.count('rest') > 0}<label class="flex items-center gap-1.5"
            ><input type="checkbox" class="check" bind:checked={bringing.rest} />also those without a row, without index values</label
          >{/if}
        {#if act}<button class="btn btn-main" disabled={bringing.trying.busy} onclick={() => bringing.begin()}>{act}</button>{:else}<span
            class="quiet">There is nothing to bring in.</span
          >{/if}
        <button class="link" onclick={() => bringing.drop()}>Cancel</button>
      {:else if now.state === 'open'}
        {#if bringing.sending}<button class="btn" onclick={() => bringing.pause()}>Pause</button>
        {:else if bringing.isAtHand && bringing.lacking === 0}<button class="btn btn-main" onclick={() => bringing.send()}>Go on</button>
        {:else if bringing.toCome > 0}
          {@render folder(
            bringing.lacking > 0 ? 'Choose the folder with the others…' : 'Choose the folder again to go on…',
            'btn btn-main',
          )}
          {#if bringing.lacking > 0}<span class="quiet">{plural(bringing.lacking, 'file is', 'files are')} not in the folder.</span>{/if}
        {/if}
        {#if !bringing.sending}<button class="link" disabled={bringing.trying.busy} onclick={() => bringing.undo()}>Undo all of it</button
          >{/if}
      {:else}
        <button class="btn" disabled={bringing.trying.busy} onclick={() => bringing.drop()}>Bring in more</button>
        <button class="link" disabled={bringing.trying.busy} onclick={() => bringing.undo()}>Undo all of it</button>
        <span class="quiet small">Also under Last acts.</span>
      {/if}
    </div>
  {/if}
</section>
