<script lang="ts">
  import { api, ApiError, type Sheet } from '@/api/client';
  import type { DossierRow } from '@/api/types';
  import { count, plural } from '@/parts/format';
  import SheetForm from '@/parts/SheetForm.svelte';
  import { defaultsOf } from '@/parts/sheet';
  import { app } from '@/state/app.svelte';
  import { router } from '@/state/router.svelte';

  let q = $state(router.params.get('q') ?? '');
  let kind = $state(router.params.get('kind') ?? '');
  let rows = $state.raw<DossierRow[]>([]);
  let total = $state<number | null>(null);
  let making = $state('');
  let library = $state('');
  let values = $state<Sheet>({});
  let faults = $state<Record<string, string>>({});
  const kinds = $derived(app.design!.dossier_kinds);
  const libraries = $derived(app.design!.libraries.filter((l) => l.may_change));
  const chosen = $derived(kinds.find((k) => k.code === making));

  $effect(() => {
    const asked = [kind, q.trim()] as const;
    let stale = false;
    const timer = setTimeout(
      () =>
        api.dossiers(...asked).then((got) => {
          if (!stale) {
            rows = got.dossiers;
            total = got.total;
          }
        }),
      150,
    );
    return () => {
      stale = true;
      clearTimeout(timer);
    };
  });
  async function more() {
    rows = [...rows, ...(await api.dossiers(kind, q.trim(), rows.length)).dossiers];
  }
  function start(code: string) {
    making = code;
    values = defaultsOf(kinds.find((k) => k.code === code)?.fields ?? []);
    library ||= libraries[0]?.code ?? '';
    faults = {};
  }
  async function make(event: SubmitEvent) {
    event.preventDefault();
    try {
      const got = await api.makeDossier(making, library, values);
      router.go(`/dossiers/${got.ref}`);
    } catch (error) {
      if (!(error instanceof ApiError)) throw error;
      faults = error.fields;
      if (Object.keys(error.fields).length === 0) app.say(error.message, { wrong: true });
    }
  }
</script>

<div class="h-full overflow-y-auto">
  <div class="mx-auto max-w-[980px] px-6 py-5">
    <h1 class="text-[26px]">Dossiers</h1>
    <div class="mt-3 flex flex-wrap items-end gap-4 border-b border-hair pb-3">
      <div class="min-w-56 flex-1">
        <label class="heading" for="dossier-q">Title or reference</label><input
          class="input"
          id="dossier-q"
          type="search"
          bind:value={q}
          autocomplete="off"
        />
      </div>
      <div>
        <label class="heading" for="dossier-kind">Kind</label><select class="input" id="dossier-kind" bind:value={kind}
          ><option value="">all kinds</option>{#each kinds as k (k.code)}<option value={k.code}>{k.name}</option>{/each}</select
        >
      </div>
      {#if libraries.length > 0 && kinds.length > 0}
        <div>
          <label class="heading" for="dossier-new">New</label><select
            class="input"
            id="dossier-new"
            value={making}
            onchange={(e) => start(e.currentTarget.value)}
            ><option value="">choose a kind…</option>{#each kinds as k (k.code)}<option value={k.code}>{k.name}</option>{/each}</select
          >
        </div>
      {/if}
    </div>
    {#if chosen}
      <form class="my-3 max-w-md border-l-2 border-act pl-4" onsubmit={make} aria-label={`New ${chosen.name}`}>
        <h2 class="text-[19px]">New: {chosen.name}</h2>
        {#if chosen.sections.length > 0}<p class="small quiet">
            Comes with the sections {chosen.sections.map((s) => s.name).join(', ')}.
          </p>{/if}
        <label class="heading mt-2" for="dossier-library">In the library</label>
        <select class="input" id="dossier-library" bind:value={library}
          >{#each libraries as l (l.code)}<option value={l.code}>{l.name}</option>{/each}</select
        >
        <SheetForm
          entries={chosen.fields}
          {values}
          {faults}
          onchange={(code, given) => {
            values[code] = given;
            delete faults[code];
          }}
        />
        <p class="mt-2 flex gap-2">
          <button class="btn btn-main">Create dossier</button><button class="btn" type="button" onclick={() => (making = '')}>Cancel</button
          >
        </p>
      </form>
    {/if}
    <p class="quiet py-2" role="status">{total === null ? 'Asking…' : plural(total, 'dossier', 'dossiers')}</p>
    <ul>
      {#each rows as dossier (dossier.ref)}
        <li class="flex items-baseline gap-4 border-t border-hair py-1.5">
          <a class="min-w-0 flex-1 truncate font-serif text-[16px]" href={`/dossiers/${dossier.ref}`}>{dossier.title}</a><span
            class="small quiet w-32 truncate">{dossier.kind}</span
          ><span class="mono small quiet w-28">{dossier.ref}</span><span class="num w-24"
            >{plural(dossier.documents ?? 0, 'document', 'documents')}</span
          >
        </li>
      {:else}{#if total === 0}<li class="quiet border-t border-hair py-3">
            {q || kind
              ? 'No dossier matches.'
              : 'A dossier holds the documents of one case, asset or project. Its kinds are made in Design.'}
          </li>{/if}{/each}
    </ul>
    {#if total !== null && rows.length < total}<button class="btn mt-3" onclick={more}>{count(total - rows.length)} more</button>{/if}
  </div>
</div>
