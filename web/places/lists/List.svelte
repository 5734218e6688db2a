<script lang="ts">
  import { api, messageOf } from '@/api/client';
  import type { Delivery, ListAgainst, ListCheck, PullList } from '@/api/types';
  import ChangeValues from '@/parts/ChangeValues.svelte';
  import { bytes, count, moment, plural } from '@/parts/format';
  import { keys, lead } from '@/state/keys.svelte';
  import { keptAddress } from '@/state/search';
  import { app } from '@/state/app.svelte';
  import { Whole } from '@/state/whole';
  import { lists } from '@/state/lists.svelte';
  import { router } from '@/state/router.svelte';
  import IconArrowDown from '@lucide/svelte/icons/arrow-down';
  import IconArrowUp from '@lucide/svelte/icons/arrow-up';
  import IconX from '@lucide/svelte/icons/x';
  import Deliver from './Deliver.svelte';
  import LinkForm from './LinkForm.svelte';
  import { focusOn } from '@/parts/focus';

  let { id }: { id: number } = $props();

  let place: HTMLElement | undefined = $state();
  let list = $state.raw<PullList | null>(null);
  let fault = $state('');
  let check = $state.raw<ListCheck | null>(null);
  let other = $state('');
  let against = $state.raw<ListAgainst | null>(null);
  const others = $derived(lists.all.filter((l) => l.id !== id));
  const found = (cql: string) => `/find?c=${encodeURIComponent(cql)}`;
  const compared = $derived.by(() => {
    const name = others.find((l) => String(l.id) === other)?.name;
    if (!against || name === undefined) return null;
    const [these, those] = [`pull_list == ${id}`, `pull_list == ${other}`];
    const lines = [
      { says: 'in both', of: against.both, cql: `${these} and ${those}` },
      { says: 'in this list only', of: against.here, cql: `${these} not ${those}` },
      { says: `in “${name}” only`, of: against.there, cql: `${those} not ${these}` },
    ];
    return { name, lines };
  });
  async function compare() {
    against = null;
    try {
      if (other !== '') against = await api.listAgainst(id, Number(other));
    } catch (error) {
      app.fail(error, 'The two lists could not be compared.');
    }
  }
  let asked = $state<'' | 'hold' | 'deliver' | 'share' | 'rename' | 'from'>('');
  /** The delivery whose contents are shown. */
  let contents = $state.raw<{ id: number; items: { ref: string; title: string; file: string; remark?: string }[] } | null>(null);
  async function showContents(of: number) {
    contents = contents?.id === of ? null : { id: of, items: (await api.delivery(of)).contents };
  }
  async function showMore() {
    if (contents)
      contents = { ...contents, items: [...contents.items, ...(await api.delivery(contents.id, contents.items.length)).contents] };
  }
  let reason = $state('');
  let name = $state('');
  let note = $state('');
  let linking = $state(0);
  let changing = $state(false);
  let sharing = $state<{ sign_in: string; may_change: boolean }[]>([]);
  let person = $state('');
  const formatOf = (delivery: Delivery) => list?.formats.find((f) => f.value === delivery.format);
  const STATES: Record<Delivery['state'], string> = {
    waiting: 'waiting',
    running: 'being made',
    done: '',
    failed: 'failed',
    cancelled: 'cancelled',
    expired: 'expired',
  };

  if (!lists.known) void lists.load();
  const whole = new Whole<PullList>(
    () => api.list(id),
    (got) => (list = got),
  );
  whole.read().catch((error: unknown) => (fault = messageOf(error, 'The list cannot be shown.')));
  // What is being made in the background is watched while it is.
  $effect(() => {
    if (!list?.deliveries.some((d) => d.state === 'waiting' || d.state === 'running')) return;
    const timer = setTimeout(() => void whole.read().catch((error: unknown) => app.fail(error, 'Progress cannot be shown.')), 1200);
    return () => clearTimeout(timer);
  });

  async function act(what: () => Promise<PullList>, done = ''): Promise<boolean> {
    try {
      await whole.change(what, (got) => got);
      asked = '';
      void lists.load();
      if (done) app.say(done);
      return true;
    } catch (error) {
      app.fail(error, 'The list could not be changed. Try again.');
      return false;
    }
  }
  function ask(what: typeof asked) {
    asked = asked === what ? '' : what;
    if (asked === 'hold') void focusOn('hold-reason');
    reason = '';
    name = list!.name;
    note = list!.note;
    sharing = list!.people.map(({ sign_in, may_change }) => ({ sign_in, may_change }));
  }
  async function takeOut(ref: string) {
    if (!(await act(() => api.takeOutOfList(id, [ref])))) return;
    app.say('Removed from the list.', { undo: () => act(async () => (await api.addToList(id, { documents: [ref] }), await api.list(id))) });
  }
  function move(index: number, by: 1 | -1) {
    const items = list!.items;
    const before = by < 0 ? items[index - 1]?.ref : items[index + 2]?.ref;
    void act(() => api.listItem(id, items[index]!.ref, { before: before ?? null }));
  }
  async function remove() {
    try {
      await api.removeList(id);
      router.go('/lists');
      app.say(`“${list!.name}” is removed.`, { undo: () => api.restoreList(id).then(() => router.go(`/lists/${id}`)) });
    } catch (error) {
      app.fail(error, 'It could not be removed.');
    }
  }
  const addAll = (refs: string[]) =>
    act(
      async () => (await api.addToList(id, { documents: refs }), (check = null), await api.list(id)),
      `${plural(refs.length, 'document', 'documents')} added.`,
    );
  keys.use(() => [
    { on: 'l', what: 'To the documents', run: () => lead(place, 'ol a') },
    { on: 'd', what: 'Deliver', run: () => lead(place, '[data-act=deliver]', true) },
    { on: 'c', what: 'Check that it is complete', run: () => lead(place, '[data-act=check]', true) },
    { on: 'h', what: 'Put on hold, or end the hold', run: () => lead(place, '[data-act=hold]', true) },
  ]);
