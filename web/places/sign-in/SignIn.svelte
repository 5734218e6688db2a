<script lang="ts">
  import { api, ApiError } from '@/api/client';
  import { app } from '@/state/app.svelte';

  let signIn = $state('');
  let password = $state('');
  let stay = $state(false);
  let faults = $state<Record<string, string>>({});
  let busy = $state(false);

  async function submit(event: SubmitEvent) {
    event.preventDefault();
    busy = true;
    try {
      const { user } = await api.signIn(signIn, password, stay);
      await app.loadDesign();
      app.person = user;
    } catch (error) {
      faults = error instanceof ApiError ? (Object.keys(error.fields).length > 0 ? error.fields : { sign_in: error.message }) : { sign_in: 'Something went wrong. Try again.' };
    } finally {
      busy = false;
    }
  }
</script>

<main class="grid h-full grid-cols-1 md:grid-cols-[1fr_1fr]">
  <section class="hidden flex-col justify-end border-r border-hair bg-sheet p-12 md:flex">
    <p class="max-w-md font-serif text-[30px] leading-tight">Say what you know. See what each step leaves.</p>
    <p class="quiet mt-4 max-w-sm">Find documents by their words, index fields and place, in every library open to you.</p>
  </section>
  <section class="flex items-center justify-center p-8">
    <form class="w-full max-w-xs" onsubmit={submit}>
      <h1 class="text-3xl">Brenvic</h1>
      <p class="quiet mb-6">Sign in to the records office</p>
      <label class="heading" for="sign-in">Sign-in name</label>
      <!-- svelte-ignore a11y_autofocus -->
      <input class="input mb-3" id="sign-in" bind:value={signIn} autocomplete="username" autofocus aria-invalid={faults.sign_in ? true : undefined} aria-describedby={faults.sign_in ? 'sign-in-fault' : undefined} />
      <label class="heading" for="password">Password</label>
      <input class="input" id="password" type="password" bind:value={password} autocomplete="current-password" aria-invalid={faults.password ? true : undefined} aria-describedby={faults.password ? 'password-fault' : undefined} />
      <label class="mt-3 flex items-center gap-2"><input type="checkbox" class="check" bind:checked={stay} />Stay signed in on this computer</label>
      {#if faults.sign_in}<p class="fault mt-2" id="sign-in-fault" role="alert">{faults.sign_in}</p>{/if}
      {#if faults.password}<p class="fault mt-2" id="password-fault" role="alert">{faults.password}</p>{/if}
      <button class="btn btn-main mt-5 w-full" disabled={busy}>{busy ? 'Signing in…' : 'Sign in'}</button>
    </form>
  </section>
</main>
