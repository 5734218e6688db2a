<script lang="ts">
  import type { KindProps } from '.';
  import Combobox from '../Combobox.svelte';
  import Text from './text.svelte';

  const props: KindProps = $props();
</script>

{#if props.use === 'show'}<Text {...props} />{:else}<Combobox
    items={props.choices?.items ?? []}
    source={props.choices?.source}
    value={props.value}
    label={props.label ?? ''}
    id={props.id}
    invalid={props.invalid}
    describedby={props.describedby}
    onchange={(v) => props.onchange?.(v)}
  />{/if}
