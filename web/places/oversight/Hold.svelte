<script lang="ts">
  import { api, messageOf } from '@/api/client';
  import type { HeldDocument, Hold } from '@/api/types';
  import { focusOn } from '@/parts/focus';
  import { count, day, moment, plural } from '@/parts/format';
  import { app } from '@/state/app.svelte';
  import { keptAddress } from '@/state/search';
  import { Trying } from '@/state/trying.svelte';
  import HoldFields from '@/parts/HoldFields.svelte';
  import { HoldForm } from '@/parts/holdForm.svelte';

  /** One hold: what it covers and why each document is in it, who keeps it, and its end. */
  let { id }: { id: number } = $props();
  let hold = $state.raw<Hold | null>(null);
  let items = $state.raw<HeldDocument[]>([]);
  let total = $state(0);
  const trying = new Trying();
  let picked = $state<string[]>([]);
  let asking = $state<'' | 'change' | 'end' | 'add'>('');
  let text = $state('');
  let form = $state.raw<HoldForm | null>(null);

  async function take(got: Hold) {
    hold = got;
    const held = await api.heldDocuments(id);
    items = held.items;
    total = held.total;
    picked = [];
  }
  // svelte-ignore state_referenced_locally
  api.hold(id).then(take, (error: unknown) => (trying.fault = messageOf(error, 'The hold cannot be shown.')));

  async function act(what: () => Promise<Hold>, says: string) {
    await trying.run(async () => {
      await take(await what());
      asking = '';
      app.say(says);
    });
  }
  function ask(which: typeof asking) {
    asking = which;
    text = trying.fault = '';
    if (which === 'change') {
      form = new HoldForm();
      form.take(hold!);
    }
    if (which === 'end' || which === 'add') void focusOn('hold-text');
  }
  /** What is the same for all of them is said once. */
  const same = $derived(items.length > 1 && items.every((i) => i.says === items[0]!.says) ? items[0]!.says : '');
  const refs = $derived(text.split(/[\s,;]+/).filter(Boolean));
  const pick = (ref: string) => (picked = picked.includes(ref) ? picked.filter((p) => p !== ref) : [...picked, ref]);
</script>

