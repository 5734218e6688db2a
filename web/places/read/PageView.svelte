<script lang="ts">
  import { api } from '@/api/client';
  import type { Annotation, Edges, PageText } from '@/api/types';
  import Pieces from '@/parts/Pieces.svelte';
  import { tableOf } from '@/parts/table';
  import type { Reading } from './document.svelte';
  import type { Marking } from './marking.svelte';
  import PageOverlay from './PageOverlay.svelte';
  import type { Pdf } from './pdf';
  import { chosenBytes, placeOf, showMarks, wordAt } from './textMarks';

  interface Props {
    reading: Reading;
    number: number;
    /** For PDFs: what the page is drawn from. */
    pdf?: Pdf | null;
    /** For images: where the file is. */
    image?: string | null;
    width: number;
    /** A quarter turn or more, in degrees. */
    turn?: number;
    /** What lies over the page, where that is shown. */
    marking?: Marking | null;
  }
  let { reading, number, pdf = null, image = null, width, turn = 0, marking = null }: Props = $props();

  let box: HTMLElement;
  let canvas: HTMLCanvasElement | undefined = $state();
  let layer: HTMLElement | undefined = $state();
  let near = $state(false);
  let text = $state.raw<PageText | null>(null);
  let drawn = 0;

  // Pages are fetched and drawn when they come near.
  $effect(() => {
    const watch = new IntersectionObserver(
      ([entry]) => {
        if (entry?.isIntersecting) near = true;
      },
      { rootMargin: '600px' },
    );
    watch.observe(box);
    return () => watch.disconnect();
  });
  $effect(() => {
    const sought = reading.marks;
    if (near)
      api.page(reading.ref, number, sought, reading.version).then(
        (got) => {
          if (reading.marks === sought) text = got;
        },
        () => undefined,
      );
  });
  $effect(() => {
    if (near && pdf && canvas && layer && width > 0 && Math.abs(drawn - width) > 2) {
      drawn = width;
      void import('./pdf').then(({ draw }) => draw(pdf, number, canvas!, layer!, width));
    }
  });
  $effect(() => {
    const asked = reading.asked;
    if (asked?.page !== number) return;
    near = true;
    if (asked.hit < 0) box.scrollIntoView({ block: 'start' });
    else if (text) {
      // The marks are there one moment after the text is.
      requestAnimationFrame(() => {
        const marks = box.querySelectorAll<HTMLElement>('[data-hit]');
        (marks[asked.hit] ?? box).scrollIntoView({ block: 'center' });
      });
    } else box.scrollIntoView({ block: 'start' });
  });

  let prose: HTMLElement | undefined = $state();
  // A text has no picture to lay anything over: its words are marked themselves.
  $effect(() => {
    if (!marking || !text || !prose) return;
    const key = `${reading.ref} ${number}`;
    showMarks(
      key,
      prose,
      marking.on(number).filter((a) => a.kind === 'highlight'),
      marking.redactedOn(number),
    );
    return () => showMarks(key, undefined, [], []);
  });
  /** The size of the text as it is set now. */
  let set = $state.raw<[number, number]>([0, 0]);
  $effect(() => {
    if (!marking || !prose) return;
    const watch = new ResizeObserver(([entry]) => (set = [entry!.target.clientWidth, entry!.target.clientHeight]));
    watch.observe(prose);
    return () => watch.disconnect();
  });
  const by = (boxes: Edges[] = [], strokes: [number, number][][] = [], x: number, y: number) => ({
    boxes: boxes.map((b) => [b[0] + x, b[1] + y, b[2] + x, b[3] + y] as Edges),
    strokes: strokes.map((s) => s.map(([a, b]) => [a + x, b + y] as [number, number])),
  });
  // What is laid over a text stands by a word of it, so that it stays there however the lines run.
  const words = {
    shown(a: Annotation): Annotation | null {
      const place = prose && set[0] > 0 && a.start !== null ? placeOf(prose, a.start) : null;
      if (!place) return null;
      const moved = by(a.boxes, a.strokes, ...place);
      // On a narrower screen it may not reach out of sight.
      const over = Math.max(0, ...moved.boxes.map((b) => b[2] - set[0]));
      return { ...a, boxes: moved.boxes.map((b) => [Math.max(0, b[0] - over), b[1], b[2] - over, b[3]] as Edges), strokes: moved.strokes };
    },
    placed({ boxes = [], strokes = [] }: { boxes?: Edges[]; strokes?: [number, number][][] }) {
      const [x, y] = boxes[0] ?? strokes[0]![0]!;
      const word = prose ? wordAt(prose, x, y) : null;
      const place = word && placeOf(prose!, word.start);
      if (!place) return null;
      const round = (value: number) => Math.round(value * 10) / 10;
      const moved = by(boxes, strokes, -place[0], -place[1]);
      return {
        ...word,
        boxes: moved.boxes.map((b) => b.map(round) as Edges),
        strokes: moved.strokes.map((s) => s.map((p) => p.map(round) as [number, number])),
      };
    },
  };
  function chosen() {
    if (!marking || !prose || (marking.tool !== 'words' && marking.tool !== 'redact-words')) return;
    const place = chosenBytes(prose);
    if (!place) return;
    getSelection()?.removeAllRanges();
    if (marking.tool === 'words') void marking.add({ page: number, kind: 'highlight', ...place });
    else void marking.redact([{ page: number, ...place }]);
  }

  const ratio = $derived(text && text.width > 0 ? text.height / text.width : 1.414);
  const isTable = $derived(reading.record?.file_kind === 'csv' && !pdf && !image);
  const isAt = (hit: number) => reading.asked?.page === number && reading.asked.hit === hit;
  const percent = (value: number, of: number) => `${(100 * value) / of}%`;
