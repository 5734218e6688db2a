<script lang="ts">
  import { api } from '@/api/client';
  import { plural } from '@/parts/format';
  import type { Pdf } from '@/places/read/pdf';
  import { isPicture, pagesUrl } from '@/places/read/shown';
  import { thumb } from '@/places/read/thumb';
  import { app } from '@/state/app.svelte';
  import { keys } from '@/state/keys.svelte';
  import { router } from '@/state/router.svelte';
  import { onDestroy, tick } from 'svelte';
  import Separators from './Separators.svelte';
  import type { Tile } from './sorting';
  import { Sorting } from './sorting.svelte';

  /** The pages of waiting documents in small: split, joined, moved, turned, straightened, left out. */
  let { of }: { of: string } = $props();

  const WIDTH = 124;
  // svelte-ignore state_referenced_locally
  const work = new Sorting(of.split(','));
  let pdfs = $state.raw<Record<string, Pdf>>({});
  let every = $state(2);
  let dragged = '';
  let over = $state('');
  const closers: (() => void)[] = [];
  onDestroy(() => {
    work.close();
    closers.forEach((close) => close());
  });
  void work.load().then(openAll);

  async function openAll() {
    const { openPdf } = await import('@/places/read/pdf');
    for (const d of work.documents) {
      if (isPicture(d)) continue;
      const task = openPdf(pagesUrl(d, d.version), true);
      closers.push(task.close);
      task.pdf.then(
        (pdf) => (pdfs = { ...pdfs, [d.ref]: pdf }),
        () => app.say(`${d.file_name} cannot be drawn.`, { wrong: true }),
      );
    }
  }
  const named = (ref: string) => work.documents.find((d) => d.ref === ref)?.file_name ?? ref;
  const pictureOf = (tile: Tile) => {
    const d = work.documents.find((o) => o.ref === tile.source);
    return d && isPicture(d) ? api.fileUrl(d.ref, d.version) : '';
  };
  /** What is known of a document by its separator sheet, in words. */
  function known(stack: Sorting['stacks'][number]): string {
    const { library, type, dossier } = stack.known;
    return [
      type ? (app.design!.types.find((t) => t.code === type)?.name ?? '') : '',
      library ? (app.library(library)?.name ?? '') : '',
      dossier ? `dossier ${dossier}` : '',
    ]
      .filter(Boolean)
      .join(' · ');
  }
  const kindOf = (tile: Tile) => (work.signs[tile.key]?.separator ? 'separator' : work.signs[tile.key]?.blank ? 'blank' : 'page');
  /** The number that a page has in its document. */
  const numberOf = (tiles: Tile[], i: number) => tiles.slice(0, i + 1).filter((t) => !t.left_out).length;
  function lies(tile: Tile): string {
    const straight = tile.straightened ? (work.signs[tile.key]?.skew ?? 0) : 0;
    const turned = tile.turn - straight;
    // On its side a page is drawn smaller, so that it stays in its place.
    return `transform:rotate(${turned}deg) scale(${tile.turn % 180 === 0 ? 1 : 0.7})`;
  }
  function said(tile: Tile, i: number): string {
    const sign = work.signs[tile.key];
    return [
      `Page ${i + 1}, page ${tile.page} of ${named(tile.source)}`,
      sign?.separator ? 'separator sheet' : '',
      sign?.blank ? 'blank' : '',
      tile.turn ? `rotated by ${tile.turn}°` : '',
      tile.straightened ? 'straightened' : '',
      tile.left_out ? 'left out' : '',
    ]
      .filter(Boolean)
      .join(', ');
  }
  function focus(key: string) {
    work.at = key;
    void tick().then(() => document.getElementById(`tile-${key}`)?.focus());
  }
  function act(change: () => void) {
    change();
    if (!work.pages.some((t) => t.key === work.at)) work.at = work.pages[0]?.key ?? '';
    focus(work.at);
  }
  function step(event: KeyboardEvent, by: number) {
    const tiles = [...document.querySelectorAll<HTMLElement>('[data-tile]')];
    const here = tiles.findIndex((t) => t.dataset.tile === work.at);
    let to = here + by;
    if (event.key === 'ArrowUp' || event.key === 'ArrowDown') {
      // The page that stands over or under it in the next row.
      const box = tiles[here]!.getBoundingClientRect();
      const rows = tiles
        .map((t, i) => ({ i, box: t.getBoundingClientRect() }))
        .filter((t) => (by > 0 ? t.box.top > box.bottom - 4 : t.box.bottom < box.top + 4));
      const nearest = by > 0 ? Math.min(...rows.map((r) => r.box.top)) : Math.max(...rows.map((r) => r.box.top));
      const row = rows.filter((r) => Math.abs(r.box.top - nearest) < 4);
      to = row.toSorted((a, b) => Math.abs(a.box.left - box.left) - Math.abs(b.box.left - box.left))[0]?.i ?? here;
    }
    const key = tiles[Math.max(0, Math.min(tiles.length - 1, to))]?.dataset.tile;
    if (key) focus(key);
  }
  function keydown(event: KeyboardEvent) {
    const by = ({ ArrowLeft: -1, ArrowRight: 1, ArrowUp: -1, ArrowDown: 1 } as Record<string, 1 | -1>)[event.key];
    if (by && event.altKey) act(() => work.move(by));
    else if (by) step(event, by);
    else if (event.ctrlKey || event.metaKey || event.altKey) return;
    else if (event.key === 'Enter') act(() => (work.begins(work.at) ? work.join() : work.split()));
    else if (event.key === 'r') act(() => work.turn());
    else if (event.key === 's') act(() => work.straighten());
    else if (event.key === 'Delete') act(() => work.leaveOut());
    else return;
    event.preventDefault();
  }
  keys.use(() => [
    { shown: '← → ↑ ↓', what: 'Move along the pages' },
    { shown: 'Enter', what: 'Begin a new document here, or join it with the one before' },
    { shown: 'Alt ← Alt →', what: 'Move the page' },
    { shown: 'r', what: 'Rotate the page' },
    { shown: 's', what: 'Straighten the page' },
    { shown: 'Del', what: 'Leave the page out, or take it in again' },
    { shown: 'Space', what: 'Select the page' },
    { on: 'z', ctrl: true, what: 'Undo', run: () => act(() => work.undo()) },
    { on: 'Enter', ctrl: true, typing: true, what: 'Create these documents', run: () => void keep() },
  ]);

  async function keep() {
    if (work.busy || !work.changed) return;
    const kept = await work.keep();
    if (!kept) return;
    app.say(`${plural(kept.count, 'document waits', 'documents wait')} in Intake.`, {
      ...(kept.undo ? { undo: () => kept.undo!().catch((error: unknown) => app.fail(error, 'The page work could not be undone.')) } : {}),
    });
    router.go('/intake');
  }
