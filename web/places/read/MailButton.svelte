<script lang="ts">
  import MailForm from '@/parts/MailForm.svelte';
  import Popover from '@/parts/Popover.svelte';
  import { keys } from '@/state/keys.svelte';
  import IconMail from '@lucide/svelte/icons/mail';
  import type { Reading } from './document.svelte';

  let { reading }: { reading: Reading } = $props();
  const record = $derived(reading.record!);
  let open = $state(false);

  keys.use(() => [{ on: 'w', what: 'Send it as a message', run: () => (open = true) }]);
</script>

<Popover label="Send as a message" called="A message" look="icon-btn" title="Send as a message (w)" width={340} bind:open>
  {#snippet trigger()}<IconMail size={16} strokeWidth={1.6} />{/snippet}
  {#key record.ref}<MailForm
      documents={[record.ref]}
      subject={record.title}
      isRedacted={record.has_redacted_copy}
      ondone={() => (open = false)}
      oncancel={() => (open = false)}
    />{/key}
</Popover>
