<script lang="ts">
  import { api } from '@/api/client';
  import { focusOn } from '@/parts/focus';
  import { count, plural } from '@/parts/format';
  import { app } from '@/state/app.svelte';
  import { router } from '@/state/router.svelte';
  import { Trying } from '@/state/trying.svelte';
  import { ACTIONS, criteriaOf, findUrl, narrowed, turned, type Action } from './due';
  import { Due } from './due.svelte';

  /** A calendar of what falls due: a line a quarter, a column an act; behind each number its documents. */
  const due = new Due();
  const only = $derived({ library: router.params.get('library'), rule: router.params.get('rule') });
  const at = $derived(router.params.get('at') ?? '');
  const action = $derived((router.params.get('do') ?? '') as Action | '');
  const period = $derived(due.list?.periods.find((p) => p.code === at));
  const mayPrepare = $derived(!!app.person && (app.person.may.remove || app.person.may.destroy));
  let name = $state('');
  let preparing = $state(false);
  const trying = new Trying();

  $effect(() => {
    void due.load(only);
  });
  $effect(() => {
    if (period && action) void due.open(period, action, only);
  });

  const turn = (change: Record<string, string>) => router.go(turned(router.params, change), 'replace');
  function choose(code: string, of: Action) {
    preparing = false;
    trying.fault = '';
    turn({ at: code, do: of });
  }
  const actionName = $derived(ACTIONS.find(([code]) => code === action)?.[1] ?? '');
  const states = $derived((due.list?.states ?? []).filter((s) => s.documents > 0));
  /** What is due in the quarters to come is prepared when it is due; a disposal carries out nothing before. */
  const canPrepare = $derived(!!period && period.code !== 'later' && (due.period?.documents ?? 0) > 0);

  async function prepare(event: SubmitEvent) {
    event.preventDefault();
    if (!period || !action) return;
    const { from, until } = period;
    const of = action;
    await trying.run(async () => {
      const made = await api.prepareDisposal({
        name: name.trim(),
        action: of,
        until: until!,
        criteria: [...(from ? [`retention_due >= ${from}`] : []), ...narrowed(only)],
      });
      router.go(`/oversight/disposals/${made.id}`);
    }, 'The disposal could not be prepared. Nothing was changed.');
  }
</script>

