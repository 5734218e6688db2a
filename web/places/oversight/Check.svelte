<script lang="ts">
  import type { Snippet } from 'svelte';

  /** A line about one thing: its name, what is said of it, and whether it is well, where that is known. */
  interface Props {
    name: string;
    says: string;
    isWell: boolean | null;
    unwell?: string;
    children?: Snippet;
  }
  let { name, says, isWell, unwell = 'look after it', children }: Props = $props();
</script>

<li class="flex flex-wrap items-center gap-x-4 border-t border-hair py-1">
  <span class="w-44 truncate" title={name}>{name}</span><span class="min-w-40 flex-1">{says}</span>
  {@render children?.()}
  {#if isWell !== null}<span class="small w-20 text-right" class:text-rust={!isWell} class:text-moss={isWell}
      >{isWell ? 'well' : unwell}</span
    >{/if}
</li>
