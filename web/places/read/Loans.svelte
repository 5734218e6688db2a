<script lang="ts">
  import { api } from '@/api/client';
  import type { DeliveryForm, Loan } from '@/api/types';
  import { DELIVERY_FORMS } from '@/parts/forms';
  import { moment } from '@/parts/format';
  import { app } from '@/state/app.svelte';
  import { Whole } from '@/state/whole';
  import type { Reading } from './document.svelte';

  /** Copies of the document that were lent to people outside. */
  let { reading }: { reading: Reading } = $props();
  const record = $derived(reading.record!);

  let loans = $state.raw<Loan[]>([]);
  let asks = $state(false);
  let borrower = $state('');
  let form = $state<DeliveryForm>('plain');
  let due = $state('');
  let busy = $state(false);
  const all = new Whole<{ loans: Loan[] }>(
    () => api.loans(record.ref),
    (got) => (loans = got.loans),
  );
  // svelte-ignore state_referenced_locally
  if (record.loans > 0) all.read().catch(() => {});
  const COPY = { unchanged: 'unchanged', changed: 'changed outside', gone: 'cannot be reached' };

  async function act(what: () => Promise<{ loans: Loan[]; version: number }>, done: string) {
    busy = true;
    try {
      const got = await all.change(what, (answer) => answer);
      asks = false;
      app.say(
        got.loans.some((l) => l.state === 'conflict') ? 'A newer version was made in the meantime. Decide what to do with the copy.' : done,
      );
      if (got.version !== record.version) await reading.reload();
    } catch (error) {
      app.fail(error, 'The loan was not changed. Try again.');
    } finally {
      busy = false;
    }
  }
</script>

{#if record.is_theirs_to_change || loans.length > 0}
  <h3 class="mt-4 text-[17px]">Loans</h3>
  <ul>
    {#each loans as loan (loan.id)}
      <li class="border-t border-hair py-1">
        <p>
          {loan.borrower}
          <span class="small quiet"
            >version {loan.version}, {loan.form}; lent {moment(loan.lent_at)} by {loan.by}{#if loan.due_on}, due back {moment(
                loan.due_on,
              )}{/if}</span
          >
        </p>
        {#if loan.copy}
          <p class="small links" class:text-rust={loan.state === 'conflict' || loan.copy === 'gone'}>
            <span
              >{COPY[loan.copy]}{#if loan.says}. {loan.says}{/if}</span
            >{#if loan.address}
              <a href={loan.address} target="_blank" rel="noreferrer">open the team space</a>{/if}
          </p>
          {#if record.is_theirs_to_change}
            <p class="small links">
              {#if loan.state === 'conflict'}<button
                  class="link"
                  disabled={busy}
                  onclick={() =>
                    act(() => api.returnLoan(record.ref, loan.id, true), 'It stands on top, as a new version. Compare the two.')}
                  >Make it the new version anyway</button
                >
              {:else}<button
                  class="link"
                  disabled={busy || loan.copy === 'gone'}
                  onclick={() => act(() => api.returnLoan(record.ref, loan.id), 'It is back.')}>Bring back as a version</button
                >{/if}
              <button class="link" disabled={busy} onclick={() => act(() => api.endLoan(record.ref, loan.id), 'The loan is ended.')}
                >End the loan, discard the changes</button
              >
            </p>
          {/if}
        {:else}<p class="small quiet">
            {loan.says || `Back as version ${loan.returned_version}`}{#if loan.ended_at}, {moment(loan.ended_at)}{/if}
          </p>{/if}
      </li>
    {/each}
  </ul>
  {#if record.is_theirs_to_change && !record.is_template}
    {#if asks}
      <form
        class="border-t border-hair py-1"
        onsubmit={(e) => {
          e.preventDefault();
          void act(
            () => api.lend(record.ref, { borrower: borrower.trim(), form, due_on: due || null }),
            'The copy is lent. Send them its address.',
          );
        }}
      >
        <label class="heading" for="loan-to">Borrower</label>
        <!-- svelte-ignore a11y_autofocus -->
        <input class="input" id="loan-to" bind:value={borrower} maxlength="200" autocomplete="off" autofocus />
        <label class="heading mt-1" for="loan-form">The file</label><select class="input" id="loan-form" bind:value={form}
          >{#each DELIVERY_FORMS as [value, label] (value)}<option {value}>{label}</option>{/each}</select
        >
        <label class="heading mt-1" for="loan-due">Returns automatically on</label><input
          class="input"
          id="loan-due"
          type="date"
          bind:value={due}
        />
        <p class="mt-2 flex gap-2">
          <button class="btn btn-main" disabled={busy || borrower.trim() === ''}>Lend a copy</button><button
            class="btn"
            type="button"
            onclick={() => (asks = false)}>Cancel</button
          >
        </p>
      </form>
    {:else}<p class="small links border-t border-hair py-1">
        <button class="link" onclick={() => (asks = true)}>Lend a copy to an outside team</button>
      </p>{/if}
  {/if}
{/if}
