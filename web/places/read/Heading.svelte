<script lang="ts">
  import type { DocumentRecord, Piece } from '@/api/types';
  import Pieces from '@/parts/Pieces.svelte';
  import type { Snippet } from 'svelte';

  /** `tools` stand beside the place, so that the title has the whole width. */
  let { record, title = null, tools }: { record: DocumentRecord; title?: Piece[] | null; tools?: Snippet } = $props();
  const inPlace = (field: string, value: string) => `/find?c=${encodeURIComponent(`${field} == "${value}"`)}`;
</script>

<h2 class="text-[20px] leading-snug">
  {#if title}<Pieces pieces={title} />{:else}{record.title}{/if}
</h2>
<div class="flex items-center gap-1">
  <p class="small quiet min-w-0 flex-1">
    <a href={inPlace('repository', record.repository.code)}>{record.repository.name}</a> ›
    <a href={inPlace('library', record.library.code)}>{record.library.name}</a>{#if record.type}&nbsp;› <a
        href={inPlace('type', record.type.code)}>{record.type.name}</a
      >{/if}
  </p>
  {@render tools?.()}
</div>
