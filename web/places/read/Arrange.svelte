<script lang="ts">
  import { api, messageOf } from '@/api/client';
  import type { DocumentRecord } from '@/api/types';
  import { focusOn } from '@/parts/focus';
  import { plural } from '@/parts/format';
  import { app } from '@/state/app.svelte';
  import { router } from '@/state/router.svelte';
  import { onDestroy } from 'svelte';
  import PagePicker from './PagePicker.svelte';
  import type { Pdf } from './pdf';
  import { thumb } from './thumb';

  /** The pages of a document in small, to be moved, turned, taken out, put in and split off. */
  let { document: ref }: { document: string } = $props();

  interface Tile {
    key: number;
    source: string;
    page: number;
    turn: number;
  }
  interface Source {
    pdf: Pdf | null;
    image: string;
    label: string;
    file?: File;
  }
  const WIDTH = 116;
  let record = $state.raw<DocumentRecord | null>(null);
  let fault = $state('');
  let tiles = $state.raw<Tile[]>([]);
  let sources = $state.raw<Record<string, Source>>({});
  let chosen = $state.raw<number[]>([]);
  let here = $state(0);
  let note = $state('');
  let picking = $state(false);
  let busy = $state(false);
  let dragged = -1;
  let before = $state.raw<Tile[][]>([]);
  let start = '';
  let next = 0;
  const closers: (() => void)[] = [];
  onDestroy(() => closers.forEach((close) => close()));

  const order = (list: Tile[]) => JSON.stringify(list.map((t) => [t.source, t.page, t.turn]));
  const changed = $derived(order(tiles) !== start);

  async function opened(url: string): Promise<Pdf> {
    const { openPdf } = await import('./pdf');
    const task = openPdf(url);
    closers.push(task.close);
    return task.pdf;
  }
  function put(added: Tile[], at = tiles.length) {
    before = [...before, tiles];
    tiles = tiles.toSpliced(at, 0, ...added);
  }
  async function take(source: string, label: string, url: string, isImage: boolean, file?: File) {
    const pdf = isImage ? null : await opened(url);
    sources = { ...sources, [source]: { pdf, image: isImage ? url : '', label, ...(file ? { file } : {}) } };
    return Array.from({ length: pdf?.numPages ?? 1 }, (_, i): Tile => ({ key: next++, source, page: i + 1, turn: 0 }));
  }
  async function load() {
    try {
      record = await api.document(ref);
      if (!record.may_change || record.page_count === 0 || (record.file_kind !== 'pdf' && record.file_kind !== 'image'))
        throw new Error('The pages of this document cannot be worked on.');
      tiles = await take('', record.title, api.fileUrl(ref, record.version), record.file_kind === 'image');
      start = order(tiles);
    } catch (error) {
      fault = messageOf(error, 'The document cannot be opened.');
    }
  }
  void load();

  async function fromFiles(event: Event & { currentTarget: HTMLInputElement }) {
    for (const file of event.currentTarget.files ?? []) {
      const source = `file-${Object.values(sources).filter((s) => s.file).length}`;
      const url = URL.createObjectURL(file);
      closers.push(() => URL.revokeObjectURL(url));
      await take(source, file.name, url, file.type.startsWith('image/'), file).then(
        (added) => put(added, here + 1),
        () => app.say(`${file.name} cannot be opened as pages.`, { wrong: true }),
      );
    }
    event.currentTarget.value = '';
  }
  async function fromDocument(other: DocumentRecord, pages: number[]) {
    leavePicker();
    try {
      const all = await take(other.ref, other.title, api.fileUrl(other.ref, other.version), other.file_kind === 'image');
      put(
        pages.map((page) => all[page - 1]!),
        here + 1,
      );
    } catch (error) {
      app.fail(error, 'That document cannot be opened.');
    }
  }
  function leavePicker() {
    picking = false;
    void focusOn('insert-pages');
  }

  /** What an act is done to: the chosen pages, or the one in focus. */
  const meant = () => (chosen.length > 0 ? chosen : tiles[here] ? [tiles[here]!.key] : []);
  function act(change: (list: Tile[], keys: number[]) => Tile[]) {
    const keys = meant();
    if (keys.length === 0) return;
    before = [...before, tiles];
    tiles = change(tiles, keys);
    here = Math.min(here, Math.max(0, tiles.length - 1));
    chosen = chosen.filter((k) => tiles.some((t) => t.key === k));
  }
  const turn = () => act((list, keys) => list.map((t) => (keys.includes(t.key) ? { ...t, turn: (t.turn + 90) % 360 } : t)));
  const out = () => act((list, keys) => list.filter((t) => !keys.includes(t.key)));
  function move(by: 1 | -1) {
    const keys = meant();
    act((list) => {
      const result = [...list];
      const indexes = result.map((t, i) => (keys.includes(t.key) ? i : -1)).filter((i) => i >= 0);
      if (indexes.some((i) => i + by < 0 || i + by >= result.length)) return list;
      for (const i of by === 1 ? indexes.toReversed() : indexes) [result[i], result[i + by]] = [result[i + by]!, result[i]!];
      return result;
    });
    if (chosen.length === 0) focus(here + by);
  }
  function undo() {
    const last = before.at(-1);
    if (!last) return;
    before = before.slice(0, -1);
    tiles = last;
  }
  function focus(to: number) {
    here = Math.max(0, Math.min(tiles.length - 1, to));
    requestAnimationFrame(() => document.getElementById(`page-tile-${here}`)?.focus());
  }
  function choose(index: number) {
    const key = tiles[index]!.key;
    chosen = chosen.includes(key) ? chosen.filter((k) => k !== key) : [...chosen, key];
  }
  function keydown(event: KeyboardEvent, index: number) {
    here = index;
    const columns = Math.max(
      1,
      Math.floor(((event.currentTarget as HTMLElement).parentElement?.parentElement?.clientWidth ?? 1) / (WIDTH + 28)),
    );
    const step = ({ ArrowLeft: -1, ArrowRight: 1, ArrowUp: -columns, ArrowDown: columns } as Record<string, number>)[event.key];
    if (step && event.altKey && Math.abs(step) === 1) move(step as 1 | -1);
    else if (step) focus(index + step);
    else if (event.key === 'r') turn();
    else if (event.key === 'Delete') out();
    else if (event.key === 'z' && event.ctrlKey) undo();
    else return;
    event.preventDefault();
  }
  function drop(at: number) {
    const tile = tiles[dragged];
    if (!tile || dragged === at) return;
    before = [...before, tiles];
    const rest = tiles.filter((t) => t !== tile);
    tiles = rest.toSpliced(at, 0, tile);
    here = at;
  }
  /** On its side a page is drawn smaller, so that it stays in its place. */
  const turned = (tile: Tile) => `transform:rotate(${tile.turn}deg) scale(${tile.turn % 180 === 0 ? 1 : 0.7})`;

  async function save() {
    busy = true;
    try {
      const files = Object.entries(sources)
        .filter(([, s]) => s.file)
        .toSorted(([a], [b]) => Number(a.slice(5)) - Number(b.slice(5)))
        .map(([, s]) => s.file!);
      await api.arrangePages(
        ref,
        record!.version,
        tiles.map(({ source, page, turn }) => ({ source, page, turn })),
        files,
        note.trim(),
      );
      app.say('The pages are saved as a new version.');
      router.go(`/documents/${ref}`);
    } catch (error) {
      app.fail(error, 'The pages could not be put together.');
    } finally {
      busy = false;
    }
  }
  async function split() {
    const own = tiles.filter((t) => chosen.includes(t.key) && t.source === '');
    busy = true;
    try {
      await api.splitPages(
        ref,
        record!.version,
        own.map((t) => t.page),
      );
      app.say(
        `${plural(own.length, 'page waits', 'pages wait')} in intake as a document of their own. They are still in this document too; remove them here if they should not be.`,
      );
    } catch (error) {
      app.fail(error, 'They could not be split off.');
    } finally {
      busy = false;
    }
  }