<div class="grid min-h-0 grid-rows-[minmax(0,1fr)_auto] overflow-hidden xl:grid-cols-[minmax(0,1fr)_360px] xl:grid-rows-1">
  <section class="min-h-0 overflow-y-auto bg-sheet px-8 py-5" aria-label="What falls due">
    <h1 class="text-[26px]">What falls due</h1>
    <div class="mt-2 flex flex-wrap gap-4">
      <label class="small block w-52"
        >Library<select class="input" value={only.library ?? ''} onchange={(e) => turn({ library: e.currentTarget.value })}
          ><option value="">all libraries</option>{#each due.list?.libraries ?? [] as one (one.code)}<option value={one.code}
              >{one.label}</option
            >{/each}</select
        ></label
      >
      <label class="small block w-80"
        >Rule<select class="input" value={only.rule ?? ''} onchange={(e) => turn({ rule: e.currentTarget.value })}
          ><option value="">all rules</option>{#each due.list?.rules ?? [] as one (one.code)}<option value={one.code}>{one.label}</option
            >{/each}</select
        ></label
      >
    </div>
    {#if due.fault}<p class="fault mt-3" role="alert">{due.fault}</p>{/if}
    {#if due.list}
      <table class="ledger mt-5 w-full table-fixed">
        <colgroup><col class="w-[34%]" /><col /><col /><col /></colgroup>
        <thead>
          <tr class="heading"
            ><th class="py-1 text-left font-medium">Due</th>{#each ACTIONS as [code, label] (code)}<th class="num font-medium">{label}</th
              >{/each}</tr
          >
        </thead>
        <tbody>
          {#each due.list.periods as one (one.code)}
            <tr class:this={one.from !== null && one.from <= due.list.today && (one.until ?? '') >= due.list.today}>
              <th scope="row" class="py-1 text-left font-normal"
                >{one.words}{#if one.from !== null && one.from <= due.list.today && (one.until ?? '') >= due.list.today}<span class="quiet">
                    , this quarter</span
                  >{/if}</th
              >
              {#each ACTIONS as [code, label] (code)}
                {@const n = one.counts[code]}
                <td class="p-0"
                  >{#if n > 0}<button
                      class="cell"
                      class:here={at === one.code && action === code}
                      aria-pressed={at === one.code && action === code}
                      aria-label={`${one.words}, ${label}: ${plural(n, 'document', 'documents')}`}
                      onclick={() => choose(one.code, code)}
                      ><span class="bar" style={`width:${Math.max(2, (100 * n) / due.most)}%`}></span><span class="num">{count(n)}</span
                      ></button
                    >{:else}<span class="cell num quiet" aria-hidden="true">–</span>{/if}</td
                >
              {/each}
            </tr>
          {/each}
        </tbody>
      </table>
      <h2 class="mt-7 text-[18px]">How all documents stand</h2>
      <ul class="mt-1 max-w-xl">
        {#each states as state (state.state)}
          <li class="flex items-baseline gap-3 border-t border-hair py-1">
            <a class="flex-1" href={findUrl([`retention == ${state.state}`, ...narrowed(only)])}>{state.label}</a>
            {#if state.state === 'no_date'}<span class="small text-rust">their period cannot be counted</span>{/if}
            <span class="num">{count(state.documents)}</span>
          </li>
        {/each}
      </ul>
      <p class="small quiet mt-2">
        Of the documents that you may see. Rules are part of the design: with concepts of schemes, document types and dossier kinds.
      </p>
    {:else if !due.fault}<p class="quiet mt-5" role="status">Counting…</p>{/if}
  </section>
  <aside
    class="min-h-0 overflow-y-auto border-t border-hair px-5 py-5 max-xl:max-h-[45vh] xl:border-t-0 xl:border-l"
    aria-label="Documents of the chosen number"
  >
    {#if period && action}
      <h2 class="text-[18px]">{period.words}: {actionName.toLowerCase()}</h2>
      {#if due.period}
        <p class="mt-1">
          <a href={findUrl(criteriaOf(period, action, only))}>{plural(due.period.documents, 'document', 'documents')} in Find</a>
        </p>
        {#if mayPrepare && canPrepare}
          {#if preparing}
            <form class="mt-3" onsubmit={prepare}>
              <label class="heading" for="disposal-name">Name of the disposal</label>
              <input class="input" id="disposal-name" bind:value={name} maxlength="200" required />
              {#if trying.fault}<p class="fault" role="alert">{trying.fault}</p>{/if}
              <p class="mt-2 flex gap-2">
                <button class="btn btn-main" disabled={trying.busy || !name.trim()}>Prepare</button><button
                  class="btn"
                  type="button"
                  onclick={() => (preparing = false)}>Cancel</button
                >
              </p>
            </form>
          {:else}
            <p class="mt-3">
              <button
                class="btn btn-main"
                onclick={() => {
                  name = `${actionName}: ${period.words}`;
                  preparing = true;
                  void focusOn('disposal-name');
                }}>Prepare a disposal…</button
              >
            </p>
            <p class="small quiet mt-1">Nothing is done yet: it is reviewed document by document, and approved by a second person.</p>
          {/if}
        {/if}
        {#each [['By rule', due.period.rules, 'rule'], ['By library', due.period.libraries, 'library']] as const as [heading, rows, key] (key)}
          <h3 class="heading mt-4">{heading}</h3>
          <ul>
            {#each rows as row (row.code)}
              <li class="flex items-baseline gap-3 border-t border-hair py-1">
                <button class="link min-w-0 flex-1 text-left" title="Narrow to this" onclick={() => turn({ [key]: row.code })}
                  >{row.label}</button
                >
                <span class="num">{count(row.documents)}</span>
              </li>
            {/each}
          </ul>
        {/each}
      {:else}<p class="quiet mt-2" role="status">Counting…</p>{/if}
    {:else}<p class="quiet">Choose a number to see its documents by rule and library.</p>{/if}
  </aside>
</div>

<style>
  .ledger tbody tr {
    border-top: 1px solid var(--hair);
  }
  .ledger tbody tr.this th {
    font-weight: 600;
  }
  .ledger tbody tr:last-child {
    border-bottom: 3px double var(--hair);
  }
  .cell {
    position: relative;
    display: flex;
    width: 100%;
    min-height: 30px;
    align-items: center;
    justify-content: flex-end;
    padding: 0 6px;
  }
  button.cell:hover {
    background: var(--act-tint);
  }
  button.cell.here {
    background: var(--act-tint);
    box-shadow: inset 0 -2px 0 var(--act);
    font-weight: 600;
  }
  .bar {
    position: absolute;
    right: 0;
    bottom: 0;
    height: 3px;
    background: color-mix(in srgb, var(--quiet) 45%, transparent);
  }
</style>
