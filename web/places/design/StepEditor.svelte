<script lang="ts">
  import IconX from '@lucide/svelte/icons/x';
  import ActRow from './ActRow.svelte';
  import { codeOf, freeCode } from './codes';
  import OrderedCodes from './OrderedCodes.svelte';
  import PartyRow from './PartyRow.svelte';
  import { newAct, newDecision, STEP_KINDS, wholeStep, type ProcedureStep, type StepDecision } from './procedure';
  import TextRow from './TextRow.svelte';
  import WaysEditor from './WaysEditor.svelte';

  interface Props {
    step: ProcedureStep;
    steps: ProcedureStep[];
    /** The fields that all its documents have. */
    fields: { value: string; label: string }[];
    onchange: (step: ProcedureStep) => void;
    onmake: (name: string) => string;
  }
  let { step: given, steps, fields, onchange, onmake }: Props = $props();
  const step = $derived(wholeStep(given));
  const set = (change: Partial<ProcedureStep>) => onchange({ ...step, ...change });
  const asked = $derived(steps.filter((other) => other.kind === 'ask' && other.code !== step.code));
  const setDecision = (index: number, change: Partial<StepDecision>) =>
    set({ decisions: step.decisions.map((decision, i) => (i === index ? { ...decision, ...change } : decision)) });
  function addDecision() {
    const code = freeCode(
      'decision',
      step.decisions.map((decision) => decision.code),
    );
    set({ decisions: [...step.decisions, newDecision(code, '', '')] });
  }
  /** A decision that nobody made yet is called as it is labelled. */
  const named = (decision: StepDecision, label: string) =>
    /^decision(_\d+)?$/.test(decision.code) && label.trim() !== ''
      ? {
          label,
          code: freeCode(
            codeOf(label) || 'decision',
            step.decisions.filter((other) => other !== decision).map((other) => other.code),
          ),
        }
      : { label };
  const deadline = $derived(step.deadline ?? null);
  const DEADLINE: NonNullable<ProcedureStep['deadline']> = { days: 5, reminder: null, then: 'stay', to: null, decision: '' };
  const setDeadline = (change: Partial<NonNullable<ProcedureStep['deadline']>>) =>
    set({ deadline: { ...(deadline ?? DEADLINE), ...change } });
  const whole = (text: string) => Math.max(1, Math.round(Number(text)) || 1);
  const notBy = (who: string, on: boolean) => set({ not_by: on ? [...step.not_by, who] : step.not_by.filter((other) => other !== who) });
  const kinds = Object.entries(STEP_KINDS) as [ProcedureStep['kind'], string][];
</script>

