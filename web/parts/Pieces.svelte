<script lang="ts">
  import type { Piece } from '@/api/types';

  let { pieces }: { pieces: Piece[] } = $props();
</script>

{#each pieces as [text, marked], i (i)}{#if marked}<mark>{text}</mark>{:else}{text}{/if}{/each}
