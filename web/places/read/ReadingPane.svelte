<script lang="ts">
  import { app } from '@/state/app.svelte';
  import { keys } from '@/state/keys.svelte';
  import { api, type Sought } from '@/api/client';
  import { onDestroy } from 'svelte';
  import Edge from '@/parts/Edge.svelte';
  import IconArrowsDiagonal from '@lucide/svelte/icons/maximize-2';
  import IconDownload from '@lucide/svelte/icons/download';
  import IconWindow from '@lucide/svelte/icons/app-window';
  import IconX from '@lucide/svelte/icons/x';
  import { Reading } from './document.svelte';
  import FindHere from './FindHere.svelte';
  import Heading from './Heading.svelte';
  import MailButton from './MailButton.svelte';
  import PinButton from './PinButton.svelte';
  import HitStrip from './HitStrip.svelte';
  import Pages from './Pages.svelte';
  import SheetView from './SheetView.svelte';

  interface Props {
    document: string;
    sought: Sought;
    onclose: () => void;
  }
  let { document, sought, onclose }: Props = $props();

  const question = $derived(JSON.stringify([document, sought]));
  let reading = $state.raw<Reading | null>(null);
  const FACES = { pages: 'Pages', both: 'Both', sheet: 'Index sheet' } as const;
  type Face = keyof typeof FACES;
  // What is shown, and how high the sheet below the pages is, stay as the person left them on this machine.
  const FACE = 'brenvic.face';
  const HEIGHT = 'brenvic.sheet';
  const LEAST = 90;
  let face = $state<Face>(
    (['pages', 'both', 'sheet'] as const).find((f) => f === localStorage.getItem(FACE)) ??
      (window.innerHeight >= 700 && window.innerWidth >= 768 ? 'both' : 'pages'),
  );
  let room = $state(600);
  let drawn = $state(Number(localStorage.getItem(HEIGHT)) || 0);
  const sheet = $derived(Math.max(LEAST, Math.min(drawn || room * 0.36, room - 160)));
  function turn(to: Face) {
    face = to;
    localStorage.setItem(FACE, to);
  }
  function heighten(height: number) {
    drawn = height;
    localStorage.setItem(HEIGHT, String(height));
  }

  // The pages are painted before the sheet below them is made.
  let below = $state.raw<Reading | null>(null);
  $effect(() => {
    const next = reading;
    const frame = requestAnimationFrame(() => requestAnimationFrame(() => (below = next)));
    return () => cancelAnimationFrame(frame);
  });

  onDestroy(() => reading?.close());
  $effect(() => {
    const [ref, of] = JSON.parse(question) as [string, Sought];
    const next = new Reading(ref, of);
    // The document before stays in sight until the next one is there.
    void next.load().then(() => {
      if (next.ref === document) {
        reading?.close();
        reading = next;
      } else next.close();
    });
    // A second window that follows shows what is chosen here.
    const channel = new BroadcastChannel('brenvic.open');
    channel.postMessage({ ref, address: location.search });
    channel.close();
  });

  keys.use(() => [
    { on: 'n', run: () => reading?.step(1) },
    { on: 'p', run: () => reading?.step(-1) },
    { shown: 'n  p', what: 'Next and previous hit in the document' },
    { on: 'Escape', run: onclose },
  ]);
</script>

<div class="flex h-full flex-col">
  {#if reading?.fault}
    <div class="p-4">
      <p class="fault">{reading.fault}</p>
      <button class="btn mt-3" onclick={onclose}>Close</button>
    </div>
  {:else if reading?.record}
    {@const record = reading.record}
    {#snippet tools()}
      {#if app.person?.may.download}<MailButton reading={reading!} />{/if}
      <PinButton reading={reading!} />
      <button
        class="icon-btn"
        aria-label="Open in a second window that follows the choice"
        title="Second window that follows the choice"
        onclick={() => window.open(`/documents/${record.ref}${location.search || '?'}&follow=1`, 'brenvic-reader', 'width=900,height=1000')}
        ><IconWindow size={16} strokeWidth={1.6} /></button
      >
      {#if app.person?.may.download && !record.destroyed_at}<a
          class="icon-btn"
          href={api.fileUrl(record.ref, record.shown_version, true)}
          download
          aria-label="Download"
          title="Download the file"><IconDownload size={16} strokeWidth={1.6} /></a
        >{/if}
      <a class="icon-btn" href={`/documents/${record.ref}${location.search}`} aria-label="Open the reader" title="Open the reader (Enter)"
        ><IconArrowsDiagonal size={16} strokeWidth={1.6} /></a
      >
    {/snippet}
    <header class="flex items-start gap-1 border-b border-hair px-4 pt-2.5 pb-1">
      <div class="min-w-0 flex-1"><Heading {record} title={reading!.hits.title} {tools} /></div>
      <button class="icon-btn" onclick={onclose} aria-label="Close the reading pane" title="Close (Esc)"
        ><IconX size={16} strokeWidth={1.7} /></button
      >
    </header>
    <div class="flex border-b border-hair px-2" role="group" aria-label="Faces of the document">
      {#each ['pages', 'both', 'sheet'] as const as name (name)}
        <button class="face small" aria-pressed={face === name} onclick={() => turn(name)}>{FACES[name]}</button>
      {/each}
      <span class="flex-1"></span>{#if face !== 'sheet'}<FindHere {reading} />{/if}
    </div>
    <div class="flex min-h-0 flex-1 flex-col" bind:clientHeight={room}>
      {#if face !== 'sheet'}
        <HitStrip {reading} />
        <div class="min-h-0 flex-1">
          {#key `${reading.ref} ${reading.record.shown_version} ${reading.record.text_state}`}<Pages {reading} />{/key}
        </div>
      {/if}
      {#if face !== 'pages'}
        <div
          class="relative"
          class:flex-1={face === 'sheet'}
          class:below={face === 'both'}
          style={face === 'both' ? `height:${sheet}px` : 'min-height:0'}
        >
          {#if face === 'both'}<Edge
              label="Height of the index sheet"
              above
              size={sheet}
              least={LEAST}
              most={room - 160}
              onchange={heighten}
            />{/if}
          <div class="h-full overflow-y-auto">
            {#if below}{#key below}<SheetView reading={below} />{/key}{/if}
          </div>
        </div>
      {/if}
    </div>
  {:else}<p class="quiet p-4">Loading…</p>{/if}
</div>

<style>
  .face {
    padding: 5px 10px;
    color: var(--quiet);
    border-bottom: 2px solid transparent;
  }
  .below {
    flex: none;
    border-top: 1px solid var(--hair);
  }
  .face[aria-pressed='true'] {
    color: var(--ink);
    border-bottom-color: var(--act);
    font-weight: 600;
  }
</style>
