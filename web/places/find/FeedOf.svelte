<script lang="ts">
  import { api, messageOf } from '@/api/client';
  import { app } from '@/state/app.svelte';
  import { searches } from '@/state/searches.svelte';

  /** The feed of a saved search: its addresses are shown when it is made, and not again. */
  let { id, name, has }: { id: number; name: string; has: boolean } = $props();
  let addresses = $state.raw<{ atom: string; json: string } | null>(null);
  let fault = $state('');
  let busy = $state(false);

  async function act(what: () => Promise<void>) {
    busy = true;
    fault = '';
    try {
      await what();
    } catch (error) {
      fault = messageOf(error, 'It was not done. Try again.');
    }
    busy = false;
  }
  const make = () =>
    act(async () => {
      addresses = await api.makeFeed(id);
      searches.saved = searches.saved.map((saved) => (saved.id === id ? { ...saved, has_feed: true } : saved));
    });
  const stop = () =>
    act(async () => {
      searches.take(await api.stopFeed(id));
      addresses = null;
      app.say(`The feed of “${name}” is stopped.`);
    });
</script>

<div class="border-l-2 border-act py-1 pl-3" role="group" aria-label={`Feed of ${name}`}>
  {#if addresses}
    {#each [['Atom', addresses.atom], ['JSON Feed', addresses.json]] as [form, address] (form)}<label class="small block"
        >{form}<input class="input mono" readonly value={address} onfocus={(e) => e.currentTarget.select()} /></label
      >{/each}
    <p class="small quiet mt-1">Copy it now: it is not shown again. Whoever has it reads along as you.</p>
  {:else}<p class="small">
      {has
        ? 'There is a feed. Its address is not kept here; a new one ends it.'
        : 'A feed reader is told what is new, by an address that only you have.'}
    </p>{/if}
  {#if fault}<p class="fault" role="alert">{fault}</p>{/if}
  <p class="mt-1 flex gap-3">
    {#if !addresses}<button class="link small" type="button" disabled={busy} onclick={make}>{has ? 'New address' : 'Make a feed'}</button
      >{/if}
    {#if has}<button class="link small" type="button" disabled={busy} onclick={stop}>Stop the feed</button>{/if}
  </p>
</div>
