<script lang="ts">
  import { api } from '@/api/client';
  import type { KeptSearch, ManyDocuments } from '@/api/types';
  import ChangeValues from '@/parts/ChangeValues.svelte';
  import MailForm from '@/parts/MailForm.svelte';
  import NewHold from '@/parts/NewHold.svelte';
  import Popover from '@/parts/Popover.svelte';
  import SheetTable from '@/parts/SheetTable.svelte';
  import Transfer from '@/parts/Transfer.svelte';
  import { count, plural } from '@/parts/format';
  import { undoAct } from '@/parts/undoing';
  import { app } from '@/state/app.svelte';
  import { Dialog } from 'bits-ui';
  import { focusOn } from '@/parts/focus';
  import { lists } from '@/state/lists.svelte';

  /** Adds what is chosen, or all that was found, to a pull list. */
  let {
    found,
    total,
    chosen,
    onclear,
    onchanged,
  }: { found: () => KeptSearch; total: number; chosen: string[]; onclear: () => void; onchanged: () => void } = $props();

  let open = $state(false);
  let changing = $state.raw<ManyDocuments | null>(null);
  let transferring = $state.raw<string[] | null>(null);
  let mailing = $state.raw<string[] | null>(null);
  let tabling = $state.raw<string[] | null>(null);
  let holding = $state.raw<{ documents: string[]; search: KeptSearch | null } | null>(null);
  let name = $state('');
  function ready() {
    if (open && !lists.known) void lists.load();
  }
  async function add(what: 'chosen' | 'all' | 'keep') {
    open = false;
    await lists.gather(what === 'chosen' ? { documents: chosen } : { search: found(), keep: what === 'keep' });
    onclear();
  }
  let removing = $state(false);
  let reason = $state('');
  async function remove(event: SubmitEvent) {
    event.preventDefault();
    try {
      const { act, removed } = await api.removeDocuments(chosen, reason.trim());
      open = removing = false;
      reason = '';
      onclear();
      onchanged();
      app.say(`${plural(removed.length, 'document is', 'documents are')} removed from view.`, {
        kept: true,
        undo: () => undoAct(act, onchanged),
      });
    } catch (error) {
      app.fail(error, 'Nothing was removed.');
    }
  }
  async function pin() {
    const pinned = [...chosen];
    open = false;
    try {
      for (const ref of pinned) await api.pin(ref, true);
      app.say(`${plural(pinned.length, 'document is', 'documents are')} pinned to your desk.`, {
        undo: () => Promise.all(pinned.map((ref) => api.pin(ref, false))),
      });
    } catch (error) {
      app.fail(error, 'They could not be pinned.');
    }
  }
  const id = $props.id();
  /** A dialog opened from here gives the focus back to the menu. */
  async function left() {
    transferring = tabling = mailing = null;
    changing = null;
    holding = null;
    await focusOn(id);
  }
  function change() {
    open = false;
    changing = chosen.length > 0 ? { documents: chosen } : { search: found() };
  }
</script>

<Popover
  label={chosen.length > 0 ? `With ${count(chosen.length)} selected…` : `With all ${count(total)}…`}
  called="With these documents"
  {id}
  bind:open
  width={290}
  onopen={ready}
