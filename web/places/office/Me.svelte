<script lang="ts">
  import { api, ApiError, messageOf } from '@/api/client';
  import { app } from '@/state/app.svelte';

  let current = $state('');
  let password = $state('');
  let faults = $state<Record<string, string>>({});
  let busy = $state(false);

  async function change(event: SubmitEvent) {
    event.preventDefault();
    busy = true;
    faults = {};
    try {
      await api.changePassword(current, password);
      current = password = '';
      app.say('The password is changed. You are signed out everywhere else.');
    } catch (error) {
      faults =
        error instanceof ApiError && Object.keys(error.fields).length > 0
          ? error.fields
          : { password: messageOf(error, 'The password was not changed. Try again.') };
    } finally {
      busy = false;
    }
  }
</script>

<div class="mx-auto max-w-xl p-8">
  <h1 class="text-[26px]">Your settings</h1>
  <p class="quiet mt-1">
    {app.person?.name}, <span class="mono">{app.person?.sign_in}</span>{#if app.person?.groups.length}; in {app.person.groups.join(
        ', ',
      )}{/if}
  </p>
  <h2 class="mt-6 border-b border-hair pb-1 text-[19px]">Password</h2>
  <form class="max-w-sm" onsubmit={change}>
    <input class="sr-only" type="text" autocomplete="username" value={app.person?.sign_in} readonly tabindex={-1} aria-hidden="true" />
    <div class="py-2">
      <label class="heading" for="password-now">Present password</label><input
        class="input"
        id="password-now"
        type="password"
        autocomplete="current-password"
        bind:value={current}
        aria-invalid={faults.current ? true : undefined}
      />{#if faults.current}<p class="fault" role="alert">{faults.current}</p>{/if}
    </div>
    <div class="py-2">
      <label class="heading" for="password-new">New password</label><input
        class="input"
        id="password-new"
        type="password"
        autocomplete="new-password"
        bind:value={password}
        aria-invalid={faults.password ? true : undefined}
      />{#if faults.password}<p class="fault" role="alert">{faults.password}</p>{:else}<p class="small quiet">
          Ten characters or more
        </p>{/if}
    </div>
    <button class="btn btn-main mt-1" disabled={busy || current === '' || password === ''}>Change password</button>
  </form>
</div>
