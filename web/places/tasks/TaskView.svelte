<script lang="ts">
  import { api, type Sought } from '@/api/client';
  import CaseRecord from '@/parts/CaseRecord.svelte';
  import { day } from '@/parts/format';
  import SheetForm from '@/parts/SheetForm.svelte';
  import { Reading } from '@/places/read/document.svelte';
  import HitStrip from '@/places/read/HitStrip.svelte';
  import Pages from '@/places/read/Pages.svelte';
  import { app } from '@/state/app.svelte';
  import { keys } from '@/state/keys.svelte';
  import IconX from '@lucide/svelte/icons/x';
  import { onDestroy, tick } from 'svelte';
  import ToSomebody from './ToSomebody.svelte';
  import { TaskWork } from './tasks.svelte';

  interface Props {
    id: number;
    onclose: () => void;
    ondecided: (id: number, says: string) => void;
    /** Somebody else has it now, or it is the person’s own. */
    onchanged: () => void;
  }
  let { id, onclose, ondecided, onchanged }: Props = $props();

  // svelte-ignore state_referenced_locally
  const work = new TaskWork(id);
  /** Nothing was searched for, so nothing is marked. */
  const NOTHING: Sought = { words: '', criteria: [] };
  let reading = $state.raw<Reading | null>(null);
  let asks = $state<'give' | 'ask' | null>(null);
  let answer = $state('');
  let remark = $state<HTMLTextAreaElement>();
  let button = $state<HTMLButtonElement>();
  onDestroy(() => reading?.close());

  void work.load().then(async () => {
    if (!work.task) return;
    const next = new Reading(work.task.document.ref, NOTHING);
    await next.load();
    reading = next;
    if (next.record) work.fill(next.record);
  });

  const task = $derived(work.task);
  const mayDecide = $derived(task !== null && !task.closed && task.hindrance === null && !task.held_by_other);

  async function choose(code: string) {
    work.choose(code);
    if (reading?.record) {
      // What is typed already stays: only fields that the decision adds are filled anew.
      const typed = { ...work.values };
      work.fill(reading.record);
      Object.assign(work.values, typed);
    }
    await tick();
    (work.decision?.comment ? remark : button)?.focus();
  }
  async function decide(event?: SubmitEvent) {
    event?.preventDefault();
    const label = work.decision?.label ?? '';
    if (await work.decide(reading?.record?.lock_version ?? 0)) {
      ondecided(id, `“${label}” for ${task!.document.title}.`);
      return;
    }
    await tick();
    document.querySelector<HTMLElement>('#task [aria-invalid=true]')?.focus();
  }
  async function act(what: () => Promise<Awaited<ReturnType<typeof api.task>>>, says: string) {
    if (await work.act(what, 'Nothing was changed. Try again.')) {
      app.say(says);
      asks = null;
      onchanged();
    }
  }
  const take = () =>
    task?.mine ? act(() => api.putBackTask(id), 'Put back for the others.') : act(() => api.takeTask(id), 'You have taken it.');

  keys.use(() => [
    {
      on: ['1', '2', '3', '4', '5', '6', '7', '8', '9'],
      shown: '1 – 9',
      what: 'Choose a decision',
      when: () => mayDecide,
      run: (event) => {
        const decision = task?.decisions[Number(event.key) - 1];
        if (decision) void choose(decision.code);
      },
    },
    {
      on: 'Enter',
      ctrl: true,
      typing: true,
      shown: 'Ctrl+Enter',
      what: 'Decide as chosen',
      when: () => mayDecide,
      run: () => void decide(),
    },
    { on: 't', what: 'Take the task, put it back', when: () => mayDecide, run: () => void take() },
    { on: 'g', what: 'Give the task to somebody', when: () => mayDecide, run: () => (asks = 'give') },
    { on: 'q', what: 'Ask somebody first', when: () => mayDecide, run: () => (asks = 'ask') },
  ]);
</script>

