<script lang="ts">
  import type { DocumentRecord } from '@/api/types';

  /** Says that what is shown is not the present version. */
  let { record }: { record: DocumentRecord } = $props();
</script>

{#if record.shown_version !== record.version}
  <p class="border-b border-hair bg-act-tint px-5 py-1.5" role="status">
    Version {record.shown_version}; the present one is version {record.version}.
    <a class="ml-2" href={`/documents/${record.ref}`}>Show the present one</a>
    <a class="ml-2" href={`/documents/${record.ref}/compare?from=${record.shown_version}&to=${record.version}`}>Compare the two</a>
  </p>
{/if}
