<script lang="ts">
  interface Props {
    /** What it changes the width of, on its right. */
    label: string;
    width: number;
    least: number;
    most: number;
    onchange: (width: number) => void;
  }
  /** The edge of a column, to be drawn with the pointer or moved with the arrows. */
  let { label, width, least, most, onchange }: Props = $props();

  const STEP = 24;
  const within = (w: number) => Math.round(Math.max(least, Math.min(most, w)));

  function draw(event: PointerEvent) {
    event.preventDefault();
    const edge = event.currentTarget as HTMLElement;
    edge.setPointerCapture(event.pointerId);
    const start = event.clientX + width;
    edge.onpointermove = (e) => onchange(within(start - e.clientX));
    edge.onlostpointercapture = () => (edge.onpointermove = null);
  }
  function key(event: KeyboardEvent) {
    const to: Record<string, number> = { ArrowLeft: width + STEP, ArrowRight: width - STEP, Home: most, End: least };
    const next = to[event.key];
    if (next === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    onchange(within(next));
  }
</script>

<!-- A separator that is moved is a control (WAI-ARIA 1.2). -->
<!-- svelte-ignore a11y_no_noninteractive_tabindex, a11y_no_noninteractive_element_interactions -->
<div class="edge" role="separator" tabindex="0" aria-orientation="vertical" aria-label={label} aria-valuemin={least} aria-valuemax={most} aria-valuenow={within(width)} title={`${label}: draw, or ← →`} onpointerdown={draw} onkeydown={key}></div>

<style>
  .edge { position: absolute; z-index: 5; top: 0; bottom: 0; left: -4px; width: 8px; cursor: col-resize; touch-action: none; }
  .edge:hover, .edge:focus-visible { border-left: 2px solid var(--act); margin-left: 3px; width: 5px; }
  @media (max-width: 767px) { .edge { display: none; } }
</style>
