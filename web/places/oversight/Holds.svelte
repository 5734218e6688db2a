<script lang="ts">
  import { api, messageOf } from '@/api/client';
  import type { HoldRow, PullListRow } from '@/api/types';
  import { focusOn } from '@/parts/focus';
  import { count, day } from '@/parts/format';
  import { app } from '@/state/app.svelte';
  import { lists } from '@/state/lists.svelte';
  import { router } from '@/state/router.svelte';
  import HoldFields from '@/parts/HoldFields.svelte';
  import { HoldForm } from '@/parts/holdForm.svelte';

  let holds = $state.raw<HoldRow[] | null>(null);
  let fault = $state('');
  let making = $state(router.params.has('new'));
  let list = $state<number | null>(null);
  const form = new HoldForm();
  api.holds().then(
    (got) => (holds = got.holds),
    (error: unknown) => (fault = messageOf(error, 'The holds cannot be shown.')),
  );
  const mayHold = $derived(!!app.person?.may.hold);
  const free = $derived(lists.all.filter((l: PullListRow) => l.hold === null));
  const open = $derived(holds?.filter((h) => h.ended_at === null) ?? []);
  const ended = $derived(holds?.filter((h) => h.ended_at !== null) ?? []);

  async function make(event: SubmitEvent) {
    event.preventDefault();
    await form.run(
      async () => {
        const hold = await api.makeHold({ ...form.words, from: form.from || null, list });
        router.go(`/oversight/holds/${hold.id}`);
      },
      'form',
      'The hold was not made. Nothing is on hold by it.',
    );
  }
</script>

{#snippet table(rows: HoldRow[])}
  <table class="mt-1 w-full table-fixed">
    <colgroup><col /><col class="w-[22%]" /><col class="w-[24%]" /><col class="w-[20%]" /></colgroup>
    <thead>
      <tr class="heading"
        ><th class="py-1 text-left font-medium">Hold</th><th class="text-left font-medium">Owner</th><th class="text-left font-medium"
          >In force</th
        ><th class="num font-medium">acknowledged</th></tr
      >
    </thead>
    <tbody>
      {#each rows as hold (hold.id)}
        <tr class="border-t border-hair align-baseline">
          <td class="py-1.5 pr-4"
            ><a class="font-serif text-[16px]" href={`/oversight/holds/${hold.id}`}>{hold.name}</a><span class="small quiet block truncate"
              >{hold.reason}</span
            ></td
          >
          <td>{hold.owner}</td>
          <td
            >{hold.ended_at
              ? `ended ${day(hold.ended_at.slice(0, 10))}`
              : `from ${day(hold.from)}${hold.until ? ` until ${day(hold.until)}` : ''}`}{#if !hold.ended_at && !hold.in_force}<span
                class="small block text-brass-text">not today</span
              >{/if}</td
          >
          <td class="num" class:text-rust={hold.acknowledged < hold.custodians && !hold.ended_at}
            >{hold.custodians === 0 ? '' : `${count(hold.acknowledged)} of ${count(hold.custodians)}`}</td
          >
        </tr>
      {/each}
    </tbody>
  </table>
{/snippet}

<section class="min-h-0 overflow-y-auto bg-sheet px-8 py-5" aria-label="Holds">
  <div class="flex items-baseline gap-4">
    <h1 class="flex-1 text-[26px]">Holds</h1>
    {#if mayHold && !making}<button
        class="btn btn-main"
        onclick={() => {
          making = true;
          void focusOn('new-hold');
        }}>New hold…</button
      >{/if}
  </div>
  <p class="quiet mt-1">
    What is on hold is neither changed, removed nor disposed of. A hold covers chosen documents, a pull list, or a search that goes on
    covering what comes in: in Find, choose <em>Hold</em> in the menu for all that is found.
  </p>
  {#if fault}<p class="fault mt-3" role="alert">{fault}</p>{/if}
  {#if making}
    <form class="mt-4 max-w-2xl border-l-2 border-act pl-4" id="new-hold" tabindex="-1" onsubmit={make}>
      <HoldFields {form} />
      <label class="mt-2 block"
        ><span class="heading">Covers the pull list</span><select class="input" style="width:auto" bind:value={list}
          ><option value={null}>none; documents are chosen later</option>{#each free as l (l.id)}<option value={l.id}>{l.name}</option
            >{/each}</select
        ></label
      >
      <p class="mt-3 flex gap-2">
        <button class="btn btn-main" disabled={form.busy}>Create hold</button><button
          class="btn"
          type="button"
          onclick={() => (making = false)}>Cancel</button
        >
      </p>
    </form>
  {/if}
  {#if holds?.length === 0}<p class="quiet mt-5">Nothing is on hold.</p>
  {:else if holds}
    {#if open.length > 0}<div class="mt-5">{@render table(open)}</div>{/if}
    {#if ended.length > 0}<h2 class="mt-8 text-[18px]">Ended</h2>
      {@render table(ended)}{/if}
  {:else if !fault}<p class="quiet mt-5" role="status">Loading…</p>{/if}
</section>