<section class="min-h-0 overflow-y-auto bg-sheet px-8 py-5" aria-label="Hold">
  {#if !hold}<p class="quiet">{trying.fault || 'Loading…'}</p>
  {:else}
    <p class="small"><a href="/oversight/holds">Holds</a></p>
    <div class="flex flex-wrap items-baseline gap-4">
      <h1 class="flex-1 text-[26px]">{hold.name}</h1>
      <p class="font-semibold whitespace-nowrap" class:quiet={!hold.in_force}>
        {hold.ended_at ? `ended ${moment(hold.ended_at)}` : hold.in_force ? 'in force' : 'not in force today'}
      </p>
    </div>
    <p class="mt-1 max-w-3xl">{hold.reason}</p>
    {#if hold.to_acknowledge}
      <p class="mt-3 flex flex-wrap items-center gap-3 border-l-2 border-brass pl-3">
        You keep what this hold covers. <button
          class="btn btn-main"
          disabled={trying.busy}
          onclick={() => void act(() => api.acknowledgeHold(id), 'Acknowledged.')}>I know of it</button
        >
      </p>
    {/if}
    <dl class="facts small mt-3">
      <dt>Owner</dt>
      <dd>{hold.owner}</dd>
      <dt>In force</dt>
      <dd>from {day(hold.from)}{hold.until ? ` until ${day(hold.until)}` : ', until it is ended'}</dd>
      {#if hold.list}<dt>Pull list</dt>
        <dd>
          {#if hold.list.own}<a href={`/lists/${hold.list.id}`}>{hold.list.name}</a>{:else}{hold.list.name}{/if}
        </dd>{/if}
      {#if hold.search_words !== null}<dt>Search</dt>
        <dd>
          {#if hold.search}<a href={keptAddress(hold.search)}>{hold.search_words || 'Open in Find'}</a>{:else}{hold.search_words}{/if}
          <span class="quiet">goes on covering what comes in</span>
        </dd>{/if}
      {#if hold.ended_at}<dt>Ended</dt>
        <dd>by {hold.ended_by}: {hold.end_reason}</dd>{/if}
    </dl>
    {#if hold.may_change}
      <p class="mt-3 flex flex-wrap gap-2">
        <button class="btn" onclick={() => ask('add')}>Add documents…</button>
        <button class="btn" onclick={() => ask('change')}>Change…</button>
        <button class="btn" onclick={() => ask('end')}>End the hold…</button>
      </p>
    {/if}
    {#if trying.fault}<p class="fault mt-2" role="alert">{trying.fault}</p>{/if}
    {#if asking === 'change' && form}
      <form
        class="mt-3 max-w-2xl border-l-2 border-act pl-4"
        onsubmit={(e) => {
          e.preventDefault();
          void act(() => api.changeHold(id, { ...form!.words, owner: form!.owner, lock_version: hold!.lock_version }), 'Saved.');
        }}
      >
        <HoldFields {form} {hold} />
        <p class="mt-3 flex gap-2">
          <button class="btn btn-main" disabled={trying.busy}>Save</button><button class="btn" type="button" onclick={() => (asking = '')}
            >Cancel</button
          >
        </p>
      </form>
    {:else if asking}
      <form
        class="mt-3 max-w-xl border-l-2 border-act pl-4"
        onsubmit={(e) => {
          e.preventDefault();
          if (asking === 'end') void act(() => api.endHold(id, text), 'The hold has ended.');
          else void act(() => api.coverByHold(id, refs), 'Covered.');
        }}
      >
        <label class="heading" for="hold-text">{asking === 'end' ? 'Why it ends' : 'References, separated by spaces or commas'}</label>
        <input class="input" class:mono={asking === 'add'} id="hold-text" bind:value={text} required maxlength="1000" />
        {#if asking === 'end'}<p class="small quiet mt-1">
            What no other hold covers can then be changed and disposed of again. The hold stays on record.
          </p>{/if}
        <p class="mt-2 flex gap-2">
          <button class="btn btn-main" disabled={trying.busy}>{asking === 'end' ? 'End the hold' : 'Add'}</button><button
            class="btn"
            type="button"
            onclick={() => (asking = '')}>Cancel</button
          >
        </p>
      </form>
    {/if}
    {#if hold.people.length > 0}
      <div class="mt-6 flex items-baseline gap-4">
        <h2 class="flex-1 text-[18px]">Custodians</h2>
        {#if hold.may_change && hold.acknowledged < hold.custodians}<button
            class="link small"
            disabled={trying.busy}
            onclick={() =>
              void api.remindOfHold(id).then(
                (got) => app.say(`${plural(got.told, 'person is', 'people are')} reminded.`),
                (error: unknown) => app.fail(error, 'Nobody was reminded.'),
              )}>Remind those who have not acknowledged it</button
          >{/if}
      </div>
      <ul>
        {#each hold.people as person (person.sign_in)}
          <li class="flex gap-4 border-t border-hair py-1">
            <span class="flex-1">{person.name}</span>
            <span class="small quiet">told {moment(person.told_at)}</span>
            <span class="small w-44 text-right" class:text-rust={!person.acknowledged_at}
              >{person.acknowledged_at ? `acknowledged ${moment(person.acknowledged_at)}` : 'not acknowledged'}</span
            >
          </li>
        {/each}
      </ul>
    {/if}
    <div class="mt-6 flex items-baseline gap-4">
      <h2 class="flex-1 text-[18px]">
        {plural(hold.documents, 'document', 'documents')}{#if same}<span class="quiet"
            >, all {same.charAt(0).toLowerCase() + same.slice(1)}</span
          >{/if}
      </h2>
      {#if picked.length > 0}<button
          class="btn"
          disabled={trying.busy}
          onclick={() => void act(() => api.releaseFromHold(id, picked), 'Released from this hold.')}
          >Release {count(picked.length)} from this hold</button
        >{/if}
    </div>
    <ul>
      {#each items as item (item.ref)}
        <li class="flex items-start gap-3 border-t border-hair py-1.5">
          {#if hold.may_change}<span class="flex min-h-6 min-w-6 items-center"
              >{#if item.why === 'chosen'}<input
                  type="checkbox"
                  class="check"
                  checked={picked.includes(item.ref)}
                  onchange={() => pick(item.ref)}
                  aria-label={`Select ${item.title}`}
                />{/if}</span
            >{/if}
          <div class="min-w-0 flex-1">
            <a class="block truncate font-serif text-[15.5px] text-ink" href={`/documents/${item.ref}`}>{item.title}</a>
            <p class="small quiet truncate">
              <span class="mono">{item.ref}</span> · {[item.type, item.library].filter(Boolean).join(', ')}{#if item.others.length > 0}
                · also held by {item.others.join(', ')}{/if}
            </p>
          </div>
          <span class="small quiet text-right"
            >{same ? '' : item.says}{#if item.since}<span class="num block">{day(item.since)}</span>{/if}</span
          >
        </li>
      {:else}<li class="quiet py-3">No documents here.</li>{/each}
    </ul>
    {#if items.length < total}<button
        class="btn mt-3"
        onclick={async () => (items = [...items, ...(await api.heldDocuments(id, items.length)).items])}
        >Show more ({count(total - items.length)} left)</button
      >{/if}
  {/if}
</section>