</script>

{#if fault}
  <div class="p-10">
    <h1 class="text-2xl">List not found</h1>
    <p class="quiet mt-2">{fault} <a href="/lists">All lists</a></p>
  </div>
{:else if list}
  <div class="place" bind:this={place}>
    <section class="flex min-h-0 flex-col bg-sheet" aria-label="Documents of the list">
      <header class="flex-none border-b border-hair px-6 py-3">
        <div class="flex items-baseline gap-3">
          <h1 class="min-w-0 flex-1 truncate text-[24px]">{list.name}</h1>
          {#if list.documents > 0}<a class="small" href={found(`pull_list == ${id}`)}>Show in Find</a>{/if}
          <span class="num quiet">{plural(list.documents, 'document', 'documents')}, {bytes(list.bytes)}</span>
        </div>
        {#if list.note}<p class="quiet">{list.note}</p>{/if}
        {#if list.hold}<p class="text-rust" role="status">On hold since {moment(list.hold.at)}: {list.hold.reason}</p>{/if}
        {#if list.frozen_at}<p class="quiet">Frozen since {moment(list.frozen_at)}: no document can be added or removed.</p>{/if}
        {#if list.search}<p class="small quiet">
            New documents found by <a href={keptAddress(list.search)}>its search</a> are added. {#if list.may_change}<button
                class="link"
                onclick={() => act(() => api.unfollow(id))}>Stop adding</button
              >{/if}
          </p>{/if}
      </header>
      <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
      <ol class="min-h-0 flex-1 overflow-y-auto" aria-label="Documents" tabindex="0">
        {#each list.items as item, i (item.ref)}
          <li class="item flex items-center gap-3 border-b border-hair px-6 py-1">
            <span class="num quiet small w-7">{i + 1}</span>
            <div class="min-w-0 flex-1">
              <a class="block truncate font-serif text-[15.5px] text-ink" href={`/documents/${item.ref}`}>{item.title}</a>
              <p class="small quiet truncate">{item.library}{item.type ? ` · ${item.type}` : ''} · <span class="mono">{item.ref}</span></p>
            </div>
            <input
              class="input small note"
              class:blank={!item.note}
              style="width:200px;min-height:28px"
              value={item.note}
              placeholder="note"
              aria-label={`Note on ${item.title}`}
              disabled={!list.may_change}
              onchange={(e) => act(() => api.listItem(id, item.ref, { note: e.currentTarget.value }))}
            />
            {#if list.may_change}
              <button class="icon-btn" disabled={i === 0} aria-label={`Move ${item.title} up`} title="Up" onclick={() => move(i, -1)}
                ><IconArrowUp size={15} strokeWidth={1.7} /></button
              >
              <button
                class="icon-btn"
                disabled={i === list.items.length - 1}
                aria-label={`Move ${item.title} down`}
                title="Down"
                onclick={() => move(i, 1)}><IconArrowDown size={15} strokeWidth={1.7} /></button
              >
              <button
                class="icon-btn"
                disabled={!!list.hold}
                aria-label={`Remove ${item.title} from the list`}
                title="Remove"
                onclick={() => takeOut(item.ref)}><IconX size={15} strokeWidth={1.7} /></button
              >
            {/if}
          </li>
        {:else}<li class="quiet px-6 py-4">
            The list is empty. In Find, press <kbd>a</kbd> on a document, or add all that was found.
          </li>{/each}
        {#if list.documents > list.items.length}<li class="quiet px-6 py-3">
            and {count(list.documents - list.items.length)} more, which are delivered and held like these.
          </li>{/if}
      </ol>
    </section>
    <aside class="overflow-y-auto border-l border-hair px-5 py-4" aria-label="What to do with the list">
      <p class="flex flex-wrap gap-2">
        {#if app.person?.may.download}<button
            class="btn btn-main"
            data-act="deliver"
            title="Deliver (d)"
            aria-expanded={asked === 'deliver'}
            disabled={list.documents === 0}
            onclick={() => ask('deliver')}>Deliver</button
          >{/if}
        <button
          class="btn"
          data-act="check"
          title="Check (c)"
          onclick={async () => (check = check ? null : await api.checkList(id))}
          aria-expanded={check !== null}>Check completeness</button
        >
        {#if app.person?.may.hold}<button
            class="btn"
            data-act="hold"
            title="Hold (h)"
            aria-expanded={asked === 'hold'}
            onclick={() => (list!.hold ? void act(() => api.holdList(id, null), 'The hold is ended.') : ask('hold'))}
            >{list.hold ? 'End the hold' : 'Put on hold'}</button
          >{/if}
        {#if app.person?.may.change}<button class="btn" disabled={list.documents === 0 || !!list.hold} onclick={() => (changing = true)}
            >Change values</button
          >{/if}
        {#if list.own}<button class="btn" onclick={() => act(() => api.freezeList(id, !list!.frozen_at))}
            >{list.frozen_at ? 'Unfreeze' : 'Freeze'}</button
          >{/if}
      </p>
      {#if asked === 'hold'}
        <form
          class="mt-3 border-l-2 border-act pl-3"
          onsubmit={(e) => {
            e.preventDefault();
            void act(() => api.holdList(id, reason.trim()), 'On hold: nothing in it can be changed or disposed of.');
          }}
        >
          <label class="heading" for="hold-reason">Reason</label><input
            class="input"
            id="hold-reason"
            bind:value={reason}
            maxlength="500"
            autocomplete="off"
            placeholder="Shown to anyone the hold stops"
          />
          <p class="mt-2 flex gap-2">
            <button class="btn btn-main" disabled={reason.trim() === ''}>Put on hold</button><button
              class="btn"
              type="button"
              onclick={() => (asked = '')}>Cancel</button
            >
          </p>
        </form>
      {:else if asked === 'deliver'}
        <Deliver
          name={list.name}
          formats={list.formats}
          ondeliver={(settings) =>
            act(async () => (await api.deliver(id, settings), await api.list(id)), 'It is being made in the background.')}
          onleave={() => (asked = '')}
        />
      {/if}
      {#if check}
        <div class="mt-4 border-t border-hair pt-2" role="region" aria-label="Check of the list">
          <h2 class="text-[17px]">Is it complete?</h2>
          {#if check.missing.length === 0}<p class="quiet">Nothing that belongs to these documents is missing.</p>
          {:else}
            <p>
              {plural(check.missing.length, 'document that belongs', 'documents that belong')} to these {check.missing.length === 1
                ? 'is'
                : 'are'} not in the list.{#if list.may_change}
                <button class="link" onclick={() => addAll(check!.missing.map((m) => m.ref))}>Add them</button>{/if}
            </p>
            <ul>
              {#each check.missing as m (m.ref)}<li class="border-t border-hair py-1">
                  <a class="font-serif" href={`/documents/${m.ref}`}>{m.title}</a> <span class="small quiet">{m.why}</span>
                </li>{/each}
            </ul>
          {/if}
          {#if check.compared}
            <h3 class="heading mt-3">Against its search today</h3>
            <p>
              The search would now find {count(check.compared.new)} more; {count(check.compared.gone)} in the list no longer match it.{#if check.compared.new > 0 && list.may_change}
                <button class="link" onclick={() => addAll(check!.compared!.new_documents.map((d) => d.ref))}>Add the new ones</button>{/if}
            </p>
            <ul class="small">
              {#each [...check.compared.new_documents.map( (d) => ({ ...d, sign: '+' }) ), ...check.compared.gone_documents.map( (d) => ({ ...d, sign: '−' }) )].slice(0, 40) as d (d.sign + d.ref)}<li
                  class="truncate border-t border-hair py-0.5"
                >
                  <span class="quiet">{d.sign}</span> <a href={`/documents/${d.ref}`}>{d.title}</a>
                </li>{/each}
            </ul>
          {/if}
        </div>
      {/if}
      {#if others.length > 0 && list.documents > 0}
        <div class="mt-4 border-t border-hair pt-2">
          <label class="heading" for="against">Compare with</label>
          <select class="input" id="against" bind:value={other} onchange={compare}>
            <option value="">no other list</option>
            {#each others as l (l.id)}<option value={String(l.id)}>{l.name}</option>{/each}
          </select>
          {#if compared}
            <ul class="mt-1" aria-label={`Compared with ${compared.name}`}>
              {#each compared.lines as line (line.says)}
                <li class="flex gap-3 border-t border-hair py-1">
                  <span class="num w-12 text-right">{count(line.of)}</span>
                  {#if line.of > 0}<a href={found(line.cql)}>{line.says}</a>{:else}<span class="quiet">{line.says}</span>{/if}
                </li>
              {/each}
            </ul>
          {/if}
        </div>
      {/if}
      {#if list.deliveries.length > 0}
        <h2 class="mt-5 text-[17px]">Deliveries</h2>
        <ul>
          {#each list.deliveries as delivery (delivery.id)}
            {@const format = formatOf(delivery)}
            <li class="border-t border-hair py-1.5">
              <p>
                {format?.label ?? delivery.format}{#if delivery.form !== 'as it is' && format?.has_files}, {delivery.form}{/if}
                <span class="small quiet"
                  >{moment(delivery.at)}, {delivery.by}{STATES[delivery.state] ? `; ${STATES[delivery.state]}` : ''}</span
                >
              </p>
              {#if delivery.state === 'running' || delivery.state === 'waiting'}
                <div class="flex items-center gap-2" role="status">
                  <progress
                    class="flex-1"
                    max={Math.max(1, delivery.total)}
                    value={delivery.done}
                    aria-label={`Making ${format?.label ?? delivery.format}`}
                  ></progress><span class="num small">{count(delivery.done)} of {count(delivery.total)}</span><button
                    class="link small"
                    onclick={() => act(async () => (await api.cancelDelivery(delivery.id), await api.list(id)))}>Cancel</button
                  >
                </div>
              {:else if delivery.state === 'done'}
                <p class="small">
                  {#if format?.is_shown}<a href={api.deliveryFile(delivery.id)} target="_blank" rel="noreferrer">Open it to print</a
                    >{:else}<a href={api.deliveryFile(delivery.id)} download>Download</a>{/if}{#if format?.is_sent}
                    <a class="ml-2" href="/lists/outbox">Outbox</a>{/if}
                  <span class="quiet"
                    >{bytes(delivery.bytes ?? 0)}, {plural(delivery.documents, 'document', 'documents')}, until {moment(
                      delivery.expires_at,
                    )}</span
                  > <button class="link ml-2" onclick={() => (linking = linking === delivery.id ? 0 : delivery.id)}>Secure link</button>
                  <button class="link ml-2" aria-expanded={contents?.id === delivery.id} onclick={() => showContents(delivery.id)}
                    >Show contents</button
                  >
                </p>
                <p class="mono quiet truncate" style="font-size:11px" title={`SHA-256 ${delivery.sha256}`}>{delivery.sha256}</p>
                {#if contents?.id === delivery.id}<ul class="small max-h-60 overflow-y-auto" aria-label="What is in the delivery">
                    {#each contents.items as item (item.ref)}<li class="border-t border-hair py-0.5">
                        <a href={`/documents/${item.ref}`}>{item.title}</a>{#if item.remark}<span
                            class="block"
                            class:text-rust={item.file === ''}
                            class:quiet={item.file !== ''}>{item.remark}</span
                          >{/if}
                      </li>{/each}{#if contents.items.length < delivery.documents}<li class="border-t border-hair py-1">
                        <button class="link" onclick={showMore}>Show more of {plural(delivery.documents, 'document', 'documents')}</button>
                      </li>{/if}
                  </ul>{/if}
                {#if linking === delivery.id}<LinkForm of={`deliveries/${delivery.id}`} delivery={delivery.id} />{/if}
              {:else if delivery.message}<p class="small text-rust">{delivery.message}</p>{/if}
            </li>
          {/each}
        </ul>
      {/if}
      <p class="small mt-5 flex flex-wrap gap-x-4 gap-y-1 border-t border-hair pt-2">
        {#if list.may_change && !list.frozen_at && lists.all.some((l) => l.id !== id)}<button class="link" onclick={() => ask('from')}
            >Add from another list</button
          >{/if}
        {#if list.may_change}<button class="link" onclick={() => ask('rename')}>Name and note</button>{/if}
        {#if list.own}<button class="link" onclick={() => ask('share')}>Share</button><button class="link" onclick={remove}
            >Remove the list</button
          >{/if}
      </p>
      {#if asked === 'from'}
        <div class="mt-2 border-l-2 border-act pl-3">
          <label class="heading" for="list-from">All documents of the list</label><select
            class="input"
            id="list-from"
            value=""
            onchange={(e) => {
              const from = Number(e.currentTarget.value);
              if (from)
                void act(
                  async () => (await api.addToList(id, { list: from }), await api.list(id)),
                  'Its documents were added to this list.',
                );
            }}
            ><option value="">choose one</option>{#each lists.all.filter((l) => l.id !== id) as l (l.id)}<option value={l.id}
                >{l.name}, {count(l.documents)}</option
              >{/each}</select
          >
        </div>
      {/if}
      {#if asked === 'rename' || asked === 'share'}
        <form
          class="mt-2 border-l-2 border-act pl-3"
          onsubmit={(e) => {
            e.preventDefault();
            void act(() =>
              api.changeList(id, {
                name: name.trim(),
                note,
                lock_version: list!.lock_version,
                ...(asked === 'share' ? { people: sharing } : {}),
              }),
            );
          }}
        >
          {#if asked === 'rename'}
            <label class="heading" for="list-rename">Name</label><input class="input" id="list-rename" bind:value={name} maxlength="200" />
            <label class="heading mt-2" for="list-note">Note</label><textarea class="input" id="list-note" rows="2" bind:value={note}
            ></textarea>
          {:else}
            {#each sharing as p, i (p.sign_in)}<p class="flex items-center gap-3">
                <span class="mono flex-1">{p.sign_in}</span><label class="small flex items-center gap-1"
                  ><input type="checkbox" class="check" bind:checked={p.may_change} />may change</label
                ><button class="link small" type="button" onclick={() => sharing.splice(i, 1)}>out</button>
              </p>{/each}
            <label class="heading" for="share-with">Sign-in name of a person</label><input
              class="input"
              id="share-with"
              bind:value={person}
              autocomplete="off"
              onkeydown={(e) => {
                if (e.key === 'Enter' && person.trim()) {
                  e.preventDefault();
                  sharing.push({ sign_in: person.trim(), may_change: false });
                  person = '';
                }
              }}
              onblur={() => {
                if (person.trim()) {
                  sharing.push({ sign_in: person.trim(), may_change: false });
                  person = '';
                }
              }}
            />
            <p class="small quiet">Each person sees only the documents they may see.</p>
          {/if}
          <p class="mt-2 flex gap-2">
            <button class="btn btn-main">Save</button><button class="btn" type="button" onclick={() => (asked = '')}>Cancel</button>
          </p>
        </form>
      {/if}
    </aside>
  </div>
  {#if changing}<ChangeValues of={{ list: id }} onleave={() => (changing = false)} ondone={async () => (list = await api.list(id))} />{/if}
{:else}<p class="quiet p-10">Loading…</p>{/if}

<style>
  .place {
    display: grid;
    height: 100%;
    grid-template-columns: minmax(0, 1fr) 360px;
  }
  .note.blank:not(:focus) {
    border-color: transparent;
  }
  @media (hover: hover) {
    .item:not(:hover, :focus-within) .icon-btn,
    .item:not(:hover, :focus-within) .note.blank {
      opacity: 0;
    }
  }
  progress {
    height: 6px;
    accent-color: var(--act);
  }
  @media (max-width: 900px) {
    .place {
      display: block;
      overflow-y: auto;
    }
  }
</style>
