<script lang="ts">
  import type { KindProps } from '.';

  let {
    use,
    value,
    id,
    hint,
    invalid,
    describedby,
    onchange,
    children,
    mono = false,
    inputmode,
  }: KindProps & { mono?: boolean; inputmode?: 'decimal' | 'url' } = $props();
</script>

{#if use === 'show'}<span class:mono>{@render children?.()}</span>{:else}<input
    class="input"
    class:mono
    {id}
    {value}
    {inputmode}
    placeholder={hint}
    aria-invalid={invalid ? true : undefined}
    aria-describedby={describedby}
    autocomplete="off"
    oninput={(e) => onchange?.(e.currentTarget.value)}
  />{/if}
