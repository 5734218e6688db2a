<script lang="ts">
  import type { KindProps } from '.';
  import Text from './text.svelte';

  const props: KindProps = $props();
</script>

{#if props.use === 'show'}<Text {...props} />{:else}<select
    class="input"
    id={props.id}
    value={props.value}
    aria-invalid={props.invalid ? true : undefined}
    aria-describedby={props.describedby}
    onchange={(e) => props.onchange?.(e.currentTarget.value)}
    ><option value="">{props.none ?? ''}</option><option value="1">Yes</option><option value="0">No</option></select
  >{/if}