>
  {#if lists.open.length > 0}
    <label class="heading" for="gather-into">Pull list to add to</label>
    <select class="input" id="gather-into" value={lists.current?.id} onchange={(e) => lists.choose(Number(e.currentTarget.value))}
      >{#each lists.open as l (l.id)}<option value={l.id}>{l.name}, {count(l.documents)}</option>{/each}</select
    >
  {/if}
  <form
    class="mt-1 flex gap-2"
    onsubmit={async (e) => {
      e.preventDefault();
      await lists.make(name.trim());
      name = '';
    }}
  >
    <input
      class="input"
      aria-label="Name of a new list"
      placeholder="a new list"
      bind:value={name}
      maxlength="200"
      autocomplete="off"
    /><button class="btn" disabled={name.trim() === ''}>Create list</button>
  </form>
  <ul class="mt-2">
    {#if chosen.length > 0}<li>
        <button class="link py-1" onclick={() => add('chosen')}>Add the {count(chosen.length)} selected</button>
        <button class="link small" onclick={onclear}>clear the selection</button>
      </li>{/if}
    <li><button class="link py-1" disabled={total === 0} onclick={() => add('all')}>Add all {count(total)} found</button></li>
    <li><button class="link py-1" disabled={total === 0} onclick={() => add('keep')}>Add all, and keep adding new matches</button></li>
    {#if app.person?.may.change}<li class="mt-1 border-t border-hair pt-1">
        <button class="link py-1" disabled={total === 0} onclick={change}
          >Change index values of the {count(chosen.length || total)} {chosen.length > 0 ? 'selected' : 'found'}…</button
        >
      </li>{/if}
    {#if chosen.length > 0}<li>
        <button class="link py-1" disabled={chosen.length > 40} onclick={pin}>Pin the {count(chosen.length)} selected to the desk</button>
      </li>{/if}
    {#if chosen.length > 0 && app.person?.may.download}<li>
        <button
          class="link py-1"
          disabled={chosen.length > 40}
          onclick={() => {
            open = false;
            mailing = chosen;
          }}>Send the {count(chosen.length)} selected as a message…</button
        >
      </li>{/if}
    {#if app.person?.may.change && chosen.length > 0}<li>
        <button
          class="link py-1"
          disabled={chosen.length > 500}
          onclick={() => {
            open = false;
            tabling = chosen;
          }}>Edit index values in a table…</button
        >
      </li>
      <li>
        <button
          class="link py-1"
          disabled={chosen.length > 500}
          onclick={() => {
            open = false;
            transferring = chosen;
          }}>Copy or move the {count(chosen.length)} selected…</button
        >
      </li>{/if}
    {#if app.person?.may.hold}<li class="mt-1 border-t border-hair pt-1">
        <button
          class="link py-1"
          disabled={total === 0}
          onclick={() => {
            open = false;
            holding = chosen.length > 0 ? { documents: chosen, search: null } : { documents: [], search: found() };
          }}>{chosen.length > 0 ? `Hold the ${count(chosen.length)} selected…` : 'Hold all that is found, and what comes in…'}</button
        >
      </li>{/if}
    {#if app.person?.may.remove && chosen.length > 0}
      <li>
        {#if removing}
          <form class="mt-1 border-l-2 border-rust pl-3" onsubmit={remove}>
            <label class="heading" for="remove-reason">Reason for removing from view</label><input
              class="input"
              id="remove-reason"
              bind:value={reason}
              maxlength="500"
              autocomplete="off"
            />
            <p class="mt-1 flex gap-2">
              <button class="btn" disabled={reason.trim() === ''}>Remove</button><button
                class="btn"
                type="button"
                onclick={() => (removing = false)}>Cancel</button
              >
            </p>
          </form>
        {:else}<button class="link py-1" onclick={() => (removing = true)}>Remove the {count(chosen.length)} selected from view…</button
          >{/if}
      </li>
    {/if}
  </ul>
  <p class="small quiet mt-1"><kbd>a</kbd> adds the current document, <kbd>x</kbd> or Ctrl+click selects it, Shift+click a stretch.</p>
  {#if lists.current}<a class="small" href={`/lists/${lists.current.id}`}>Open “{lists.current.name}”</a>{/if}
</Popover>

{#if transferring}<Transfer
    documents={transferring}
    onleave={left}
    ondone={() => {
      onclear();
      onchanged();
    }}
  />{/if}
{#if tabling}<SheetTable documents={tabling} onleave={left} ondone={onchanged} />{/if}
{#if holding}<NewHold {...holding} {total} onleave={left} ondone={onclear} />{/if}
{#if changing}<ChangeValues of={changing} onleave={left} ondone={onchanged} />{/if}
{#if mailing}
  <Dialog.Root open onOpenChange={left}>
    <Dialog.Portal>
      <Dialog.Overlay class="fixed inset-0 z-40 bg-ink/20" />
      <Dialog.Content class="fixed top-24 left-1/2 z-50 w-[420px] max-w-[94vw] -translate-x-1/2 border border-hair bg-sheet p-5 shadow-lg">
        <Dialog.Title class="mb-2 font-serif text-xl">Send {plural(mailing.length, 'document', 'documents')}</Dialog.Title>
        <MailForm
          documents={mailing}
          subject={plural(mailing.length, 'document', 'documents')}
          isRedacted
          ondone={() => {
            onclear();
            void left();
          }}
          oncancel={left}
        />
      </Dialog.Content>
    </Dialog.Portal>
  </Dialog.Root>
{/if}
