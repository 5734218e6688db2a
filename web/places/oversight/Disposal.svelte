<script lang="ts">
  import { api } from '@/api/client';
  import { focusOn } from '@/parts/focus';
  import { count, day, moment, plural } from '@/parts/format';
  import { app } from '@/state/app.svelte';
  import { keys } from '@/state/keys.svelte';
  import { Reviewing } from './reviewing.svelte';

  /** One disposal from its preparation to its certificate: piles of documents, and what is decided about them. */
  let { id }: { id: number } = $props();
  // svelte-ignore state_referenced_locally
  const work = new Reviewing(id);
  void work.load();
  $effect(() => () => work.leave());

  const of = $derived(work.disposal);
  const mayReview = $derived(!!app.person && (app.person.may.remove || app.person.may.destroy));
  const reviewing = $derived(of?.state === 'review' && mayReview);
  let asking = $state<'' | 'keep' | 'postpone' | 'return' | 'receipt'>('');
  let reason = $state('');
  let until = $state('');
  const what = $derived(work.picked.length > 0 ? `${count(work.picked.length)} selected` : `all ${count(of?.counts.undecided ?? 0)} left`);

  /** What is the same for all of them is said once. */
  const same = $derived(work.items.length > 1 && work.items.every((i) => i.rule === work.items[0]!.rule) ? work.items[0]!.rule : '');
  const TELL: Record<string, string> = {
    review: 'Decide about each document: release it, postpone it to a day, or keep it. Then hand it in for approval.',
    approval: 'Someone who neither prepared nor reviewed it approves it. Then it is carried out and cannot be undone.',
    preparing: 'What is due is being gathered.',
    packing: 'What is handed over is being put into a bag.',
    receipt: 'Send the bag to the archive. When it says that it has it, record the receipt: only then are the documents destroyed here.',
    running: 'It is being carried out, document by document.',
    done: 'It was carried out. The certificate says what was destroyed, by which rule and by whom.',
    cancelled: 'It was cancelled. Nothing of it was done.',
  };

  function ask(which: typeof asking) {
    asking = which;
    reason = '';
    until = '';
    work.fault = '';
    if (which) void focusOn('disposal-reason');
  }
  async function send(event: SubmitEvent) {
    event.preventDefault();
    const done =
      asking === 'return'
        ? await work.act('return', { reason })
        : asking === 'receipt'
          ? await work.act('receipt', { receipt: reason })
          : await work.decide(asking, reason, asking === 'postpone' ? until : null);
    if (done) asking = '';
  }
  const release = () => void work.decide('release');
  /** While a reason is asked for, letters are letters. */
  const free = $derived(!!reviewing && !asking && !work.busy);
  keys.use(() => [
    { on: 'r', run: release, what: 'Release the selected documents', when: () => free && work.picked.length > 0 },
    { on: 'p', run: () => ask('postpone'), what: 'Postpone them…', when: () => free },
    { on: 'k', run: () => ask('keep'), what: 'Keep them…', when: () => free },
  ]);
</script>

