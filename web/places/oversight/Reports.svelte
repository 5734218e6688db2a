<script lang="ts">
  import { api, messageOf } from '@/api/client';
  import type { Report, ReportsKept } from '@/api/types';
  import { app } from '@/state/app.svelte';
  import { router } from '@/state/router.svelte';
  import { Trying } from '@/state/trying.svelte';
  import { addressOf, askedIn, periods, type Asked } from './reports';
  import TableOfReport from './TableOfReport.svelte';

  /** Reports about the collection: each drawn and in numbers, taken away as a table, or sent every month. */
  const code = $derived(router.parts[2] ?? 'quality');
  const asked = $derived(askedIn(router.params));
  let report = $state.raw<Report | null>(null);
  let shown = $state('');
  let kept = $state.raw<ReportsKept | null>(null);
  let fault = $state('');
  let sending = $state(false);
  let people = $state<string[]>([]);
  const trying = new Trying();
  api.reports().then(
    (got) => (kept = got),
    (error: unknown) => (fault = messageOf(error, 'The reports cannot be shown.')),
  );
  $effect(() => {
    const address = addressOf(code, asked);
    let isOver = false;
    api.report(code, asked).then(
      (got) => {
        if (isOver) return;
        report = got;
        shown = address;
        fault = '';
      },
      (error: unknown) => {
        if (!isOver) fault = messageOf(error, 'The report cannot be shown.');
      },
    );
    return () => (isOver = true);
  });
  const isThere = $derived(report !== null && shown === addressOf(code, asked));
  const turn = (change: Partial<Asked>) => router.go(addressOf(code, { ...asked, ...change }), 'replace');
  /** Another report about the same period. */
  const other = (of: string) => addressOf(of, { from: asked.from, until: asked.until });
  const mine = $derived(kept?.kept.filter((of) => of.report === code) ?? []);
  const mayTake = $derived(!!app.person?.may.download);
  const libraryName = (of: string) => app.design!.libraries.find((l) => l.code === of)?.name ?? of;
  const typeName = (of: string) => app.design!.types.find((t) => t.code === of)?.name ?? of;

  async function send(event: SubmitEvent) {
    event.preventDefault();
    await trying.run(async () => {
      kept = await api.keepReport({ report: code, library: asked.library ?? null, type: asked.type ?? null, people });
      sending = false;
      app.say('It is sent at the beginning of each month, about the month before.');
    });
  }
  async function stop(id: number) {
    await trying.run(async () => {
      kept = await api.keepReportNoMore(id);
      app.say('It is not sent any more.');
    });
  }
</script>

