<script lang="ts">
  import { api } from '@/api/client';
  import { Attempt } from '@/parts/attempt.svelte';
  import TypedField from '@/parts/TypedField.svelte';
  import { app } from '@/state/app.svelte';
  import { focusOn } from '@/parts/focus';

  /** The second factor of whoever is signed in: turned on with a program on their telephone, or off. */
  let begun = $state.raw<Awaited<ReturnType<typeof api.beginFactor>> | null>(null);
  let codes = $state.raw<string[] | null>(null);
  let leaving = $state(false);
  let code = $state('');
  let current = $state('');
  const attempt = new Attempt();
  const factor = $derived(app.person!.factor);

  const act = (what: () => Promise<void>) => attempt.run(what, 'current');
  const begin = () =>
    act(async () => {
      begun = await api.beginFactor();
      void focusOn('factor-code');
    });
  async function turnOn(event: SubmitEvent) {
    event.preventDefault();
    await act(async () => {
      const answer = await api.turnOnFactor(code, current);
      codes = answer.recovery_codes;
      begun = null;
      code = current = '';
      app.person = answer.user;
    });
  }
  async function turnOff(event: SubmitEvent) {
    event.preventDefault();
    await act(async () => {
      app.person = (await api.turnOffFactor(current)).user;
      leaving = false;
      current = '';
      app.say('The second factor is off.');
    });
  }
</script>

{#snippet password(id: string)}
  <TypedField
    {id}
    label="Current password"
    type="password"
    autocomplete="current-password"
    bind:value={current}
    fault={attempt.faults.current}
  />
{/snippet}

{#if codes}
  <div class="my-2 border-l-2 border-act pl-4" role="status">
    <p>The second factor is on. Print these recovery codes or keep them in a safe place; each lets you in once without the telephone.</p>
    <p class="mono my-2 grid max-w-sm grid-cols-2 gap-x-6 select-all">
      {#each codes as c (c)}<span>{c}</span>{/each}
    </p>
    <button class="btn" onclick={() => (codes = null)}>I have kept them</button>
  </div>
{:else if factor.is_on}
  <p class="py-1">
    On. {factor.recovery_codes} recovery {factor.recovery_codes === 1 ? 'code is' : 'codes are'} left.
    {#if !factor.is_wanted && !leaving}<button class="link ml-2" onclick={() => (leaving = true)}>Turn off…</button>{/if}
  </p>
  {#if leaving}
    <form class="max-w-sm" onsubmit={turnOff}>
      {@render password('factor-off-password')}
      <p class="flex gap-2">
        <button class="btn btn-main" disabled={attempt.busy || current === ''}>Turn off</button><button
          class="btn"
          type="button"
          onclick={() => (leaving = false)}>Cancel</button
        >
      </p>
    </form>
  {/if}
{:else if begun}
  <form class="max-w-sm" onsubmit={turnOn}>
    <p class="py-1">Read this with the program on your telephone, or type the key into it.</p>
    <img
      class="my-2 w-48 bg-white p-3"
      alt="QR code of the key below"
      src={`data:image/svg+xml,${encodeURIComponent(begun.qr.slice(begun.qr.indexOf('<svg')))}`}
    />
    <p class="mono small break-all select-all">{begun.secret.match(/.{4}/g)?.join(' ')}</p>
    <TypedField
      id="factor-code"
      label="Code that it shows"
      mono
      inputmode="numeric"
      autocomplete="one-time-code"
      bind:value={code}
      fault={attempt.faults.code}
    />
    {@render password('factor-on-password')}
    <p class="flex gap-2">
      <button class="btn btn-main" disabled={attempt.busy || code === '' || current === ''}>Turn on</button><button
        class="btn"
        type="button"
        onclick={() => (begun = null)}>Cancel</button
      >
    </p>
  </form>
{:else}
  <p class="quiet py-1">
    Besides the password, a code that a program on your telephone shows. Whoever learns the password cannot sign in with it alone.
  </p>
  <button class="btn" disabled={attempt.busy} onclick={begin}>Turn on…</button>
  {#if attempt.faults.current}<p class="fault" role="alert">{attempt.faults.current}</p>{/if}
{/if}
