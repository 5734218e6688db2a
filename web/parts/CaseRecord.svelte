<script lang="ts">
  import type { Case } from '@/api/types';
  import { moment } from './format';

  /** What happened in a case, the latest first. */
  let { record }: { record: Case['record'] } = $props();
  const lines = $derived(record.toReversed());
  /** What people did stands out from what happened by itself. */
  const isDecision = (kind: string) => ['decided', 'ended', 'stopped', 'given_up'].includes(kind);
</script>

<ol>
  {#each lines as line, i (i)}
    <li class="border-t border-hair py-1">
      <p class="flex items-baseline gap-3">
        <span class="min-w-0 flex-1" class:font-semibold={isDecision(line.kind)} class:text-rust={line.kind === 'stopped'}>{line.says}</span
        >
        <span class="small quiet whitespace-nowrap">{line.by ? `${line.by}, ` : ''}{moment(line.at)}</span>
      </p>
      {#if line.kind === 'decided'}<p class="small quiet">{line.step}</p>{/if}
      {#if line.text}<p class="small whitespace-pre-line">{line.text}</p>{/if}
    </li>
  {/each}
</ol>
