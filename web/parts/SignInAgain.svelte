<script lang="ts">
  import { api, messageOf } from '@/api/client';
  import { app } from '@/state/app.svelte';
  import { Dialog } from 'bits-ui';

  /** The session has ended: whoever was here signs in again, and goes on where they were. */
  let password = $state('');
  /** The password was right, and a code of the second factor is asked for. */
  let halfway = $state(false);
  let fault = $state('');
  let busy = $state(false);

  async function submit(event: SubmitEvent) {
    event.preventDefault();
    busy = true;
    fault = '';
    try {
      const { user } = halfway ? await api.signInFactor(password) : await api.signIn(app.person!.sign_in, password, false);
      password = '';
      if (!user) {
        halfway = true;
        return;
      }
      halfway = false;
      app.signedOut?.done(true);
    } catch (error) {
      fault = messageOf(error, 'Brenvic cannot be reached. Try again.');
    } finally {
      busy = false;
    }
  }
  function leave() {
    app.signedOut?.done(false);
    location.assign('/');
  }
</script>

{#if app.signedOut}
  <Dialog.Root open>
    <Dialog.Portal>
      <Dialog.Overlay data-sign-in-again class="fixed inset-0 z-50 bg-ink/30" />
      <Dialog.Content
        class="fixed top-28 left-1/2 z-50 w-[380px] max-w-[94vw] -translate-x-1/2 border border-hair bg-sheet p-5 shadow-lg"
        data-sign-in-again
        escapeKeydownBehavior="ignore"
        interactOutsideBehavior="ignore"
      >
        <Dialog.Title class="font-serif text-xl">Sign in again</Dialog.Title>
        <Dialog.Description class="quiet mt-1">Your session has ended. What you typed is kept; you go on where you were.</Dialog.Description
        >
        <form class="mt-3" onsubmit={submit}>
          <p>{app.person?.name}, <span class="mono">{app.person?.sign_in}</span></p>
          <input
            class="sr-only"
            type="text"
            autocomplete="username"
            value={app.person?.sign_in}
            readonly
            tabindex={-1}
            aria-hidden="true"
          />
          <label class="heading mt-2 block" for="again-password">{halfway ? 'Code of your second factor' : 'Password'}</label>
          <input
            class="input"
            id="again-password"
            type={halfway ? 'text' : 'password'}
            autocomplete={halfway ? 'one-time-code' : 'current-password'}
            bind:value={password}
            aria-invalid={fault ? true : undefined}
          />
          {#if fault}<p class="fault" role="alert">{fault}</p>{/if}
          <p class="mt-3 flex gap-2">
            <button class="btn btn-main" disabled={busy || password === ''}>Sign in</button><button
              class="btn"
              type="button"
              onclick={leave}>Sign out</button
            >
          </p>
        </form>
      </Dialog.Content>
    </Dialog.Portal>
  </Dialog.Root>
{/if}
