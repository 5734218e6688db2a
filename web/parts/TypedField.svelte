<script lang="ts">
  import type { HTMLInputAttributes } from 'svelte/elements';

  interface Props extends Omit<HTMLInputAttributes, 'value' | 'class'> {
    id: string;
    label: string;
    value: string;
    fault?: string | undefined;
    /** Said below it where nothing is wrong. */
    hint?: string;
    /** Letters of one width, for what is typed sign by sign. */
    mono?: boolean;
  }
  /** One line to type into, with its label above and what is wrong below. */
  let { id, label, value = $bindable(), fault, hint, mono = false, ...rest }: Props = $props();
</script>

<div class="py-2">
  <label class="heading" for={id}>{label}</label>
  <input
    class="input"
    class:mono
    {id}
    bind:value
    aria-invalid={fault ? true : undefined}
    aria-describedby={fault ? `${id}-fault` : undefined}
    {...rest}
  />
  {#if fault}<p class="fault" id={`${id}-fault`} role="alert">{fault}</p>{:else if hint}<p class="small quiet">{hint}</p>{/if}
</div>
