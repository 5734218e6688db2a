<script lang="ts">
  import type { Webhook, WebhooksAnswer } from '@/api/types';
  import { moment } from '@/parts/format';
  import type { Snippet } from 'svelte';

  /** Webhooks, with how it goes with each. `acts` is what may be done with one. */
  const { webhooks, kinds, acts }: { webhooks: Webhook[]; kinds?: WebhooksAnswer['kinds']; acts: Snippet<[Webhook]> } = $props();

  const label = (kind: string) => kinds?.find((k) => k.value === kind)?.label.replace(/^A document is /, '') ?? kind;
  function goes(webhook: Webhook): string {
    if (webhook.is_stopped) return `stopped: ${webhook.fault}`;
    if (webhook.fault) return `not heard: ${webhook.fault}${webhook.next_at ? `; tried again ${moment(webhook.next_at)}` : ''}`;
    return webhook.told_at ? `last told ${moment(webhook.told_at)}` : 'nothing to tell yet';
  }
</script>

<ul>
  {#each webhooks as webhook (webhook.id)}
    <li class="border-t border-hair py-1 first:border-t-0">
      <span class="flex items-baseline gap-3"
        ><span class="flex-1"
          >{webhook.name}{#if webhook.person}<span class="quiet">, {webhook.person.name}</span>{/if}</span
        >{@render acts(webhook)}</span
      >
      <span class="mono small quiet block break-all">{webhook.address}</span>
      <span class="small quiet block">{webhook.kinds.map(label).join(', ')}</span>
      <span class={['small block', webhook.fault ? 'fault' : 'quiet']}>{goes(webhook)}</span>
    </li>
  {/each}
</ul>
