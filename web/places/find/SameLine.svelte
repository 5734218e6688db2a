<script lang="ts">
  import { plural } from '@/parts/format';
  import { app } from '@/state/app.svelte';
  import type { Columns } from './columns.svelte';

  interface Props {
    arranged: Columns;
    /** What all that was found say in columns that are folded away, by code. */
    same: Record<string, string>;
  }
  /** What is told once for all rows, and the way to columns that have no room. */
  let { arranged, same }: Props = $props();
  const folded = $derived(Object.entries(same));
</script>

<p class="same small">
  <span class="min-w-0 flex-1 truncate" title={folded.map(([code, text]) => `${app.label(code)}: ${text}`).join('\n')}
    >{#if folded.length > 0}<span class="quiet">all:</span>
      {folded.map(([, text]) => text).join(', ')}{/if}</span
  >
  {#if arranged.before > 0}<button
      class="link min-h-6"
      aria-label={`Show the ${plural(arranged.before, 'column', 'columns')} before`}
      onclick={() => arranged.turn(-1)}>‹ {arranged.before} more</button
    >{/if}
  {#if arranged.behind > 0}<button
      class="link min-h-6"
      aria-label={`Show the ${plural(arranged.behind, 'column', 'columns')} behind`}
      onclick={() => arranged.turn(1)}>{plural(arranged.behind, 'more column', 'more columns')} ›</button
    >{/if}
</p>

<style>
  .same {
    display: flex;
    flex: none;
    align-items: center;
    gap: 12px;
    height: 26px;
    padding: 0 16px 0 30px;
  }
</style>
