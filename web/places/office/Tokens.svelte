<script lang="ts">
  import { api } from '@/api/client';
  import type { TokensAnswer } from '@/api/types';
  import { Attempt } from '@/parts/attempt.svelte';
  import { focusOn } from '@/parts/focus';
  import TypedField from '@/parts/TypedField.svelte';
  import TokenList from './TokenList.svelte';

  /** Tokens with which programs ask in somebody's name. */
  let answer = $state.raw<TokensAnswer | null>(null);
  let made = $state('');
  let open = $state(false);
  let name = $state('');
  let rights = $state<string[]>(['read']);
  let days = $state('90');
  /** Codes of the libraries that it is for; null for all. */
  let only = $state<string[] | null>(null);
  const attempt = new Attempt();
  const showing = new Attempt();
  const show = (what: () => Promise<TokensAnswer>) =>
    showing.run(async () => void (answer = await what()), 'all', 'The tokens cannot be shown. Try again.');
  void show(() => api.myTokens());

  function begin() {
    open = true;
    made = '';
    void focusOn('token-name');
  }
  async function make(event: SubmitEvent) {
    event.preventDefault();
    await attempt.run(async () => {
      answer = await api.makeToken(name.trim(), rights, Number(days), only);
      made = answer.token ?? '';
      open = false;
      name = '';
    }, 'name');
  }
</script>

<p class="quiet py-1">A program that has one asks Brenvic in your name, with what you let it do.</p>
{#if made}
  <div class="my-2 border-l-2 border-act pl-4" role="status">
    <p>This is the token. It is shown only now.</p>
    <p class="mono my-1 break-all select-all">{made}</p>
    <p class="small quiet">It is sent as <span class="mono">Authorization: Bearer …</span></p>
  </div>
{/if}
{#if answer}
  <TokenList {...answer} onrevoke={(token) => show(() => api.revokeToken(token.id))} />
{/if}
{#if showing.faults.all}<p class="fault" role="alert">{showing.faults.all}</p>{/if}
{#if open && answer}
  <form class="max-w-sm border-l-2 border-act pl-4" onsubmit={make} aria-label="New token">
    <TypedField id="token-name" label="What it is for" maxlength={100} autocomplete="off" bind:value={name} fault={attempt.faults.name} />
    <fieldset class="py-1">
      <legend class="heading">It may</legend>
      {#each answer.rights as r (r.value)}<label class="flex min-h-6 items-center gap-2"
          ><input type="checkbox" class="check" value={r.value} bind:group={rights} />{r.label}</label
        >{/each}
      {#if attempt.faults.rights}<p class="fault" role="alert">{attempt.faults.rights}</p>{/if}
    </fieldset>
    <fieldset class="py-1">
      <legend class="heading">In</legend>
      <label class="flex min-h-6 items-center gap-2"
        ><input type="radio" name="token-where" checked={only === null} onchange={() => (only = null)} />all my libraries</label
      >
      <label class="flex min-h-6 items-center gap-2"
        ><input type="radio" name="token-where" checked={only !== null} onchange={() => (only = [])} />some of them</label
      >
      {#if only !== null}<div class="pl-6">
          {#each answer.libraries as l (l.code)}<label class="flex min-h-6 items-center gap-2"
              ><input
                type="checkbox"
                class="check"
                checked={only.includes(l.code)}
                onchange={(e) => (only = e.currentTarget.checked ? [...only!, l.code] : only!.filter((code) => code !== l.code))}
              />{l.name}</label
            >{/each}
        </div>{/if}
    </fieldset>
    <TypedField
      id="token-days"
      label="Good for how many days"
      type="number"
      min={1}
      max={730}
      bind:value={days}
      fault={attempt.faults.days}
    />
    <p class="mt-1 flex gap-2">
      <button class="btn btn-main" disabled={attempt.busy || name.trim() === '' || rights.length === 0 || only?.length === 0}
        >Create token</button
      ><button class="btn" type="button" onclick={() => (open = false)}>Cancel</button>
    </p>
  </form>
{:else if answer}<button class="btn mt-1" onclick={begin}>New token…</button>{/if}
