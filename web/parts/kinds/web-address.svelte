<script lang="ts">
  import type { KindProps } from '.';
  import Text from './text.svelte';

  const props: KindProps = $props();
</script>

{#if props.use === 'show'}<a href={props.value} target="_blank" rel="noopener noreferrer">{@render props.children?.()}</a>{:else}<Text
    {...props}
    inputmode="url"
  />{/if}
