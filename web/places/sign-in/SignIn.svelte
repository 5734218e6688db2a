<script lang="ts">
  import { api, ApiError } from '@/api/client';
  import { app } from '@/state/app.svelte';
  import { router } from '@/state/router.svelte';

  /** By a one-time code a password is chosen; otherwise it is typed. */
  let byCode = $state(router.params.has('code'));
  let signIn = $state(router.params.get('sign_in') ?? '');
  let code = $state('');
  let password = $state('');
  let stay = $state(false);
  let faults = $state<Record<string, string>>({});
  let busy = $state(false);

  async function submit(event: SubmitEvent) {
    event.preventDefault();
    busy = true;
    faults = {};
    try {
      const { user } = byCode ? await api.choosePassword(signIn.trim(), code, password) : await api.signIn(signIn, password, stay);
      if (byCode) router.go('/desk', 'replace');
      await app.loadDesign();
      app.person = user;
    } catch (error) {
      faults =
        error instanceof ApiError
          ? Object.keys(error.fields).length > 0
            ? error.fields
            : { sign_in: error.message }
          : { sign_in: 'Brenvic cannot be reached. Try again.' };
    } finally {
      busy = false;
    }
  }
  function turn() {
    byCode = !byCode;
    password = code = '';
    faults = {};
  }
</script>

{#snippet fault(name: string)}{#if faults[name]}<p class="fault mt-1" id={`${name}-fault`} role="alert">{faults[name]}</p>{/if}{/snippet}

<main class="grid h-full grid-cols-1 md:grid-cols-[1fr_1fr]">
  <section class="hidden flex-col justify-end border-r border-hair bg-sheet p-12 md:flex">
    <p class="max-w-md font-serif text-[30px] leading-tight">Say what you know. See what each step leaves.</p>
    <p class="quiet mt-4 max-w-sm">Find documents by their words, index fields and place, in every library open to you.</p>
  </section>
  <section class="flex items-center justify-center p-8">
    <form class="w-full max-w-xs" onsubmit={submit}>
      <h1 class="text-3xl">Brenvic</h1>
      <p class="quiet mb-6">{byCode ? 'Choose your password with a one-time code' : 'Sign in to the records office'}</p>
      <label class="heading" for="sign-in">Sign-in name</label>
      <!-- svelte-ignore a11y_autofocus -->
      <input
        class="input"
        id="sign-in"
        bind:value={signIn}
        autocomplete="username"
        autofocus={signIn === ''}
        aria-invalid={faults.sign_in ? true : undefined}
        aria-describedby={faults.sign_in ? 'sign_in-fault' : undefined}
      />
      {@render fault('sign_in')}
      {#if byCode}
        <label class="heading mt-3 block" for="code">One-time code</label>
        <!-- svelte-ignore a11y_autofocus -->
        <input
          class="input mono"
          id="code"
          bind:value={code}
          autocomplete="one-time-code"
          autofocus={signIn !== ''}
          aria-invalid={faults.code ? true : undefined}
          aria-describedby={faults.code ? 'code-fault' : undefined}
        />
        {@render fault('code')}
      {/if}
      <label class="heading mt-3 block" for="password">{byCode ? 'New password' : 'Password'}</label>
      <input
        class="input"
        id="password"
        type="password"
        bind:value={password}
        autocomplete={byCode ? 'new-password' : 'current-password'}
        aria-invalid={faults.password ? true : undefined}
        aria-describedby={faults.password ? 'password-fault' : undefined}
      />
      {@render fault('password')}
      {#if byCode}{#if !faults.password}<p class="small quiet">Ten characters or more</p>{/if}{:else}<label
          class="mt-3 flex items-center gap-2"
          ><input type="checkbox" class="check" bind:checked={stay} />Stay signed in on this computer</label
        >{/if}
      <button class="btn btn-main mt-5 w-full" disabled={busy}
        >{busy ? 'Signing in…' : byCode ? 'Choose password and sign in' : 'Sign in'}</button
      >
      <button class="link small mt-3" type="button" onclick={turn}>{byCode ? 'Sign in with a password' : 'I have a one-time code'}</button>
    </form>
  </section>
</main>
