<script lang="ts">
  import CriterionEditor from './CriterionEditor.svelte';
  import IconX from '@lucide/svelte/icons/x';
  import { STEP_KINDS, type ProcedureStep, type Way } from './procedure';

  interface Props {
    label: string;
    ways: Way[];
    steps: ProcedureStep[];
    onchange: (ways: Way[]) => void;
    /** Makes a step that is not there yet, and says its code. */
    onmake: (name: string) => string;
  }
  let { label, ways, steps, onchange, onmake }: Props = $props();
  let made = $state('');
  let making = $state<number | null>(null);

  const set = (index: number, change: Partial<Way>) => onchange(ways.map((way, i) => (i === index ? { ...way, ...change } : way)));
  /** A new way goes before the one that takes all others. */
  const add = () => onchange([...ways.slice(0, -1), { to: ways.at(-1)?.to ?? '', criterion: 'cql.allRecords = 1' }, ...ways.slice(-1)]);
  function choose(index: number, to: string) {
    making = to === '+' ? index : null;
    if (to !== '+') set(index, { to });
  }
</script>

<div role="group" aria-label={label}>
  {#each ways as way, i (i)}
    {@const last = i === ways.length - 1}
    <div class="border-l-2 border-hair pl-3" class:mt-1={i > 0}>
      {#if !last || way.criterion}
        <CriterionEditor label="Where this holds" criterion={way.criterion ?? ''} onchange={(criterion) => set(i, { criterion })} />
      {/if}
      <div class="flex items-center gap-2 py-0.5">
        <span class="small quiet whitespace-nowrap">{last && !way.criterion ? (ways.length > 1 ? 'All others to' : 'To') : 'To'}</span>
        <select class="input" value={way.to} aria-label={`${label}, way ${i + 1}`} onchange={(e) => choose(i, e.currentTarget.value)}
          ><option value="">nowhere yet</option>{#each steps as step (step.code)}<option value={step.code}
              >{step.name}{step.kind === 'end' ? ` (${STEP_KINDS.end})` : ''}</option
            >{/each}<option value="+">New step…</option></select
        >
        {#if ways.length > 1}<button
            class="icon-btn"
            type="button"
            aria-label={`Remove way ${i + 1}`}
            title="Remove"
            onclick={() => onchange(ways.filter((_, at) => at !== i))}><IconX size={14} strokeWidth={1.7} /></button
          >{/if}
      </div>
      {#if making === i}
        <div class="flex items-center gap-2 pb-1">
          <!-- svelte-ignore a11y_autofocus -->
          <input class="input" bind:value={made} aria-label="Name of the new step" placeholder="Name of the new step" autofocus />
          <button
            class="btn"
            type="button"
            disabled={made.trim() === ''}
            onclick={() => {
              set(i, { to: onmake(made.trim()) });
              made = '';
              making = null;
            }}>Create step</button
          >
        </div>
      {/if}
    </div>
  {:else}
    <button class="link small" type="button" onclick={() => onchange([{ to: '', criterion: '' }])}>Say where it goes on</button>
  {/each}
  {#if ways.length > 0}<button class="link small" type="button" onclick={add}>Another way for some documents</button>{/if}
</div>
