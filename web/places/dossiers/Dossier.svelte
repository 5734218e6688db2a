<script lang="ts">
  import { api, ApiError, messageOf, type Sheet } from '@/api/client';
  import type { DossierRecord, Row } from '@/api/types';
  import { count, moment, plural } from '@/parts/format';
  import Comments from '@/parts/Comments.svelte';
  import SheetForm from '@/parts/SheetForm.svelte';
  import { addressOf, emptySearch } from '@/state/search';
  import { app } from '@/state/app.svelte';

  let { dossier: ref }: { dossier: string } = $props();

  const MOST = 500;
  let record = $state.raw<DossierRecord | null>(null);
  let rows = $state.raw<Row[]>([]);
  let fault = $state('');
  let editing = $state(false);
  let values = $state<Sheet>({});
  let faults = $state<Record<string, string>>({});
  let section = $state<number | 'all' | 'none'>('all');
  let chosen = $state<string[]>([]);
  let adding = $state('');
  let addFault = $state('');

  const kind = $derived(app.design!.dossier_kinds.find((k) => k.code === record?.kind.code));
  const view = $derived(app.design!.views.find((v) => v.code === kind?.view) ?? null);
  const columns = $derived(view?.columns ?? ['type', 'document_date'].filter((c) => app.field(c)));
  const inSection = $derived(
    rows.filter((r) => section === 'all' || (record?.inside[r.ref] ?? null) === (section === 'none' ? null : section)),
  );
  const sizes = $derived(
    Object.values(record?.inside ?? {}).reduce<Record<string, number>>(
      (sum, s) => ({ ...sum, [s ?? 'none']: (sum[s ?? 'none'] ?? 0) + 1 }),
      {},
    ),
  );
  const shownFields = $derived((kind?.fields ?? []).map((f) => app.design!.fields.find((d) => d.code === f.code)).filter((f) => !!f));

  async function take(got: DossierRecord) {
    record = got;
    rows = (
      await api.search({
        words: '',
        criteria: [{ cql: got.cql, negated: false, on: true }],
        columns,
        sort: view?.sort ?? [],
        formats: view?.formats,
        limit: MOST,
        rows_only: true,
      })
    ).rows;
    chosen = chosen.filter((r) => r in got.inside);
  }
  // svelte-ignore state_referenced_locally
  api.dossier(ref).then(take, (error: unknown) => (fault = messageOf(error, 'The dossier cannot be shown.')));

  async function act(what: () => Promise<DossierRecord>, done = ''): Promise<boolean> {
    try {
      await take(await what());
      if (done) app.say(done);
      return true;
    } catch (error) {
      addFault = messageOf(error, 'Nothing was added to the dossier. Try again.');
      return false;
    }
  }
  function edit() {
    values = Object.fromEntries(Object.entries(record!.values).map(([code, list]) => [code, list.map((v) => v.value)]));
    faults = {};
    editing = true;
  }
  async function save(event: SubmitEvent) {
    event.preventDefault();
    try {
      await take(await api.saveDossier(ref, values, record!.lock_version));
      editing = false;
      app.say('Saved. Documents in the dossier now take the values it hands down.');
    } catch (error) {
      if (!(error instanceof ApiError)) throw error;
      faults = error.fields;
      if (Object.keys(error.fields).length === 0) app.say(error.message, { wrong: true });
    }
  }
  async function put(event: SubmitEvent) {
    event.preventDefault();
    addFault = '';
    if (await act(() => api.putInDossier(ref, [adding.trim().toUpperCase()], typeof section === 'number' ? section : null))) adding = '';
  }
  async function close(closed: boolean) {
    if (await act(() => api.closeDossier(ref, closed)))
      app.say(closed ? 'The dossier is closed. What is kept from its closing is counted from today.' : 'The dossier is open again.', {
        undo: () => act(() => api.closeDossier(ref, !closed)),
      });
  }
  async function takeOut() {
    const gone = [...chosen];
    if (await act(() => api.takeOutOfDossier(ref, gone)))
      app.say(`${plural(gone.length, 'document', 'documents')} removed from the dossier.`, {
        undo: () => act(() => api.putInDossier(ref, gone, null)),
      });
  }
</script>

