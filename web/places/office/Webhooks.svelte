<script lang="ts">
  import { api } from '@/api/client';
  import type { Webhook, WebhooksAnswer } from '@/api/types';
  import { Attempt } from '@/parts/attempt.svelte';
  import { focusOn } from '@/parts/focus';
  import TypedField from '@/parts/TypedField.svelte';
  import { app } from '@/state/app.svelte';
  import WebhookList from './WebhookList.svelte';

  /** Programs that are told of what happens, as far as whoever is signed in may know it. */
  let answer = $state.raw<WebhooksAnswer | null>(null);
  let secret = $state('');
  let open = $state(false);
  let name = $state('');
  let address = $state('');
  let kinds = $state<Webhook['kinds']>(['filed', 'changed', 'removed']);
  const attempt = new Attempt();
  const showing = new Attempt();
  const show = (what: () => Promise<WebhooksAnswer>, said = '') =>
    showing.run(
      async () => {
        answer = await what();
        if (said) app.say(said);
      },
      'all',
      'This cannot be done. Try again.',
    );
  void show(() => api.myWebhooks());

  function begin() {
    open = true;
    secret = '';
    void focusOn('webhook-name');
  }
  async function make(event: SubmitEvent) {
    event.preventDefault();
    await attempt.run(async () => {
      answer = await api.makeWebhook({ name: name.trim(), address: address.trim(), kinds });
      secret = answer.secret ?? '';
      open = false;
      name = address = '';
    }, 'name');
  }
</script>

<p class="quiet py-1">A program at an address of its own is told, within a minute, of what happens to documents that you see.</p>
{#if secret}
  <div class="my-2 border-l-2 border-act pl-4" role="status">
    <p>By this secret the program knows that it is Brenvic that tells. It is shown only now.</p>
    <p class="mono my-1 break-all select-all">{secret}</p>
  </div>
{/if}
{#if answer?.webhooks.length}
  <WebhookList webhooks={answer.webhooks} kinds={answer.kinds}>
    {#snippet acts(webhook: Webhook)}
      {#if webhook.is_stopped || webhook.fault}<button
          class="link"
          onclick={() => show(() => api.startWebhook(webhook.id), `${webhook.name} goes on from where it was.`)}
          aria-label={`Start ${webhook.name}`}>Start</button
        >{/if}
      <button
        class="link"
        onclick={() => show(() => api.tryWebhook(webhook.id), `${webhook.name} was told of a try, and answered.`)}
        aria-label={`Try ${webhook.name}`}>Try</button
      >
      <button class="link" onclick={() => show(() => api.removeWebhook(webhook.id))} aria-label={`Remove ${webhook.name}`}>Remove</button>
    {/snippet}
  </WebhookList>
{/if}
{#if showing.faults.all}<p class="fault" role="alert">{showing.faults.all}</p>{/if}
{#if open && answer}
  <form class="max-w-sm border-l-2 border-act pl-4" onsubmit={make} aria-label="New webhook">
    <TypedField id="webhook-name" label="What it is for" maxlength={100} autocomplete="off" bind:value={name} fault={attempt.faults.name} />
    <TypedField
      id="webhook-address"
      label="Address of the program"
      type="url"
      maxlength={1000}
      autocomplete="off"
      bind:value={address}
      fault={attempt.faults.address}
    />
    <fieldset class="py-1">
      <legend class="heading">It is told when</legend>
      {#each answer.kinds as kind (kind.value)}<label class="flex min-h-6 items-center gap-2"
          ><input type="checkbox" class="check" value={kind.value} bind:group={kinds} />{kind.label}</label
        >{/each}
      <p class="small quiet">Of decisions and deliveries it is told where you may read the history of the document.</p>
    </fieldset>
    <p class="mt-1 flex gap-2">
      <button class="btn btn-main" disabled={attempt.busy || name.trim() === '' || address.trim() === '' || kinds.length === 0}
        >Create webhook</button
      ><button class="btn" type="button" onclick={() => (open = false)}>Cancel</button>
    </p>
  </form>
{:else if answer}<button class="btn mt-1" onclick={begin}>New webhook…</button>{/if}