<div class="flex h-full flex-col" id="task">
  {#if work.fault && !task}
    <div class="p-6">
      <p class="fault" role="alert">{work.fault}</p>
      <button class="btn mt-3" onclick={onclose}>Close</button>
    </div>
  {:else if task}
    <header class="flex items-start gap-2 border-b border-hair px-4 pt-3 pb-2">
      <div class="min-w-0 flex-1">
        <p class="small quiet">
          {task.procedure.name}: {task.step.name}{#if task.due}, <span class:text-rust={task.overdue}
              >{task.overdue ? 'overdue since' : 'due'} {day(task.due)}</span
            >{/if}
        </p>
        <h2 class="text-[19px]"><a class="text-ink" href={`/documents/${task.document.ref}`}>{task.document.title}</a></h2>
      </div>
      <button class="icon-btn" onclick={onclose} aria-label="Close the task" title="Close (Esc)"
        ><IconX size={16} strokeWidth={1.7} /></button
      >
    </header>
    <div class="flex min-h-0 flex-1 flex-col overflow-y-auto lg:flex-row lg:overflow-visible">
      <div class="flex min-h-[60vh] min-w-0 flex-1 flex-col lg:min-h-0">
        {#if reading?.record}
          <HitStrip {reading} />
          <div class="min-h-0 flex-1"><Pages {reading} /></div>
        {:else if reading?.fault}<p class="fault p-4">{reading.fault}</p>{:else}<p class="quiet p-4">Loading…</p>{/if}
      </div>
      <div class="order-first flex-none border-hair px-4 py-3 lg:order-none lg:w-[320px] lg:overflow-y-auto lg:border-l">
        <h3 class="text-[18px]">{task.question}</h3>
        {#if task.hindrance}<p class="quiet mt-2">{task.hindrance}</p>
        {:else if task.held_by_other}<p class="quiet mt-2">{task.holder} has taken this.</p>{/if}
        {#if task.asked}
          <div class="mt-3 border-l-2 border-brass-text pl-3">
            <p class="small quiet">{task.asked.by} asked {task.asked.to}</p>
            <p class="whitespace-pre-line">{task.asked.text}</p>
            {#if task.asked.mine}
              <label class="heading mt-2" for="answer">Answer</label>
              <textarea id="answer" class="input" rows="3" bind:value={answer}></textarea>
              <button class="btn btn-main mt-2" disabled={work.busy} onclick={() => void act(() => api.answerTask(id, answer), 'Answered.')}
                >Answer</button
              >
            {/if}
          </div>
        {/if}
        {#if mayDecide}
          <form onsubmit={decide}>
            {#if work.entries.length > 0 && reading?.record}
              <SheetForm
                entries={work.entries}
                values={work.values}
                faults={work.faults}
                onchange={(code, given) => (work.values[code] = given)}
              />
            {/if}
            <div class="mt-3" role="group" aria-label="Decisions">
              {#each task.decisions as decision, i (decision.code)}
                <button
                  type="button"
                  class="choice"
                  aria-pressed={work.chosen === decision.code}
                  onclick={() => void choose(decision.code)}
                >
                  <span class="mono quiet w-4 flex-none" aria-hidden="true">{i + 1}</span>
                  <span class="min-w-0 flex-1 text-left"
                    ><span class="block font-medium">{decision.label}</span>{#if decision.leads.length > 0}<span class="small quiet block"
                        >then {decision.leads.join(', then ')}</span
                      >{/if}</span
                  >
                </button>
              {/each}
            </div>
            <label class="heading mt-3" for="comment">Comment{work.decision?.comment ? ' (needed)' : ''}</label>
            <textarea
              id="comment"
              class="input"
              rows="3"
              bind:value={work.comment}
              bind:this={remark}
              aria-invalid={work.fault !== '' || undefined}
              aria-describedby={work.fault ? 'task-fault' : undefined}></textarea>
            {#if work.fault}<p class="fault" id="task-fault" role="alert">{work.fault}</p>{/if}
            <button class="btn btn-main mt-3 w-full" disabled={!work.chosen || work.busy} bind:this={button}
              >{work.decision ? `Decide: ${work.decision.label}` : 'Choose a decision'}</button
            >
          </form>
          <p class="links mt-3 flex flex-wrap gap-x-4">
            {#if task.mine && task.for.length > 0}<button class="link" onclick={() => void take()}>Put back</button>
            {:else if !task.mine}<button class="link" onclick={() => void take()}>Take it</button>{/if}
            <button class="link" aria-expanded={asks === 'give'} onclick={() => (asks = asks === 'give' ? null : 'give')}>Give to…</button>
            <button class="link" aria-expanded={asks === 'ask'} onclick={() => (asks = asks === 'ask' ? null : 'ask')}>Ask first…</button>
          </p>
          {#if asks === 'give'}
            <ToSomebody
              task={id}
              toDecide
              label="Note"
              act="Give"
              onto={(to, name, text) => void act(() => api.giveTask(id, to, text), `${name} has it now.`)}
              oncancel={() => (asks = null)}
            />
          {:else if asks === 'ask'}
            <ToSomebody
              task={id}
              label="What do you want to know?"
              act="Ask"
              onto={(to, name, text) => void act(() => api.askAboutTask(id, to, text), `${name} is asked.`)}
              oncancel={() => (asks = null)}
            />
          {/if}
        {:else if work.fault}<p class="fault mt-2" role="alert">{work.fault}</p>{/if}
        <h3 class="mt-5 mb-1 text-[16px]">So far</h3>
        <CaseRecord record={task.record} />
      </div>
    </div>
  {:else}<p class="quiet p-6">Loading…</p>{/if}
</div>

<style>
  .choice {
    display: flex;
    width: 100%;
    gap: 4px;
    padding: 6px 10px;
    border: 1px solid var(--hair);
    border-bottom-width: 0;
    background: var(--sheet);
  }
  .choice:last-child {
    border-bottom-width: 1px;
  }
  .choice:hover {
    color: var(--act);
  }
  .choice[aria-pressed='true'] {
    background: var(--act-tint);
    box-shadow: inset 3px 0 0 var(--act);
  }
</style>
