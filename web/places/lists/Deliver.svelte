<script lang="ts">
  import type { DeliverySettings } from '@/api/client';
  import type { DeliveryForm, DeliveryFormat } from '@/api/types';
  import { DELIVERY_FORMS } from '@/parts/forms';
  import { app } from '@/state/app.svelte';

  let { name, ondeliver, onleave }: { name: string; ondeliver: (settings: DeliverySettings) => void; onleave: () => void } = $props();

  let format = $state<DeliveryFormat>('bag');
  let form = $state<DeliveryForm>('plain');
  let names = $state('{reference} {file}');
  let view = $state('');
  let labels = $state(true);
  let to = $state('');
  // svelte-ignore state_referenced_locally
  let subject = $state(name);
  let text = $state('');
  const formats: [DeliveryFormat, string, string][] = [
    ['bag', 'Bag', 'BagIt: files with checksums, Dublin Core, index values, query and history, for proof.'],
    ['zip', 'Files in folders', 'A ZIP of the files.'],
    ['pdf', 'One PDF', 'All pages behind a page of contents, with bookmarks.'],
    ['print', 'Print job', 'One PDF with a cover sheet before each document.'],
    ['mail', 'Mail', 'With the files attached, by way of the outbox.'],
    ['csv', 'Table, CSV', 'The index values of each document.'],
    ['ods', 'Table, spreadsheet', 'The same as OpenDocument.'],
  ];
  const withFiles = $derived(format !== 'csv' && format !== 'ods');
  const hasTable = $derived(!withFiles || format === 'bag');
  const inFolders = $derived(format === 'bag' || format === 'zip' || format === 'pdf');
  const views = $derived(app.design!.views.filter((v) => v.levels.length > 0));
  function deliver(event: SubmitEvent) {
    event.preventDefault();
    ondeliver({
      format,
      form,
      labels: hasTable && labels,
      names,
      levels: inFolders ? (views.find((v) => v.code === view)?.levels.map((l) => l.field) ?? []) : [],
      ...(format === 'mail' ? { to, subject, text } : {}),
    });
  }
</script>

<form class="mt-3 border-l-2 border-act pl-3" aria-label="Deliver the list" onsubmit={deliver}>
  <fieldset>
    <legend class="heading">As</legend>
    {#each formats as [value, label, what] (value)}<label class="flex items-baseline gap-2 py-0.5"
        ><input type="radio" class="check relative top-[2px]" name="format" {value} bind:group={format} /><span
          >{label} <span class="small quiet">{what}</span></span
        ></label
      >{/each}
  </fieldset>
  {#if withFiles}
    <label class="heading mt-2" for="deliver-form">The files</label>
    <select class="input" id="deliver-form" bind:value={form}
      >{#each DELIVERY_FORMS as [value, label] (value)}<option {value}>{label}</option>{/each}</select
    >
    <p class="small quiet">Documents of which you may see the redacted copy only leave as that.</p>
  {/if}
  {#if format === 'mail'}
    <label class="heading mt-2" for="mail-to">To, with commas between</label><input
      class="input"
      id="mail-to"
      bind:value={to}
      maxlength="1000"
      autocomplete="off"
      required
    />
    <label class="heading mt-2" for="mail-subject">Subject</label><input
      class="input"
      id="mail-subject"
      bind:value={subject}
      maxlength="300"
      autocomplete="off"
      required
    />
    <label class="heading mt-2" for="mail-text">Text</label><textarea
      class="input"
      id="mail-text"
      rows="3"
      bind:value={text}
      maxlength="10000"></textarea>
  {/if}
  {#if hasTable}
    <label class="mt-2 flex items-baseline gap-2"
      ><input type="checkbox" class="check relative top-[2px]" bind:checked={labels} /><span
        >Labels beside codes <span class="small quiet">A column in words next to each column of codes</span></span
      ></label
    >
  {/if}
  {#if inFolders}
    <label class="heading mt-2" for="deliver-view">{format === 'pdf' ? 'Bookmarks' : 'Folders'} by the levels of a view</label>
    <select class="input" id="deliver-view" bind:value={view}
      ><option value="">none</option>{#each views as v (v.code)}<option value={v.code}
          >{v.name}: {v.levels.map((l) => app.label(l.field)).join(', ')}</option
        >{/each}</select
    >
  {/if}
  {#if withFiles && format !== 'pdf' && format !== 'print'}
    <label class="heading mt-2" for="deliver-names">File names</label>
    <input class="input mono" id="deliver-names" bind:value={names} autocomplete="off" />
    <p class="small quiet">{'{reference}, {title} and {file} stand for those of the document.'}</p>
  {/if}
  <p class="mt-2 flex gap-2">
    <button class="btn btn-main">Deliver it</button><button class="btn" type="button" onclick={onleave}>Leave</button>
  </p>
</form>
