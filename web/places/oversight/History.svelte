<script lang="ts">
  import { api, messageOf, type AuditChoices } from '@/api/client';
  import type { AuditEntry } from '@/api/types';
  import { count, day } from '@/parts/format';
  import { app } from '@/state/app.svelte';
  import { router } from '@/state/router.svelte';
  import { addressOf, askedIn, byDay, type Asked } from './asked';

  /** Who did what, when, to which document: a ledger book, the latest first. */
  const asked = $derived(askedIn(router.params));
  let entries = $state.raw<AuditEntry[]>([]);
  let next = $state<number | null>(null);
  let known = $state(false);
  let fault = $state('');
  let choices = $state.raw<AuditChoices | null>(null);
  let changing = $state(false);
  let rules = $state({ record: true, months: 0, mail: '' });
  api.auditChoices().then(
    (got) => (choices = got),
    () => undefined,
  );

  async function look(of: Asked, before: number | null) {
    fault = '';
    try {
      const got = await api.audit({ ...of, before: before === null ? '' : String(before) });
      entries = before === null ? got.entries : [...entries, ...got.entries];
      next = got.next;
      known = true;
    } catch (error) {
      fault = messageOf(error, 'The history cannot be shown.');
    }
  }
  $effect(() => {
    void look(asked, null);
  });
  const ask = (change: Partial<Asked>) => router.go(addressOf({ ...asked, ...change }), 'replace');
  const days = $derived(byDay(entries));
  const time = (at: string) => new Date(at).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit', second: '2-digit' });
  const range = $derived({ from: asked.from, until: asked.until });
  const isSame = (entry: AuditEntry, other: AuditEntry | undefined) =>
    !!other && other.detail === entry.detail && other.act === entry.act && other.by === entry.by;
  const isNarrowed = $derived(addressOf(asked) !== '/oversight/history');

  function change() {
    changing = true;
    rules = { record: choices!.readers.record, months: choices!.readers.months, mail: choices!.head_mail.join(', ') };
  }
  async function keep(event: SubmitEvent) {
    event.preventDefault();
    try {
      const got = await api.keepAuditRules({
        readers: { record: rules.record, months: rules.months },
        head_mail: rules.mail.split(/[\s,;]+/).filter(Boolean),
      });
      choices = { ...choices!, ...got };
      changing = false;
      app.say('Saved. It is in force at once.');
    } catch (error) {
      app.fail(error, 'It was not saved. Try again.');
    }
  }
</script>