<TextRow label="Name of the step" value={step.name} oninput={(name) => set({ name })} />
<label class="block py-1.5"
  ><span class="heading">What happens in it</span><select
    class="input"
    value={step.kind}
    onchange={(e) => set({ kind: e.currentTarget.value as ProcedureStep['kind'] })}
    >{#each kinds as [code, says] (code)}<option value={code}>{says}</option>{/each}</select
  ></label
>
{#if step.kind === 'ask'}
  <fieldset class="py-1.5">
    <legend class="heading">Who is asked</legend>
    {#each step.who as party, i (i)}
      <PartyRow
        label={`Who is asked, ${i + 1}`}
        {party}
        onchange={(next) => set({ who: step.who.map((other, at) => (at === i ? next : other)) })}
        onremove={() => set({ who: step.who.filter((_, at) => at !== i) })}
      />
    {/each}
    <button class="link small" type="button" onclick={() => set({ who: [...step.who, { kind: 'group', value: '' }] })}
      >{step.who.length === 0 ? 'Say who is asked' : 'Ask somebody else as well'}</button
    >
    {#if step.who.length > 1}
      <select
        class="input mt-1"
        aria-label="How they are asked"
        value={step.mode}
        onchange={(e) => set({ mode: e.currentTarget.value as ProcedureStep['mode'] })}
        ><option value="any">one of them decides for all</option><option value="all">all at once: each must make the first decision</option
        ><option value="turn">one after the other: each must make the first decision</option></select
      >
    {/if}
  </fieldset>
  <fieldset class="py-1.5">
    <legend class="heading">Who may not decide</legend>
    <div class="flex flex-wrap gap-x-4">
      <label class="inline-flex min-h-6 items-center gap-1.5"
        ><input
          type="checkbox"
          class="check"
          checked={step.not_by.includes('filer')}
          onchange={(e) => notBy('filer', e.currentTarget.checked)}
        />who filed it</label
      >
      {#each asked as other (other.code)}
        <label class="inline-flex min-h-6 items-center gap-1.5"
          ><input
            type="checkbox"
            class="check"
            checked={step.not_by.includes(other.code)}
            onchange={(e) => notBy(other.code, e.currentTarget.checked)}
          />who decided in “{other.name}”</label
        >
      {/each}
    </div>
  </fieldset>
  <TextRow label="What they are asked, in a sentence" value={step.question} oninput={(question) => set({ question })} />
  <OrderedCodes
    label="Fields to be filled or checked"
    codes={step.sheet.map((entry) => entry.code)}
    items={fields}
    onchange={(codes) => set({ sheet: codes.map((code) => step.sheet.find((entry) => entry.code === code) ?? { code, required: false }) })}
  >
    {#snippet extra(code)}
      <label class="small inline-flex items-center gap-1"
        ><input
          type="checkbox"
          class="check"
          checked={step.sheet.find((entry) => entry.code === code)?.required ?? false}
          onchange={(e) =>
            set({ sheet: step.sheet.map((entry) => (entry.code === code ? { ...entry, required: e.currentTarget.checked } : entry)) })}
        />required</label
      >
    {/snippet}
  </OrderedCodes>
  <fieldset class="py-1.5">
    <legend class="heading">Decisions</legend>
    {#each step.decisions as decision, i (i)}
      <div class="border-t border-hair py-1">
        <div class="flex items-center gap-2">
          <input
            class="input"
            aria-label={`Label of decision ${i + 1}`}
            placeholder="Approve, return…"
            value={decision.label}
            oninput={(e) => setDecision(i, named(decision, e.currentTarget.value))}
          />
          <label class="small inline-flex items-center gap-1 whitespace-nowrap"
            ><input
              type="checkbox"
              class="check"
              checked={decision.comment ?? false}
              onchange={(e) => setDecision(i, { comment: e.currentTarget.checked })}
            />needs a comment</label
          >
          <button
            class="icon-btn"
            type="button"
            aria-label={`Remove decision ${i + 1}`}
            title="Remove"
            onclick={() => set({ decisions: step.decisions.filter((_, at) => at !== i) })}><IconX size={14} strokeWidth={1.7} /></button
          >
        </div>
        <div class="pt-1 pl-4">
          <WaysEditor
            label={`Ways on after ${decision.label || 'the decision'}`}
            ways={decision.ways ?? []}
            {steps}
            {onmake}
            onchange={(ways) => setDecision(i, { ways })}
          />
        </div>
      </div>
    {/each}
    <button class="link small" type="button" onclick={addDecision}>Add a decision</button>
  </fieldset>
  <fieldset class="py-1.5">
    <legend class="heading">Deadline</legend>
    <label class="inline-flex min-h-6 items-center gap-1.5"
      ><input
        type="checkbox"
        class="check"
        checked={deadline !== null}
        onchange={(e) => set({ deadline: e.currentTarget.checked ? DEADLINE : null })}
      />It has to be decided in some working days</label
    >
    {#if deadline}
      <div class="grid grid-cols-2 gap-3 pt-1">
        <label
          ><span class="heading">Working days</span><input
            class="input"
            inputmode="numeric"
            value={deadline.days}
            onchange={(e) => setDeadline({ days: whole(e.currentTarget.value) })}
          /></label
        >
        <label
          ><span class="heading">Reminder after, empty for none</span><input
            class="input"
            inputmode="numeric"
            value={deadline.reminder ?? ''}
            onchange={(e) => setDeadline({ reminder: e.currentTarget.value.trim() === '' ? null : whole(e.currentTarget.value) })}
          /></label
        >
      </div>
      <label class="block pt-1"
        ><span class="heading">Afterwards</span><select
          class="input"
          value={deadline.then ?? 'stay'}
          onchange={(e) => setDeadline({ then: e.currentTarget.value as 'stay' | 'give' | 'decide' })}
          ><option value="stay">it stays there, and counts as overdue</option><option value="give">others are asked instead</option><option
            value="decide">it counts as decided</option
          ></select
        ></label
      >
      {#if deadline.then === 'give'}
        <PartyRow label="Who is asked instead" party={deadline.to ?? { kind: 'group', value: '' }} onchange={(to) => setDeadline({ to })} />
      {:else if deadline.then === 'decide'}
        <select
          class="input mt-1"
          aria-label="What it counts as"
          value={deadline.decision ?? ''}
          onchange={(e) => setDeadline({ decision: e.currentTarget.value })}
          ><option value="">as…</option>{#each step.decisions as decision (decision.code)}<option value={decision.code}
              >{decision.label}</option
            >{/each}</select
        >
      {/if}
    {/if}
  </fieldset>
  <label class="inline-flex min-h-6 items-center gap-1.5 py-1.5"
    ><input type="checkbox" class="check" checked={step.many} onchange={(e) => set({ many: e.currentTarget.checked })} />Several documents
    may be decided at once</label
  >
{:else if step.kind === 'act'}
  <fieldset class="py-1.5">
    <legend class="heading">What is done, in this order</legend>
    {#each step.acts as act, i (i)}
      <ActRow
        {act}
        number={i + 1}
        onchange={(next) => set({ acts: step.acts.map((other, at) => (at === i ? next : other)) })}
        onremove={() => set({ acts: step.acts.filter((_, at) => at !== i) })}
      />
    {/each}
    <button class="link small" type="button" onclick={() => set({ acts: [...step.acts, newAct('stamp')] })}>Add an act</button>
  </fieldset>
  <div class="py-1.5">
    <p class="heading">Then</p>
    <WaysEditor label="Ways on" ways={step.ways} {steps} {onmake} onchange={(ways) => set({ ways })} />
  </div>
{/if}
