<script lang="ts">
  import { api } from '@/api/client';
  import { Attempt } from '@/parts/attempt.svelte';
  import TypedField from '@/parts/TypedField.svelte';
  import { app } from '@/state/app.svelte';

  /** One's own name, address and password. */
  const naming = new Attempt();
  const changing = new Attempt();
  let name = $state(app.person!.name);
  let mail = $state(app.person!.mail ?? '');
  let confirmed = $state('');
  let current = $state('');
  let password = $state('');
  const mailChanged = $derived(mail.trim() !== (app.person!.mail ?? ''));

  async function save(event: SubmitEvent) {
    event.preventDefault();
    await naming.run(async () => {
      app.person = (await api.changeMe(name.trim(), mail.trim() || null, confirmed)).user;
      confirmed = '';
      app.say('Saved.');
    }, 'name');
  }
  async function change(event: SubmitEvent) {
    event.preventDefault();
    await changing.run(
      async () => {
        await api.changePassword(current, password);
        current = password = '';
        app.say('The password is changed. You are signed out everywhere else.');
      },
      'password',
      'The password was not changed. Try again.',
    );
  }
</script>

<h2 class="mt-6 border-b border-hair pb-1 text-[19px]">You</h2>
<form class="max-w-sm" onsubmit={save}>
  <TypedField id="my-name" label="Name" autocomplete="name" maxlength={200} bind:value={name} fault={naming.faults.name} />
  <TypedField
    id="my-mail"
    label="E-mail address"
    type="email"
    autocomplete="email"
    maxlength={200}
    bind:value={mail}
    fault={naming.faults.mail}
  />
  {#if mailChanged}<TypedField
      id="my-password"
      label="Current password"
      type="password"
      autocomplete="current-password"
      bind:value={confirmed}
      fault={naming.faults.current}
      hint="One-time codes for a new password are mailed to the address"
    />{/if}
  <button
    class="btn btn-main mt-1"
    disabled={naming.busy || name.trim() === '' || (name.trim() === app.person?.name && !mailChanged) || (mailChanged && confirmed === '')}
    >Save</button
  >
</form>
<h2 class="mt-6 border-b border-hair pb-1 text-[19px]">Password</h2>
{#if app.person?.known_by === 'directory'}
  <p class="quiet py-1">Your password is in the directory of the office, and is changed there.</p>
{:else}
  <form class="max-w-sm" onsubmit={change}>
    <input class="sr-only" type="text" autocomplete="username" value={app.person?.sign_in} readonly tabindex={-1} aria-hidden="true" />
    <TypedField
      id="password-now"
      label="Current password"
      type="password"
      autocomplete="current-password"
      bind:value={current}
      fault={changing.faults.current}
    />
    <TypedField
      id="password-new"
      label="New password"
      type="password"
      autocomplete="new-password"
      bind:value={password}
      fault={changing.faults.password}
      hint={`${app.person?.factor.is_on ? 'Eight' : 'Fifteen'} characters or more; several words are easy to remember`}
    />
    <button class="btn btn-main mt-1" disabled={changing.busy || current === '' || password === ''}>Change password</button>
  </form>
{/if}
