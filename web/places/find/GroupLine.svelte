<script lang="ts">
  import type { Group } from '@/api/types';
  import { count } from '@/parts/format';
  import { app } from '@/state/app.svelte';

  interface Props {
    group: Group;
    /** The field that divides. */
    field: string;
    /** The number field that is summed up, and how. */
    total: string | null;
    totalAs: keyof NonNullable<Group['total']>;
    /** The documents of the largest group beside it. */
    most: number;
  }
  /** What a group of documents is called and how large it is. */
  let { group, field, total, totalAs, most }: Props = $props();
</script>

<span class="min-w-0 flex-1 truncate" class:quiet={group.label === ''}>{group.label || `Without ${app.label(field)}`}</span>
{#if group.total}<span class="num small quiet w-44 truncate font-sans">{app.label(total ?? '')} {group.total[totalAs]}</span>{/if}
<span class="meter" aria-hidden="true"><span style={`width:${(100 * group.count) / most}%`}></span></span>
<span class="num w-14 font-sans text-[14px]">{count(group.count)}</span>

<style>
  .meter {
    width: 64px;
    height: 3px;
    flex: none;
  }
  .meter span {
    display: block;
    height: 100%;
    background: color-mix(in srgb, var(--quiet) 55%, transparent);
  }
</style>
