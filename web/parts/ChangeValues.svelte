<script lang="ts">
  import { Dialog } from 'bits-ui';
  import { api, ApiError, messageOf } from '@/api/client';
  import type { ManyDocuments, ValueAct, ValuePlan } from '@/api/types';
  import { app } from '@/state/app.svelte';
  import { choicesOf } from '@/state/choices.svelte';
  import Combobox from './Combobox.svelte';
  import FieldInput from './FieldInput.svelte';
  import { count, plural } from './format';

  /** Changes one field of many documents: what it would do is shown first, and it can be undone as a whole. */
  let { of, onleave, ondone }: { of: ManyDocuments; onleave: () => void; ondone?: () => void } = $props();

  let code = $state('');
  let how = $state<ValueAct['how']>('set');
  let values = $state<string[]>([]);
  let plan = $state.raw<ValuePlan | null>(null);
  let act = $state.raw<ValueAct | null>(null);
  let faults = $state<Record<string, string>>({});
  let fault = $state('');
  let busy = $state(false);
  const field = $derived(app.design!.fields.find((f) => f.code === code));
  const ways = $derived<[ValueAct['how'], string][]>([
    ['set', 'set to'],
    ...(field?.multiple ? ([['add', 'add']] as [ValueAct['how'], string][]) : []),
    ['take', 'remove'],
    ['clear', 'clear'],
  ]);
  const HOW = { set: 'set to', add: 'given also', take: 'without', clear: 'emptied' };
  const running = $derived((act?.state === 'running' || act?.state === 'undoing') && act.stopped === '');

  $effect(() => {
    if (!act || !running) return;
    const timer = setTimeout(async () => {
      act = await api.valueAct(act!.id);
      if (act.state === 'done' || act.state === 'undone') ondone?.();
    }, 700);
    return () => clearTimeout(timer);
  });

  async function tried(what: () => Promise<void>): Promise<void> {
    busy = true;
    fault = '';
    faults = {};
    try {
      await what();
    } catch (error) {
      if (error instanceof ApiError) faults = error.fields;
      if (!faults[code]) fault = messageOf(error, 'The values were not changed. Try again.');
    } finally {
      busy = false;
    }
  }
  const asked = () => ({ ...of, field: code, how, values: how === 'clear' ? [] : values.filter((v) => v.trim() !== '') });
  const look = () => tried(async () => void (plan = await api.planValues(asked())));
  async function begun(what: () => Promise<ValueAct>) {
    await tried(async () => {
      act = await what();
      if (act.state === 'done' || act.state === 'undone') ondone?.();
    });
    // What was refused is looked at anew before it is tried again.
    if (fault) plan = null;
  }
  function lookAgain() {
    act = null;
    void look();
  }
  function choose(next: string) {
    code = next;
    values = [];
    how = 'set';
    plan = null;
  }
</script>

<Dialog.Root
  open
  onOpenChange={(open) => {
    if (!open) onleave();
  }}
