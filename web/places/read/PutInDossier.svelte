<script lang="ts">
  import { api, messageOf } from '@/api/client';
  import type { DossierRow } from '@/api/types';
  import { app } from '@/state/app.svelte';

  let { document, ondone }: { document: string; ondone: () => void } = $props();

  let open = $state(false);
  let typed = $state('');
  let fault = $state('');
  let found = $state.raw<DossierRow[]>([]);

  // By title while typing; a whole reference is held against its check character by the server.
  $effect(() => {
    const q = typed.trim();
    if (!open || q.length < 2) {
      found = [];
      return;
    }
    const timer = setTimeout(
      () =>
        api.dossiers('', q).then(
          (got) => (found = got.dossiers.slice(0, 8)),
          () => {},
        ),
      200,
    );
    return () => clearTimeout(timer);
  });

  async function put(dossier: string) {
    try {
      const got = await api.putInDossier(dossier, [document], null);
      open = false;
      typed = fault = '';
      app.say(`Added to “${got.title}”.`, { undo: () => api.takeOutOfDossier(got.ref, [document]).then(ondone) });
      ondone();
    } catch (error) {
      fault = messageOf(error, 'It could not be added to the dossier.');
    }
  }
</script>

<div class="border-t border-hair py-1">
  {#if !open}
    <button class="link small" onclick={() => (open = true)}>Add to a dossier</button>
  {:else}
    <form
      onsubmit={(e) => {
        e.preventDefault();
        void put(typed.trim());
      }}
    >
      <label class="heading" for="into-dossier">Dossier, by title or reference</label>
      <!-- svelte-ignore a11y_autofocus -->
      <input
        class="input"
        id="into-dossier"
        bind:value={typed}
        autofocus
        autocomplete="off"
        placeholder="DS-00012-X"
        onkeydown={(e) => {
          if (e.key === 'Escape') open = false;
        }}
        aria-describedby={fault ? 'into-fault' : undefined}
      />
      {#if fault}<p class="fault" id="into-fault" role="alert">{fault}</p>{/if}
      <ul>
        {#each found as dossier (dossier.ref)}
          <li>
            <button class="link w-full py-0.5" type="button" onclick={() => put(dossier.ref)}
              >{dossier.title} <span class="small quiet">{dossier.kind}, <span class="mono">{dossier.ref}</span></span></button
            >
          </li>
        {/each}
      </ul>
    </form>
  {/if}
</div>