</script>

<div class="flex h-full flex-col">
  <header class="border-b border-hair px-6 pt-3 pb-2">
    <div class="flex items-center gap-3">
      <h1 class="flex-1 truncate text-[22px] leading-snug">
        Pages of {work.documents.length === 1 ? work.documents[0]!.file_name : plural(work.refs.length, 'document', 'documents')}
      </h1>
      <Separators />
      <a class="small" href="/intake">Back to Intake</a>
      <button class="btn btn-main" disabled={work.busy || !work.changed} onclick={keep}
        >{work.stacks.length === 1 ? 'Create this document' : `Create ${work.stacks.length} documents`}</button
      >
    </div>
    <p class="small quiet">
      Enter begins a new document at a page, or joins it with the one before. Alt with arrows moves a page, r rotates, s straightens, Del
      leaves it out. The first version keeps all pages as they were scanned.
    </p>
  </header>
  {#if work.fault}<p class="fault p-6" role="alert">{work.fault}</p>
  {:else if work.stacks.length === 0}<p class="quiet p-6" role="status">The pages are being read…</p>
  {:else}
    <div class="flex flex-wrap items-center gap-2 border-b border-hair px-6 py-2" role="toolbar" aria-label="Page work">
      <span class="heading">Split</span>
      <button class="btn" disabled={work.separators === 0} onclick={() => act(() => work.atSeparators())}
        >At separator sheets <span class="num quiet">{work.separators}</span></button
      >
      <button class="btn" disabled={work.blanks === 0} onclick={() => act(() => work.atBlanks())}
        >At blank pages <span class="num quiet">{work.blanks}</span></button
      >
      <span class="flex items-center"
        ><button class="btn" onclick={() => act(() => work.every(every))}>Every</button><input
          class="input ml-1"
          style="width:56px"
          type="number"
          min="1"
          max="500"
          bind:value={every}
          aria-label="Pages of each document"
        /><span class="quiet ml-1">pages</span></span
      >
      <span class="heading ml-3">All pages</span>
      <button class="btn" disabled={work.lying === 0} onclick={() => act(() => work.turnUpright())}
        >Rotate upright <span class="num quiet">{work.lying}</span></button
      >
      <button class="btn" disabled={work.askew === 0} onclick={() => act(() => work.straightenAll())}
        >Straighten <span class="num quiet">{work.askew}</span></button
      >
      <button class="btn" disabled={work.blanks === 0} onclick={() => act(() => work.leaveOutBlanks())}
        >Leave blank ones out <span class="num quiet">{work.blanks}</span></button
      >
      <span class="flex-1"></span>
      <button class="btn" disabled={!work.canUndo} onclick={() => act(() => work.undo())}>Undo</button>
    </div>
    <p class="small quiet px-6 pt-2" role="status">
      {plural(work.pages.length, 'page', 'pages')} in {plural(work.stacks.length, 'document', 'documents')}{work.unseen > 0
        ? `; ${plural(work.unseen, 'page is', 'pages are')} still being looked at`
        : ''}{work.chosen.length > 0 ? `; ${work.chosen.length} selected` : ''}.
      {work.documents
        .map((d) => d.fault)
        .filter(Boolean)
        .join(' ')}
      {#if work.chosen.length > 0}<button class="link" onclick={() => (work.chosen = [])}>Select none</button>{/if}
    </p>
    <div class="min-h-0 flex-1 overflow-y-auto px-6 pb-6">
      {#each work.stacks as stack, s (stack.key)}
        <section class="pt-3" aria-label={`Document ${s + 1}`}>
          <h2 class="flex items-baseline gap-3 border-b border-hair pb-1 text-[16px]">
            <span>Document {s + 1}</span>
            <span class="small quiet flex-1 truncate font-sans"
              >{plural(stack.tiles.filter((t) => !t.left_out).length, 'page', 'pages')} of {named(stack.tiles[0]!.source)}{known(stack)
                ? ` · ${known(stack)}`
                : ''}</span
            >
          </h2>
          <ol class="grid gap-2 pt-2" style={`grid-template-columns:repeat(auto-fill,${WIDTH + 14}px)`}>
            {#each stack.tiles as tile, i (tile.key)}
              <li
                ondragover={(e) => {
                  e.preventDefault();
                  over = tile.key;
                }}
                ondrop={(e) => {
                  e.preventDefault();
                  over = '';
                  if (dragged) work.dropBefore(dragged, { stack: s, tile: i });
                }}
              >
                <button
                  id={`tile-${tile.key}`}
                  data-tile={tile.key}
                  class="tile"
                  class:chosen={work.chosen.includes(tile.key)}
                  class:over={over === tile.key}
                  aria-pressed={work.chosen.includes(tile.key)}
                  tabindex={tile.key === work.at ? 0 : -1}
                  draggable="true"
                  ondragstart={() => (dragged = tile.key)}
                  ondragend={() => (over = '')}
                  onfocus={() => (work.at = tile.key)}
                  onclick={() => work.choose(tile.key)}
                  onkeydown={keydown}
                  aria-label={said(tile, i)}
                >
                  <span class="sheet" class:out={tile.left_out}>
                    {#if pictureOf(tile)}<img src={pictureOf(tile)} alt="" style={lies(tile)} />
                    {:else}<canvas use:thumb={{ pdf: pdfs[tile.source], page: tile.page, width: WIDTH }} style={lies(tile)}></canvas>{/if}
                  </span>
                  <span class="small block truncate tabular-nums"
                    >{#if tile.left_out}<span class="quiet">{kindOf(tile)}, left out</span>{:else}{numberOf(
                        stack.tiles,
                        i,
                      )}{#if kindOf(tile) !== 'page'}&ensp;<span class="quiet">{kindOf(tile)}</span>{/if}{/if}</span
                  >
                </button>
              </li>
            {/each}
            <li
              class="end"
              class:over={over === `end ${stack.key}`}
              ondragover={(e) => {
                e.preventDefault();
                over = `end ${stack.key}`;
              }}
              ondrop={(e) => {
                e.preventDefault();
                over = '';
                if (dragged) work.dropBefore(dragged, { stack: s, tile: stack.tiles.length });
              }}
              aria-hidden="true"
            ></li>
          </ol>
        </section>
      {/each}
    </div>
  {/if}
</div>

<style>
  .tile {
    display: block;
    width: 100%;
    padding: 6px;
    border-radius: 3px;
    text-align: center;
  }
  .tile.chosen {
    background: var(--act-tint);
    box-shadow: inset 0 0 0 2px var(--act);
  }
  .tile.over,
  .end.over {
    box-shadow: inset 3px 0 0 var(--act);
  }
  .sheet {
    display: grid;
    place-items: center;
    height: 178px;
    overflow: hidden;
  }
  .sheet canvas,
  .sheet img {
    max-width: 100%;
    max-height: 172px;
    background: #fff;
    box-shadow: 0 0 0 1px var(--hair);
  }
  .sheet.out {
    opacity: 0.35;
  }
</style>
