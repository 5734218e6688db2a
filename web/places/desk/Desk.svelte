<script lang="ts">
  import { api } from '@/api/client';
  import type { Desk, DeskRow } from '@/api/types';
  import { app } from '@/state/app.svelte';
  import { count, moment, plural } from '@/parts/format';
  import { addressOf, emptySearch, viewAddress } from '@/places/find/search';

  let desk = $state.raw<Desk | null>(null);

  async function load() {
    desk = await api.desk();
  }
  load();
  // The background worker's progress is worth watching only while there is some.
  $effect(() => {
    if (!desk || desk.reading === 0) return;
    const timer = setTimeout(load, 4000);
    return () => clearTimeout(timer);
  });

  const repositories = $derived(desk ? [...Map.groupBy(desk.libraries, (l) => l.repository)] : []);
  const most = $derived(Math.max(1, ...(desk?.libraries.map((l) => l.documents) ?? [1])));
  const total = $derived(desk?.libraries.reduce((sum, l) => sum + l.documents, 0) ?? 0);
  /** A library opens with its own view, if it has one. */
  const inLibrary = (code: string) => {
    const view = app.design!.views.find((v) => v.code === app.library(code)?.view);
    const here = [{ cql: `library == ${code}`, negated: false, on: true }];
    return view ? viewAddress(view, here) : addressOf({ ...emptySearch, criteria: here });
  };
</script>

{#snippet rows(list: DeskRow[], empty: string)}
  {#each list as row (row.ref)}
    <li class="flex items-baseline gap-3 border-t border-hair py-1.5">
      <a class="min-w-0 flex-1 truncate font-serif text-[15.5px] text-ink" href={`/documents/${row.ref}`} title={row.title}>{row.title}</a>
      <span class="small quiet hidden w-32 truncate lg:block">{row.type}</span>
      <span class="small quiet num w-24">{moment(row.moment)}</span>
    </li>
  {:else}
    <li class="quiet border-t border-hair py-2">{empty}</li>
  {/each}
{/snippet}

<div class="h-full overflow-y-auto">
  <div class="mx-auto max-w-[1180px] px-6 py-7">
    <h1 class="text-[28px]">{app.person?.name}’s desk</h1>
    {#if desk}
      <p class="quiet mt-1">
        {plural(total, 'document', 'documents')} in {plural(desk.libraries.length, 'library', 'libraries')}{#if desk.reading > 0}; <span class="text-brass-text">the text of {count(desk.reading)} is still being read</span>{/if}.
        {#if desk.waiting > 0}<a href="/intake">{plural(desk.waiting, 'document waits', 'documents wait')} in intake</a>.{/if}
      </p>
      <div class="mt-7 grid gap-x-12 gap-y-8 md:grid-cols-[minmax(0,1fr)_minmax(0,1.25fr)]">
        <section aria-labelledby="libraries">
          <h2 class="text-lg" id="libraries">Libraries</h2>
          {#each repositories as [repository, libraries] (repository)}
            <h3 class="heading mt-3 mb-1">{repository}</h3>
            <ul>
              {#each libraries as library (library.code)}
                <li class="border-t border-hair py-1.5">
                  <div class="flex items-baseline gap-3">
                    <a class="flex-1 font-serif text-[15.5px]" href={inLibrary(library.code)}>{library.name}</a>
                    <span class="block h-[3px] w-24 self-center" aria-hidden="true"><span class="block h-full bg-quiet/50" style={`width:${(100 * library.documents) / most}%`}></span></span>
                    <span class="num w-14">{count(library.documents)}</span>
                  </div>
                  <p class="small quiet">{library.note}</p>
                </li>
              {/each}
            </ul>
          {:else}
            <p class="quiet mt-2">No library yet. {#if app.person?.may.design}<a href="/design/libraries">Make the first one in Design</a>.{:else}The records librarian makes them.{/if}</p>
          {/each}
          {#if app.design && app.design.dossier_kinds.length > 0}
            <h2 class="mt-8 text-lg"><a href="/dossiers">Dossiers</a></h2>
            <ul class="mt-1">{#each app.design.dossier_kinds as kind (kind.code)}<li class="border-t border-hair py-1.5"><a href={`/dossiers?kind=${kind.code}`}>{kind.name}</a></li>{/each}</ul>
          {/if}
          {#if app.design && app.design.views.length > 0}
            <h2 class="mt-8 text-lg">Views</h2>
            <ul class="mt-1">
              {#each app.design.views as view (view.code)}
                <li class="border-t border-hair py-1.5"><a href={viewAddress(view)}>{view.name}</a>{#if view.own}<span class="small quiet"> my own</span>{/if}</li>
              {/each}
            </ul>
          {/if}
        </section>
        <div>
          <section aria-labelledby="read">
            <h2 class="mb-1 text-lg" id="read">Read lately</h2>
            <ul>{@render rows(desk.read, 'What you read will stand here. Press / and say what you are looking for.')}</ul>
          </section>
          <section class="mt-8" aria-labelledby="filed">
            <h2 class="mb-1 text-lg" id="filed">Filed lately</h2>
            <ul>{@render rows(desk.filed, 'Nothing has been filed yet. Documents are brought in at Intake.')}</ul>
          </section>
        </div>
      </div>
    {/if}
  </div>
</div>
