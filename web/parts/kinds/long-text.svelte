<script lang="ts">
  import type { KindProps } from '.';
  import Text from './text.svelte';

  const props: KindProps = $props();
</script>

{#if props.use === 'give'}<textarea
    class="input"
    rows="3"
    id={props.id}
    value={props.value}
    aria-invalid={props.invalid ? true : undefined}
    aria-describedby={props.describedby}
    oninput={(e) => props.onchange?.(e.currentTarget.value)}></textarea>{:else}<Text {...props} />{/if}
