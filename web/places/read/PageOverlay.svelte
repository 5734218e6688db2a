<script lang="ts">
  import type { Annotation, AnnotationDraft, Edges } from '@/api/types';
  import { moment } from '@/parts/format';
  import { keptWhile } from '@/state/drafts';
  import IconFold from '@lucide/svelte/icons/minus';
  import IconX from '@lucide/svelte/icons/x';
  import type { Marking } from './marking.svelte';

  /** What lies over one page, in the page's own units; and the drawing of more. */
  interface Props {
    marking: Marking;
    number: number;
    width: number;
    height: number;
    /** Where the page is a text: what stands by words in the units of the page, and back. */
    words?: {
      shown: (annotation: Annotation) => Annotation | null;
      placed: (what: Places) => (Places & { start: number; length: number }) | null;
    } | null;
  }
  type Places = Pick<AnnotationDraft, 'boxes' | 'strokes'>;
  let { marking, number, width, height, words = null }: Props = $props();

  const NOTE = 0.28;
  // The words of a text are highlighted in the text itself.
  const list = $derived(
    words ? marking.on(number).flatMap((a) => (a.kind === 'highlight' ? [] : (words.shown(a) ?? []))) : marking.on(number),
  );
  const redactions = $derived(words ? [] : marking.redactedOn(number));
  const draws = $derived(words ? ['note', 'pen', 'stamp'].includes(marking.tool) : marking.tool !== '');
  let surface: SVGSVGElement | undefined = $state();
  let from = $state.raw<[number, number] | null>(null);
  let to = $state.raw<[number, number]>([0, 0]);
  let stroke = $state.raw<[number, number][]>([]);
  /** An annotation that is being moved or resized, and where it is meanwhile. */
  let held = $state.raw<{ id: number; at: [number, number]; box: Edges; grows: boolean } | null>(null);

  const percent = (value: number, of: number) => `${(100 * value) / of}%`;
  const place = (b: Edges) =>
    `left:${percent(b[0], width)};top:${percent(b[1], height)};width:${percent(b[2] - b[0], width)};height:${percent(b[3] - b[1], height)}`;
  const boxOf = (a: Annotation): Edges => (held?.id === a.id ? held.box : a.boxes[0]!);
  const path = (points: [number, number][]) =>
    points.map(([x, y], i) => `${i === 0 ? 'M' : 'L'}${x} ${y}`).join('') + (points.length === 1 ? 'l0.1 0' : '');
  const drawnBox = $derived<Edges>(
    from ? [Math.min(from[0], to[0]), Math.min(from[1], to[1]), Math.max(from[0], to[0]), Math.max(from[1], to[1])] : [0, 0, 0, 0],
  );

  async function add(draft: Omit<AnnotationDraft, 'page'>) {
    const places = words ? words.placed(draft) : {};
    if (places) await marking.add({ page: number, ...draft, ...places });
  }
  async function put(a: Annotation, boxes: Edges[]) {
    const places = words ? words.placed({ boxes }) : { boxes };
    const kept = marking.annotations.find((k) => k.id === a.id);
    if (places && kept) await marking.change(kept, places);
  }
  /** A box moved so that it lies on the page; of a text, which has no edge, as it is. */
  function inside(box: Edges): Edges {
    if (words) return box;
    const dx = Math.max(-box[0], Math.min(0, width - box[2]));
    const dy = Math.max(-box[1], Math.min(0, height - box[3]));
    return [box[0] + dx, box[1] + dy, Math.min(width, box[2] + dx), Math.min(height, box[3] + dy)].map(
      (n) => Math.round(n * 10) / 10,
    ) as Edges;
  }
  function at(event: PointerEvent): [number, number] {
    const r = surface!.getBoundingClientRect();
    return [
      Math.round((10 * (event.clientX - r.left) * width) / r.width) / 10,
      Math.round((10 * (event.clientY - r.top) * height) / r.height) / 10,
    ];
  }
  function down(event: PointerEvent) {
    if (event.button !== 0) return;
    surface!.setPointerCapture(event.pointerId);
    from = to = at(event);
    stroke = marking.tool === 'pen' ? [from] : [];
    event.preventDefault();
  }
  function move(event: PointerEvent) {
    if (!from) return;
    to = at(event);
    if (marking.tool === 'pen') stroke = [...stroke, to];
  }
  async function up() {
    if (!from) return;
    const box = drawnBox;
    const points = stroke;
    const [x, y] = from;
    from = null;
    stroke = [];
    if (marking.tool === 'pen') await add({ kind: 'pen', strokes: [points] });
    else if (marking.tool === 'note') {
      await add({ kind: 'note', boxes: [inside([x, y, x + width * NOTE, y + width * NOTE * 0.55])], text: '' });
      marking.tool = '';
    } else if (marking.tool === 'stamp') {
      await add({ kind: 'stamp', boxes: [inside([x, y, x + width * 0.34, y + width * 0.036])], text: marking.stamp });
      marking.tool = '';
    } else await marking.drawn(number, box);
  }

  function grab(event: PointerEvent, a: Annotation, grows: boolean) {
    if (!a.own || event.button !== 0) return;
    (event.currentTarget as Element).setPointerCapture(event.pointerId);
    held = { id: a.id, at: at(event), box: a.boxes[0]!, grows };
    event.preventDefault();
  }
  function drag(event: PointerEvent, a: Annotation) {
    if (held?.id !== a.id) return;
    const [x, y] = at(event);
    const [dx, dy] = [x - held.at[0], y - held.at[1]];
    const b = a.boxes[0]!;
    held = {
      ...held,
      box: held.grows
        ? [b[0], b[1], Math.max(b[0] + 40, b[2] + dx), Math.max(b[1] + 24, b[3] + dy)]
        : [b[0] + dx, b[1] + dy, b[2] + dx, b[3] + dy],
    };
  }
  async function drop(a: Annotation) {
    if (held?.id !== a.id) return;
    const box = inside(held.box);
    if (box.some((n, i) => Math.abs(n - a.boxes[0]![i]!) > 1)) await put(a, [box.map((n) => Math.round(n * 10) / 10) as Edges]);
    held = null;
  }
  /** The same by the arrow keys: moved, and with Shift resized. */
  function keys(event: KeyboardEvent, a: Annotation) {
    const step = ({ ArrowLeft: [-6, 0], ArrowRight: [6, 0], ArrowUp: [0, -6], ArrowDown: [0, 6] } as Record<string, [number, number]>)[
      event.key
    ];
    if (event.key === 'Delete' && a.own) void marking.remove(a);
    else if (step && a.own) {
      const b = a.boxes[0]!;
      void put(a, [
        inside(
          event.shiftKey ? [b[0], b[1], b[2] + step[0], b[3] + step[1]] : [b[0] + step[0], b[1] + step[1], b[2] + step[0], b[3] + step[1]],
        ),
      ]);
    } else return;
    event.preventDefault();
    event.stopPropagation();
  }
  /** A note that was just made is written at once. */
  function written(box: HTMLTextAreaElement, id: number) {
    if (marking.open === id) box.focus();
  }
  const says = (a: Annotation) =>
    [
      { highlight: 'Highlight', note: 'Note', stamp: 'Stamp', pen: 'Pen stroke' }[a.kind],
      a.exact && a.kind === 'highlight' ? `on “${a.exact.slice(0, 60)}”` : '',
      a.text,
      `by ${a.by}, ${moment(a.at)}`,
    ]
      .filter(Boolean)
      .join(': ');