>
  <Dialog.Portal>
    <Dialog.Overlay class="fixed inset-0 z-40 bg-black/25" />
    <Dialog.Content
      class="fixed top-[8vh] left-1/2 z-50 flex max-h-[84vh] w-[640px] max-w-[94vw] -translate-x-1/2 flex-col border border-hair bg-sheet shadow-xl"
    >
      <div class="px-6 pt-5 pb-2">
        <Dialog.Title class="font-serif text-xl">Change values</Dialog.Title>
        <Dialog.Description class="quiet">Changes one field of many documents at once. It can be undone.</Dialog.Description>
      </div>
      <div class="min-h-0 flex-1 overflow-y-auto px-6 pb-3">
        {#if act}
          <div role="status">
            <p class="text-[17px]">{act.field} {HOW[act.how]} {act.given}</p>
            {#if running}
              <div class="flex items-center gap-3">
                <progress class="flex-1" max={Math.max(1, act.total)} value={act.done + act.skipped} aria-label="Documents done"
                ></progress><span class="num small">{count(act.done)} of {count(act.total)}</span>
              </div>
            {:else}
              {#if act.stopped}<p class="text-rust" role="alert">{act.stopped}</p>{/if}
              <p>
                {act.state === 'undone' ? 'Undone' : 'Changed'}: {plural(act.done, 'document', 'documents')}.{#if act.skipped > 0}
                  <span class="text-rust"
                    >{plural(act.skipped, 'was', 'were')} left alone: changed or held by somebody in the meantime.</span
                  >{/if}
              </p>
            {/if}
          </div>
        {:else}
          <form
            id="change-values"
            onsubmit={(e) => {
              e.preventDefault();
              void look();
            }}
          >
            <span class="heading">Field</span>
            <Combobox
              items={app.design!.fields.map((f) => ({ value: f.code, label: f.label }))}
              value={code}
              label="Field to change"
              onchange={choose}
            />
            {#if field}
              <fieldset class="mt-2 flex flex-wrap gap-x-5">
                <legend class="sr-only">What is done</legend>
                {#each ways as [value, says] (value)}<label class="flex items-center gap-2 py-1"
                    ><input type="radio" class="check" name="how" {value} bind:group={how} onchange={() => (plan = null)} />{says}</label
                  >{/each}
              </fieldset>
              {#if how !== 'clear'}<FieldInput
                  field={how === 'set' && !field.multiple ? field : { ...field, multiple: true }}
                  required={false}
                  choices={choicesOf(field, { retired: how === 'take' })}
                  {values}
                  fault={faults[code]}
                  onchange={(next) => {
                    values = next;
                    plan = null;
                  }}
                />{:else if faults[code]}<p class="fault" role="alert">{faults[code]}</p>{/if}
            {/if}
          </form>
          {#if plan}
            <div class="mt-2 border-t border-hair pt-2" role="region" aria-label="What it would do">
              <p>
                <strong>{plural(plan.changes, 'document', 'documents')}</strong> would change{#if plan.same > 0}; {plural(
                    plan.same,
                    'has',
                    'have',
                  )} it already{/if}.
              </p>
              {#each plan.refused as refused (refused.why)}
                <details class="mt-1">
                  <summary class="cursor-pointer py-1 text-rust"
                    >{plural(refused.count, 'document is', 'documents are')} left alone. {refused.why}</summary
                  >
                  <ul class="small ml-4">
                    {#each refused.documents as d (d.ref)}<li><a href={`/documents/${d.ref}`} target="_blank">{d.title}</a></li>{/each}
                  </ul>
                </details>
              {/each}
              {#if plan.leaves.length > 0}<p class="small mt-1">
                  {plan.leaves.join(', ')}
                  {plan.leaves.length === 1 ? 'is' : 'are'} filled in by {field?.label} and {plan.leaves.length === 1 ? 'stays' : 'stay'} as {plan
                    .leaves.length === 1
                    ? 'it is'
                    : 'they are'} here. In the index sheet and in a table of values they follow.
                </p>{/if}
              {#if plan.sample.length > 0}
                <table class="mt-2 w-full">
                  <thead
                    ><tr class="text-left"
                      ><th class="heading">Document</th><th class="heading">Before</th><th class="heading">After</th></tr
                    ></thead
                  >
                  <tbody
                    >{#each plan.sample as d (d.ref)}<tr class="border-t border-hair"
                        ><td class="max-w-[280px] truncate py-0.5 pr-3 font-serif">{d.title}</td><td class="quiet pr-3"
                          >{d.before || '–'}</td
                        ><td class="font-semibold">{d.after || '–'}</td></tr
                      >{/each}</tbody
                  >
                </table>
                {#if plan.changes > plan.sample.length}<p class="small quiet mt-1">
                    and {count(plan.changes - plan.sample.length)} more.
                  </p>{/if}
              {/if}
            </div>
          {/if}
        {/if}
      </div>
      {#if fault}<p class="fault border-t border-hair px-6 pt-2" role="alert">{fault}</p>{/if}
      <p class="flex gap-2 border-t border-hair px-6 py-3">
        {#if act}
          <button class="btn btn-main" onclick={onleave}>Close</button>
          {#if act.stopped}<button class="btn" disabled={busy} onclick={() => begun(() => api.goOnValues(act!.id))}>Try again</button>{/if}
          {#if act.state === 'done' && act.skipped > 0}<button class="btn" disabled={busy} onclick={lookAgain}>Show the effect again</button
            >{/if}
          {#if act.state === 'done'}<button class="btn" disabled={busy} onclick={() => begun(() => api.undoValues(act!.id))}>Undo</button
            >{/if}
        {:else}
          {#if plan && plan.changes > 0}<button
              class="btn btn-main"
              disabled={busy}
              onclick={() => begun(() => api.changeValues({ ...asked(), changes: plan!.changes }))}
              >Change {plural(plan.changes, 'document', 'documents')}</button
            >
          {:else}<button
              class="btn btn-main"
              form="change-values"
              disabled={busy || !field || (how !== 'clear' && !values.some((v) => v.trim() !== ''))}>Show the effect</button
            >{/if}
          <button class="btn" onclick={onleave}>Cancel</button>
        {/if}
      </p>
    </Dialog.Content>
  </Dialog.Portal>
</Dialog.Root>

<style>
  progress {
    height: 6px;
    accent-color: var(--act);
  }
</style>
