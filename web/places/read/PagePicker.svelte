<script lang="ts">
  import { Dialog } from 'bits-ui';
  import { api, messageOf } from '@/api/client';
  import type { Answer, DocumentRecord } from '@/api/types';
  import { plural } from '@/parts/format';
  import { app } from '@/state/app.svelte';
  import { onDestroy } from 'svelte';
  import type { Pdf } from './pdf';
  import { thumb } from './thumb';

  /** Finds a document and chooses which of its pages are put in. */
  interface Props {
    /** The document that they are put into. */
    into: string;
    onpicked: (record: DocumentRecord, pages: number[]) => void;
    oncancel: () => void;
  }
  let { into, onpicked, oncancel }: Props = $props();

  const WIDTH = 96;
  const MOST = 12;
  let words = $state('');
  let found = $state.raw<Answer | null>(null);
  let record = $state.raw<DocumentRecord | null>(null);
  let pdf = $state.raw<Pdf | null>(null);
  let chosen = $state<number[]>([]);
  let fault = $state('');
  let close = () => {};
  onDestroy(() => close());
  const pages = $derived(record === null ? [] : Array.from({ length: record.page_count }, (_, i) => i + 1));
  const rows = $derived(found?.rows.filter((r) => r.ref !== into) ?? []);

  // While typing; words reach as far as they do for this person everywhere.
  $effect(() => {
    const typed = words.trim();
    if (typed.length < 2) {
      found = null;
      return;
    }
    const stop = new AbortController();
    const timer = setTimeout(
      () =>
        api.search({ words: typed, reach: app.reach, criteria: [PAGED], columns: ['type', 'pages'], limit: MOST }, stop.signal).then(
          (got) => {
            found = got;
            fault = '';
          },
          (error: unknown) => {
            if (!stop.signal.aborted) fault = messageOf(error, 'The search could not be made.');
          },
        ),
      200,
    );
    return () => {
      clearTimeout(timer);
      stop.abort();
    };
  });
  /** What has pages that can be taken. */
  const PAGED = { cql: 'file_type == pdf or file_type == image', negated: false, on: true };

  async function open(ref: string) {
    try {
      record = await api.document(ref);
      chosen = [];
      fault = '';
      close();
      pdf = null;
      if (record.file_kind === 'pdf') {
        const { openPdf } = await import('./pdf');
        const task = openPdf(api.fileUrl(record.ref, record.version));
        close = task.close;
        pdf = await task.pdf;
      } else if (record.file_kind === 'image') chosen = [1];
      else throw new Error('That document has no pages to take.');
    } catch (error) {
      record = null;
      fault = messageOf(error, 'That document cannot be opened.');
    }
  }
  const choose = (page: number) => (chosen = chosen.includes(page) ? chosen.filter((p) => p !== page) : [...chosen, page]);
</script>

<Dialog.Root open onOpenChange={oncancel}>
  <Dialog.Portal>
    <Dialog.Overlay class="fixed inset-0 z-40 bg-black/25" />
    <Dialog.Content
      class="fixed top-[6vh] left-1/2 z-50 flex h-[86vh] w-[760px] max-w-[94vw] -translate-x-1/2 flex-col border border-hair bg-sheet shadow-xl"
    >
      <div class="px-6 pt-5 pb-3">
        <Dialog.Title class="font-serif text-xl">Insert pages of another document</Dialog.Title>
        {#if record}
          <p class="mt-1 flex items-baseline gap-4">
            <span class="min-w-0 flex-1 truncate font-serif">{record.title}</span><button class="link small" onclick={() => (record = null)}
              >Another document</button
            >
          </p>
          <p class="small quiet mt-1 flex gap-4" role="status">
            <span>{plural(chosen.length, 'page', 'pages')} selected of {pages.length}, inserted in the order of selection.</span>
            <button class="link" onclick={() => (chosen = pages)}>Select all</button>
            <button class="link" disabled={chosen.length === 0} onclick={() => (chosen = [])}>Select none</button>
          </p>
        {:else}
          <label class="heading mt-2 block" for="picker-words">Find a document by words, or by its reference</label>
          <!-- svelte-ignore a11y_autofocus -->
          <input
            class="input"
            id="picker-words"
            type="search"
            bind:value={words}
            autofocus
            autocomplete="off"
            spellcheck="false"
            onkeydown={(e) => {
              if (e.key === 'Enter' && rows[0]) void open(rows[0].ref);
            }}
          />
        {/if}
      </div>
      <div class="min-h-0 flex-1 overflow-y-auto border-t border-hair px-6 py-3">
        {#if record}
          <ol class="grid gap-3" style={`grid-template-columns:repeat(auto-fill,${WIDTH + 16}px)`} aria-label="Its pages">
            {#each pages as page (page)}
              <li>
                <button
                  class="page"
                  class:chosen={chosen.includes(page)}
                  aria-pressed={chosen.includes(page)}
                  aria-label={`Page ${page}`}
                  onclick={() => choose(page)}
                >
                  {#if record.file_kind === 'image'}<img src={api.fileUrl(record.ref, record.version)} alt="" />{:else if pdf}<canvas
                      use:thumb={{ pdf, page, width: WIDTH }}
                    ></canvas>{/if}
                  <span class="small num">{page}</span>
                </button>
              </li>
            {/each}
          </ol>
        {:else}
          <ul aria-label="Documents found">
            {#each rows as row (row.ref)}
              <li>
                <button class="flex w-full items-baseline gap-4 border-b border-hair py-1.5 text-left" onclick={() => open(row.ref)}
                  ><span class="min-w-0 flex-1 truncate font-serif">{row.title}</span><span class="small quiet">{row.cells.type}</span><span
                    class="small num w-16 text-right">{plural(Number(row.cells.pages) || 1, 'page', 'pages')}</span
                  ></button
                >
              </li>
            {/each}
          </ul>
          {#if found && rows.length === 0}<p class="quiet" role="status">No document with pages contains these words.</p>
          {:else if found && found.total > rows.length}<p class="small quiet mt-2" role="status">
              The first {rows.length} of {found.total}. More words find fewer.
            </p>{/if}
        {/if}
      </div>
      {#if fault}<p class="fault px-6 pt-2" role="alert">{fault}</p>{/if}
      <p class="flex gap-2 border-t border-hair px-6 py-3">
        {#if record}<button class="btn btn-main" disabled={chosen.length === 0} onclick={() => onpicked(record!, $state.snapshot(chosen))}
            >Insert {plural(chosen.length, 'page', 'pages')}</button
          >{/if}
        <button class="btn" onclick={oncancel}>Cancel</button>
      </p>
    </Dialog.Content>
  </Dialog.Portal>
</Dialog.Root>

<style>
  .page {
    display: block;
    width: 100%;
    padding: 6px;
    border-radius: 3px;
    text-align: center;
  }
  .page.chosen {
    background: var(--act-tint);
    box-shadow: inset 0 0 0 2px var(--act);
  }
  .page canvas,
  .page img {
    display: block;
    width: 96px;
    max-height: 140px;
    margin: 0 auto 4px;
    background: #fff;
    box-shadow: 0 0 0 1px var(--hair);
    object-fit: contain;
  }
</style>
