<script lang="ts">
  import { count } from './format';

  interface Bar {
    key: string;
    label: string;
    count: number;
  }
  /** Columns to draw over with the pointer, or to step over with the arrows, Shift stretching the choice. */
  let {
    bars,
    label,
    ends,
    onchoose,
  }: {
    bars: Bar[];
    label: string;
    /** What the first and the last bar begin and end with, if not their labels. */ ends?: [string, string] | null;
    onchoose: (from: string, to: string) => void;
  } = $props();

  const most = $derived(Math.max(1, ...bars.map((b) => b.count)));
  let from = $state(-1);
  let to = $state(-1);
  let drawing = false;
  const low = $derived(Math.min(from, to));
  const high = $derived(Math.max(from, to));

  function finish() {
    if (drawing && from >= 0) onchoose(bars[low]!.key, bars[high]!.key);
    drawing = false;
    from = to = -1;
  }
  function key(event: KeyboardEvent) {
    if (event.key === 'ArrowRight' || event.key === 'ArrowLeft') {
      const next = Math.min(
        bars.length - 1,
        Math.max(0, (to < 0 ? (event.key === 'ArrowRight' ? -1 : bars.length) : to) + (event.key === 'ArrowRight' ? 1 : -1)),
      );
      to = next;
      if (!event.shiftKey || from < 0) from = next;
    } else if (event.key === 'Enter' && from >= 0) onchoose(bars[low]!.key, bars[high]!.key);
    else if (event.key === 'Escape') from = to = -1;
    else return;
    event.preventDefault();
  }
</script>

<svelte:window onpointerup={finish} />

<div
  class="bars"
  role="slider"
  tabindex="0"
  aria-label={`${label}: draw over a stretch, or step with the arrows and Shift, then Enter`}
  aria-valuemin={0}
  aria-valuemax={bars.length - 1}
  aria-valuenow={Math.max(0, to)}
  aria-valuetext={to >= 0
    ? low === high
      ? `${bars[low]!.label}, ${bars[low]!.count}`
      : `${bars[low]!.label} to ${bars[high]!.label}`
    : 'nothing chosen'}
  onkeydown={key}
>
  {#each bars as bar, i (bar.key)}
    <span
      class="slot"
      class:on={from >= 0 && i >= low && i <= high}
      role="presentation"
      title={`${bar.label}: ${count(bar.count)}`}
      onpointerdown={(e) => {
        e.preventDefault();
        drawing = true;
        from = to = i;
      }}
      onpointerenter={() => {
        if (drawing) to = i;
      }}><span style={`height:${bar.count === 0 ? 0 : Math.max(4, (100 * bar.count) / most)}%`}></span></span
    >
  {/each}
</div>
{#if bars.length > 1}<div class="small quiet flex justify-between">
    <span class="num">{ends?.[0] ?? bars[0]!.label}</span>{#if from >= 0}<span class="text-act"
        >{low === high ? bars[low]!.label : `${bars[low]!.label} to ${bars[high]!.label}`}</span
      >{/if}<span class="num">{ends?.[1] ?? bars.at(-1)!.label}</span>
  </div>{/if}

<style>
  .bars {
    display: flex;
    align-items: stretch;
    height: 40px;
    border-bottom: 1px solid var(--quiet);
    touch-action: none;
    cursor: crosshair;
  }
  .slot {
    display: flex;
    flex: 1;
    align-items: flex-end;
    min-width: 1px;
    padding: 0 0.5px;
  }
  .slot span {
    display: block;
    width: 100%;
    background: color-mix(in srgb, var(--quiet) 55%, transparent);
  }
  .slot:hover span,
  .slot.on span {
    background: var(--act);
  }
  .slot.on {
    background: var(--act-tint);
  }
</style>
