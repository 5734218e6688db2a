<script lang="ts">
  import type { KindProps } from '.';
  import DateInput from '../DateInput.svelte';
  import Text from './text.svelte';

  const props: KindProps = $props();
</script>

{#if props.use === 'ask'}<DateInput
    id={props.id}
    label={props.label ?? ''}
    bind:value={() => props.value, (v) => props.onchange?.(v)}
  />{:else}<Text {...props} />{/if}
