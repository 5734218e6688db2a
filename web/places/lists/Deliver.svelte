<script lang="ts">
  import type { DeliverySettings } from '@/api/client';
  import type { DeliveryForm, DeliveryFormat } from '@/api/types';
  import { DELIVERY_FORMS } from '@/parts/forms';
  import { app } from '@/state/app.svelte';

  interface Props {
    name: string;
    formats: DeliveryFormat[];
    ondeliver: (settings: DeliverySettings) => void;
    onleave: () => void;
  }
  let { name, formats, ondeliver, onleave }: Props = $props();

  // svelte-ignore state_referenced_locally
  let value = $state(formats[0]!.value);
  let form = $state<DeliveryForm>('plain');
  let names = $state('{reference} {file}');
  let view = $state('');
  let labels = $state(true);
  let to = $state('');
  // svelte-ignore state_referenced_locally
  let subject = $state(name);
  let text = $state('');
  const format = $derived(formats.find((f) => f.value === value)!);
  const views = $derived(app.design!.views.filter((v) => v.levels.length > 0));
  function deliver(event: SubmitEvent) {
    event.preventDefault();
    ondeliver({
      format: value,
      form,
      labels: format.has_table && labels,
      names,
      levels: format.levels ? (views.find((v) => v.code === view)?.levels.map((l) => l.field) ?? []) : [],
      ...(format.is_sent ? { to, subject, text } : {}),
    });
  }
</script>

<form class="mt-3 border-l-2 border-act pl-3" aria-label="Deliver the list" onsubmit={deliver}>
  <fieldset>
    <legend class="heading">Deliver as</legend>
    {#each formats as f (f.value)}<label class="flex items-baseline gap-2 py-0.5"
        ><input type="radio" class="check relative top-[2px]" name="format" value={f.value} bind:group={value} /><span
          >{f.label} <span class="small quiet">{f.what}</span></span
        ></label
      >{/each}
  </fieldset>
  {#if format.has_files}
    <label class="heading mt-2" for="deliver-form">Form of the files</label>
    <select class="input" id="deliver-form" bind:value={form}
      >{#each DELIVERY_FORMS as [value, label] (value)}<option {value}>{label}</option>{/each}</select
    >
    <p class="small quiet">Where you may see only the redacted copy, the redacted copy is delivered.</p>
  {/if}
  {#if format.is_sent}
    <label class="heading mt-2" for="mail-to">To (separate addresses with commas)</label><input
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
  {#if format.has_table}
    <label class="mt-2 flex items-baseline gap-2"
      ><input type="checkbox" class="check relative top-[2px]" bind:checked={labels} /><span
        >Labels beside codes <span class="small quiet">A column in words next to each column of codes</span></span
      ></label
    >
  {/if}
  {#if format.levels}
    <label class="heading mt-2" for="deliver-view">{format.levels} by the levels of a view</label>
    <select class="input" id="deliver-view" bind:value={view}
      ><option value="">none</option>{#each views as v (v.code)}<option value={v.code}
          >{v.name}: {v.levels.map((l) => app.label(l.field)).join(', ')}</option
        >{/each}</select
    >
  {/if}
  {#if format.has_names}
    <label class="heading mt-2" for="deliver-names">File names</label>
    <input class="input mono" id="deliver-names" bind:value={names} autocomplete="off" />
    <p class="small quiet">{'{reference}, {title} and {file} stand for those of the document.'}</p>
  {/if}
  <p class="mt-2 flex gap-2">
    <button class="btn btn-main">Create delivery</button><button class="btn" type="button" onclick={onleave}>Cancel</button>
  </p>
</form>