</script>

<div class="flex h-full flex-col">
  <header class="border-b border-hair px-6 py-3">
    <h1 class="text-[22px] leading-snug">Pages of {record?.title ?? ref}</h1>
    <p class="small quiet">
      Arrow keys move along, Space selects, Alt with arrows moves a page, r rotates it, Del removes it. The current version stays among the
      earlier ones. <a href={`/documents/${ref}`}>Back to the document</a>
    </p>
  </header>
  {#if fault}<p class="fault p-6" role="alert">{fault}</p>
  {:else if !record}<p class="quiet p-6" role="status">Loading…</p>
  {:else}
    <div class="flex flex-wrap items-center gap-2 border-b border-hair px-6 py-2" role="toolbar" aria-label="Page work">
      <button class="btn" onclick={turn}>Rotate</button>
      <button class="btn" onclick={() => move(-1)}>Move earlier</button><button class="btn" onclick={() => move(1)}>Move later</button>
      <button class="btn" disabled={tiles.length <= 1} onclick={out}>Remove</button>
      <button class="btn" disabled={busy || !tiles.some((t) => chosen.includes(t.key) && t.source === '')} onclick={split}>Split off</button
      >
      <button class="btn" disabled={before.length === 0} onclick={undo}>Undo</button>
      <label class="btn cursor-pointer"
        >Insert a file<input
          class="sr-only"
          type="file"
          accept=".pdf,.png,.jpg,.jpeg,.gif,application/pdf,image/*"
          multiple
          onchange={fromFiles}
        /></label
      >
      <button class="btn" id="insert-pages" onclick={() => (picking = true)}>Insert pages…</button>
      <span class="flex-1"></span>
      <input
        class="input"
        style="width:210px"
        aria-label="What changed"
        placeholder="What changed"
        bind:value={note}
        maxlength="500"
        autocomplete="off"
      />
      <button class="btn btn-main" disabled={busy || !changed} onclick={save}>Save as a new version</button>
    </div>
    <p class="small quiet px-6 pt-2" role="status">
      {plural(tiles.length, 'page', 'pages')}{#if chosen.length > 0}, {plural(chosen.length, 'selected', 'selected')}.
        <button class="link" onclick={() => (chosen = [])}>Select none</button>{/if}
    </p>
    <ol
      class="grid min-h-0 flex-1 content-start gap-4 overflow-y-auto px-6 py-3"
      style={`grid-template-columns:repeat(auto-fill,${WIDTH + 12}px)`}
      aria-label="Pages"
    >
      {#each tiles as tile, i (tile.key)}
        <li ondragover={(e) => e.preventDefault()} ondrop={() => drop(i)}>
          <button
            id={`page-tile-${i}`}
            class="tile"
            class:chosen={chosen.includes(tile.key)}
            aria-pressed={chosen.includes(tile.key)}
            tabindex={i === here ? 0 : -1}
            draggable="true"
            ondragstart={() => (dragged = i)}
            onfocus={() => (here = i)}
            onclick={() => choose(i)}
            onkeydown={(e) => keydown(e, i)}
            aria-label={`Page ${i + 1}${tile.source ? `, page ${tile.page} of ${sources[tile.source]?.label}` : tile.page !== i + 1 ? `, was ${tile.page}` : ''}${tile.turn ? `, rotated by ${tile.turn}°` : ''}`}
          >
            <span class="sheet"
              >{#if sources[tile.source]?.image}<img src={sources[tile.source]!.image} alt="" style={turned(tile)} />{:else}<canvas
                  use:thumb={{ pdf: sources[tile.source]?.pdf, page: tile.page, width: WIDTH }}
                  style={turned(tile)}
                ></canvas>{/if}</span
            >
            <span class="small block truncate tabular-nums"
              >{i + 1}{#if tile.source}&ensp;<span class="quiet">{sources[tile.source]?.label}</span
                >{:else if tile.page !== i + 1}&ensp;<span class="quiet">was {tile.page}</span>{/if}</span
            >
          </button>
        </li>
      {/each}
    </ol>
  {/if}
</div>

{#if picking}<PagePicker into={ref} onpicked={fromDocument} oncancel={leavePicker} />{/if}

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
  .sheet {
    display: grid;
    place-items: center;
    height: 168px;
  }
  .sheet canvas,
  .sheet img {
    max-width: 100%;
    max-height: 164px;
    background: #fff;
    box-shadow: 0 0 0 1px var(--hair);
  }
</style>
