<script lang="ts">
  import type { KindProps } from '.';
  import Text from './text.svelte';

  const props: KindProps = $props();
  const place = $derived('refers_to' in props.field && props.field.refers_to === 'dossier' ? 'dossiers' : 'documents');
</script>

{#if props.use === 'show'}<a class="mono" href={`/${place}/${props.value}`}>{@render props.children?.()}</a>{:else}<Text
    {...props}
    mono
  />{/if}
