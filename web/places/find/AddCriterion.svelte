<script lang="ts">
  import type { Facet } from '@/api/types';
  import IconPlus from '@lucide/svelte/icons/plus';
  import { tick } from 'svelte';
  import { Asking } from './asking.svelte';
  import CriterionForm from './CriterionForm.svelte';

  /** `facets` are those of the present result: they give the counts beside what may be chosen. */
  let { add, facets = [] }: { add: (cql: string) => void; facets?: Facet[] } = $props();

  let asking = $state.raw<Asking | null>(null);
  let opener: HTMLButtonElement | undefined = $state();

  async function close() {
    asking = null;
    await tick();
    opener?.focus();
  }
</script>

<div class="px-3 pb-3">
  {#if asking}
    <div class="border-t border-hair pt-2">
      <CriterionForm
        {asking}
        act="Add"
        isNew
        onmade={(cql) => {
          add(cql);
          void close();
        }}
        oncancel={close}
      />
    </div>
  {:else}
    <button
      class="link inline-flex items-center gap-1 py-1"
      type="button"
      bind:this={opener}
      onclick={() => (asking = new Asking(() => facets))}><IconPlus size={14} strokeWidth={1.8} />Add a criterion</button
    >
  {/if}
</div>
