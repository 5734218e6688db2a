<script lang="ts">
  import { draft } from './draft.svelte';

  interface Props {
    label: string;
    groups: string[];
    /** What choosing none means. */
    none: string;
    fault?: string;
    /** The groups to choose from; all when not given. */
    among?: string[];
    onchange: (groups: string[]) => void;
  }
  let { label, groups, none, fault, among = draft.groups, onchange }: Props = $props();
</script>

<fieldset class="py-1.5">
  <legend class="heading">{label}</legend>
  <div class="flex flex-wrap gap-x-4">
    {#each among as group (group)}
      <label class="inline-flex min-h-6 items-center gap-1.5"
        ><input
          type="checkbox"
          class="check"
          checked={groups.includes(group)}
          onchange={(e) => onchange(e.currentTarget.checked ? [...groups, group] : groups.filter((g) => g !== group))}
        />{group}</label
      >
    {/each}
  </div>
  {#if groups.length === 0}<p class="small quiet">{none}</p>{/if}
  {#if fault}<p class="fault" role="alert">{fault}</p>{/if}
</fieldset>
