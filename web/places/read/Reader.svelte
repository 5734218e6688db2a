<script lang="ts">
  import { keys } from '@/state/keys.svelte';
  import { api } from '@/api/client';
  import { app } from '@/state/app.svelte';
  import { onDestroy } from 'svelte';
  import { formsFor } from '@/parts/forms';
  import Popover from '@/parts/Popover.svelte';
  import LinkForm from '@/places/lists/LinkForm.svelte';
  import { lists } from '@/state/lists.svelte';
  import { router } from '@/state/router.svelte';
  import { addressOf, searchFrom } from '@/state/search';
  import IconArrowLeft from '@lucide/svelte/icons/arrow-left';
  import IconDownload from '@lucide/svelte/icons/download';
  import IconMinus from '@lucide/svelte/icons/minus';
  import IconThumbs from '@lucide/svelte/icons/layout-list';
  import IconFull from '@lucide/svelte/icons/maximize';
  import IconMark from '@lucide/svelte/icons/highlighter';
  import IconRedact from '@lucide/svelte/icons/eraser';
  import IconTurn from '@lucide/svelte/icons/rotate-cw';
  import IconPlus from '@lucide/svelte/icons/plus';
  import { Reading } from './document.svelte';
  import FindHere from './FindHere.svelte';
  import { hasPages } from './shown';
  import Heading from './Heading.svelte';
  import HitStrip from './HitStrip.svelte';
  import Pages from './Pages.svelte';
  import { bytesBefore } from './textMarks';
  import { Marking } from './marking.svelte';
  import MarkTools from './MarkTools.svelte';
  import RedactPanel from './RedactPanel.svelte';
  import MailButton from './MailButton.svelte';
  import PinButton from './PinButton.svelte';
  import VersionNote from './VersionNote.svelte';
  import SheetView from './SheetView.svelte';

  let { document: ref }: { document: string } = $props();

  const search = searchFrom(router.params);
  // svelte-ignore state_referenced_locally
  const reading = new Reading(
    ref,
    { words: search.words, criteria: search.criteria, reach: search.reach || undefined },
    Number(router.params.get('page') ?? 0),
    Number(router.params.get('version') ?? 0),
  );
  void reading.load();
  const marking = new Marking(reading);
  let marks = $state(false);
  $effect(() => {
    // Laid over the pages once they are read; anew when the text is.
    void [reading.record?.text_state, reading.record?.version];
    if (reading.record && reading.record.text_state !== 'pending') void marking.load();
  });
  onDestroy(() => {
    reading.close();
    marking.close();
  });
  let zoom = $state(1);
  let turn = $state(0);
  let ways = $state(false);
  let thumbs = $state(localStorage.getItem('thumbs') === '1');
  $effect(() => localStorage.setItem('thumbs', thumbs ? '1' : '0'));
  let whole: HTMLElement | undefined = $state();
  const follows = router.params.get('follow') === '1';
  $effect(() => {
    if (!follows) return;
    const channel = new BroadcastChannel('brenvic.open');
    channel.onmessage = ({ data }: MessageEvent<{ ref: string; address: string }>) => {
      // Made and read here: nothing follows it.
      // eslint-disable-next-line svelte/prefer-svelte-reactivity
      const params = new URLSearchParams(data.address);
      params.set('follow', '1');
      router.go(`/documents/${encodeURIComponent(data.ref)}?${params}`, 'replace');
    };
    return () => channel.close();
  });
  // The place makes a new reader for every document.
  const hasSearch = search.words !== '' || search.criteria.length > 0 || search.view !== '';
  const back = addressOf(search);

  /** Only the present version of what has pages is marked. */
  const markable = $derived(
    reading.record?.state === 'filed' && reading.record.page_count > 0 && reading.record.shown_version === reading.record.version,
  );
  const hasPictures = $derived(reading.record !== null && hasPages(reading.record));
  function toggleMarks() {
    marks = !marks;
    if (marks) turn = 0;
    else marking.tool = '';
  }
  async function toggleRedacting() {
    if (marking.redacting) marking.stopRedacting();
    else await marking.startRedacting();
    turn = 0;
  }
  /** Highlights the hit that is looked at. */
  async function markHit() {
    const asked = reading.asked;
    if (!asked || asked.hit < 0) return;
    const page = await api.page(reading.ref, asked.page, reading.marks);
    const boxes = page.boxes[asked.hit] ?? [];
    // Where there is no picture the hit is told by its place in the text.
    const at = page.pieces.findIndex((_, i) => page.pieces[i]![1] && page.pieces.slice(0, i).filter(([, hit]) => hit).length === asked.hit);
    const place = {
      start: bytesBefore(
        page.pieces
          .slice(0, at)
          .map(([text]) => text)
          .join(''),
      ),
      length: bytesBefore(page.pieces[at]?.[0] ?? ''),
    };
    const made = await marking.add({ page: asked.page, kind: 'highlight', ...(boxes.length > 0 ? { boxes, words: true } : place) });
    if (made) app.say('Highlighted.', { undo: () => marking.undo() });
  }

  keys.use(() => [
    { on: 'n', run: () => reading.step(1) },
    { on: 'p', run: () => reading.step(-1) },
    { shown: 'n  p', what: 'Next and previous hit' },
    { on: 'f', what: 'Find in the document', run: () => document.getElementById('find-here')?.focus() },
    { on: 't', what: 'Thumbnails', run: () => (thumbs = !thumbs) },
    { on: 'r', what: 'Rotate the page', run: () => (turn = (turn + 90) % 360) },
    { on: 'h', what: 'Highlight the current hit', run: () => void markHit(), when: () => markable },
    { on: 'k', what: 'Tools for marking the pages', run: toggleMarks, when: () => markable },
    { on: 'x', what: 'Redact', run: () => void toggleRedacting(), when: () => markable && app.person?.may.redact === true },
    { on: 'a', what: 'Add it to the pull list', run: () => reading.record && void lists.gather({ documents: [reading.record.ref] }) },
    {
      on: 'Escape',
      what: 'Back to the results',
      run: () => router.go(back),
      when: () => hasSearch && !document.fullscreenElement && !follows,
    },
  ]);