<section class="min-h-0 overflow-y-auto bg-sheet px-8 py-5" aria-label="Disposal">
  {#if !of}<p class="quiet">{work.fault || 'Loading…'}</p>
  {:else}
    <p class="small"><a href="/oversight/disposals">Disposals</a></p>
    <div class="flex flex-wrap items-baseline gap-4">
      <h1 class="flex-1 text-[26px]">{of.name}</h1>
      <p class="whitespace-nowrap">{of.action_label}: <span class="font-semibold">{of.state_label.toLowerCase()}</span></p>
    </div>
    <p class="quiet mt-1">{TELL[of.state]}</p>
    {#if of.says}<p class="mt-1 text-rust">{of.says}</p>{/if}
    <dl class="facts small mt-3">
      <dt>Covers</dt>
      <dd>{of.covers}</dd>
      <dt>Prepared</dt>
      <dd>{of.prepared_by}, {moment(of.prepared_at)}</dd>
      {#if of.submitted_by}<dt>Reviewed</dt>
        <dd>{of.submitted_by}, {moment(of.submitted_at)}</dd>{/if}
      {#if of.approved_by}<dt>Approved</dt>
        <dd>{of.approved_by}, {moment(of.approved_at)}</dd>{/if}
      {#if of.receipt}<dt>Receipt</dt>
        <dd>{of.receipt}</dd>{/if}
      {#if of.has_certificate}<dt>Certificate</dt>
        <dd>
          <a href={api.certificateUrl(of.id, 'pdf')} download>PDF</a>,
          <a href={api.certificateUrl(of.id, 'json')} download>JSON</a>
          <span class="quiet">signed by entry {count(of.certificate_entry ?? 0)} of the history</span>
        </dd>{/if}
    </dl>
    <p class="mt-3 flex flex-wrap items-center gap-2">
      {#if reviewing && of.counts.undecided === 0 && of.counts.released + of.counts.kept + of.counts.postponed > 0}
        <button class="btn btn-main" disabled={work.busy} onclick={() => void work.act('submit')}>Hand in for approval</button>
      {/if}
      {#if of.state === 'approval' && of.may.approve && app.person?.may.destroy}
        <button class="btn btn-main" disabled={work.busy} onclick={() => void work.act('approve')}
          >Approve: {of.action === 'hand_over' ? 'hand over' : 'destroy'} {plural(of.counts.released, 'document', 'documents')}</button
        >
        <button class="btn" onclick={() => ask('return')}>Return for review…</button>
      {:else if of.state === 'approval' && of.why_not_approve && app.person?.may.destroy}<span class="quiet">{of.why_not_approve}</span
        >{/if}
      {#if of.bag !== null && of.state === 'receipt'}<a class="btn" href={`/api/deliveries/${of.bag}/file`} download>Download the bag</a
        >{/if}
      {#if of.state === 'receipt' && mayReview}<button class="btn btn-main" onclick={() => ask('receipt')}>Record the receipt…</button>{/if}
      {#if of.state === 'running' && of.says && mayReview}<button class="btn btn-main" onclick={() => void work.act('go-on')}
          >Continue</button
        >{/if}
      {#if of.may.cancel && mayReview}<button class="btn" disabled={work.busy} onclick={() => void work.act('cancel')}
          >Cancel the disposal</button
        >{/if}
    </p>
    {#if work.fault}<p class="fault mt-2" role="alert">{work.fault}</p>{/if}
    {#if asking}
      <form class="mt-3 max-w-xl border-l-2 border-act pl-4" onsubmit={send}>
        <label class="heading" for="disposal-reason"
          >{asking === 'receipt'
            ? 'What the archive said: number, name, day'
            : asking === 'return'
              ? 'What has to be looked at again'
              : `Reason to ${asking} ${what}`}</label
        >
        <input class="input" id="disposal-reason" bind:value={reason} required maxlength="250" />
        {#if asking === 'postpone'}<label class="heading mt-1" for="disposal-until">Until</label><input
            class="input"
            style="width:auto"
            id="disposal-until"
            type="date"
            bind:value={until}
            required
          />{/if}
        <p class="mt-2 flex gap-2">
          <button class="btn btn-main" disabled={work.busy}
            >{{ keep: 'Keep', postpone: 'Postpone', return: 'Return for review', receipt: 'Record, and destroy' }[asking]}</button
          ><button class="btn" type="button" onclick={() => (asking = '')}>Cancel</button>
        </p>
      </form>
    {/if}
    <div class="mt-5 flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-hair pb-1">
      <div class="flex flex-wrap gap-x-4" role="group" aria-label="Which documents">
        {#each work.piles as [pile, label] (pile)}
          <button class="pile" aria-pressed={work.pile === pile} onclick={() => void work.turn(pile)}
            >{label} <span class="small quiet num">{count(of.counts[pile])}</span></button
          >
        {/each}
      </div>
      {#if reviewing && !asking && (work.picked.length > 0 || of.counts.undecided > 0)}
        <p class="small ml-auto flex items-center gap-2">
          <span class="quiet">{what}:</span>
          <button class="btn" disabled={work.busy} onclick={release}>Release</button>
          <button class="btn" disabled={work.busy} onclick={() => ask('postpone')}>Postpone…</button>
          <button class="btn" disabled={work.busy} onclick={() => ask('keep')}>Keep…</button>
        </p>
      {/if}
    </div>
    {#if same}<p class="small quiet mt-1">All of these: {same}.</p>{/if}
    <ul>
      {#each work.items as item (item.ref)}
        <li class="flex items-start gap-3 border-b border-hair py-1.5">
          {#if reviewing && item.state === 'in'}<label class="flex min-h-6 min-w-6 items-center"
              ><input
                type="checkbox"
                class="check"
                checked={work.picked.includes(item.ref)}
                onchange={() => work.pick(item.ref)}
                aria-label={`Select ${item.title}`}
              /></label
            >{/if}
          <div class="min-w-0 flex-1">
            <a class="block truncate font-serif text-[15.5px] text-ink" href={`/documents/${item.ref}`}>{item.title}</a>
            <p class="small quiet truncate">
              <span class="mono">{item.ref}</span> · {[item.type, item.library].filter(Boolean).join(', ')}{#if !same}
                · {item.rule}{/if}
            </p>
            {#if item.says}<p class="small">{item.says}</p>{/if}
            {#if item.reason}<p class="small">
                {item.decision === 'postpone' && item.until ? `To ${day(item.until)}: ` : ''}{item.reason}
                <span class="quiet">({item.decided_by})</span>
              </p>{/if}
          </div>
          <span class="small num whitespace-nowrap">{item.due ? `due ${day(item.due)}` : ''}</span>
        </li>
      {:else}<li class="quiet py-3">No documents here.</li>{/each}
    </ul>
    {#if work.items.length < work.total}<button class="btn mt-3" onclick={() => void work.more()}
        >Show more ({count(work.total - work.items.length)} left)</button
      >{/if}
  {/if}
</section>

<style>
  .pile {
    min-height: 28px;
    border-bottom: 2px solid transparent;
  }
  .pile[aria-pressed='true'] {
    border-bottom-color: var(--act);
    font-weight: 600;
  }
</style>
