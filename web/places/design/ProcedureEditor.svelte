<script lang="ts">
  import type { ProcedurePart } from '@/api/types';
  import { count, plural } from '@/parts/format';
  import { took } from '@/parts/took';
  import { app } from '@/state/app.svelte';
  import IconArrowDown from '@lucide/svelte/icons/arrow-down';
  import IconArrowUp from '@lucide/svelte/icons/arrow-up';
  import IconX from '@lucide/svelte/icons/x';
  import CriterionEditor from './CriterionEditor.svelte';
  import { draft as whole } from './draft.svelte';
  import { Editing } from './editing.svelte';
  import EditorFrame from './EditorFrame.svelte';
  import NameAndCode from './NameAndCode.svelte';
  import OrderedCodes from './OrderedCodes.svelte';
  import Plan from './Plan.svelte';
  import { newStep, saysOf, STEP_KINDS, wholeStep, withoutStep, type ProcedureStep } from './procedure';
  import { ProcedureTrying } from './procedureTrial.svelte';
  import RunningCases from './RunningCases.svelte';
  import StepEditor from './StepEditor.svelte';

  let { procedure }: { procedure: ProcedurePart | null } = $props();
  const done = wholeStep({ code: 'done', name: 'Done', kind: 'end' });
  // svelte-ignore state_referenced_locally
  const editing = new Editing<ProcedurePart>('procedures', procedure, {
    code: '',
    name: '',
    types: [],
    begins: 'filing',
    criterion: '',
    keepers: whole.groups[0] ?? '',
    steps: [{ ...newStep('ask', 'Check', [done]), who: [{ kind: 'group', value: whole.groups[0] ?? '' }] }, done],
    lock_version: 1,
  });
  const draft = $derived(editing.draft);
  const steps = $derived(draft.steps);
  const trying = new ProcedureTrying();
  let open = $state('');
  let kind = $state<ProcedureStep['kind']>('ask');
  let adding = $state('');

  /** The fields that documents of all its types have. */
  const fields = $derived.by(() => {
    const types = app.design!.types.filter((type) => draft.types.includes(type.code));
    return app
      .design!.fields.filter((field) => types.every((type) => type.fields.some((entry) => entry.code === field.code)))
      .map((field) => ({ value: field.code, label: field.label }));
  });
  const change = (next: ProcedureStep[]) => {
    draft.steps = next;
    trying.result = null;
  };
  function make(name: string, of: ProcedureStep['kind'] = 'ask'): string {
    const step = newStep(of, name, steps);
    // Ends stay at the foot of the list.
    const at = of === 'end' ? steps.length : steps.findIndex((other) => other.kind === 'end');
    change(at < 0 ? [...steps, step] : [...steps.slice(0, at), step, ...steps.slice(at)]);
    return step.code;
  }
  function move(index: number, by: 1 | -1) {
    const next = [...steps];
    [next[index], next[index + by]] = [next[index + by]!, next[index]!];
    change(next);
  }
  const faultsOf = (code: string) => (trying.result?.faults ?? []).filter((fault) => fault.step === code);
  const nobody = $derived((trying.result?.steps ?? []).filter((step) => step.nobody > 0));
  const lost = $derived(
    (trying.result?.steps ?? []).flatMap((step) => step.decisions.filter((of) => of.lost > 0).map((of) => ({ step, lost: of.lost }))),
  );
  const nameOf = (code: string) => steps.find((step) => step.code === code)?.name ?? code;
</script>

