<script lang="ts">
  import type { KindProps } from '.';
  import Text from './text.svelte';

  const props: KindProps = $props();
</script>

<Text {...props} mono />
