<script lang="ts">
  import { api } from '@/api/client';
  import { app } from '@/state/app.svelte';
  import { keptOf, searches } from '@/state/searches.svelte';
  import { keys, lead } from '@/state/keys.svelte';
  import { remotes } from '@/state/remotes.svelte';
  import { router } from '@/state/router.svelte';
  import { untrack } from 'svelte';
  import { MediaQuery } from 'svelte/reactivity';
  import { addressOf, askedOutside, keptAddress, viewAddress } from '@/state/search';
  import { Finding } from './finding.svelte';
  import Edge from '@/parts/Edge.svelte';
  import AddCriterion from './AddCriterion.svelte';
  import FormPanel from './FormPanel.svelte';
  import Ledger from './Ledger.svelte';
  import Margins from './Margins.svelte';
  import RemoteRecord from './RemoteRecord.svelte';
  import RemoteResults from './RemoteResults.svelte';
  import Repositories from './Repositories.svelte';
  import Results from './Results.svelte';
  import Themes from './Themes.svelte';
  import Scope from '@/parts/Scope.svelte';
  import { lists } from '@/state/lists.svelte';
  import { nameOf, past } from '@/state/past.svelte';
  import ReadingPane from '@/places/read/ReadingPane.svelte';

  // A narrow window has no room for a table.
  const slim = new MediaQuery('max-width: 767px');
  const finding = new Finding(() => slim.current);
  const search = $derived(finding.search);
  const answer = $derived(finding.answer);
  const go = finding.go.bind(finding);
  const widths = $derived(
    Object.fromEntries((app.person?.preferences.columns?.[search.view || 'none'] ?? []).map((c) => [c.code, c.width])),
  );
  // A person who comes without a question begins with the search, or the view, that they chose to begin with.
  $effect(() => {
    if ([...router.params.keys()].length > 0) return;
    const view = app.design!.views.find((v) => v.code === app.design!.default_view);
    const chosen = app.person?.preferences.default_search;
    if (chosen && !searches.known) {
      void searches.load().catch(() => {});
      return;
    }
    const search = searches.saved.find((s) => s.id === chosen);
    const opens = app.design!.views.find((v) => v.code === search?.search.view)?.opens ?? 'table';
    if (search) router.go(keptAddress(search.search, { layout: opens }), 'replace');
    else if (view) router.go(viewAddress(view), 'replace');
  });
  $effect(() => {
    // Only the question asks anew: what else the asking reads may change without it.
    void finding.question;
    untrack(() => finding.ask());
  });
  let narrow = $state(false);

  // Elsewhere is asked once the answer from here stands, and only when something is looked for.
  const outside = $derived(
    askedOutside(search, app.design!.remote).filter((code) => code === search.from || (answer !== null && answer.ledger.length > 0)),
  );
  // First the columns of the view, then what else may be said there.
  const outsideColumns = $derived([
    ...new Set([...finding.columns, ...app.design!.fields.filter((f) => f.dublin_core).map((f) => f.code)]),
  ]);
  const outsideInput = () => ({ ...finding.input(), columns: outsideColumns });
  const outsideQuestion = $derived(
    JSON.stringify([outside, search.words, search.any, finding.criteria, finding.sort, finding.columns, search.where, search.person]),
  );
  $effect(() => {
    void outsideQuestion;
    if (!answer || finding.fault || finding.busy) return;
    untrack(() => remotes.ask(outside, outsideQuestion, outsideInput()));
  });
  const from = $derived(outside.includes(search.from) ? search.from : '');
  const record = $derived(from && search.record !== null ? remotes.row(from, search.record) : null);

  const open = $derived(from ? record !== null : search.open !== '');

  // How wide the reading pane is on this machine; by itself it takes its part of the window.
  const PANE = 'brenvic.pane';
  let room = $state(1280);
  let drawn = $state(Number(localStorage.getItem(PANE)) || 0);
  const most = $derived(room - 300 - 260);
  const pane = $derived(Math.min(drawn || Math.max(400, room * 0.38), most));
  function widen(width: number) {
    drawn = width;
    localStorage.setItem(PANE, String(width));
  }

  let place: HTMLElement | undefined = $state();
  keys.use(() => [
    { on: 'r', run: () => lead(place, '[role=treegrid], [role=grid]') },
    { on: 'l', run: () => lead(place, '[id^=ledger-line-], [aria-labelledby=ledger] button') },
    { on: 'm', run: () => lead(place, '.facet button') },
    { shown: 'r  l  m', what: 'To the results, the ledger, the margins' },
    { on: 'e', what: 'To the remote repositories', run: () => lead(place, '[aria-label=Repositories] button + button') },
    { on: 'g', what: 'Open the menu for the results', run: () => lead(place, '[data-gather] button', true) },
  ]);

  $effect(() => {
    const got = answer;
    if (!got || finding.fault) return;
    const shown = { question: JSON.stringify(keptOf(search)), address: addressOf({ ...search, open: '' }), name: nameOf(got.ledger) };
    untrack(() => past.note(shown));
  });

  // A search that was looked at for a moment is kept among those made lately.
  $effect(() => {
    const got = answer;
    if (!got || got.ledger.length === 0 || finding.fault) return;
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

<div class="find" class:open bind:this={place} bind:clientWidth={room} style={`--pane:${pane}px`}>
  <h1 class="sr-only">Find</h1>
  <aside class="left" class:shown={narrow} aria-label="Criteria and margins">
    <button class="btn sticky top-0 z-10 m-3 md:hidden" onclick={() => (narrow = false)}>Show {answer?.total ?? 0} results</button>
    <Ledger
      {answer}
      facets={finding.counted?.facets ?? []}
      fault={finding.fault}
      change={finding.change.bind(finding)}
      drop={finding.drop.bind(finding)}
      {search}
      {go}
    />
    <AddCriterion add={(cql) => finding.add(cql)} facets={finding.counted?.facets} />
    <FormPanel answer={finding.counted} add={(made) => finding.add(...made)} />
    <Themes question={finding.question} total={answer?.total ?? null} input={finding.input.bind(finding)} add={(cql) => finding.add(cql)} />
    <Margins
      answer={finding.counted}
      counting={answer?.rows !== finding.counted?.rows}
      asks={finding.asks}
      toggle={(field, value, exclude) => finding.run({ field, value, exclude })}
      choose={finding.toggle.bind(finding)}
      criteria={search.criteria}
    />
  </aside>
  <section class="middle" aria-label="Results">
    {#if search.person}
      <p class="flex items-center gap-3 border-b border-hair bg-act-tint px-4 py-1.5" role="status">
        <span class="flex-1">You are viewing Find as <strong>{search.person}</strong>: only what both of you may see is shown.</span><button
          class="link"
          onclick={() => go({ person: '' })}>Back to your own view</button
        >
      </p>
    {/if}
    <div class="flex items-center gap-3 px-4 py-2 md:hidden">
      <button class="btn" onclick={() => (narrow = true)}>Narrow ({answer?.ledger.length ?? 0})</button>
      <div class="min-w-0 flex-1 overflow-hidden"><Scope place="find" /></div>
      <a class="small flex-none" href={lists.current ? `/lists/${lists.current.id}` : '/lists'}>Pull lists</a>
    </div>
    {#if search.view !== '' && !finding.view}<p class="border-b border-hair px-4 py-1.5 text-rust" role="status">
        There is no view “{search.view}”, or you may not see it.
        <button class="link" onclick={() => go({ view: '' })}>Go on without it</button>
      </p>{/if}
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
      <Results
        {answer}
        rows={finding.rows}
        busy={finding.busy}
        {search}
        sort={finding.sort}
        columns={finding.columns}
        {widths}
        view={finding.view}
        need={finding.need.bind(finding)}
        {go}
        chooseView={finding.chooseView.bind(finding)}
        input={finding.input.bind(finding)}
        question={finding.question}
        again={() => void finding.run()}
      />
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
        <ReadingPane
          document={search.open}
          sought={{ words: search.words, criteria: search.criteria, reach: search.reach || undefined }}
          onclose={() => go({ open: '' }, 'replace')}
        />
      {/if}
    </section>
  {/if}
</div>

<style>
  .find {
    display: grid;
    height: 100%;
    grid-template-columns: 300px minmax(0, 1fr);
  }
  .find.open {
    grid-template-columns: 300px minmax(0, 1fr) var(--pane);
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
      grid-template-columns: minmax(0, 1fr);
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
