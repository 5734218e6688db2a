<script lang="ts">
  import { api, messageOf } from '@/api/client';
  import type { DeliveryForm, SecureLink } from '@/api/types';
  import { moment } from '@/parts/format';
  import { formsFor } from '@/parts/forms';
  import { app } from '@/state/app.svelte';

  /** Makes a link for somebody outside, and shows those that were made. */
  let { of, delivery = 0, isRedacted = true }: { of: string; delivery?: number; isRedacted?: boolean } = $props();
  const id = $props.id();

  let note = $state('');
  let password = $state('');
  let uses = $state(1);
  let days = $state(14);
  let address = $state('');
  let form = $state<DeliveryForm>('plain');
  let fault = $state('');
  let links = $state.raw<SecureLink[]>([]);
  // svelte-ignore state_referenced_locally
  if (delivery) void api.delivery(delivery).then((got) => (links = got.links));

  async function make(event: SubmitEvent) {
    event.preventDefault();
    try {
      const made = await api.makeLink(of, { note, password, most_uses: uses, days, ...(delivery ? {} : { form }) });
      address = made.address;
      links = [made.link, ...links];
      fault = password = note = '';
    } catch (error) {
      fault = messageOf(error, 'It could not be made.');
    }
  }
  async function revoke(link: SecureLink) {
    const got = await api.revokeLink(link.id);
    links = links.map((l) => (l.id === got.id ? got : l));
  }
</script>

<div class="mt-2 border-l-2 border-act pl-3">
  <form onsubmit={make} aria-label="A secure link">
    <label class="heading" for={`${id}-note`}>For whom</label><input
      class="input"
      id={`${id}-note`}
      bind:value={note}
      maxlength="200"
      autocomplete="off"
    />
    <div class="grid grid-cols-2 gap-3">
      <div>
        <label class="heading mt-1" for={`${id}-uses`}>Downloads allowed</label><input
          class="input"
          id={`${id}-uses`}
          type="number"
          min="1"
          max="1000"
          bind:value={uses}
        />
      </div>
      <div>
        <label class="heading mt-1" for={`${id}-days`}>Valid for, in days</label><input
          class="input"
          id={`${id}-days`}
          type="number"
          min="1"
          max="365"
          bind:value={days}
        />
      </div>
    </div>
    <label class="heading mt-1" for={`${id}-password`}>Password, told by another way</label><input
      class="input"
      id={`${id}-password`}
      type="password"
      bind:value={password}
      autocomplete="new-password"
      placeholder="none"
    />
    {#if !delivery}<label class="heading mt-1" for={`${id}-form`}>The file</label><select class="input" id={`${id}-form`} bind:value={form}
        >{#each formsFor(isRedacted) as [value, label] (value)}<option {value}>{label}</option>{/each}</select
      >{/if}
    {#if fault}<p class="fault" role="alert">{fault}</p>{/if}
    <button class="btn btn-main mt-2">Create link</button>
  </form>
  {#if address}
    <p class="mt-2" role="status">
      The address is shown only this once. Copy it now. <button
        class="link"
        onclick={async () => {
          await navigator.clipboard.writeText(address).catch(() => {});
          app.say('The address is copied.');
        }}>Copy</button
      >
    </p>
    <p class="mono break-all" style="font-size:12px">{address}</p>
  {/if}
  <ul>
    {#each links as link (link.id)}
      <li class="small border-t border-hair py-1">
        <p class="flex gap-2">
          <span class="min-w-0 flex-1 truncate">{link.note || 'Without a name'}{link.has_password ? ', with a password' : ''}</span><span
            class="num">{link.uses} of {link.most_uses}</span
          >{#if link.open}<button class="link" onclick={() => revoke(link)}>revoke</button>{:else}<span class="quiet"
              >{link.revoked ? 'revoked' : 'used up or expired'}</span
            >{/if}
        </p>
        {#each link.log.slice(0, 4) as use, i (i)}<p class="quiet">{moment(use.at)}: {use.outcome}</p>{/each}
      </li>
    {/each}
  </ul>
</div>
