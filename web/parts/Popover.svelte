<script lang="ts">
  import type { Snippet } from 'svelte';

  /** A link that opens a box below it; a click elsewhere and Esc close it. */
  interface Props {
    label: string;
    open: boolean;
    width: number;
    /** What opening it needs done first. */
    onopen?: () => void;
    children: Snippet;
  }
  let { label, open = $bindable(), width, onopen, children }: Props = $props();

  let box: HTMLElement;
  function outside(event: MouseEvent) {
    const target = event.target as Element;
    // What the click itself took away, and the choices of a field, which lie elsewhere in the page, are inside.
    if (open && !box.contains(target) && target.isConnected && !target.closest('[data-combobox-content]')) open = false;
  }
  function keydown(event: KeyboardEvent) {
    if (event.key !== 'Escape' || !open) return;
    event.stopPropagation();
    open = false;
    box.querySelector('button')?.focus();
  }
</script>

<svelte:window onclick={outside} />

<div class="relative" bind:this={box} role="presentation" onkeydown={keydown}>
  <button
    class="link small"
    aria-expanded={open}
    onclick={() => {
      open = !open;
      onopen?.();
    }}>{label}</button
  >
  {#if open}<div class="box" style:width={`${width}px`}>{@render children()}</div>{/if}
</div>

<style>
  .box {
    position: absolute;
    z-index: 20;
    top: 26px;
    right: 0;
    max-height: 70vh;
    overflow-y: auto;
    padding: 10px 14px 12px;
    border: 1px solid var(--hair);
    background: var(--sheet);
    box-shadow: 0 6px 18px rgb(0 0 0 / 12%);
  }
</style>
