<script lang="ts">
  import { api } from '@/api/client';
  import type { KeptSearch } from '@/api/types';
  import { app } from '@/state/app.svelte';
  import { Dialog } from 'bits-ui';
  import { count, plural } from './format';
  import HoldFields from './HoldFields.svelte';
  import { HoldForm } from './holdForm.svelte';

  /** Puts what is selected on hold, or all that a search finds and will find. */
  let {
    documents,
    search,
    total,
    onleave,
    ondone,
  }: { documents: string[]; search: KeptSearch | null; total: number; onleave: () => void; ondone: () => void } = $props();
  const form = new HoldForm();

  async function make(event: SubmitEvent) {
    event.preventDefault();
    const isDone = await form.run(
      async () => {
        const hold = await api.makeHold({ ...form.words, from: form.from || null, ...(search ? { search } : { documents }) });
        app.say(`“${hold.name}” covers ${plural(hold.documents, 'document', 'documents')}.`);
      },
      'form',
      'The hold was not made. Nothing is on hold by it.',
    );
    if (isDone) {
      ondone();
      onleave();
    }
  }
</script>

<Dialog.Root open onOpenChange={onleave}>
  <Dialog.Portal>
    <Dialog.Overlay class="fixed inset-0 z-40 bg-ink/20" />
    <Dialog.Content
      class="fixed top-16 left-1/2 z-50 max-h-[85vh] w-[560px] max-w-[94vw] -translate-x-1/2 overflow-y-auto border border-hair bg-sheet p-5 shadow-lg"
    >
      <Dialog.Title class="font-serif text-xl"
        >{search ? `Hold all ${count(total)} found` : `Hold ${plural(documents.length, 'document', 'documents')}`}</Dialog.Title
      >
      <Dialog.Description class="quiet mb-3"
        >{search
          ? 'And whatever this search finds later: what comes in is covered too.'
          : 'Nobody can change, remove or dispose of them until the hold ends.'}</Dialog.Description
      >
      <form onsubmit={make}>
        <HoldFields {form} />
        <p class="mt-4 flex gap-2">
          <button class="btn btn-main" disabled={form.busy}>Put on hold</button><button class="btn" type="button" onclick={onleave}
            >Cancel</button
          >
        </p>
      </form>
    </Dialog.Content>
  </Dialog.Portal>
</Dialog.Root>
