<script lang="ts">
  import { api, messageOf } from '@/api/client';
  import type { Served, Token, Webhook } from '@/api/types';
  import { app } from '@/state/app.svelte';
  import { Trying } from '@/state/trying.svelte';
  import TokenList from './TokenList.svelte';
  import WebhookList from './WebhookList.svelte';

  /** Who other programs are, that ask by open protocols without a token. */
  let served = $state.raw<Served | null>(null);
  let group = $state('');
  const trying = new Trying();
  function take(got: Served) {
    served = got;
    group = got.group ?? '';
  }
  api.served().then(take, (error: unknown) => (trying.fault = messageOf(error, 'This cannot be shown.')));

  async function revoke(token: Token) {
    await trying.run(async () => {
      served = await api.revokeTokenOfAnybody(token.id);
      app.say(`${token.name} is revoked. No program comes in with it any more.`);
    });
  }

  async function stop(webhook: Webhook) {
    await trying.run(async () => {
      served = await api.removeWebhookOfAnybody(webhook.id);
      app.say(`${webhook.name} is removed. It is told nothing more.`);
    });
  }

  async function save(event: SubmitEvent) {
    event.preventDefault();
    await trying.run(async () => {
      take(await api.keepServed(group || null));
      app.say('Saved. It is in force at once.');
    });
  }
</script>

{#if trying.fault}<p class="fault" role="alert">{trying.fault}</p>{/if}
{#if served}
  <form class="max-w-xl py-2" onsubmit={save}>
    <p>
      Other programs search here by <strong>SRU</strong> and harvest by <strong>OAI-PMH</strong>. With a token that somebody made (under
      their name, at the top) they see what that person sees.
    </p>
    <div class="py-3">
      <label class="heading" for="served-group">Without a token they see what this group sees</label>
      <select class="input" id="served-group" bind:value={group}
        ><option value="">nobody is served without a token</option>{#each served.groups as name (name)}<option value={name}>{name}</option
          >{/each}</select
      >
      <p class="small quiet">Everything that the group may find is then open to everybody who reaches this server.</p>
    </div>
    <button class="btn btn-main" disabled={trying.busy || group === (served.group ?? '')}>Save</button>
    <dl class="mt-6 grid grid-cols-[6rem_1fr] gap-y-1">
      <dt class="quiet">SRU</dt>
      <dd class="mono break-all">{served.sru}</dd>
      <dt class="quiet">OAI-PMH</dt>
      <dd class="mono break-all">{served.oai}</dd>
    </dl>
  </form>
  <section class="mt-4 max-w-xl">
    <h2 class="border-b border-hair pb-1 text-[19px]">Tokens that people made</h2>
    {#if served.tokens.length}<TokenList {...served} onrevoke={revoke} />{:else}<p class="quiet py-1">
        Nobody has one. Who needs one makes it under their name, at the top.
      </p>{/if}
  </section>
  {#if served.webhooks.length}
    <section class="mt-4 max-w-xl">
      <h2 class="border-b border-hair pb-1 text-[19px]">Programs that are told</h2>
      <WebhookList webhooks={served.webhooks}>
        {#snippet acts(webhook: Webhook)}
          <button class="link" onclick={() => stop(webhook)} aria-label={`Remove ${webhook.name} of ${webhook.person?.name}`}>Remove</button
          >
        {/snippet}
      </WebhookList>
    </section>
  {/if}
{:else if !trying.fault}<p class="quiet" role="status">Loading…</p>{/if}
