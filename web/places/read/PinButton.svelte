<script lang="ts">
  import { api } from '@/api/client';
  import { lists } from '@/state/lists.svelte';
  import IconGather from '@lucide/svelte/icons/list-plus';
  import IconPin from '@lucide/svelte/icons/pin';
  import IconPinOff from '@lucide/svelte/icons/pin-off';
  import type { Reading } from './document.svelte';

  let { reading }: { reading: Reading } = $props();
  const record = $derived(reading.record!);
  async function toggle() {
    const { pinned } = await api.pin(record.ref, !record.pinned);
    reading.record = { ...record, pinned };
  }
</script>

<button
  class="icon-btn"
  aria-label="Add to the pull list"
  title="Add to the pull list (a)"
  onclick={() => lists.gather({ documents: [record.ref] })}><IconGather size={16} strokeWidth={1.6} /></button
>
<button
  class="icon-btn"
  class:text-act={record.pinned}
  aria-pressed={record.pinned}
  aria-label={record.pinned ? 'Unpin from the desk' : 'Pin to the desk'}
  title={record.pinned ? 'Unpin from the desk' : 'Pin to the desk'}
  onclick={toggle}
  >{#if record.pinned}<IconPinOff size={16} strokeWidth={1.6} />{:else}<IconPin size={16} strokeWidth={1.6} />{/if}</button
>
