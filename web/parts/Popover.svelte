<script lang="ts">
  import { Popover } from 'bits-ui';
  import type { Snippet } from 'svelte';

  /** A button that opens a box beside it; a click elsewhere and Esc close it. */
  interface Props {
    label: string;
    open: boolean;
    width: number;
    /** What opening it needs done first. */
    onopen?: () => void;
    /** What the button shows, where that is not its label. */
    trigger?: Snippet;
    look?: string;
    title?: string;
    /** Of the button. */
    id?: string;
    align?: 'start' | 'end';
    /** What the box is called. */
    called?: string;
    children: Snippet;
  }
  let {
    label,
    open = $bindable(),
    width,
    onopen,
    trigger,
    look = 'link small',
    title,
    id,
    align = 'end',
    called,
    children,
  }: Props = $props();

  // The choices of a field lie elsewhere in the page, and are inside; and who signs in again comes back to what stood here.
  function outside(event: PointerEvent) {
    const target = event.target as Element;
    if (target.closest('[data-combobox-content], [data-sign-in-again]') || !target.isConnected) event.preventDefault();
  }
</script>

<Popover.Root bind:open onOpenChange={(now) => now && onopen?.()}>
  <Popover.Trigger class={look} {title} {id} aria-label={trigger ? label : undefined} type="button"
    >{#if trigger}{@render trigger()}{:else}{label}{/if}</Popover.Trigger
  >
  <Popover.Portal disabled>
    <Popover.Content
      class="z-40 max-h-[70vh] overflow-y-auto border border-hair whitespace-normal bg-sheet px-3.5 pt-2.5 pb-3 text-left shadow-lg"
      style={`width: ${width}px`}
      side="bottom"
      {align}
      sideOffset={4}
      collisionPadding={8}
      trapFocus={false}
      role="dialog"
      aria-label={called ?? label}
      onInteractOutside={outside}
    >
      {@render children()}
    </Popover.Content>
  </Popover.Portal>
</Popover.Root>
