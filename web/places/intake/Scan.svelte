<script lang="ts">
  import { api } from '@/api/client';
  import { plural } from '@/parts/format';
  import Popover from '@/parts/Popover.svelte';
  import { app } from '@/state/app.svelte';
  import IconScan from '@lucide/svelte/icons/scan-line';
  import { onDestroy } from 'svelte';
  import { Scanning } from './scanning.svelte';

  /** Scans a stack: how, its pages as they come, and what to do when paper jams. */
  let { ondone }: { ondone: (document: string | null) => void } = $props();

  let open = $state(false);
  const scanning = new Scanning((document) => {
    open = false;
    if (document) app.say('The stack waits in Intake.');
    ondone(document);
  });
  void scanning.load();
  onDestroy(() => scanning.close());
  const isStopped = $derived(scanning.scan?.state === 'stopped');
  const last = $derived(Math.max(0, (scanning.scan?.pages ?? 0) - 6));
</script>

{#if scanning.scanners.length > 0}
  <Popover
    label={scanning.scan ? `Scan: ${plural(scanning.scan.pages, 'page', 'pages')}` : 'Scan'}
    bind:open
    width={scanning.scan ? 400 : 270}
    align="start"
    look="btn"
    called="Scan a stack"
    onopen={() => (scanning.scan ? undefined : scanning.look())}
  >
    {#snippet trigger()}<IconScan size={15} strokeWidth={1.6} />{scanning.scan
        ? isStopped
          ? 'Scan stopped'
          : plural(scanning.scan.pages, 'page', 'pages')
        : 'Scan'}{/snippet}
    {#if scanning.scan}
      <p role="status">
        {plural(scanning.scan.pages, 'page', 'pages')}
        {isStopped ? 'scanned and saved.' : 'scanned so far…'}
      </p>
      {#if isStopped}<p class="my-1 border-l-2 border-rust pl-2 text-rust" role="alert">{scanning.scan.says}</p>{/if}
      {#if scanning.scan.pages > 0}
        <ol class="flex gap-2 py-2" aria-label="The last pages">
          {#each Array.from({ length: scanning.scan.pages - last }, (_, i) => last + i + 1) as page (page)}
            <li class="text-center">
              <img src={api.scanPageUrl(scanning.scan.id, page)} alt="" class="page" /><span class="small num">{page}</span>
            </li>
          {/each}
        </ol>
      {/if}
      {#if scanning.fault}<p class="fault" role="alert">{scanning.fault}</p>{/if}
      {#if isStopped}
        <div class="flex flex-wrap gap-2 pt-1">
          <button class="btn btn-main" disabled={scanning.busy} onclick={() => scanning.goOn()}>Go on</button>
          {#if scanning.scan.pages > 0}<button class="btn" disabled={scanning.busy} onclick={() => scanning.keep()}>Save these pages</button
            >{/if}
          <button class="btn" disabled={scanning.busy} onclick={() => scanning.drop()}>Remove</button>
        </div>
      {/if}
    {:else}
      {#if scanning.scanners.length > 1}
        <label class="heading" for="scan-with">Scanner</label>
        <select class="input mb-2" id="scan-with" bind:value={scanning.scanner} onchange={() => scanning.look()}
          >{#each scanning.scanners as s (s.code)}<option value={s.code}>{s.name}</option>{/each}</select
        >
      {/if}
      {#if scanning.fault}<p class="fault" role="alert">{scanning.fault}</p>
        <button class="btn mt-2" onclick={() => scanning.look()}>Try again</button>
      {:else if !scanning.can}<p class="quiet" role="status">Loading…</p>
      {:else}
        <p class="small quiet pb-1">{scanning.can.model}</p>
        {#if scanning.can.feeder && scanning.can.glass}
          <label class="heading" for="scan-from">From</label>
          <select
            class="input mb-2"
            id="scan-from"
            value={scanning.fed ? 'feeder' : 'glass'}
            onchange={(e) => (scanning.fed = e.currentTarget.value === 'feeder')}
            ><option value="feeder">the feeder</option><option value="glass">the glass</option></select
          >
        {/if}
        <label class="heading" for="scan-dots">Dots an inch</label>
        <select class="input mb-2" id="scan-dots" bind:value={scanning.dots}
          >{#each scanning.can.resolutions as dots (dots)}<option value={dots}>{dots}</option>{/each}</select
        >
        {#if scanning.can.duplex && scanning.fed}<label class="flex items-center gap-2 py-0.5"
            ><input type="checkbox" class="check" bind:checked={scanning.duplex} />Both sides</label
          >{/if}
        {#if scanning.can.colour}<label class="flex items-center gap-2 py-0.5"
            ><input type="checkbox" class="check" bind:checked={scanning.colour} />In colour</label
          >{/if}
        <button class="btn btn-main mt-3 w-full" disabled={scanning.busy} onclick={() => scanning.begin()}>Scan the stack</button>
      {/if}
    {/if}
  </Popover>
{/if}

<style>
  .page {
    width: 54px;
    height: 76px;
    background: #fff;
    object-fit: cover;
    box-shadow: 0 0 0 1px var(--hair);
  }
</style>