</script>

<div class="flex h-full flex-col bg-paper" bind:this={whole}>
  {#if reading.fault}
    <div class="p-10">
      <h1 class="text-2xl">Document not found</h1>
      <p class="quiet mt-2">{reading.fault} <a href="/desk">Go to your desk</a>.</p>
    </div>
  {:else if reading.record}
    <header class="flex flex-none flex-wrap items-start gap-x-3 gap-y-1 border-b border-hair px-5 py-2.5 md:flex-nowrap">
      {#if hasSearch}<a class="icon-btn mt-0.5" href={back} aria-label="Back to the results" title="Back to the results (Esc)"
          ><IconArrowLeft size={18} strokeWidth={1.6} /></a
        >{/if}
      <div class="min-w-0 flex-1 basis-[calc(100%-56px)] md:basis-0"><Heading record={reading.record} title={reading.hits.title} /></div>
      {#if app.hasTool('find')}<FindHere {reading} />{/if}
      {#if reading.record.state === 'filed' && app.person?.may.download && app.hasTool('mail')}<MailButton {reading} />{/if}
      {#if app.hasTool('pin')}<PinButton {reading} />{/if}
      {#if markable && app.hasTool('marks')}<button
          class="icon-btn"
          aria-pressed={marks}
          aria-label="Mark the pages"
          title="Mark the pages (k)"
          onclick={toggleMarks}><IconMark size={16} strokeWidth={1.6} /></button
        >{/if}
      {#if markable && app.person?.may.redact && !reading.record.redacted_only}<button
          class="icon-btn"
          aria-pressed={marking.redacting}
          aria-label="Redact"
          title="Redact (x)"
          onclick={toggleRedacting}><IconRedact size={16} strokeWidth={1.6} /></button
        >{/if}
      {#if reading.record.page_count > 1 && app.hasTool('thumbs')}<button
          class="icon-btn"
          aria-pressed={thumbs}
          aria-label="Thumbnails"
          title="Thumbnails (t)"
          onclick={() => (thumbs = !thumbs)}><IconThumbs size={16} strokeWidth={1.6} /></button
        >{/if}
      {#if app.hasTool('rotate')}<button
          class="icon-btn"
          aria-label="Rotate the pages"
          title="Rotate (r)"
          onclick={() => (turn = (turn + 90) % 360)}><IconTurn size={16} strokeWidth={1.6} /></button
        >{/if}
      {#if app.hasTool('full')}<button
          class="icon-btn"
          aria-label="Full screen"
          title="Full screen"
          onclick={() => (document.fullscreenElement ? document.exitFullscreen() : whole?.requestFullscreen())}
          ><IconFull size={16} strokeWidth={1.6} /></button
        >{/if}
      {#if app.hasTool('zoom')}<div class="flex" role="group" aria-label="Zoom">
          <button
            class="icon-btn"
            aria-label="Smaller"
            title="Smaller"
            disabled={zoom <= 0.5}
            onclick={() => (zoom = Math.max(0.5, zoom - 0.25))}><IconMinus size={16} strokeWidth={1.7} /></button
          >
          <span class="small num w-11 self-center">{Math.round(zoom * 100)}%</span>
          <button class="icon-btn" aria-label="Larger" title="Larger" disabled={zoom >= 3} onclick={() => (zoom = Math.min(3, zoom + 0.25))}
            ><IconPlus size={16} strokeWidth={1.7} /></button
          >
        </div>{/if}
      {#if app.person?.may.download && !reading.record.destroyed_at}<a
          class="btn"
          href={api.fileUrl(reading.record.ref, reading.record.shown_version, true)}
          download><IconDownload size={15} strokeWidth={1.6} />Download</a
        >{/if}
      {#if reading.record.state === 'filed' && app.person?.may.download && !reading.record.destroyed_at}
        <div class="pt-1.5">
          <Popover label="Download or link…" bind:open={ways} width={320}>
            {#if !reading.record.redacted_only && markable}<h3 class="heading">The file</h3>
              <ul>
                {#each formsFor(reading.record.has_redacted_copy) as [form, label] (form)}<li class="border-t border-hair py-1">
                    <a href={api.fileUrl(reading.record.ref, reading.record.version, true, form)} download>{label}</a>
                  </li>{/each}
              </ul>{/if}
            <h3 class="heading mt-3">A secure link for somebody outside</h3>
            <LinkForm of={`documents/${reading.record.ref}`} isRedacted={reading.record.has_redacted_copy} />
          </Popover>
        </div>
      {/if}
    </header>
    <VersionNote record={reading.record} />
    {#if reading.record.redacted_only}<p class="small quiet border-b border-hair px-5 py-1" role="status">
        This is the redacted copy. ████ marks what was removed.
      </p>{/if}
    {#if marks}<MarkTools {marking} pictures={hasPictures} />{/if}
    <div class="reader">
      <div class="flex min-h-0 min-w-0 flex-col">
        <HitStrip {reading} />
        <div class="min-h-0 flex-1">
          {#key `${reading.record.shown_version} ${reading.record.text_state}`}<Pages {reading} {zoom} {turn} {thumbs} {marking} />{/key}
        </div>
      </div>
      <aside aria-label={marking.redacting ? 'Redaction' : 'Index sheet and place'}>
        {#if marking.redacting && marking.redactions}<RedactPanel {marking} pictures={hasPictures} />{:else}<SheetView {reading} />{/if}
      </aside>
    </div>
  {:else}<p class="quiet p-6">Loading…</p>{/if}
</div>

<style>
  .reader {
    display: grid;
    min-height: 0;
    flex: 1;
    grid-template-columns: minmax(0, 1fr) 360px;
  }
  aside {
    overflow-y: auto;
    border-left: 1px solid var(--hair);
  }
  @media (max-width: 767px) {
    .reader {
      display: block;
      overflow-y: auto;
    }
    .reader > div {
      height: 78vh;
    }
    aside {
      border-left: 0;
      border-top: 1px solid var(--hair);
    }
  }
</style>
