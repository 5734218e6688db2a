<script lang="ts">
  interface Props {
    /** What it changes the size of: what is on its right, or below it. */
    label: string;
    size: number;
    least: number;
    most: number;
    /** Along the top of what is below it, rather than down its left side. */
    above?: boolean;
    onchange: (size: number) => void;
  }
  /** The edge of a part, to be drawn with the pointer or moved with the arrows. */
  let { label, size, least, most, above = false, onchange }: Props = $props();

  const STEP = 24;
  const within = (s: number) => Math.round(Math.max(least, Math.min(most, s)));

  function draw(event: PointerEvent) {
    event.preventDefault();
    const edge = event.currentTarget as HTMLElement;
    edge.setPointerCapture(event.pointerId);
    const place = (e: PointerEvent) => (above ? e.clientY : e.clientX);
    const start = place(event) + size;
    edge.onpointermove = (e) => onchange(within(start - place(e)));
    edge.onlostpointercapture = () => (edge.onpointermove = null);
  }
  function key(event: KeyboardEvent) {
    const to: Record<string, number> = {
      [above ? 'ArrowUp' : 'ArrowLeft']: size + STEP,
      [above ? 'ArrowDown' : 'ArrowRight']: size - STEP,
      Home: most,
      End: least,
    };
    const next = to[event.key];
    if (next === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    onchange(within(next));
  }
</script>

<!-- A separator that is moved is a control (WAI-ARIA 1.2). -->
<!-- svelte-ignore a11y_no_noninteractive_tabindex, a11y_no_noninteractive_element_interactions -->
<div
  class="edge"
  class:above
  role="separator"
  tabindex="0"
  aria-orientation={above ? 'horizontal' : 'vertical'}
  aria-label={label}
  aria-valuemin={least}
  aria-valuemax={most}
  aria-valuenow={within(size)}
  title={`${label}: drag, or use ← → ${above ? '↑ ↓' : '← →'}`}
  onpointerdown={draw}
  onkeydown={key}
></div>

<style>
  .edge {
    position: absolute;
    z-index: 5;
    top: 0;
    bottom: 0;
    left: -4px;
    width: 8px;
    cursor: col-resize;
    touch-action: none;
  }
  .edge:hover,
  .edge:focus-visible {
    border-left: 2px solid var(--act);
    margin-left: 3px;
    width: 5px;
  }
  .edge.above {
    top: -4px;
    bottom: auto;
    left: 0;
    right: 0;
    width: auto;
    height: 8px;
    cursor: row-resize;
  }
  .edge.above:hover,
  .edge.above:focus-visible {
    border-left: 0;
    border-top: 2px solid var(--act);
    margin: 3px 0 0;
    width: auto;
    height: 5px;
  }
  @media (max-width: 767px) {
    .edge {
      display: none;
    }
  }
</style>
