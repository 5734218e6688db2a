<script lang="ts">
  import Combobox from '@/parts/Combobox.svelte';
  import Popover from '@/parts/Popover.svelte';
  import { app } from '@/state/app.svelte';

  interface Props {
    columns: string[];
    /** Whether the person changed them. */
    isOwn: boolean;
    /** Null puts them back as the view has them. */
    onchange: (columns: string[] | null) => void;
    exporting: boolean;
    onexport: (format: 'csv' | 'ods') => void;
  }
  let { columns, isOwn, onchange, exporting, onexport }: Props = $props();

  let open = $state(false);
  const items = $derived(
    [...app.design!.fields, ...app.design!.system_fields, { code: 'path', label: 'Path' }]
      .filter((f) => !columns.includes(f.code))
      .map((f) => ({ value: f.code, label: f.label })),
  );
</script>

<Popover label="Columns" bind:open width={260}>
  <ul>
    {#each columns as code (code)}
      <li class="flex border-t border-hair py-0.5 first:border-0">
        <span class="flex-1 truncate">{app.label(code)}</span>{#if columns.length > 1}<button
            class="link small"
            aria-label={`Remove the column ${app.label(code)}`}
            onclick={() => onchange(columns.filter((c) => c !== code))}>out</button
          >{/if}
      </li>
    {/each}
  </ul>
  <Combobox
    label="Add a column"
    placeholder="Add a column…"
    {items}
    value=""
    onchange={(code) => {
      if (code) onchange([...columns, code]);
    }}
  />
  <p class="small quiet mt-1">Drag the names to move them, their edges to change the width.</p>
  {#if isOwn}<button class="link small" onclick={() => onchange(null)}>Reset to the view’s columns</button>{/if}
  {#if app.person?.may.download}<p class="small mt-2 flex items-baseline gap-3 border-t border-hair pt-2">
      <span class="quiet">Export all rows</span><button class="link" disabled={exporting} onclick={() => onexport('csv')}>CSV</button
      ><button class="link" disabled={exporting} onclick={() => onexport('ods')}>Spreadsheet</button>{#if exporting}<span
          class="quiet"
          role="status">making it…</span
        >{/if}
    </p>{/if}
</Popover>
