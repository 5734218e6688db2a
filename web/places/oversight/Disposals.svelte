<script lang="ts">
  import { api, messageOf } from '@/api/client';
  import type { DisposalRow, Stub } from '@/api/types';
  import { day, moment } from '@/parts/format';
  import { app } from '@/state/app.svelte';

  let disposals = $state.raw<DisposalRow[] | null>(null);
  let stub = $state<Stub | null>(null);
  let fault = $state('');
  let open = $state(false);
  api.disposals().then(
    (got) => (disposals = got.disposals),
    (error: unknown) => (fault = messageOf(error, 'The disposals cannot be shown.')),
  );
  api.stub().then(
    (got) => (stub = got),
    () => undefined,
  );
  const fields = $derived(app.design!.fields.filter((f) => !f.sensitive));
  const label = (code: string) => app.design!.fields.find((f) => f.code === code)?.label ?? code;
  const left = $derived(
    stub ? ['reference', 'library', 'type', ...(stub.title ? ['title'] : []), ...stub.fields.map(label)].join(', ') : '',
  );

  async function keep(event: SubmitEvent) {
    event.preventDefault();
    try {
      stub = await api.keepStub(stub!);
      open = false;
      app.say('Saved. It holds for what is destroyed from now on.');
    } catch (error) {
      app.fail(error, 'It was not saved. Try again.');
    }
  }
</script>

<section class="min-h-0 overflow-y-auto bg-sheet px-8 py-5" aria-label="Disposals">
  <h1 class="text-[26px]">Disposals</h1>
  <p class="quiet mt-1">
    What falls due together: prepared, reviewed, approved by a second person, carried out, certified. Begin one from <a href="/oversight"
      >what falls due</a
    >.
  </p>
  {#if fault}<p class="fault mt-3" role="alert">{fault}</p>{/if}
  {#if disposals?.length === 0}<p class="quiet mt-5">No disposal has been prepared yet.</p>
  {:else if disposals}
    <table class="mt-5 w-full table-fixed">
      <colgroup><col class="w-[8%]" /><col /><col class="w-[18%]" /><col class="w-[22%]" /><col class="w-[16%]" /></colgroup>
      <thead>
        <tr class="heading"
          ><th class="num py-1 pr-4 font-medium">No.</th><th class="text-left font-medium">Disposal</th><th class="text-left font-medium"
            >When due</th
          ><th class="text-left font-medium">State</th><th class="text-left font-medium">Prepared</th></tr
        >
      </thead>
      <tbody>
        {#each disposals as one (one.id)}
          <tr class="border-t border-hair align-baseline">
            <td class="num py-1.5 pr-4">{one.id}</td>
            <td class="pr-4"><a class="font-serif text-[16px]" href={`/oversight/disposals/${one.id}`}>{one.name}</a></td>
            <td>{one.action_label}</td>
            <td
              >{one.state_label}{#if one.done_at}<span class="quiet">, {moment(one.done_at)}</span>{/if}{#if one.says}<span
                  class="small block text-rust">{one.says}</span
                >{/if}</td
            >
            <td>{one.prepared_by}<span class="small quiet block">{day(one.prepared_at.slice(0, 10))}</span></td>
          </tr>
        {/each}
      </tbody>
    </table>
  {:else if !fault}<p class="quiet mt-5" role="status">Loading…</p>{/if}
  {#if stub}
    <h2 class="mt-8 text-[18px]">What stays of a destroyed document</h2>
    <p class="mt-1">{left.charAt(0).toUpperCase() + left.slice(1)}. It is found as destroyed, and cannot be changed.</p>
    {#if app.person?.may.destroy}
      {#if open}
        <form class="mt-2 max-w-2xl" onsubmit={keep}>
          <label class="flex items-center gap-1.5 py-1"
            ><input type="checkbox" class="check" bind:checked={stub.title} />its title (without it, it is called by its type)</label
          >
          <fieldset class="mt-1">
            <legend class="heading">Values</legend>
            <div class="grid grid-cols-2 gap-x-4 md:grid-cols-3">
              {#each fields as f (f.code)}<label class="flex min-h-6 items-center gap-1.5"
                  ><input type="checkbox" class="check" value={f.code} bind:group={stub.fields} />{f.label}</label
                >{/each}
            </div>
          </fieldset>
          <p class="mt-3 flex gap-2">
            <button class="btn btn-main">Save</button><button class="btn" type="button" onclick={() => (open = false)}>Cancel</button>
          </p>
        </form>
      {:else}<button class="link mt-1" onclick={() => (open = true)}>Change…</button>{/if}
    {/if}
  {/if}
</section>