</script>

<article
  bind:this={box}
  class="relative mx-auto mb-4 bg-white shadow-[0_0_0_1px_var(--hair)]"
  class:plain={!pdf && !image}
  class:wide={isTable}
  style={pdf || image ? (turn % 180 === 0 ? `width:${width}px` : `width:${width * ratio}px;height:${width}px`) : ''}
  aria-label={`Page ${number}`}
>
  <div
    style={turn && (pdf || image)
      ? `position:absolute;top:50%;left:50%;width:${width}px;height:${width * ratio}px;transform:translate(-50%,-50%) rotate(${turn}deg)`
      : ''}
  >
    {#if pdf}
      <div class="page" style={`aspect-ratio:${1 / ratio}`}>
        <canvas bind:this={canvas} class="absolute inset-0 h-full w-full"></canvas>
        <div class="textLayer" bind:this={layer}></div>
      </div>
    {:else if image}
      <img src={image} alt={`Page ${number} of ${reading.record?.title ?? ''}`} class="block w-full" />
    {:else if text && isTable}
      <div class="overflow-x-auto">
        <table class="small sheet">
          <tbody
            >{#each tableOf(text.pieces) as row, r (r)}<tr
                >{#each row as cell, c (c)}<td class:font-semibold={r === 0}
                    >{#each cell as [piece, marked], i (i)}{#if marked}<mark data-hit>{piece}</mark>{:else}{piece}{/if}{/each}</td
                  >{/each}</tr
              >{/each}</tbody
          >
        </table>
      </div>
    {:else if text}
      <div class="prose" bind:this={prose} role="presentation" onpointerup={() => setTimeout(chosen)}>
        {#each text.pieces as [piece, marked], i (i)}{#if marked}{@const nth = text.pieces.slice(0, i).filter(([, m]) => m).length}<mark
              data-hit
              class:at={isAt(nth)}>{piece}</mark
            >{:else}{piece}{/if}{/each}
      </div>
      {#if marking && set[0] > 0}<PageOverlay {marking} {number} width={set[0]} height={set[1]} {words} />{/if}
    {:else}<p class="prose quiet">Loading…</p>{/if}
    {#if (pdf || image) && text && text.width > 0}
      {#each text.boxes as words, hit (hit)}
        {#each words as [left, top, right, bottom], i (i)}
          <span
            class="hit"
            class:at={isAt(hit)}
            data-hit={i === 0 ? '' : undefined}
            style={`left:${percent(left, text.width)};top:${percent(top, text.height)};width:${percent(right - left, text.width)};height:${percent(bottom - top, text.height)}`}
          ></span>
        {/each}
      {/each}
      {#each reading.numbered.filter((p) => p.page === number && p.boxes.length > 0) as place (place.number)}
        {#each place.boxes as [left, top, right, bottom], i (i)}
          <span
            class="numbered"
            style={`left:${percent(left, text.width)};top:${percent(top, text.height)};width:${percent(right - left, text.width)};height:${percent(bottom - top, text.height)}`}
          ></span>
        {/each}
        <span
          class="number"
          style={`left:${percent(place.boxes[0]![0], text.width)};top:${percent(place.boxes[0]![1], text.height)}`}
          aria-hidden="true">{place.number}</span
        >
      {/each}
      {#if marking && turn === 0}<PageOverlay {marking} {number} width={text.width} height={text.height} />{/if}
      <div class="sr-only"><Pieces pieces={text.pieces} /></div>
    {/if}
  </div>
</article>

<style>
  .page {
    position: relative;
    width: 100%;
  }
  .plain {
    background: var(--sheet);
    max-width: 760px;
  }
  .plain.wide {
    max-width: none;
  }
  .sheet td {
    padding: 2px 10px;
    border: 1px solid var(--hair);
    white-space: pre-wrap;
    vertical-align: top;
  }
  .prose {
    white-space: pre-wrap;
    overflow-wrap: anywhere;
    padding: 22px 26px;
    font-family: var(--font-serif);
    font-size: 16.5px;
    line-height: 1.5;
    color: var(--ink);
  }
  .hit {
    position: absolute;
    background: #f2d58a;
    mix-blend-mode: multiply;
    pointer-events: none;
    border-radius: 1px;
  }
  .numbered {
    position: absolute;
    border-bottom: 2px solid #4b2354;
    background: rgb(75 35 84 / 0.1);
    pointer-events: none;
  }
  .number {
    position: absolute;
    z-index: 2;
    padding: 0 4px;
    border-radius: 2px;
    background: #4b2354;
    color: #fff;
    font: 500 11px/15px var(--font-sans);
    transform: translate(-3px, -100%);
    pointer-events: none;
  }
  .hit.at,
  mark.at {
    outline: 2px solid #8f6414;
    outline-offset: 1px;
  }
  .textLayer {
    position: absolute;
    inset: 0;
    overflow: clip;
    line-height: 1;
    transform-origin: 0 0;
    z-index: 1;
    text-align: initial;
    --min-font-size: 1;
    --text-scale-factor: calc(var(--total-scale-factor) * var(--min-font-size));
    --min-font-size-inv: calc(1 / var(--min-font-size));
  }
  .textLayer :global(span),
  .textLayer :global(br) {
    position: absolute;
    color: transparent;
    white-space: pre;
    cursor: text;
    transform-origin: 0% 0%;
  }
  .textLayer :global(> :not(.markedContent)),
  .textLayer :global(.markedContent span:not(.markedContent)) {
    z-index: 1;
    --font-height: 0;
    font-size: calc(var(--text-scale-factor) * var(--font-height));
    --scale-x: 1;
    --rotate: 0deg;
    transform: rotate(var(--rotate)) scaleX(var(--scale-x)) scale(var(--min-font-size-inv));
  }
  .textLayer :global(::selection) {
    background: rgb(75 35 84 / 0.28);
  }
</style>
