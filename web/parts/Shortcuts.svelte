<script lang="ts">
  import { Dialog } from 'bits-ui';

  let { place }: { place: string } = $props();
  let open = $state(false);

  const everywhere: [string, string][] = [
    ['/', 'Put the cursor in the query line'],
    ['u', 'Last acts, to undo them'],
    ['?', 'Show these keys'],
    ['Esc', 'Close what is open'],
  ];
  const of: Record<string, [string, string][]> = {
    find: [
      ['↑ ↓', 'Move along the results'],
      ['Space', 'Open or close the reading pane'],
      ['Enter', 'Open the reader'],
      ['n  p', 'Next and previous hit in the document'],
      ['a', 'Gather the document into the pull list'],
      ['x', 'Choose the document'],
      ['→  ←', 'Show what is attached, put it away'],
      ['r  l  m', 'To the results, the ledger, the margins'],
      ['e', 'To what was found elsewhere'],
      ['g', 'Gather what was found'],
      ['Home  End', 'First and last result'],
      ['Alt+↑ ↓', 'Move a line of the ledger'],
      ['Del', 'Drop a line of the ledger'],
    ],
    documents: [
      ['n  p', 'Next and previous hit'],
      ['f', 'Find in the document'],
      ['t', 'Small pages'],
      ['r', 'Turn the page'],
      ['h', 'Highlight the hit that is looked at'],
      ['k', 'Tools for marking the pages'],
      ['w e m d s', 'Words, area, note, pen, stamp, while marking'],
      ['Ctrl+Z', 'Undo a mark'],
      ['x', 'Redact'],
      ['a', 'Gather it into the pull list'],
      ['Esc', 'Back to the results'],
    ],
    lists: [
      ['l', 'To the documents'],
      ['d', 'Deliver'],
      ['c', 'Check that it is complete'],
      ['h', 'Put on hold, or end the hold'],
    ],
    intake: [
      ['↑ ↓', 'Move along the waiting documents'],
      ['Ctrl+Enter', 'File the chosen documents'],
    ],
    design: [
      ['Ctrl+Enter', 'Save'],
      ['Insert', 'In a scheme: a concept below'],
      ['Alt+↑ ↓', 'Move a concept among its neighbours'],
      ['Alt+← →', 'Move a concept out or in'],
    ],
  };
  const keys = $derived([...(of[place] ?? []), ...everywhere]);

  function keydown(event: KeyboardEvent) {
    if (event.key === '?' && !(event.target as HTMLElement).closest('input, textarea, select')) open = true;
  }
</script>

<svelte:window onkeydown={keydown} />

<Dialog.Root bind:open>
  <Dialog.Portal>
    <Dialog.Overlay class="fixed inset-0 z-40 bg-black/25" />
    <Dialog.Content class="fixed top-1/4 left-1/2 z-50 w-[420px] max-w-[92vw] -translate-x-1/2 border border-hair bg-sheet p-6 shadow-xl">
      <Dialog.Title class="font-serif text-xl">Keys here</Dialog.Title>
      <Dialog.Description class="sr-only">Keyboard shortcuts of the present place</Dialog.Description>
      <dl class="mt-3">
        {#each keys as [key, what] (key + what)}
          <div class="flex border-t border-hair py-1.5">
            <dt class="mono w-28">{key}</dt>
            <dd>{what}</dd>
          </div>
        {/each}
      </dl>
      <Dialog.Close class="btn mt-4">Close</Dialog.Close>
    </Dialog.Content>
  </Dialog.Portal>
</Dialog.Root>