<EditorFrame {editing} title={draft.name} what="procedure" wide>
  <div class="grid gap-6" style="grid-template-columns:minmax(0,1fr) minmax(0,1.16fr)">
    <div>
      <NameAndCode {editing} />
      <OrderedCodes
        label="Document types; none for all"
        codes={draft.types}
        items={app.design!.types.map((type) => ({ value: type.code, label: type.name }))}
        fault={editing.faults.types}
        onchange={(types) => (draft.types = types)}
      />
      <div class="grid grid-cols-2 gap-3 py-1.5">
        <label
          ><span class="heading">It begins</span><select class="input" bind:value={draft.begins}
            ><option value="filing">when a document is filed</option><option value="when">when a criterion comes true</option><option
              value="hand">when somebody begins it</option
            ></select
          ></label
        >
        <label
          ><span class="heading">Looked after by</span><select class="input" bind:value={draft.keepers}
            >{#each whole.groups as group (group)}<option>{group}</option>{/each}</select
          >{#if editing.faults.keepers}<span class="fault" role="alert">{editing.faults.keepers}</span>{/if}</label
        >
      </div>
      <CriterionEditor
        label={draft.begins === 'when' ? 'What comes true' : 'Only for documents that match'}
        criterion={draft.criterion}
        fault={editing.faults.criterion}
        onchange={(criterion) => (draft.criterion = criterion)}
      />
      <h3 class="mt-3 text-[17px]">Steps</h3>
      {#if editing.faults.steps}<p class="fault" role="alert">{editing.faults.steps}</p>{/if}
      <ol>
        {#each steps as step, i (step.code)}
          <li class="border-t border-hair">
            <div class="flex items-center gap-1 py-0.5">
              <span class="num quiet small w-5">{i + 1}</span>
              <button
                class="min-w-0 flex-1 py-1 text-left"
                type="button"
                aria-expanded={open === step.code}
                onclick={() => (open = open === step.code ? '' : step.code)}
                ><span class="font-medium">{step.name}</span>
                <span class="small quiet block truncate">{step.kind === 'end' ? STEP_KINDS.end : saysOf(step)}</span></button
              >
              {#if trying.of(step.code)}<span class="num small text-brass-text" title="could come here"
                  >{count(trying.of(step.code)!.documents)}</span
                >{/if}
              <button
                class="icon-btn"
                type="button"
                disabled={i === 0}
                aria-label={`Move ${step.name} up`}
                title="Up"
                onclick={() => move(i, -1)}><IconArrowUp size={15} strokeWidth={1.7} /></button
              >
              <button
                class="icon-btn"
                type="button"
                disabled={i === steps.length - 1}
                aria-label={`Move ${step.name} down`}
                title="Down"
                onclick={() => move(i, 1)}><IconArrowDown size={15} strokeWidth={1.7} /></button
              >
              <button
                class="icon-btn"
                type="button"
                aria-label={`Remove ${step.name}`}
                title="Remove"
                onclick={() => change(withoutStep(steps, step.code))}><IconX size={15} strokeWidth={1.7} /></button
              >
            </div>
            {#each faultsOf(step.code) as fault (fault.says)}<p class="fault pl-6">{fault.says}</p>{/each}
            {#if open === step.code}
              <div class="pb-3 pl-6">
                <StepEditor
                  {step}
                  {steps}
                  {fields}
                  onmake={make}
                  onchange={(next) => change(steps.map((other) => (other.code === step.code ? next : other)))}
                />
              </div>
            {/if}
          </li>
        {/each}
      </ol>
      <div class="flex items-center gap-2 border-t border-hair py-1.5">
        <input
          class="input"
          aria-label="Name of a new step"
          placeholder="New step…"
          bind:value={adding}
          onkeydown={(e) => {
            if (e.key !== 'Enter' || e.ctrlKey || adding.trim() === '') return;
            e.preventDefault();
            open = make(adding.trim(), kind);
            adding = '';
          }}
        />
        <select class="input" aria-label="Kind of the new step" bind:value={kind}
          >{#each Object.entries(STEP_KINDS) as [code, says] (code)}<option value={code}>{says}</option>{/each}</select
        >
        <button
          class="btn"
          type="button"
          disabled={adding.trim() === ''}
          onclick={() => {
            open = make(adding.trim(), kind);
            adding = '';
          }}>Add</button
        >
      </div>
    </div>
    <div class="min-w-0">
      <Plan {steps} {trying} name={draft.name} {open} onopen={(code) => (open = code)} />
      <section class="mt-5" aria-labelledby="trial">
        <h3 class="text-[17px]" id="trial">Trial</h3>
        <p class="small quiet">Runs it on documents that exist, as if they arrived now. Nothing is begun.</p>
        <div class="flex items-end gap-3 pt-1">
          <label class="min-w-0 flex-1"
            ><span class="heading">On which documents, as a search</span><input
              class="input mono"
              bind:value={trying.criterion}
              placeholder="all that you may see"
              autocomplete="off"
              onkeydown={(e) => {
                if (e.key !== 'Enter' || e.ctrlKey) return;
                e.preventDefault();
                void trying.run(draft);
              }}
            /></label
          >
          <button class="btn" type="button" disabled={trying.busy} onclick={() => void trying.run(draft)}
            >{trying.busy ? 'Trying…' : 'Try it'}</button
          >
        </div>
        {#if trying.fault}<p class="fault py-1" role="alert">{trying.fault}</p>{/if}
        {#if trying.result}
          <p class="py-1.5" role="status">It would begin with {plural(trying.result.documents, 'document', 'documents')}.</p>
          {#each faultsOf('') as fault (fault.says)}<p class="fault">{fault.says}</p>{/each}
          {#each nobody as step (step.code)}
            <p class="fault border-t border-hair py-1">
              {nameOf(step.code)}: nobody could act for {plural(step.nobody, 'document', 'documents')}, such as
              {#each step.nobody_examples as example, i (example.ref)}{i > 0 ? ', ' : ''}<a href={`/documents/${example.ref}`}
                  >{example.title}</a
                >{/each}.
            </p>
          {/each}
          {#each lost as { step, lost: number } (step.code)}
            <p class="fault border-t border-hair py-1">
              {nameOf(step.code)}: {plural(number, 'document', 'documents')} would find no way on.
            </p>
          {/each}
          <ul>
            {#each trying.result.steps.filter((step) => steps.find((of) => of.code === step.code)?.kind === 'ask') as step (step.code)}
              <li class="border-t border-hair py-1">
                <p class="flex items-baseline gap-3">
                  <span class="min-w-0 flex-1">{nameOf(step.code)}</span><span class="num">{count(step.documents)}</span>
                </p>
                <p class="small quiet">
                  {step.hours === null ? 'No case has been here yet.' : `Half of the cases were decided within ${took(step.hours)}.`}
                  {#if step.examples.length > 0}Such as {#each step.examples.slice(0, 2) as example, i (example.ref)}{i > 0 ? ', ' : ''}<a
                        href={`/documents/${example.ref}`}>{example.title}</a
                      >{/each}.{/if}
                </p>
              </li>
            {/each}
          </ul>
        {/if}
      </section>
      {#if !editing.isNew}<RunningCases code={draft.code} />{/if}
    </div>
  </div>
</EditorFrame>
