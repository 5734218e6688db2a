<script lang="ts">
  import { api, messageOf } from '@/api/client';
  import type { ProcedureFigures } from '@/api/types';
  import { count, day, plural } from '@/parts/format';
  import { took } from '@/parts/took';
  import { app } from '@/state/app.svelte';

  /** How many cases are in each step, how long they take, who decides them and how many are late. */
  const DAY = 86_400_000;
  const back = (days: number) => new Date(Date.now() - days * DAY).toISOString().slice(0, 10);
  let from = $state(back(90));
  let until = $state(back(0));
  let procedures = $state.raw<ProcedureFigures[] | null>(null);
  let fault = $state('');
  let open = $state('');

  $effect(() => {
    if (!from || !until) return;
    api.figures(from, until).then(
      (got) => {
        procedures = got.procedures;
        fault = '';
      },
      (error: unknown) => (fault = messageOf(error, 'The figures cannot be shown.')),
    );
  });
  const stepIn = (procedure: string, step: string) => `/find?c=${encodeURIComponent(`procedure_step == "${procedure}.${step}"`)}`;
</script>

<div class="h-full overflow-y-auto">
  <div class="mx-auto max-w-[1000px] px-6 py-6">
    <div class="flex flex-wrap items-end gap-4">
      <h1 class="flex-1 text-[26px]">Figures of procedures</h1>
      <label><span class="heading">Decided from</span><input class="input" type="date" bind:value={from} max={until} /></label>
      <label><span class="heading">until</span><input class="input" type="date" bind:value={until} min={from} /></label>
      {#if app.person?.may.download}<a class="btn" href={api.figuresUrl(from, until)} download>Export as CSV</a>{/if}
    </div>
    <p class="small quiet mt-1">Of the documents that you may see. <a href="/tasks">Back to the tasks</a></p>
    {#if fault}<p class="fault mt-4" role="alert">{fault}</p>
    {:else if procedures?.length === 0}<p class="quiet mt-4">You look after no procedure.</p>
    {:else}
      {#each procedures ?? [] as procedure (procedure.code)}
        <h2 class="mt-7 text-[20px]">{procedure.name}</h2>
        <p class="quiet">
          {plural(procedure.begun, 'case begun', 'cases begun')}{#each procedure.ended as end (end.name)}, {count(end.cases)}
            {end.name.toLowerCase()}{/each}
        </p>
        <table class="mt-1 w-full table-fixed">
          <colgroup><col class="w-[36%]" /><col /><col /><col class="w-[13%]" /><col /><col /><col class="w-[12%]" /><col /></colgroup>
          <thead>
            <tr class="heading">
              <th class="py-1 text-left font-medium">Step</th><th class="num font-medium">waiting</th><th class="num font-medium"
                >overdue</th
              ><th class="num font-medium">oldest since</th><th class="num font-medium">decided</th><th class="num font-medium">late</th><th
                class="num font-medium">half within</th
              ><th class="num font-medium">slowest</th>
            </tr>
          </thead>
          <tbody>
            {#each procedure.steps as step (step.code)}
              {@const name = `${procedure.code}.${step.code}`}
              <tr class="border-t border-hair">
                <td class="py-1"
                  >{step.name}
                  {#if step.people.length > 0}<button
                      class="link small ml-2"
                      aria-expanded={open === name}
                      aria-label={`By whom: ${step.name}`}
                      onclick={() => (open = open === name ? '' : name)}>by whom</button
                    >{/if}</td
                >
                <td class="num"
                  >{#if step.waiting > 0}<a href={stepIn(procedure.code, step.code)}>{count(step.waiting)}</a>{:else}0{/if}</td
                >
                <td class="num" class:text-rust={step.overdue > 0}>{count(step.overdue)}</td>
                <td class="num">{step.oldest ? day(step.oldest) : ''}</td>
                <td class="num">{count(step.decided)}</td>
                <td class="num">{count(step.late)}</td>
                <td class="num">{step.hours === null ? '' : took(step.hours)}</td>
                <td class="num">{step.slowest === null ? '' : took(step.slowest)}</td>
              </tr>
              {#if open === name}
                {#each step.people as person (person.name)}
                  <tr class="small quiet">
                    <td class="py-0.5 pl-6" colspan="4">{person.name}</td><td class="num">{count(person.decided)}</td><td></td><td
                      class="num">{took(person.hours)}</td
                    ><td></td>
                  </tr>
                {/each}
              {/if}
            {/each}
          </tbody>
          <tfoot>
            <tr class="border-t-2 border-double border-hair font-semibold">
              <td class="py-1">All steps</td>
              <td class="num">{count(procedure.steps.reduce((sum, step) => sum + step.waiting, 0))}</td>
              <td class="num">{count(procedure.steps.reduce((sum, step) => sum + step.overdue, 0))}</td>
              <td></td>
              <td class="num">{count(procedure.steps.reduce((sum, step) => sum + step.decided, 0))}</td>
              <td class="num">{count(procedure.steps.reduce((sum, step) => sum + step.late, 0))}</td>
              <td></td><td></td>
            </tr>
          </tfoot>
        </table>
      {/each}
    {/if}
  </div>
</div>
