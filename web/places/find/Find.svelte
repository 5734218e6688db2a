<script lang="ts">
  import { api, ApiError } from '@/api/client';
  import type { Answer, CriterionInput, Found, Row } from '@/api/types';
  import { app } from '@/state/app.svelte';
  import { keptOf, searches } from '@/state/searches.svelte';
  import { lead } from '@/parts/keys';
  import { remotes } from '@/state/remotes.svelte';
  import { router } from '@/state/router.svelte';
  import { untrack } from 'svelte';
  import { MediaQuery } from 'svelte/reactivity';
  import { addressOf, askedOutside, searchFrom, viewAddress, type SearchState } from './search';
  import { FacetAsks } from './facets.svelte';
  import Edge from '@/parts/Edge.svelte';
  import AddCriterion from './AddCriterion.svelte';
  import FormPanel from './FormPanel.svelte';
  import Ledger from './Ledger.svelte';
  import Margins from './Margins.svelte';
  import RemoteRecord from './RemoteRecord.svelte';
  import RemoteResults from './RemoteResults.svelte';
  import Repositories from './Repositories.svelte';
  import Results from './Results.svelte';
  import ReadingPane from '@/places/read/ReadingPane.svelte';

  const PAGE = 60;
  // A narrow window has no room for a table.
  const slim = new MediaQuery('max-width: 767px');
  const search = $derived.by(() => {
    const found = searchFrom(router.params);
    return slim.current ? { ...found, layout: 'digest' as const } : found;
  });
  const view = $derived(app.design!.views.find((v) => v.code === search.view) ?? null);
  const asks = new FacetAsks();
  // Columns as the person left them, for this view.
  const own = $derived(app.person?.preferences.columns?.[search.view || 'none']);
  const widths = $derived(Object.fromEntries((own ?? []).map((c) => [c.code, c.width])));
  const columns = $derived(
    own?.map((c) => c.code).filter((c) => app.field(c) || c === 'path') ??
      view?.columns ??
      ['type', 'library', 'document_date', 'file_type'].filter((code) => app.field(code)),
  );
  // A person who comes without a question begins with the view they chose to begin with.
  $effect(() => {
    const mine = app.design!.views.find((v) => v.code === app.design!.default_view);
    if (mine && [...router.params.keys()].length === 0) router.go(viewAddress(mine), 'replace');
  });
  // A word that is being typed is found by its beginning.
  const within = $derived(search.within.trim().replace(/["\\]/g, ''));
  const criteria = $derived([
    ...search.criteria,
    ...search.steps.map((s) => ({ cql: s.cql, negated: false, on: true })),
    ...(within.length > 1 ? [{ cql: `cql.anywhere all "${within}*"`, negated: false, on: true }] : []),
  ]);
  const sort = $derived(search.sort.length > 0 ? search.sort : search.words === '' ? (view?.sort ?? []) : []);
  // What a new search must be made for; opening a document or changing the layout is not among it.
  const question = $derived(
    JSON.stringify([
      search.words,
      search.any,
      criteria,
      sort,
      columns,
      search.where,
      asks.list,
      search.person,
      view?.formats,
      search.layout === 'digest',
    ]),
  );

  let answer = $state.raw<Found | null>(null);
  /** The same with its facets, which come a little later. */
  let counted = $state.raw<Answer | null>(null);
  let rows = $state.raw<Record<number, Row>>({});
  let fault = $state.raw<ApiError | null>(null);
  let busy = $state(false);
  let narrow = $state(false);
  let current: AbortController | null = null;
  let fetching: Record<number, boolean> = {};

  /** A question whose answer is here before it stands in the address. */
  let settled = '';
  $effect(() => {
    // Only the question asks anew: what else the asking reads may change without it.
    if (question !== settled) untrack(() => void run());
  });

  const input = () => ({
    words: search.words,
    any: search.any,
    criteria,
    sort,
    columns,
    where: search.where,
    facets: asks.list,
    formats: view?.formats,
    snippets: search.layout === 'digest',
    as: search.person || undefined,
  });

  async function run(toggle?: { field: string; value: string; exclude?: boolean }) {
    // The newest question wins; what an older one brings is dropped.
    current?.abort();
    const mine = (current = new AbortController());
    busy = true;
    try {
      const whole = await api.searchInParts({ ...input(), toggle, limit: PAGE }, mine.signal, (got) => {
        if (mine !== current) return;
        fault = null;
        if (toggle) {
          // What is chosen in the margins belongs to the search, not to the steps into it.
          const steps = new Set([...search.steps.map((s) => s.cql), ...(within.length > 1 ? [criteria.at(-1)!.cql] : [])]);
          go({ criteria: got.criteria.filter((c) => !steps.has(c.cql)) });
          settled = question;
        } else settled = '';
        answer = got;
        fetching = {};
        rows = Object.fromEntries(got.rows.map((row, i) => [i, row]));
        busy = false;
      });
      if (mine === current) counted = whole;
    } catch (error) {
      if (mine !== current) return;
      if (error instanceof ApiError) fault = error;
      else if (!(error instanceof DOMException)) throw error;
    } finally {
      if (mine === current) busy = false;
    }
  }

  /** Fetches the rows of a stretch of the list that are not there yet. */
  async function need(from: number, to: number) {
    const asked = question;
    for (let page = Math.floor(from / PAGE); page <= Math.floor(to / PAGE); page++) {
      if (fetching[page] || rows[page * PAGE]) continue;
      fetching[page] = true;
      const got = await api.search({ ...input(), offset: page * PAGE, limit: PAGE, rows_only: true });
      if (asked !== question) return;
      rows = { ...rows, ...Object.fromEntries(got.rows.map((row, i) => [page * PAGE + i, row])) };
    }
  }

  function go(change: Partial<SearchState>, how: 'push' | 'replace' = 'push') {
    router.go(addressOf({ ...search, ...change }), how);
  }

  function toggleCriterion(cql: string) {
    const kept = search.criteria.filter((c) => c.cql !== cql);
    if (kept.length < search.criteria.length) go({ criteria: kept });
    else addCriterion(cql);
  }

  function addCriterion(cql: string) {
    go({ criteria: [...search.criteria, { cql, negated: false, on: true }] });
  }

  /** Changes one line of the ledger; a typed line leaves the query line and becomes a criterion. */
  function changeLine(index: number, change: Partial<CriterionInput> | null) {
    const line = answer!.ledger[index]!;
    const typed = answer!.ledger.filter((l) => l.typed).length;
    if (line.typed) {
      const moved = change ? [{ cql: line.cql, negated: line.negated, on: line.on, ...change }] : [];
      go({ words: line.words_without ?? '', criteria: [...moved, ...search.criteria] });
    } else if (index - typed >= search.criteria.length) {
      // A step: taken back, or made a criterion like any other.
      const at = index - typed - search.criteria.length;
      if (at >= search.steps.length) {
        go(change ? { within: '', criteria: [...search.criteria, { ...criteria.at(-1)!, ...change }] } : { within: '' });
        return;
      }
      const step = search.steps[at]!;
      go({
        steps: search.steps.slice(0, at),
        criteria: change ? [...search.criteria, { cql: step.cql, negated: false, on: true, ...change }] : search.criteria,
      });
    } else {
      go({ criteria: search.criteria.flatMap((c, i) => (i !== index - typed ? [c] : change ? [{ ...c, ...change }] : [])) });
    }
  }

  /** Takes several lines out at once. */
  function dropLines(indexes: number[]) {
    const kept = answer!.ledger.filter((_, i) => !indexes.includes(i)).map(({ cql, negated, on }) => ({ cql, negated, on }));
    if (indexes.length === 1) changeLine(indexes[0]!, null);
    else go({ words: '', criteria: kept, steps: [], within: '' });
  }

  function chooseView(code: string) {
    const chosen = app.design!.views.find((v) => v.code === code);
    const kept = search.criteria.filter((c) => c.cql !== view?.criterion);
    const own = chosen?.criterion ? [{ cql: chosen.criterion, negated: false, on: true }] : [];
    go({
      view: code,
      criteria: [...own, ...kept],
      sort: [],
      steps: [],
      layout: chosen && chosen.levels.length > 0 ? chosen.opens : search.layout === 'digest' ? 'digest' : 'table',
    });
  }

  // Elsewhere is asked once the answer from here stands, and only when something is looked for.
  const outside = $derived(
    askedOutside(search, app.design!.remote).filter((code) => code === search.from || (answer !== null && answer.ledger.length > 0)),
  );
  // First the columns of the view, then what else may be said there.
  const outsideColumns = $derived([...new Set([...columns, ...app.design!.fields.filter((f) => f.dublin_core).map((f) => f.code)])]);
  const outsideInput = () => ({ ...input(), columns: outsideColumns });
  const outsideQuestion = $derived(
    JSON.stringify([outside, search.words, search.any, criteria, sort, columns, search.where, search.person]),
  );
  $effect(() => {
    void outsideQuestion;
    if (!answer || fault || busy) return;
    untrack(() => remotes.ask(outside, outsideQuestion, outsideInput()));
  });
  const from = $derived(outside.includes(search.from) ? search.from : '');
  const record = $derived(from && search.record !== null ? remotes.row(from, search.record) : null);

  const open = $derived(from ? record !== null : search.open !== '');

  // How wide the reading pane is on this machine; by itself it takes its part of the window.
  const PANE = 'brenvic.pane';
  let room = $state(1280);
  let drawn = $state(Number(localStorage.getItem(PANE)) || 0);
  const most = $derived(room - 288 - 260);
  const pane = $derived(Math.min(drawn || Math.max(400, room * 0.38), most));
  function widen(width: number) {
    drawn = width;
    localStorage.setItem(PANE, String(width));
  }

  let place: HTMLElement | undefined = $state();
  const parts = {
    r: '[role=treegrid], [role=grid]',
    e: '[aria-label=Repositories] button + button',
    l: '[id^=ledger-line-], [aria-labelledby=ledger] button',
    m: '.facet button',
  };

  // A search that was looked at for a moment is kept among those made lately.
  $effect(() => {
    const got = answer;
    if (!got || got.ledger.length === 0 || fault) return;
    const kept = keptOf(search);
    const timer = setTimeout(
      () =>
        void api.keepRecent(kept, got.total).then(
          (r) => (searches.recent = r.recent),
          () => {},
        ),
      2500,
    );
    return () => clearTimeout(timer);
  });
</script>

<svelte:window onkeydown={(e) => lead(e, place, parts, { g: '[data-gather] button' })} />

<div class="find" class:open bind:this={place} bind:clientWidth={room} style={`--pane:${pane}px`}>
  <h1 class="sr-only">Find</h1>
  <aside class="left" class:shown={narrow} aria-label="Criteria and margins">
    <button class="btn sticky top-0 z-10 m-3 md:hidden" onclick={() => (narrow = false)}>Show {answer?.total ?? 0} results</button>
    <Ledger {answer} {fault} change={changeLine} drop={dropLines} {search} {go} />
    <AddCriterion add={addCriterion} facets={counted?.facets} />
    <FormPanel
      answer={counted}
      add={(made) => go({ criteria: [...search.criteria, ...made.map((cql) => ({ cql, negated: false, on: true }))] })}
    />
    <Margins
      answer={counted}
      counting={answer?.rows !== counted?.rows}
      {asks}
      toggle={(field, value, exclude) => run({ field, value, exclude })}
      choose={toggleCriterion}
      criteria={search.criteria}
    />
  </aside>
  <section class="middle" aria-label="Results">
    {#if search.person}
      <p class="flex items-center gap-3 border-b border-hair bg-act-tint px-4 py-1.5" role="status">
        <span class="flex-1">You look at this as <strong>{search.person}</strong>: of what you may see, only what they may see too.</span
        ><button class="link" onclick={() => go({ person: '' })}>Look as yourself</button>
      </p>
    {/if}
    <div class="flex items-center gap-3 px-4 py-2 md:hidden">
      <button class="btn" onclick={() => (narrow = true)}>Narrow ({answer?.ledger.length ?? 0})</button>
    </div>
    {#if outside.length > 0}<Repositories
        {outside}
        {from}
        here={answer?.total ?? null}
        choose={(code) => go({ from: code, record: null })}
      />{/if}
    {#if from}
      <RemoteResults
        code={from}
        answer={remotes.answers[from] ?? null}
        columns={outsideColumns}
        {search}
        {go}
        more={() => remotes.more(from, outsideInput())}
        again={() => remotes.again(from, outsideInput())}
      />
    {:else}
      <Results {answer} {rows} {busy} {search} {sort} {columns} {widths} {view} {need} {go} {chooseView} {input} again={() => void run()} />
    {/if}
  </section>
  {#if open}
    <section class="right" aria-label="Reading pane">
      <Edge label="Width of the reading pane" size={pane} least={320} {most} onchange={widen} />
      {#if from && record}
        {#key record}<RemoteRecord
            code={from}
            name={app.design!.remote.find((r) => r.code === from)!.name}
            {record}
            onclose={() => go({ record: null }, 'replace')}
          />{/key}
      {:else}
        <ReadingPane document={search.open} words={search.words} criteria={search.criteria} onclose={() => go({ open: '' }, 'replace')} />
      {/if}
    </section>
  {/if}
</div>

<style>
  .find {
    display: grid;
    height: 100%;
    grid-template-columns: 308px minmax(0, 1fr);
  }
  .find.open {
    grid-template-columns: 288px minmax(0, 1fr) var(--pane);
  }
  .left {
    overflow-y: auto;
    border-right: 1px solid var(--hair);
  }
  .middle {
    position: relative;
    display: flex;
    min-height: 0;
    flex-direction: column;
    background: var(--sheet);
  }
  .right {
    position: relative;
    min-height: 0;
    border-left: 1px solid var(--hair);
    background: var(--paper);
  }
  @media (max-width: 767px) {
    .find,
    .find.open {
      grid-template-columns: 1fr;
    }
    .left {
      display: none;
    }
    .left.shown {
      display: block;
      position: fixed;
      inset: 0;
      z-index: 30;
      background: var(--paper);
    }
    .right {
      position: fixed;
      inset: 0;
      z-index: 30;
    }
  }
</style>
