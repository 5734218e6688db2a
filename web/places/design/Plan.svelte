<script lang="ts">
  import { count } from '@/parts/format';
  import { planOf } from './plan';
  import type { ProcedureStep } from './procedure';
  import type { ProcedureTrying } from './procedureTrial.svelte';

  interface Props {
    steps: ProcedureStep[];
    trying: ProcedureTrying;
    name: string;
    /** The step that is edited. */
    open: string;
    onopen: (code: string) => void;
  }
  let { steps, trying, name, open, onopen }: Props = $props();
  const plan = $derived(planOf(steps));
  let drawing = $state<SVGSVGElement>();

  /** The picture as a file: colours are written out, for other programs do not know ours. */
  function save() {
    const copy = drawing!.cloneNode(true) as SVGSVGElement;
    const style = getComputedStyle(document.documentElement);
    copy.setAttribute('xmlns', 'http://www.w3.org/2000/svg');
    const text = new XMLSerializer()
      .serializeToString(copy)
      .replaceAll(/var\((--[a-z-]+)\)/g, (_, role: string) => style.getPropertyValue(role).trim());
    const link = document.createElement('a');
    link.href = URL.createObjectURL(new Blob([text], { type: 'image/svg+xml' }));
    link.download = `${name || 'procedure'}.svg`;
    link.click();
    URL.revokeObjectURL(link.href);
  }
  const labelOf = (line: (typeof plan.lines)[number]) => {
    const taken = trying.taken(line.from, line.decision, line.index);
    return [line.label, taken === null ? '' : count(taken)].filter(Boolean).join(' · ');
  };
</script>

<div class="flex items-baseline gap-3">
  <h3 class="flex-1 text-[17px]">Plan</h3>
  <button class="link small" type="button" onclick={save}>Export as SVG</button>
</div>
<!-- Scrolled by keyboard too, so it takes the focus. -->
<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
<div class="mt-1 overflow-auto border-t border-hair pt-2" tabindex="0" role="region" aria-label="Plan">
  <svg
    bind:this={drawing}
    width={plan.width}
    height={plan.height}
    viewBox={`0 0 ${plan.width} ${plan.height}`}
    role="img"
    aria-label={`Plan of ${name}: ${plan.nodes.map((node) => node.name.join(' ')).join(', ')}`}
    font-family="'Hanken Grotesk Variable', sans-serif"
    font-size="11"
  >
    <defs>
      <marker id="tip" viewBox="0 0 8 8" refX="7" refY="4" markerWidth="7" markerHeight="7" orient="auto-start-reverse"
        ><path d="M0 0 L8 4 L0 8 z" fill="var(--quiet)" /></marker
      >
    </defs>
    {#each plan.lines as line, i (i)}
      <path
        d={line.path}
        fill="none"
        stroke="var(--quiet)"
        stroke-width="1"
        stroke-dasharray={line.back ? '4 3' : undefined}
        marker-end="url(#tip)"
      />
    {/each}
    {#each plan.nodes as node (node.code)}
      <!-- The list beside it does the same by keyboard. -->
      <!-- svelte-ignore a11y_click_events_have_key_events, a11y_no_static_element_interactions -->
      <g onclick={() => onopen(node.code)} style="cursor:pointer">
        <rect
          x={node.x}
          y={node.y}
          width={node.width}
          height={node.height}
          fill={node.code === open ? 'var(--act-tint)' : node.kind === 'act' ? 'var(--paper)' : 'var(--sheet)'}
          stroke={node.kind === 'end' ? 'none' : 'var(--hair)'}
        />
        {#if node.kind === 'ask'}<rect x={node.x} y={node.y} width="3" height={node.height} fill="var(--act)" />{/if}
        {#if node.kind === 'end'}
          <path
            d={`M${node.x + 12} ${node.y + 0.5} H${node.x + node.width - 12} M${node.x + 12} ${node.y + 4.5} H${node.x + node.width - 12}`}
            stroke="var(--quiet)"
          />{/if}
        {#each node.name as text, i (i)}
          <text x={node.x + 10} y={node.y + 19 + i * 14} fill="var(--ink)" font-weight="600" font-size="11.5">{text}</text>
        {/each}
        <text x={node.x + 10} y={node.y + 19 + node.name.length * 14} fill="var(--quiet)">{node.says}</text>
        {#if trying.of(node.code)}<text
            x={node.x + node.width - 8}
            y={node.y + node.height - 7}
            text-anchor="end"
            fill="var(--brass-text)"
            font-weight="600">{count(trying.of(node.code)!.documents)}</text
          >{/if}
      </g>
    {/each}
    {#each plan.lines as line, i (i)}
      {#if labelOf(line)}<text
          x={line.at[0]}
          y={line.at[1]}
          text-anchor={line.back ? 'start' : 'middle'}
          fill="var(--quiet)"
          stroke="var(--sheet)"
          stroke-width="4"
          paint-order="stroke">{labelOf(line)}</text
        >{/if}
    {/each}
  </svg>
</div>
