<script lang="ts">
  import type { Reading } from './document.svelte';

  /** Looks for words in this document alone. */
  let { reading }: { reading: Reading } = $props();
  let words = $state('');
  let asked = $state('');

  async function look(event: SubmitEvent) {
    event.preventDefault();
    const now = words.trim();
    if (now === asked && now !== '') reading.step(1);
    else await reading.find((asked = now));
  }
</script>

<form class="flex items-center gap-2" role="search" aria-label="Find in this document" onsubmit={look}>
  <input
    class="input small"
    style="min-height:28px;width:150px"
    id="find-here"
    type="search"
    placeholder="Find in document"
    aria-label="Find in this document"
    bind:value={words}
    autocomplete="off"
    oninput={() => {
      if (words === '' && asked !== '') void reading.find((asked = ''));
    }}
    onkeydown={(e) => {
      if (e.key === 'Escape') {
        words = '';
        void reading.find((asked = ''));
        e.currentTarget.blur();
        e.stopPropagation();
      }
    }}
  />
  {#if asked !== '' && reading.hits.total === 0 && words.trim() === asked}<span class="small text-rust" role="status">not here</span>{/if}
</form>