{#if fault}
  <div class="p-10">
    <h1 class="text-2xl">Dossier not found</h1>
    <p class="quiet mt-2">{fault} <a href="/dossiers">All dossiers</a></p>
  </div>
{:else if record}
  <div class="dossier">
    <aside class="overflow-y-auto border-r border-hair px-5 py-4" aria-label="The dossier">
      <p class="small quiet">
        <a href={`/dossiers?kind=${record.kind.code}`}>{record.kind.name}</a> <span class="mono">{record.ref}</span>
      </p>
      <h1 class="mt-1 text-[24px]">{record.title}</h1>
      <p class="small quiet">in <a href={`/find?c=${encodeURIComponent(`library == ${record.library.code}`)}`}>{record.library.name}</a></p>
      {#if record.closed_at || record.may_change}
        <p class="small mt-1">
          {#if record.closed_at}Closed {moment(record.closed_at)}; nothing more is put into it.{/if}
          {#if record.may_change}<button class="link inline-flex min-h-6 items-center" onclick={() => void close(!record!.closed_at)}
              >{record.closed_at ? 'Open it again' : 'Close the dossier'}</button
            >{/if}
        </p>
      {/if}
      {#if editing}
        <form class="mt-3" onsubmit={save}>
          <SheetForm
            entries={kind?.fields ?? []}
            {values}
            {faults}
            onchange={(code, given) => {
              values[code] = given;
              delete faults[code];
            }}
          />
          <p class="mt-2 flex gap-2">
            <button class="btn btn-main">Save</button><button class="btn" type="button" onclick={() => (editing = false)}>Cancel</button>
          </p>
        </form>
      {:else}
        <dl class="mt-3">
          {#each shownFields as field (field.code)}
            <div class="grid grid-cols-[110px_1fr] gap-3 border-t border-hair py-1">
              <dt class="quiet small pt-px">{field.label}</dt>
              <dd class:mono={field.kind === 'identifier'}>
                {(record.values[field.code] ?? []).map((v) => v.label).join(', ') ||
                  '—'}{#if kind?.fields.find((f) => f.code === field.code)?.handed_down}<span
                    class="small quiet"
                    title="Documents inside have it too">, handed down</span
                  >{/if}
              </dd>
            </div>
          {/each}
        </dl>
        {#if record.may_change}<button class="link mt-1" onclick={edit}>Change</button>{/if}
      {/if}
      <h2 class="mt-5 text-[17px]">Sections</h2>
      <ul>
        {#each [{ id: 'all' as const, name: 'All' }, ...record.sections, ...(sizes.none ? [{ id: 'none' as const, name: 'In no section' }] : [])] as s (s.id)}
          <li class="border-t border-hair">
            <button
              class="flex w-full py-1 text-left"
              class:font-semibold={section === s.id}
              aria-pressed={section === s.id}
              onclick={() => (section = s.id)}
              ><span class="flex-1">{s.name}</span><span class="num"
                >{count(s.id === 'all' ? Object.keys(record.inside).length : (sizes[s.id] ?? 0))}</span
              ></button
            >
          </li>
        {/each}
      </ul>
      <h2 class="mt-5 text-[17px]">Comments</h2>
      <Comments
        of="dossier"
        key={ref}
        load={() => api.dossierComments(ref)}
        say={(text) => api.commentDossier(ref, text)}
        takeBack={(id) => api.removeDossierComment(ref, id)}
      />
    </aside>
    <section class="flex min-h-0 flex-col bg-sheet" aria-label="Documents inside">
      <header class="flex flex-none flex-wrap items-center gap-x-4 gap-y-2 border-b border-hair px-4 py-2">
        <p class="font-serif text-[19px]" role="status">{plural(inSection.length, 'document', 'documents')}</p>
        {#if view}<span class="small quiet">as “{view.name}”</span>{/if}
        <a
          class="small"
          href={addressOf({ ...emptySearch, view: view?.code ?? '', criteria: [{ cql: record.cql, negated: false, on: true }] })}
          >Search in this dossier</a
        >
        <span class="flex-1"></span>
        {#if record.may_change}
          {#if chosen.length > 0}
            <label class="small flex items-center gap-2"
              ><span class="quiet">{chosen.length} chosen:</span>
              <select
                class="input"
                style="min-height:28px;width:auto"
                value=""
                onchange={(e) => {
                  const to = e.currentTarget.value;
                  e.currentTarget.value = '';
                  if (to) void act(() => api.putInDossier(ref, chosen, to === 'none' ? null : Number(to)));
                }}
              >
                <option value="">move to…</option>{#each record.sections as s (s.id)}<option value={s.id}>{s.name}</option>{/each}<option
                  value="none">no section</option
                >
              </select>
            </label>
            <button class="link small" onclick={takeOut}>Remove from the dossier</button>
          {/if}
          <form class="flex items-center gap-2" onsubmit={put}>
            <label class="sr-only" for="dossier-add">Reference of a document to put in</label><input
              class="input mono"
              style="width:150px;min-height:28px"
              id="dossier-add"
              bind:value={adding}
              placeholder="D-00012-X"
              autocomplete="off"
            /><button class="btn" disabled={adding.trim() === ''}>Add document</button>
          </form>
        {/if}
      </header>
      {#if addFault}<p class="fault px-4 py-1" role="alert">{addFault}</p>{/if}
      <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
      <div class="min-h-0 flex-1 overflow-auto" tabindex="0" role="region" aria-label="The documents">
        <table class="w-full">
          <thead
            ><tr class="heading text-left"
              >{#if record.may_change}<th class="w-8"><span class="sr-only">Select</span></th>{/if}<th class="px-4 py-1.5 font-normal"
                >Title</th
              >{#each columns as code (code)}<th class="px-2 font-normal whitespace-nowrap">{app.label(code)}</th>{/each}</tr
            ></thead
          >
          <tbody>
            {#each inSection as row (row.ref)}
              <tr class="border-t border-hair hover:bg-act-tint">
                {#if record.may_change}<td class="pl-3"
                    ><input
                      type="checkbox"
                      class="check"
                      aria-label={`Select ${row.title}`}
                      checked={chosen.includes(row.ref)}
                      onchange={(e) => (chosen = e.currentTarget.checked ? [...chosen, row.ref] : chosen.filter((r) => r !== row.ref))}
                    /></td
                  >{/if}
                <td class="max-w-72 truncate px-4 py-1 font-serif text-[15.5px]"
                  ><a class="text-ink" href={`/documents/${row.ref}`}>{row.title}</a></td
                >
                {#each columns as code (code)}<td class="max-w-44 truncate px-2">{row.cells[code]}</td>{/each}
              </tr>
            {:else}
              <tr
                ><td class="quiet px-4 py-4" colspan={columns.length + 2}
                  >{section === 'all'
                    ? 'The dossier is empty. Put documents in by their reference, or while filing them.'
                    : 'This section is empty.'}</td
                ></tr
              >
            {/each}
          </tbody>
        </table>
      </div>
    </section>
  </div>
{:else}<p class="quiet p-10">Loading…</p>{/if}

<style>
  .dossier {
    display: grid;
    height: 100%;
    grid-template-columns: 320px minmax(0, 1fr);
  }
  @media (max-width: 767px) {
    .dossier {
      display: block;
      overflow-y: auto;
    }
  }
</style>
