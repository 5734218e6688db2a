<script lang="ts">
  import { moment } from '@/parts/format';
  import { app } from '@/state/app.svelte';
  import { api } from '@/api/client';
  import PageView from './PageView.svelte';
  import Thumbs from './Thumbs.svelte';
  import type { Reading } from './document.svelte';
  import type { Marking } from './marking.svelte';
  import type { Pdf } from './pdf';
  import { hasPages, isDrawnPage, isPicture, pagesUrl } from './shown';

  let {
    reading,
    zoom = 1,
    turn = 0,
    thumbs = false,
    marking = null,
  }: { reading: Reading; zoom?: number; turn?: number; thumbs?: boolean; marking?: Marking | null } = $props();

  let pdf = $state.raw<Pdf | null>(null);
  let fault = $state('');
  let width = $state(0);
  const record = $derived(reading.record!);
  const image = $derived(isPicture(record) ? api.fileUrl(record.ref, record.shown_version) : null);

  const isDrawn = $derived(hasPages(record) && !image);

  $effect(() => {
    if (!isDrawn || record.page_count === 0) return;
    const url = pagesUrl(record, record.shown_version);
    let opened: { close: () => void } | null = null;
    void import('./pdf').then(({ openPdf }) => {
      const task = openPdf(url);
      opened = task;
      task.pdf.then(
        (got) => (pdf = got),
        () => (fault = record.copy_reason ?? 'The PDF cannot be drawn here; its text is shown instead.'),
      );
    });
    return () => opened?.close();
  });

  const drawnWidth = $derived(Math.max(240, Math.min(900, width - 32)) * zoom);
</script>

<div class="flex h-full min-h-0">
  {#if thumbs && record.page_count > 1}<Thumbs {reading} {pdf} />{/if}
  <!-- Scrolled by keyboard too, so it takes the focus. -->
  <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
  <div class="h-full min-w-0 flex-1 overflow-auto px-4 pt-4" bind:clientWidth={width} tabindex="0" role="region" aria-label="Pages">
    {#if record.destroyed_at}
      <div class="mx-auto max-w-md py-8">
        <p class="font-serif text-lg">The document was destroyed {moment(record.destroyed_at)}.</p>
        <p class="quiet mt-1">What the office keeps of it is on its index sheet. Its file, text and versions are gone.</p>
      </div>
    {:else if record.text_state === 'none' && record.page_count === 0}
      <div class="mx-auto max-w-md py-8">
        <p class="font-serif text-lg">{record.text_reason || 'This file has no text to show.'}</p>
        <p class="quiet mt-1">
          It is found by its name and its index values. {#if app.person?.may.download}<a
              href={api.fileUrl(record.ref, record.shown_version, true)}
              download>Download the file as it is</a
            >.{/if}
        </p>
      </div>
    {:else if record.text_state === 'pending' && !image}
      <p class="quiet py-8 text-center" role="status">The text is being read in the background.</p>
    {/if}
    {#if fault}<p class="fault mb-2">{fault}</p>{/if}
    {#if image}
      <PageView {reading} number={1} {image} width={drawnWidth} {turn} {marking} />
    {:else if !isDrawn || pdf || fault}
      {#each Array.from({ length: record.page_count }, (_, i) => i + 1) as number (number)}
        <PageView {reading} {number} pdf={isDrawnPage(record, number) ? pdf : null} width={drawnWidth} {turn} {marking} />
      {/each}
    {/if}
  </div>
</div>
