<script lang="ts">
  import type { DocumentRecord, Piece } from '@/api/types';
  import Pieces from '@/parts/Pieces.svelte';

  let { record, title = null }: { record: DocumentRecord; title?: Piece[] | null } = $props();
  const inPlace = (field: string, value: string) => `/find?c=${encodeURIComponent(`${field} == "${value}"`)}`;
</script>

<h2 class="text-[20px] leading-snug">
  {#if title}<Pieces pieces={title} />{:else}{record.title}{/if}
</h2>
<p class="small quiet">
  <a href={inPlace('repository', record.repository.code)}>{record.repository.name}</a> ›
  <a href={inPlace('library', record.library.code)}>{record.library.name}</a>{#if record.type}&nbsp;› <a
      href={inPlace('type', record.type.code)}>{record.type.name}</a
    >{/if}
</p>
