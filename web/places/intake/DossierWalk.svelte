<script lang="ts">
  import { api, ApiError, type Sheet } from '@/api/client';
  import type { DossierRecord, DossierRow } from '@/api/types';
  import SheetForm from '@/parts/SheetForm.svelte';
  import { defaultsOf } from '@/parts/sheet';
  import { app } from '@/state/app.svelte';
  import { drafts } from '@/state/drafts';
  import { Dialog } from 'bits-ui';

  /** A walk through the dossiers, by what one used lately, by kind and by words; one choice gives all that the dossier hands down. */
  let { library, onchoose, onleave }: { library: string; onchoose: (dossier: DossierRecord) => void; onleave: () => void } = $props();

  const LATELY = 'intake dossiers';
  const kinds = app.design!.dossier_kinds;
  let typed = $state('');
  let kind = $state('');
  let found = $state.raw<DossierRow[]>([]);
  let total = $state(0);
  let at = $state(0);
  let fault = $state('');
  let making = $state(false);
  let values = $state<Sheet>({});
  let faults = $state<Record<string, string>>({});
  const lately = JSON.parse(drafts.getItem(LATELY) ?? '[]') as DossierRow[];
  const isLately = $derived(typed.trim() === '' && kind === '' && lately.length > 0);
  const rows = $derived(isLately ? [...lately, ...found.filter((d) => !lately.some((l) => l.ref === d.ref))] : found);

  $effect(() => {
    const [q, of] = [typed.trim(), kind];
    const timer = setTimeout(
      () =>
        api.dossiers(of, q).then(
          (got) => {
            [found, total, at] = [got.dossiers, got.total, 0];
          },
          () => (fault = 'The dossiers cannot be shown.'),
        ),
      q === '' ? 0 : 180,
    );
    return () => clearTimeout(timer);
  });

  async function choose(ref: string) {
    try {
      take(await api.dossier(ref));
    } catch (error) {
      fault = error instanceof ApiError ? error.message : 'The dossier cannot be opened.';
    }
  }
  function take(dossier: DossierRecord) {
    const { ref, title } = dossier;
    const row = { ref, title, kind: dossier.kind.name };
    drafts.setItem(LATELY, JSON.stringify([row, ...lately.filter((l) => l.ref !== ref)].slice(0, 6)));
    onchoose(dossier);
  }
  function keydown(event: KeyboardEvent) {
    const by = ({ ArrowDown: 1, ArrowUp: -1 } as Record<string, number>)[event.key];
    if (by) at = Math.min(rows.length - 1, Math.max(0, at + by));
    else if (event.key === 'Enter' && rows[at]) void choose(rows[at]!.ref);
    else return;
    event.preventDefault();
    document.getElementById(`walk-${at}`)?.scrollIntoView({ block: 'nearest' });
  }
  function begin() {
    kind = kind || kinds[0]!.code;
    values = defaultsOf(kinds.find((k) => k.code === kind)?.fields ?? []);
    faults = {};
    making = true;
  }
  async function make(event: Event) {
    event.preventDefault();
    try {
      take(await api.makeDossier(kind, library, values));
    } catch (error) {
      if (!(error instanceof ApiError)) throw error;
      faults = error.fields;
      fault = Object.keys(error.fields).length === 0 ? error.message : '';
    }
  }
</script>

<Dialog.Root open onOpenChange={(open) => !open && onleave()}>
  <Dialog.Portal>
    <Dialog.Overlay class="fixed inset-0 z-40 bg-black/30" />
    <Dialog.Content
      class="fixed top-[10vh] left-1/2 z-50 flex max-h-[80vh] w-[600px] max-w-[94vw] -translate-x-1/2 flex-col border border-hair bg-sheet p-6 shadow-xl"
    >
      <Dialog.Title class="font-serif text-[20px]">{making ? 'New dossier' : 'Choose a dossier'}</Dialog.Title>
      {#if making}
        <form class="min-h-0 overflow-y-auto" onsubmit={make}>
          <label class="heading mt-2" for="walk-new-kind">Kind</label>
          <select class="input" id="walk-new-kind" bind:value={kind} onchange={begin}
            >{#each kinds as k (k.code)}<option value={k.code}>{k.name}</option>{/each}</select
          >
          <SheetForm
            entries={kinds.find((k) => k.code === kind)?.fields ?? []}
            {values}
            {faults}
            onchange={(code, given) => {
              values[code] = given;
              delete faults[code];
            }}
          />
          {#if fault}<p class="fault" role="alert">{fault}</p>{/if}
          <div class="flex gap-3 pt-3">
            <button class="btn btn-main">Create and choose</button>
            <button class="btn" type="button" onclick={() => (making = false)}>Back</button>
          </div>
        </form>
      {:else}
        <div class="flex gap-2 py-2">
          <!-- svelte-ignore a11y_autofocus -->
          <input
            class="input"
            aria-label="Words of the dossier, or its reference"
            placeholder="Words of its title, or its reference"
            bind:value={typed}
            onkeydown={keydown}
            autofocus
            autocomplete="off"
            role="combobox"
            aria-expanded="true"
            aria-controls="walk-rows"
            aria-activedescendant={rows[at] ? `walk-${at}` : undefined}
          />
          <select class="input" style="width:180px" aria-label="Kind" bind:value={kind}
            ><option value="">all kinds</option>{#each kinds as k (k.code)}<option value={k.code}>{k.name}</option>{/each}</select
          >
        </div>
        {#if fault}<p class="fault" role="alert">{fault}</p>{/if}
        <ul class="min-h-0 flex-1 overflow-y-auto" id="walk-rows" role="listbox" aria-label="Dossiers">
          {#each rows as dossier, i (dossier.ref)}
            <!-- svelte-ignore a11y_click_events_have_key_events -->
            <li
              id={`walk-${i}`}
              role="option"
              aria-selected={i === at}
              class="flex cursor-pointer items-baseline gap-3 border-t border-hair px-2 py-1"
              class:bg-act-tint={i === at}
              onclick={() => choose(dossier.ref)}
            >
              <span class="min-w-0 flex-1 truncate">{dossier.title}</span>
              {#if isLately && i < lately.length}<span class="small quiet">used lately</span>{/if}
              <span class="small quiet">{dossier.kind}</span><span class="mono small quiet">{dossier.ref}</span>
            </li>
          {:else}<li class="quiet px-2 py-2">No dossier fits.</li>{/each}
        </ul>
        <div class="flex items-center gap-3 pt-3">
          <button class="btn" type="button" onclick={begin}>New dossier…</button>
          <span class="small quiet flex-1"
            >{total > rows.length ? `The first ${rows.length} of ${total}; type words to find others.` : ''}</span
          >
          <button class="btn" type="button" onclick={onleave}>Cancel</button>
        </div>
      {/if}
    </Dialog.Content>
  </Dialog.Portal>
</Dialog.Root>