</script>

<svg
  bind:this={surface}
  class="surface"
  class:drawing={draws}
  viewBox={`0 0 ${width} ${height}`}
  preserveAspectRatio="none"
  role="presentation"
  onpointerdown={draws ? down : undefined}
  onpointermove={move}
  onpointerup={up}
  onpointercancel={() => (from = null)}
>
  {#each list as a (a.id)}
    {#if a.kind === 'highlight'}{#each a.boxes as [l, t, r, b], i (i)}<rect
          class="highlight"
          class:open={marking.open === a.id}
          x={l}
          y={t}
          width={r - l}
          height={b - t}
        />{/each}
    {:else if a.kind === 'pen'}{#each a.strokes as points, i (i)}<path class="pen" d={path(points)} />{/each}{/if}
  {/each}
  {#each redactions as r (r.id)}{#each r.boxes as [l, t, rr, b], i (i)}<rect class="redaction" x={l} y={t} width={rr - l} height={b - t}
        ><title>{r.reason_label}</title></rect
      >{/each}{/each}
  {#if from && marking.tool === 'pen'}<path class="pen" d={path(stroke)} />
  {:else if from && marking.tool !== 'note' && marking.tool !== 'stamp'}<rect
      class="drawn"
      class:redaction={marking.tool.startsWith('redact')}
      x={drawnBox[0]}
      y={drawnBox[1]}
      width={drawnBox[2] - drawnBox[0]}
      height={drawnBox[3] - drawnBox[1]}
    />{/if}
</svg>
{#each list as a (a.id)}
  {#if a.kind === 'highlight' || a.kind === 'pen'}
    {@const b = a.boxes[0] ?? ([a.strokes[0]![0]![0], a.strokes[0]![0]![1], a.strokes[0]![0]![0] + 12, a.strokes[0]![0]![1] + 12] as Edges)}
    <button
      class="grip"
      class:named={a.text !== ''}
      style={`left:${percent(b[0], width)};top:${percent(b[1], height)}`}
      aria-label={says(a)}
      title={says(a)}
      aria-expanded={marking.open === a.id}
      onclick={() => (marking.open = marking.open === a.id ? 0 : a.id)}
      onkeydown={(e) => {
        if (e.key === 'Delete' && a.own) void marking.remove(a);
      }}
    ></button>
    {#if marking.open === a.id}
      <div
        class="note"
        style={`left:${percent(Math.min(b[0], width * 0.7), width)};top:${percent(a.boxes.at(-1)?.[3] ?? b[3], height)};width:min(260px, 40%)`}
        role="group"
        aria-label={says(a)}
      >
        <p class="head small">
          <span class="min-w-0 flex-1 truncate">{a.by}, {moment(a.at)}{a.private ? ', only for me' : ''}</span>{#if a.own}<button
              class="mini"
              aria-label="Remove"
              title="Remove (Del)"
              onclick={() => marking.remove(a)}><IconX size={13} /></button
            >{/if}
        </p>
        {#if a.own}<textarea
            class="words"
            rows="2"
            aria-label="What it says"
            placeholder="Comment"
            value={a.text}
            {@attach keptWhile(`note:${a.id}`, a.text, (text) => marking.change(a, { text }))}></textarea>{:else if a.text}<p class="words">
            {a.text}
          </p>{/if}
      </div>
    {/if}
  {:else if a.kind === 'stamp'}
    <!-- svelte-ignore a11y_no_noninteractive_tabindex, a11y_no_noninteractive_element_interactions -->
    <div
      class="stamp"
      class:own={a.own}
      style={place(boxOf(a))}
      role="group"
      tabindex={a.own ? 0 : undefined}
      aria-label={says(a)}
      title={says(a)}
      onpointerdown={(e) => grab(e, a, false)}
      onpointermove={(e) => drag(e, a)}
      onpointerup={() => drop(a)}
      onkeydown={(e) => keys(e, a)}
    >
      {a.text}
    </div>
  {:else if a.folded}
    <button
      class="folded"
      style={`left:${percent(a.boxes[0]![0], width)};top:${percent(a.boxes[0]![1], height)}`}
      aria-label={`Unfold: ${says(a)}`}
      title={says(a)}
      onclick={() => (a.own ? marking.change(a, { folded: false }) : (marking.open = marking.open === a.id ? 0 : a.id))}>≡</button
    >
    {#if !a.own && marking.open === a.id}<div class="note" style={place(a.boxes[0]!)}>
        <p class="head small">{a.by}</p>
        <p class="words">{a.text}</p>
      </div>{/if}
  {:else}
    <div class="note" style={place(boxOf(a))} role="group" aria-label={says(a)}>
      <!-- svelte-ignore a11y_no_noninteractive_tabindex, a11y_no_noninteractive_element_interactions -->
      <div
        class="head small"
        class:own={a.own}
        role="group"
        tabindex={a.own ? 0 : undefined}
        aria-label={a.own ? 'Move with the arrow keys, resize with Shift' : a.by}
        onpointerdown={(e) => grab(e, a, false)}
        onpointermove={(e) => drag(e, a)}
        onpointerup={() => drop(a)}
        onkeydown={(e) => keys(e, a)}
      >
        <span class="min-w-0 flex-1 truncate">{a.by}{a.private ? ', only for me' : ''}</span>
        {#if a.own}<button
            class="mini"
            aria-label="Fold the note"
            title="Fold"
            onpointerdown={(e) => e.stopPropagation()}
            onclick={() => marking.change(a, { folded: true })}><IconFold size={13} /></button
          ><button
            class="mini"
            aria-label="Take the note back"
            title="Remove"
            onpointerdown={(e) => e.stopPropagation()}
            onclick={() => marking.remove(a)}><IconX size={13} /></button
          >{/if}
      </div>
      {#if a.own}
        <textarea
          class="words"
          aria-label="The note"
          placeholder="Write the note"
          value={a.text}
          use:written={a.id}
          {@attach keptWhile(`note:${a.id}`, a.text, (text) => marking.change(a, { text }))}></textarea>
        <div
          class="corner"
          role="presentation"
          onpointerdown={(e) => grab(e, a, true)}
          onpointermove={(e) => drag(e, a)}
          onpointerup={() => drop(a)}
        ></div>
      {:else}<p class="words">{a.text}</p>{/if}
    </div>
  {/if}
{/each}

<style>
  .surface {
    position: absolute;
    inset: 0;
    width: 100%;
    height: 100%;
    z-index: 2;
    pointer-events: none;
    overflow: visible;
    mix-blend-mode: multiply;
  }
  .surface.drawing {
    pointer-events: auto;
    cursor: crosshair;
    touch-action: none;
  }
  .highlight {
    fill: #f2d58a;
    fill-opacity: 0.75;
  }
  .highlight.open {
    stroke: #8f6414;
    stroke-width: 1;
  }
  .pen {
    fill: none;
    stroke: #4b2354;
    stroke-width: 1.6;
    stroke-linecap: round;
    stroke-linejoin: round;
    vector-effect: none;
  }
  .drawn {
    fill: #f2d58a;
    fill-opacity: 0.4;
    stroke: #8f6414;
    stroke-width: 0.8;
  }
  .redaction {
    fill: #211c27;
    fill-opacity: 0.62;
    stroke: none;
  }
  .grip {
    position: absolute;
    z-index: 3;
    width: 24px;
    height: 24px;
    transform: translate(-22px, -4px);
    border-radius: 2px;
    opacity: 0;
  }
  .grip::after {
    content: '';
    position: absolute;
    inset: 7px;
    background: #8f6414;
    border-radius: 1px;
  }
  .grip.named,
  .grip:hover,
  .grip:focus-visible {
    opacity: 1;
  }
  .note {
    position: absolute;
    z-index: 4;
    display: flex;
    flex-direction: column;
    min-width: 120px;
    min-height: 54px;
    background: #fdf6e3;
    color: #211c27;
    box-shadow: 0 0 0 1px #d9c48f;
  }
  .head {
    display: flex;
    align-items: center;
    gap: 2px;
    padding: 1px 2px 1px 6px;
    color: #645c6b;
    border-bottom: 1px solid #e6d8b0;
  }
  .head.own {
    cursor: move;
    touch-action: none;
  }
  .mini {
    display: grid;
    place-items: center;
    width: 24px;
    height: 24px;
    color: #645c6b;
  }
  .mini:hover {
    color: #4b2354;
  }
  .words {
    flex: 1;
    min-height: 26px;
    width: 100%;
    padding: 3px 6px;
    overflow: auto;
    resize: none;
    background: transparent;
    color: #211c27;
    font-size: 13px;
    line-height: 1.35;
    white-space: pre-wrap;
  }
  .corner {
    position: absolute;
    right: 0;
    bottom: 0;
    width: 14px;
    height: 14px;
    cursor: nwse-resize;
    touch-action: none;
    background: linear-gradient(135deg, transparent 50%, #c9b67e 50%);
  }
  .folded {
    position: absolute;
    z-index: 4;
    display: grid;
    place-items: center;
    width: 24px;
    height: 24px;
    background: #fdf6e3;
    color: #645c6b;
    box-shadow: 0 0 0 1px #d9c48f;
  }
  .stamp {
    position: absolute;
    z-index: 3;
    overflow: hidden;
    padding: 2px 6px;
    border: 1.5px solid #a13d25;
    color: #a13d25;
    font-size: 12px;
    line-height: 1.25;
    text-transform: none;
    background: rgb(255 255 255 / 0.9);
  }
  .stamp.own {
    cursor: move;
    touch-action: none;
  }
</style>
