<script lang="ts">
  import { onMount } from 'svelte';

  interface Props {
    label: string;
    value: string;
    fault?: string;
    help?: string;
    mono?: boolean;
    disabled?: boolean;
    rows?: number;
    /** Whether it has the focus from the beginning. */
    focused?: boolean;
    oninput: (value: string) => void;
  }
  let { label, value, fault, help, mono = false, disabled = false, rows, focused = false, oninput }: Props = $props();
  const id = $props.id();
  let input = $state<HTMLInputElement>();
  onMount(() => {
    if (focused) input?.focus();
  });
  const describedby = $derived([help ? `${id}-help` : '', fault ? `${id}-fault` : ''].filter(Boolean).join(' ') || undefined);
</script>

<div class="py-1.5">
  <label class="heading" for={id}>{label}</label>
  {#if rows}
    <textarea
      class="input"
      class:mono
      {id}
      {rows}
      {value}
      {disabled}
      aria-invalid={fault ? true : undefined}
      aria-describedby={describedby}
      oninput={(e) => oninput(e.currentTarget.value)}
      spellcheck="false"></textarea>
  {:else}
    <input
      class="input"
      class:mono
      {id}
      {value}
      {disabled}
      aria-invalid={fault ? true : undefined}
      aria-describedby={describedby}
      bind:this={input}
      oninput={(e) => oninput(e.currentTarget.value)}
      autocomplete="off"
    />
  {/if}
  {#if help}<p class="small quiet" id={`${id}-help`}>{help}</p>{/if}
  {#if fault}<p class="fault" id={`${id}-fault`} role="alert">{fault}</p>{/if}
</div>