<section class="min-h-0 overflow-y-auto bg-sheet px-8 py-5" aria-label="History">
  <div class="flex items-baseline gap-4">
    <h1 class="flex-1 text-[26px]">History</h1>
    {#if isNarrowed}<a class="small" href="/oversight/history">Show everything</a>{/if}
    <p class="small quiet">
      Export with its hashes: <a href={api.auditUrl('csv', range)} download>CSV</a>,
      <a href={api.auditUrl('jsonl', range)} download>JSON lines</a>
    </p>
  </div>
  <div class="filters mt-3" role="search" aria-label="Look through the history">
    <label class="small"
      >Person<select class="input" value={asked.person} onchange={(e) => ask({ person: e.currentTarget.value })}
        ><option value="">anybody</option>{#each choices?.people ?? [] as p (p.sign_in)}<option value={p.sign_in}>{p.name}</option
          >{/each}</select
      ></label
    >
    <label class="small"
      >Act<select class="input" value={asked.act} onchange={(e) => ask({ act: e.currentTarget.value })}
        ><option value="">any</option>{#each choices?.acts ?? [] as a (a.code)}<option value={a.code}>{a.says}</option>{/each}</select
      ></label
    >
    <label class="small"
      >Document<input
        class="input mono"
        placeholder="reference"
        value={asked.document}
        onchange={(e) => ask({ document: e.currentTarget.value.trim() })}
      /></label
    >
    <label class="small"
      >Library<select class="input" value={asked.library} onchange={(e) => ask({ library: e.currentTarget.value })}
        ><option value="">any</option>{#each app.design!.libraries as l (l.code)}<option value={l.code}>{l.name}</option>{/each}</select
      ></label
    >
    <label class="small"
      >From<input class="input" type="date" value={asked.from} onchange={(e) => ask({ from: e.currentTarget.value })} /></label
    >
    <label class="small"
      >Until<input class="input" type="date" value={asked.until} onchange={(e) => ask({ until: e.currentTarget.value })} /></label
    >
  </div>
  {#if fault}<p class="fault mt-3" role="alert">{fault}</p>{/if}
  {#if known && entries.length === 0}<p class="quiet mt-5">Nothing of this is in the history.</p>{/if}
  {#each days as of (of.day)}
    <h2 class="mt-5 text-[17px] first-letter:uppercase">{day(of.day)}</h2>
    <table class="w-full table-fixed">
      <colgroup><col class="w-[74px]" /><col class="w-[150px]" /><col class="w-[170px]" /><col /></colgroup>
      <tbody>
        {#each of.entries as entry, i (entry.id)}
          <tr class="border-t border-hair align-baseline">
            <td class="num small quiet py-1 pr-3" title={`Entry ${entry.id}, ${entry.hash}`}>{time(entry.at)}</td>
            <td class="truncate pr-3">{entry.by ?? '–'}</td>
            <td class="pr-3">{entry.says}</td>
            <td class="py-1">
              {#if entry.document}<a class="font-serif text-[15px]" href={`/documents/${entry.document.ref}`}
                  >{entry.document.title ?? entry.document.ref}</a
                >
                <button
                  class="small mono quiet inline-flex min-h-6 items-center underline-offset-2 hover:underline"
                  title="All that was done to this document"
                  onclick={() => ask({ document: entry.document!.ref })}>{entry.document.ref}</button
                >{#if entry.library}<span class="small quiet">, {entry.library}</span>{/if}{/if}
              <!-- What is done to many at once says once why. -->
              {#if entry.detail && !isSame(entry, of.entries[i - 1])}<span class="small quiet block break-words">{entry.detail}</span>{/if}
            </td>
          </tr>
        {/each}
      </tbody>
    </table>
  {/each}
  {#if next !== null}<button class="btn mt-4" onclick={() => void look(asked, next)}>Show earlier entries</button>{/if}
  {#if choices}
    <h2 class="mt-8 text-[18px]">What is kept of readers</h2>
    <p class="mt-1">
      {choices.readers.record
        ? `That somebody opened a document is recorded, once an hour; who it was is ${choices.readers.months === 0 ? 'kept for good' : `forgotten after ${count(choices.readers.months)} months`}.`
        : 'It is not recorded that somebody opened a document.'}
      The head of the chain is given out daily as a file{choices.head_mail.length > 0
        ? `, and mailed to ${choices.head_mail.join(', ')}`
        : ''}.
      {#if !changing}<button class="link" onclick={change}>Change…</button>{/if}
    </p>
    {#if changing}
      <form class="mt-2 max-w-xl border-l-2 border-act pl-4" onsubmit={keep}>
        <label class="flex min-h-6 items-center gap-1.5"
          ><input type="checkbox" class="check" bind:checked={rules.record} />Record that somebody opened a document</label
        >
        {#if rules.record}<label class="small mt-1 block"
            >Months after which it is forgotten who it was; 0 for never<input
              class="input num"
              style="width:80px"
              type="number"
              min="0"
              max="1200"
              bind:value={rules.months}
            /></label
          >{/if}
        <label class="small mt-2 block"
          >Mail the head of the chain daily to<input
            class="input"
            bind:value={rules.mail}
            placeholder="addresses, separated with commas"
          /></label
        >
        <p class="mt-2 flex gap-2">
          <button class="btn btn-main">Save</button><button class="btn" type="button" onclick={() => (changing = false)}>Cancel</button>
        </p>
      </form>
    {/if}
  {/if}
</section>

<style>
  .filters {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(140px, 1fr));
    gap: 8px 14px;
  }
</style>
