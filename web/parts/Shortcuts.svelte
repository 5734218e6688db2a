<script lang="ts">
  import { Dialog } from 'bits-ui';
  import { keys } from '@/state/keys.svelte';

  let open = $state(false);

  keys.use(() => [
    { on: '?', common: true, what: 'Show these keys', run: () => (open = true) },
    { shown: 'Esc', common: true, what: 'Close what is open' },
  ]);
</script>

<svelte:window onkeydown={(e) => keys.handle(e)} />

<Dialog.Root bind:open>
  <Dialog.Portal>
    <Dialog.Overlay class="fixed inset-0 z-40 bg-black/25" />
    <Dialog.Content
      class="fixed top-[10vh] left-1/2 z-50 max-h-[80vh] w-[460px] max-w-[92vw] -translate-x-1/2 overflow-y-auto border border-hair bg-sheet p-6 shadow-xl"
    >
      <Dialog.Title class="font-serif text-xl">Keyboard shortcuts</Dialog.Title>
      <Dialog.Description class="sr-only">On this page</Dialog.Description>
      <dl class="mt-3">
        {#each keys.listed as { key, what } (key + what)}
          <div class="flex border-t border-hair py-1">
            <dt class="mono w-28 flex-none">{key}</dt>
            <dd>{what}</dd>
          </div>
        {/each}
      </dl>
      <Dialog.Close class="btn mt-4">Close</Dialog.Close>
    </Dialog.Content>
  </Dialog.Portal>
</Dialog.Root>
