<script lang="ts">
  import IconPin from '@lucide/svelte/icons/pin';

  /** Whether a value stays for the sheets that follow. */
  let { what, on, toggle, hint = '' }: { what: string; on: boolean; toggle: () => void; hint?: string } = $props();
</script>

<button
  class="pin"
  class:on
  type="button"
  tabindex="-1"
  aria-pressed={on}
  onclick={toggle}
  aria-label={`Keep ${what} for the documents that follow`}
  title={`Keep for the documents that follow${hint}`}><IconPin size={13} strokeWidth={1.7} /></button
>

<style>
  .pin {
    display: inline-grid;
    min-width: 24px;
    min-height: 24px;
    /* As high as before: the label beside it says how high the line is. */
    margin: -4px -5px -4px 0;
    place-items: center;
    color: var(--quiet);
    opacity: 0.55;
  }
  .pin.on {
    color: var(--act);
    opacity: 1;
  }
</style>
