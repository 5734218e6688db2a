<script lang="ts">
  import type { SheetEntry } from '@/api/types';
  import Combobox from '@/parts/Combobox.svelte';
  import { app } from '@/state/app.svelte';
  import { choicesOf } from '@/state/choices.svelte';

  /** What a type or dossier kind says of one of its fields, beyond whether it is required. */
  let { entry = $bindable(), sections = false }: { entry: SheetEntry; sections?: boolean } = $props();
  const id = $props.id();
  const field = $derived(app.design!.fields.find((f) => f.code === entry.code));
  const choices = $derived(field ? choicesOf(field, { retired: true }) : { items: [], isTree: false });
</script>

<div class="grid grid-cols-2 gap-x-4 gap-y-1 pb-1">
  {#if sections}<div>
      <label class="heading" for={`${id}-s`}>Section heading above this field</label><input
        class="input"
        id={`${id}-s`}
        bind:value={entry.section}
      />
    </div>{/if}
  <div>
    <label class="heading" for={`${id}-d`}>Default</label>
    {#if field?.kind === 'choice'}<Combobox
        id={`${id}-d`}
        label="Default"
        items={choices.items}
        source={choices.source}
        value={entry.default ?? ''}
        onchange={(v) => (entry.default = v)}
      />
    {:else}<input class="input" id={`${id}-d`} bind:value={entry.default} placeholder={field?.default} />{/if}
  </div>
  {#if choices.isTree && sections}
    <div>
      <label class="heading" for={`${id}-b`}>Only from this term down</label><Combobox
        id={`${id}-b`}
        label="Only from this term down"
        placeholder="The whole tree"
        items={choices.items}
        source={choices.source}
        value={entry.below ?? ''}
        onchange={(v) => (entry.below = v || null)}
      />
    </div>
  {/if}
  {#if sections}<label class="small flex items-center gap-1.5 self-end pb-1.5"
      ><input type="checkbox" class="check" bind:checked={entry.read_only} />read-only: it keeps its default</label
    >{/if}
</div>
