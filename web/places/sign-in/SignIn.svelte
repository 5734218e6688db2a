<script lang="ts">
  import { api } from '@/api/client';
  import { Attempt } from '@/parts/attempt.svelte';
  import { app } from '@/state/app.svelte';
  import { focusOn } from '@/parts/focus';
  import { router } from '@/state/router.svelte';

  /** By a one-time code a password is chosen; otherwise it is typed. */
  let halfway = $state(false);
  let mailed = $state(false);
  let byCode = $state(router.params.has('code'));
  let signIn = $state(router.params.get('sign_in') ?? '');
  let code = $state('');
  let password = $state('');
  let stay = $state(false);
  const attempt = new Attempt();
  const faults = $derived(attempt.faults);

  const submit = (event: SubmitEvent) => {
    event.preventDefault();
    void attempt.run(
      async () => {
        const { user, needs_factor } = halfway
          ? await api.signInFactor(code)
          : byCode
            ? await api.choosePassword(signIn.trim(), code, password)
            : await api.signIn(signIn, password, stay);
        if (needs_factor || !user) {
          halfway = true;
          password = code = '';
          void focusOn('factor');
          return;
        }
        if (byCode) router.go('/desk', 'replace');
        await app.loadDesign();
        app.person = user;
      },
      halfway ? 'code' : 'sign_in',
      'Brenvic cannot be reached. Try again.',
    );
  };
  async function forgotten() {
    if (signIn.trim() === '') attempt.faults = { sign_in: 'Type your sign-in name.' };
    else if (await attempt.run(() => api.forgotten(signIn.trim()), 'sign_in', 'Brenvic cannot be reached. Try again.')) {
      byCode = mailed = true;
      void focusOn('code');
    }
  }
  function turn() {
    byCode = !byCode;
    halfway = mailed = false;
    password = code = '';
    attempt.faults = {};
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
      <p class="quiet mb-6">{byCode && !halfway ? 'Choose your password with a one-time code' : 'Sign in to the records office'}</p>
      {#if halfway}
        <label class="heading" for="factor">Code of your second factor</label>
        <input
          class="input mono"
          id="factor"
          bind:value={code}
          autocomplete="one-time-code"
          aria-invalid={faults.code ? true : undefined}
          aria-describedby={faults.code ? 'code-fault' : undefined}
        />
        {@render fault('code')}
        <p class="small quiet">As the program on your telephone shows it, or a recovery code</p>
      {:else}
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
          {#if mailed}<p class="small mt-2" role="status">
              If an e-mail address is known for this name, a one-time code is on its way to it. Otherwise ask the administrator for one.
            </p>{/if}
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
        {#if byCode}{#if !faults.password}<p class="small quiet">
              Fifteen characters or more; several words are easy to remember
            </p>{/if}{:else}<label class="mt-3 flex items-center gap-2"
            ><input type="checkbox" class="check" bind:checked={stay} />Stay signed in on this computer</label
          >{/if}
      {/if}
      <button class="btn btn-main mt-5 w-full" disabled={attempt.busy}
        >{attempt.busy ? 'Signing in…' : byCode && !halfway ? 'Choose password and sign in' : 'Sign in'}</button
      >
      <p class="mt-3 flex flex-wrap gap-x-4">
        {#if halfway}<button class="link small" type="button" onclick={() => ((halfway = false), (attempt.faults = {}))}
            >Sign in as somebody else</button
          >{:else}
          <button class="link small" type="button" onclick={turn}>{byCode ? 'Sign in with a password' : 'I have a one-time code'}</button>
          {#if !byCode}<button class="link small" type="button" onclick={forgotten}>I forgot my password</button>{/if}
        {/if}
      </p>
    </form>
  </section>
</main>
