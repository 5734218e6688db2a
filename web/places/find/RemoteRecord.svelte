<script lang="ts">
  import { keys } from '@/state/keys.svelte';
  import { onDestroy } from 'svelte';
  import { api, messageOf } from '@/api/client';
  import type { RemoteRow } from '@/api/types';
  import Pieces from '@/parts/Pieces.svelte';
  import type { Pdf } from '@/places/read/pdf';
  import { app } from '@/state/app.svelte';
  import IconDownload from '@lucide/svelte/icons/download';
  import IconExternal from '@lucide/svelte/icons/external-link';
  import IconX from '@lucide/svelte/icons/x';

  /** A record of a remote repository: what it describes, as far as it can be shown, and how it is described there. */
  let { code, name, record, onclose }: { code: string; name: string; record: RemoteRow; onclose: () => void } = $props();

  const format = $derived(
    record.elements
      .find((e) => e.element === 'format')
      ?.values[0]?.map(([text]) => text)
      .join('') ?? '',
  );
  const url = $derived(record.may_fetch ? api.remoteFileUrl(code, record.address!, record.seal) : null);
  const isPdf = $derived(url !== null && (/pdf/i.test(format) || /\.pdf$/i.test(record.address!)));
  const isImage = $derived(url !== null && /^image\/(png|jpeg|gif|webp)/i.test(format));

  let pdf = $state.raw<Pdf | null>(null);
  let fault = $state('');
  let width = $state(400);
  let close = () => {};
  let gone = false;
  // svelte-ignore state_referenced_locally
  if (isPdf) {
    void import('@/places/read/pdf').then(({ openPdf }) => {
      if (gone) return;
      const task = openPdf(url!);
      close = task.close;
      task.pdf.then(
        (got) => (pdf = got),
        () => {
          if (!gone) fault = `The file could not be loaded from ${name}. Try again later.`;
        },
      );
    });
  }
  onDestroy(() => {
    gone = true;
    close();
  });

  /** Draws a page when it comes near. */
  function draw(canvas: HTMLCanvasElement, number: number) {
    const watch = new IntersectionObserver(
      ([entry]) => {
        if (!entry?.isIntersecting || !pdf) return;
        watch.disconnect();
        void import('@/places/read/pdf').then((module) => module.draw(pdf!, number, canvas, null, width - 32));
      },
      { rootMargin: '600px' },
    );
    watch.observe(canvas);
    return { destroy: () => watch.disconnect() };
  }

  const libraries = $derived(app.design!.libraries.filter((l) => l.may_change));
  let asks = $state(false);
  let library = $state(localStorage.getItem('intake:library') ?? '');
  let busy = $state(false);
  let waits = $state(false);
  $effect(() => {
    if (!libraries.some((l) => l.code === library)) library = libraries[0]?.code ?? '';
  });
  async function take(event: SubmitEvent) {
    event.preventDefault();
    busy = true;
    try {
      await api.takeRemote(code, record.address!, record.seal, record.title, library);
      asks = false;
      waits = true;
    } catch (error) {
      app.say(messageOf(error, 'No copy could be brought in.'), { wrong: true });
    } finally {
      busy = false;
    }
  }
  // What it says before what it is filed under.
  const ORDER = ['description', 'date', 'creator', 'publisher', 'coverage', 'subject', 'type'];
  const place = (element: string) => (ORDER.includes(element) ? ORDER.indexOf(element) : ORDER.length);
  const ordered = $derived(record.elements.filter((e) => e.element !== 'title').sort((a, b) => place(a.element) - place(b.element)));
  const LABELS: Record<string, string> = { coverage: 'Place or period', creator: 'Author', identifier: 'Their identifier' };
  const label = (element: string) => LABELS[element] ?? element[0]!.toUpperCase() + element.slice(1);

  keys.use(() => [{ on: 'Escape', run: onclose }]);
</script>

<div class="flex h-full flex-col">
  <header class="flex items-start gap-1 border-b border-hair px-4 pt-2.5 pb-2">
    <div class="min-w-0 flex-1">
      <h2 class="text-[19px] leading-tight">{record.title}</h2>
      <p class="small quiet">A record of {name}</p>
    </div>
    {#if url}
      <a class="icon-btn" href={url} target="_blank" rel="noreferrer" aria-label="Open the document in a window" title="Open in a window"
        ><IconExternal size={16} strokeWidth={1.6} /></a
      >
      <a
        class="icon-btn"
        href={api.remoteFileUrl(code, record.address!, record.seal, true)}
        download
        aria-label="Download"
        title="Download the file"><IconDownload size={16} strokeWidth={1.6} /></a
      >
    {/if}
    <button class="icon-btn" onclick={onclose} aria-label="Close the reading pane" title="Close (Esc)"
      ><IconX size={16} strokeWidth={1.7} /></button
    >
  </header>
  <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
  <div class="min-h-0 flex-1 overflow-y-auto" role="group" aria-label="The record" tabindex="0" bind:clientWidth={width}>
    {#if record.may_fetch && libraries.length > 0}
      <div class="border-b border-hair px-4 py-2">
        {#if waits}<p class="text-moss" role="status">A copy waits in <a href="/intake">Intake</a>, to be indexed and filed.</p>
        {:else if asks}
          <form class="flex flex-wrap items-end gap-3" onsubmit={take} aria-label="Bring in a copy">
            <div class="min-w-0 flex-1">
              <label class="heading" for="take-library">Into the library</label><select class="input" id="take-library" bind:value={library}
                >{#each libraries as l (l.code)}<option value={l.code}>{l.name}</option>{/each}</select
              >
            </div>
            <button class="btn btn-main" disabled={busy}>{busy ? 'Bringing in…' : 'Bring in a copy'}</button><button
              type="button"
              class="link"
              onclick={() => (asks = false)}>Cancel</button
            >
          </form>
        {:else}<button class="btn" onclick={() => (asks = true)}>Bring in a copy…</button>{/if}
      </div>
    {/if}
    <dl class="elements px-4 py-2">
      {#each ordered as { element, values } (element)}
        <dt class="small quiet">{label(element)}</dt>
        <dd class="min-w-0 break-words">
          {#each values as pieces, i (i)}{#if i > 0}<br />{/if}<Pieces {pieces} />{/each}
        </dd>
      {/each}
    </dl>
    {#if fault}<p class="fault px-4 py-2" role="alert">{fault}</p>{/if}
    {#if pdf}
      {#each { length: pdf.numPages }, i}<div class="page"><canvas use:draw={i + 1} aria-label={`Page ${i + 1}`}></canvas></div>{/each}
    {:else if isPdf && !fault}<p class="quiet px-4 py-2">Loading the document…</p>
    {:else if isImage}<div class="page"><img src={url} alt={record.title} /></div>
    {:else if record.address && !record.may_fetch}<p class="quiet px-4 py-2">
        The document is kept elsewhere: <a href={record.address} target="_blank" rel="noreferrer">{record.address}</a>
      </p>{/if}
  </div>
</div>

<style>
  .elements {
    display: grid;
    grid-template-columns: 96px minmax(0, 1fr);
    gap: 4px 12px;
    align-items: baseline;
  }
  .page {
    margin: 0 16px 14px;
    background: #fff;
    box-shadow: 0 0 0 1px var(--hair);
  }
  .page canvas,
  .page img {
    display: block;
    width: 100%;
    min-height: 80px;
  }
</style>
