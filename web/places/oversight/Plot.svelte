<script lang="ts">
  import type { ReportTable } from '@/api/types';
  import { drawn, headOf, marked, timeMark } from './reports';

  /** A table of a report, drawn. Its numbers stand in the table: who hears the page is told that, and loses nothing. */
  let { table }: { table: ReportTable } = $props();
  const BARS = 15;
  const LONGEST = 44;
  let width = $state(0);
  let place: HTMLElement | undefined = $state();
  const points = $derived(drawn(table, BARS));
  const series = $derived([...new Set(points.map((point) => point.series))]);
  const names = $derived([...new Set(points.map((point) => point.name))]);
  const isAny = $derived(points.some((point) => point.value > 0));
  const cut = (text: string) => (text.length > LONGEST ? `${text.slice(0, LONGEST - 1)}…` : text);
  const label = $derived(
    `${series.join(', ')} by ${headOf(table, table.plot?.along ?? 0).toLowerCase()}, drawn as bars. The numbers are in the table.`,
  );

  $effect(() => {
    const [at, shown, wide, bars] = [place, points, width, table.plot?.kind === 'bars'];
    if (!at || wide === 0) return;
    let isOver = false;
    void import('@observablehq/plot').then((Plot) => {
      if (isOver) return;
      const plain = { fontFamily: 'inherit', fontSize: '12px', color: 'var(--ink)', background: 'transparent', overflow: 'visible' };
      const fill = 'var(--bar)';
      const numbers = shown[0] ? table.columns.find((of) => of.name === shown[0]?.series)?.measure : 'count';
      const most = Math.max(...shown.map((point) => point.value), 1);
      const tick = (value: number) =>
        shown.find((point) => point.value === value)?.says ?? Intl.NumberFormat('en-GB', { notation: 'compact' }).format(value);
      const svg = bars
        ? Plot.plot({
            width: wide,
            height: names.length * 22 + (series.length > 1 ? 26 : 6),
            marginLeft: Math.min(wide * 0.45, Math.max(...names.map((name) => cut(name).length), 4) * 6.6 + 10),
            marginRight: 60,
            marginTop: series.length > 1 ? 24 : 2,
            marginBottom: 2,
            style: plain,
            x: { axis: null, domain: [0, most] },
            y: { domain: names, label: null, tickSize: 0, tickFormat: cut, padding: 0.3 },
            fx: series.length > 1 ? { domain: series, label: null, axis: 'top', padding: 0.25 } : { axis: null },
            marks: [
              Plot.barX(shown, { x: 'value', y: 'name', fx: series.length > 1 ? 'series' : undefined, fill, insetLeft: 0 }),
              Plot.ruleX([0], { stroke: 'var(--rule)' }),
              Plot.text(shown, {
                x: 'value',
                y: 'name',
                fx: series.length > 1 ? 'series' : undefined,
                text: 'says',
                dx: 5,
                textAnchor: 'start',
              }),
            ],
          })
        : Plot.plot({
            width: wide,
            height: series.length * 74 + 24,
            marginLeft: 52,
            marginRight: series.length > 1 ? 110 : 10,
            marginTop: 8,
            marginBottom: 22,
            style: plain,
            x: {
              type: 'band',
              domain: names,
              label: null,
              tickSize: 0,
              tickFormat: timeMark(names),
              ticks: marked(names, Math.max(3, Math.floor(wide / 110))),
              padding: 0.25,
            },
            y: {
              ticks: 2,
              label: null,
              tickSize: 0,
              domain: [0, most],
              tickFormat: (value: number) => (numbers === 'bytes' ? tickBytes(value) : Number.isInteger(value) ? tick(value) : ''),
            },
            fy: series.length > 1 ? { domain: series, label: null, padding: 0.2 } : { axis: null },
            marks: [
              Plot.gridY({ stroke: 'var(--hair)', strokeOpacity: 1, ticks: 2 }),
              Plot.barY(shown, { x: 'name', y: 'value', fy: series.length > 1 ? 'series' : undefined, fill }),
              Plot.ruleY([0], { stroke: 'var(--rule)' }),
            ],
          });
      svg.setAttribute('aria-hidden', 'true');
      at.replaceChildren(svg);
    });
    return () => (isOver = true);
  });

  const tickBytes = (value: number) => `${Intl.NumberFormat('en-GB', { notation: 'compact' }).format(value)}B`;
</script>

{#if isAny}
  <figure class="plot mt-2 max-w-4xl" role="img" aria-label={label} bind:clientWidth={width}>
    <div bind:this={place} style={`min-height:${table.plot?.kind === 'bars' ? names.length * 22 + 6 : series.length * 74 + 24}px`}></div>
  </figure>
{/if}

<style>
  .plot {
    --bar: color-mix(in srgb, var(--quiet) 55%, transparent);
    --rule: var(--quiet);
  }
</style>
