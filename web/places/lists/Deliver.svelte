<script lang="ts">
  import type { Delivery } from '@/api/types';
  import { app } from '@/state/app.svelte';

  let { ondeliver, onleave }: { ondeliver: (settings: { format: string; names: string; levels: string[] }) => void; onleave: () => void } = $props();

  let format = $state<Delivery['format']>('bag');
  let names = $state('{reference} {file}');
  let view = $state('');
  const formats: [Delivery['format'], string, string][] = [
    ['bag', 'Bag', 'BagIt: files with checksums, Dublin Core, index values, query and history, for proof.'], ['zip', 'Files in folders', 'A ZIP of the files as they are.'],
    ['csv', 'Table, CSV', 'The index values of each document.'], ['ods', 'Table, spreadsheet', 'The same as OpenDocument.'],
  ];
  const withFiles = $derived(format === 'bag' || format === 'zip');
  const views = $derived(app.design!.views.filter((v) => v.levels.length > 0));
</script>

<form class="mt-3 border-l-2 border-act pl-3" aria-label="Deliver the list" onsubmit={(e) => { e.preventDefault(); ondeliver({ format, names, levels: withFiles ? (views.find((v) => v.code === view)?.levels.map((l) => l.field) ?? []) : [] }); }}>
  <fieldset>
    <legend class="heading">As</legend>
    {#each formats as [value, label, what] (value)}<label class="flex items-baseline gap-2 py-0.5"><input type="radio" class="check relative top-[2px]" name="format" {value} bind:group={format} /><span>{label} <span class="small quiet">{what}</span></span></label>{/each}
  </fieldset>
  {#if withFiles}
    <label class="heading mt-2" for="deliver-view">Folders by the levels of a view</label>
    <select class="input" id="deliver-view" bind:value={view}><option value="">no folders</option>{#each views as v (v.code)}<option value={v.code}>{v.name}: {v.levels.map((l) => app.label(l.field)).join(', ')}</option>{/each}</select>
    <label class="heading mt-2" for="deliver-names">File names</label>
    <input class="input mono" id="deliver-names" bind:value={names} autocomplete="off" /><p class="small quiet">{'{reference}, {title} and {file} stand for those of the document.'}</p>
  {/if}
  <p class="mt-2 flex gap-2"><button class="btn btn-main">Deliver it</button><button class="btn" type="button" onclick={onleave}>Leave</button></p>
</form>
