<script lang="ts">
  import { api } from '@/api/client';
  import type { OfficePerson, Reasons } from '@/api/types';
  import { Attempt } from '@/parts/attempt.svelte';
  import ReasonLists from '@/parts/ReasonLists.svelte';

  /** Why somebody may read or change one document. */
  let { person }: { person: OfficePerson } = $props();

  let document = $state('');
  let reasons = $state.raw<Reasons | null>(null);
  const attempt = new Attempt();
  const fault = $derived(attempt.faults.document);

  async function ask(event: SubmitEvent) {
    event.preventDefault();
    reasons = null;
    const asked = async () => void (reasons = await api.why(document.trim().toUpperCase(), person.sign_in));
    await attempt.run(asked, 'document', 'The reasons cannot be shown. Try again.');
  }
</script>

<form class="mt-5 max-w-xl border-t border-hair pt-2" onsubmit={ask}>
  <label class="heading" for="why-document">What {person.name} may do with a document</label>
  <p class="flex gap-2">
    <input class="input mono" id="why-document" placeholder="D-00001-A" autocomplete="off" bind:value={document} />
    <button class="btn" disabled={document.trim() === ''}>Why</button>
  </p>
  {#if fault}<p class="fault" role="alert">{fault}</p>{/if}
</form>
{#if reasons}<div class="mt-2 max-w-xl"><ReasonLists {reasons} /></div>{/if}
