<script lang="ts">
  import type { Reasons } from '@/api/types';

  /** Every condition under which somebody reads and changes a document, and whether it holds. */
  let { reasons }: { reasons: Reasons } = $props();
</script>

{#snippet list(title: string, of: { holds: boolean; says: string }[])}
  <p class="heading mt-1">{title}</p>
  <ul>
    {#each of as r (r.says)}<li class="flex gap-2">
        <span class="w-9 flex-none" class:fault={!r.holds}>{r.holds ? 'yes' : 'no'}</span><span>{r.says}</span>
      </li>{/each}
  </ul>
{/snippet}

<div class="small mb-1 border-l-2 border-act pl-3">
  {@render list(reasons.reads ? 'May read it' : 'May not read it', reasons.reading)}
  {@render list(reasons.changes ? 'May change it' : 'May not change it', reasons.changing)}
</div>
