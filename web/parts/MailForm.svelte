<script lang="ts">
  import { api, ApiError, messageOf } from '@/api/client';
  import type { DeliveryForm } from '@/api/types';
  import { app } from '@/state/app.svelte';
  import { keepRecipients, recipients } from '@/state/recipients';
  import { plural } from './format';
  import { formsFor } from './forms';

  interface Props {
    /** References of what is sent. */
    documents: string[];
    /** What the message is about to begin with. */
    subject: string;
    /** Whether there is a redacted copy that may be sent. */
    isRedacted: boolean;
    ondone: () => void;
    oncancel: () => void;
  }
  /** A message with documents, as copies or as links. */
  let { documents, subject: about, isRedacted, ondone, oncancel }: Props = $props();
  const id = $props.id();

  const me = app.person!.sign_in;
  const known = recipients(me);
  let to = $state('');
  // svelte-ignore state_referenced_locally
  let subject = $state(about);
  let text = $state('');
  let how = $state<'copies' | 'links'>('copies');
  let form = $state<DeliveryForm>('plain');
  let faults = $state<Record<string, string>>({});
  let busy = $state(false);
  const forms = $derived(formsFor(isRedacted));

  async function send(event: SubmitEvent) {
    event.preventDefault();
    busy = true;
    faults = {};
    try {
      await api.mail({ documents, how, form, to, subject, text });
      keepRecipients(me, to);
      app.say(`The message to ${to} with ${plural(documents.length, 'document', 'documents')} is in the outbox.`);
      ondone();
    } catch (error) {
      const fields = error instanceof ApiError ? error.fields : {};
      faults = Object.keys(fields).length > 0 ? fields : { to: messageOf(error, 'The message was not sent. Try again.') };
    } finally {
      busy = false;
    }
  }
</script>

<form onsubmit={send} aria-label="Send as a message">
  <label class="heading" for={`${id}-to`}>To (separate addresses with commas)</label>
  <!-- svelte-ignore a11y_autofocus -->
  <input
    class="input"
    id={`${id}-to`}
    type="text"
    inputmode="email"
    list={`${id}-known`}
    bind:value={to}
    maxlength="1000"
    autocomplete="off"
    autofocus
    aria-invalid={faults.to ? true : undefined}
  />
  <datalist id={`${id}-known`}
    >{#each known as address (address)}<option value={address}></option>{/each}</datalist
  >
  {#if faults.to}<p class="fault" role="alert">{faults.to}</p>{/if}
  <label class="heading mt-2 block" for={`${id}-subject`}>Subject</label>
  <input
    class="input"
    id={`${id}-subject`}
    bind:value={subject}
    maxlength="300"
    autocomplete="off"
    aria-invalid={faults.subject ? true : undefined}
  />
  {#if faults.subject}<p class="fault" role="alert">{faults.subject}</p>{/if}
  <label class="heading mt-2 block" for={`${id}-text`}>Message</label>
  <textarea class="input" id={`${id}-text`} rows="3" bind:value={text} maxlength="10000"></textarea>
  <div class="mt-2 grid grid-cols-2 gap-3">
    <div>
      <label class="heading" for={`${id}-how`}>Send</label>
      <select class="input" id={`${id}-how`} bind:value={how}
        ><option value="copies">a copy</option><option value="links">a link, for 14 days</option></select
      >
    </div>
    <div>
      <label class="heading" for={`${id}-form`}>Form of the file</label>
      <select class="input" id={`${id}-form`} bind:value={form}
        >{#each forms as [value, label] (value)}<option {value}>{label}</option>{/each}</select
      >
    </div>
  </div>
  <p class="mt-3 flex gap-2">
    <button class="btn btn-main" disabled={busy || to.trim() === ''}>Send</button><button class="btn" type="button" onclick={oncancel}
      >Cancel</button
    >
  </p>
</form>