<section class="min-h-0 overflow-y-auto bg-sheet px-8 py-5" aria-label="Reports">
  <nav class="flex flex-wrap gap-x-5 gap-y-1 border-b border-hair pb-2" aria-label="Reports">
    {#each kept?.reports ?? [] as one (one.code)}<a
        class="one"
        class:here={one.code === code}
        href={other(one.code)}
        aria-current={one.code === code ? 'page' : undefined}>{one.name}</a
      >{/each}
  </nav>
  {#if report}
    <div class="mt-4 flex max-w-4xl items-baseline gap-4">
      <h1 class="flex-1 text-[26px]">{report.name}</h1>
      {#if mayTake}<a href={api.reportUrl(code, 'ods', asked)} download>Spreadsheet (ODS)</a>{/if}
      {#if !sending}<button
          class="link"
          onclick={() => {
            people = [app.person!.sign_in];
            sending = true;
          }}>Send monthly…</button
        >{/if}
    </div>
    <div class="mt-2 flex max-w-4xl flex-wrap items-end gap-x-4 gap-y-2">
      {#if report.from !== null && report.until !== null}
        <label class="small block w-36"
          >From<input
            class="input"
            type="date"
            value={report.from}
            max={report.until}
            onchange={(e) => e.currentTarget.value && turn({ from: e.currentTarget.value, until: report!.until! })}
          /></label
        >
        <label class="small block w-36"
          >Until<input
            class="input"
            type="date"
            value={report.until}
            min={report.from}
            onchange={(e) => e.currentTarget.value && turn({ from: report!.from!, until: e.currentTarget.value })}
          /></label
        >
        <p class="small flex flex-wrap gap-x-3 pb-1.5">
          {#each periods(new Date()) as period (period.name)}<button
              class="link"
              aria-pressed={period.from === report.from && period.until === report.until}
              onclick={() => turn(period)}>{period.name}</button
            >{/each}
        </p>
      {/if}
      {#if report.narrowed_by.includes('library')}<label class="small block w-52"
          >Library<select class="input" value={asked.library ?? ''} onchange={(e) => turn({ library: e.currentTarget.value })}
            ><option value="">all libraries</option>{#each app.design!.libraries as l (l.code)}<option value={l.code}>{l.name}</option
              >{/each}</select
          ></label
        >{/if}
      {#if report.narrowed_by.includes('type')}<label class="small block w-64"
          >Document type<select class="input" value={asked.type ?? ''} onchange={(e) => turn({ type: e.currentTarget.value })}
            ><option value="">all types</option>{#each app.design!.types as t (t.code)}<option value={t.code}>{t.name}</option
              >{/each}</select
          ></label
        >{/if}
    </div>
  {/if}
  {#if fault}<p class="fault mt-3" role="alert">{fault}</p>{/if}
  {#if trying.fault}<p class="fault mt-3" role="alert">{trying.fault}</p>{/if}
  {#if sending && kept}
    <form class="mt-4 max-w-4xl border-l-2 border-act pl-4" onsubmit={send} aria-label="Send monthly">
      <p>
        “{report?.name}”{asked.library ? ` of ${libraryName(asked.library)}` : ''}{asked.type ? `, ${typeName(asked.type)}` : ''} is sent at the
        beginning of each month, about the month before, to
      </p>
      <ul class="mt-1">
        {#each kept.people as person (person.sign_in)}<li>
            <label class="inline-flex min-h-7 items-center gap-2"
              ><input type="checkbox" value={person.sign_in} bind:group={people} />{person.name}</label
            >
          </li>{/each}
      </ul>
      <p class="small quiet">
        Each gets what they may see themselves: a notice, which is mailed with the spreadsheet to those who have notices mailed at once.
      </p>
      <p class="mt-3 flex gap-2">
        <button class="btn btn-main" disabled={trying.busy || people.length === 0}>Send monthly</button><button
          class="btn"
          type="button"
          onclick={() => (sending = false)}>Cancel</button
        >
      </p>
    </form>
  {/if}
  {#if report && isThere}
    {#each report.tables as table, i (table.name)}<TableOfReport
        {table}
        csv={mayTake ? api.reportUrl(code, 'csv', { ...asked, table: String(i) }) : ''}
      />{/each}
  {:else if !fault}<p class="quiet mt-5" role="status">Counting…</p>{/if}
  {#if mine.length > 0}
    <section class="mt-8 max-w-4xl" aria-label="Sent monthly">
      <h2 class="text-[18px]">Sent monthly</h2>
      <ul>
        {#each mine as one (one.id)}<li class="flex items-baseline gap-4 border-t border-hair py-1.5">
            <span class="flex-1"
              >To {one.people.map((of) => of.name).join(', ')}{one.library ? `, ${libraryName(one.library)}` : ''}{one.type
                ? `, ${typeName(one.type)}`
                : ''}</span
            ><button class="link small" disabled={trying.busy} onclick={() => void stop(one.id)}>Stop sending</button>
          </li>{/each}
      </ul>
    </section>
  {/if}
</section>

<style>
  .one {
    padding: 3px 0;
    color: var(--ink);
    border-bottom: 2px solid transparent;
  }
  .one.here {
    border-bottom-color: var(--act);
    font-weight: 600;
  }
  [aria-pressed='true'] {
    font-weight: 600;
    text-decoration: none;
  }
</style>
