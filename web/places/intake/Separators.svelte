<script lang="ts">
  import Popover from '@/parts/Popover.svelte';
  import { app } from '@/state/app.svelte';

  /** Sheets to be printed and laid between documents before a stack is scanned. */
  let open = $state(false);
  let library = $state('');
  let type = $state('');
  let dossier = $state('');
  let count = $state(1);

  const libraries = $derived(app.design!.libraries.filter((l) => l.may_change));
  const types = $derived(
    library === '' ? app.design!.types : app.design!.types.filter((t) => app.library(library)?.types.includes(t.code)),
  );
  const address = $derived.by(() => {
    const given = Object.entries({ library, type, dossier: dossier.trim(), count: String(count || 1) });
    return `/api/intake/separator-sheets?${new URLSearchParams(given.filter(([, value]) => value !== ''))}`;
  });
</script>

<Popover label="Separator sheets" bind:open width={320} look="link small" called="Print separator sheets">
  <p class="small quiet pb-2">Put one before each document of a stack. It says where the document begins and what is known of it.</p>
  <label class="heading" for="separator-library">Library</label>
  <select class="input mb-2" id="separator-library" bind:value={library} onchange={() => (type = '')}>
    <option value="">as the stack</option>
    {#each libraries as l (l.code)}<option value={l.code}>{l.name}</option>{/each}
  </select>
  <label class="heading" for="separator-type">Document type</label>
  <select class="input mb-2" id="separator-type" bind:value={type}>
    <option value="">is chosen in Intake</option>
    {#each types as t (t.code)}<option value={t.code}>{t.name}</option>{/each}
  </select>
  {#if app.design!.dossier_kinds.length > 0}
    <label class="heading" for="separator-dossier">Dossier</label>
    <input class="input mono mb-2" id="separator-dossier" bind:value={dossier} placeholder="DS-00012-X, if any" autocomplete="off" />
  {/if}
  <label class="heading" for="separator-count">Sheets</label>
  <div class="flex items-center gap-3">
    <input class="input" style="width:80px" id="separator-count" type="number" min="1" max="50" bind:value={count} />
    <span class="flex-1"></span>
    <a class="btn btn-main" href={address} target="_blank" rel="noopener" onclick={() => (open = false)}>Open to print</a>
  </div>
</Popover>
