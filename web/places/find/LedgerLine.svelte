<script lang="ts">
  import type { CriterionInput, Facet, GroupPart, LedgerLine, Search } from '@/api/types';
  import { count, plural } from '@/parts/format';
  import Popover from '@/parts/Popover.svelte';
  import { app } from '@/state/app.svelte';
  import IconX from '@lucide/svelte/icons/x';
  import { Asking } from './asking.svelte';
  import CriterionForm from './CriterionForm.svelte';

  interface Props {
    line: LedgerLine;
    /** Which line of the ledger, from 0. */
    index: number;
    /** How many documents the person may see. */
    visible: number;
    /** Whether leaving it out would bring something back where nothing is found. */
    isCause: boolean;
    facets: Facet[];
    /** Whether it is ticked to be joined with others; null while no lines are being joined. */
    joined: boolean | null;
    onjoin: () => void;
    change: (change: Partial<CriterionInput> | null) => void;
    copy: () => void;
    apart: () => void;
    move: (by: 1 | -1) => void;
  }
  let { line, index, visible, isCause, facets, joined, onjoin, change, copy, apart, move }: Props = $props();
  const id = $props.id();

  /** So many of the words that a line reached are named in it; all of them when it is opened. */
  const NAMED = 5;

  let open = $state(false);
  let asking = $state.raw<Asking | null>(null);
  const told = $derived(`${line.subject} ${line.relation} ${line.value}`.trim());
  const reached = $derived(line.variants.filter((v) => !v.suggested && line.reach !== 'as_written'));
  // The word itself tells nothing.
  const words = $derived(reached.flatMap((v) => v.words.filter((w) => w.word !== v.of || !w.on)));
  const more = $derived(Math.max(0, reached.reduce((sum, v) => sum + v.all - v.words.length, 0) + words.length - NAMED));
  const meant = $derived(line.on ? line.variants.filter((v) => v.suggested && v.words.length > 0) : []);
  const share = $derived(visible > 0 && line.on ? Math.max(0.5, (100 * line.running) / visible) : 0);

  /** Places and types that are asked for by a name that there is none of, as in an address that was kept for long. */
  const unknown = $derived.by(() => {
    const field = line.asked && ['library', 'repository', 'type'].includes(line.asked.of) ? app.field(line.asked.of) : undefined;
    const terms = field ? app.terms(field) : [];
    return field && line.asked!.relation === 'is' ? line.asked!.values.filter((v) => !terms.some((t) => t.code === v)) : [];
  });

  function opened() {
    asking = line.asked ? new Asking(() => facets, line.asked) : null;
  }
  function key(event: KeyboardEvent) {
    if (event.altKey && event.key === 'ArrowUp') move(-1);
    else if (event.altKey && event.key === 'ArrowDown') move(1);
    else if (event.key === 'Delete') change(null);
    else if ((event.ctrlKey || event.metaKey) && event.key === 'c' && getSelection()?.isCollapsed) copy();
    else return;
    event.preventDefault();
  }
</script>

{#snippet partList(of: GroupPart[], how: 'any' | 'all')}
  <ul class="parts">
    {#each of as part, i (i)}
      <li>
        <div class="flex items-baseline gap-1.5">
          <span class="small quiet w-6 flex-none">{i === 0 ? '' : how === 'any' ? 'or' : 'and'}</span>
          {#if part.how}<span class="quiet min-w-0 flex-1">{part.negated ? 'none of' : part.how === 'any' ? 'any of' : 'all of'}</span
            >{:else}<span class="min-w-0 flex-1"
              ><span class="quiet">{part.subject} <span class:not={part.negated}>{part.relation}</span></span>
              <span class="font-semibold break-words">{part.value}</span></span
            >{/if}
          <span class="num quiet">{count(part.alone)}</span>
        </div>
        {#if part.how}{@render partList(part.parts, part.how)}{/if}
      </li>
    {/each}
  </ul>
{/snippet}

<div class="flex items-start gap-1.5">
  {#if joined !== null}
    <input type="checkbox" class="check mt-[3px]" checked={joined} aria-label={`Join “${told}”`} onchange={onjoin} />
  {:else}
    <input
      type="checkbox"
      class="check mt-[3px]"
      checked={line.on}
      aria-label={`Use “${told}”`}
      onchange={() => change({ on: !line.on })}
    />
  {/if}
  <!-- The keys of a line belong to its button, which comes out of the popover. -->
  <!-- svelte-ignore a11y_no_static_element_interactions -->
  <div class="min-w-0 flex-1" onkeydown={(e) => (e.target as HTMLElement).id === `ledger-line-${index}` && key(e)}>
    <Popover
      label={`Change “${told}”`}
      bind:open
      width={300}
      align="start"
      look="line-text"
      id={`ledger-line-${index}`}
      title="Opens the line. Alt with the arrows moves it, Delete drops it"
      onopen={opened}
    >
      {#snippet trigger()}
        {#if line.how}<span class="quiet" class:not={line.negated}
            >{line.negated ? 'None of these' : line.how === 'any' ? 'Any of these' : 'All of these'}</span
          >
        {:else}
          <span class="quiet">{line.subject} <span class:not={line.negated}>{line.relation}</span></span>
          <span class="font-semibold break-words">{line.value}</span>
        {/if}
      {/snippet}
      <p class="small"><span class="font-semibold">{line.how ? 'This group' : told}</span></p>
      <fieldset class="my-2 flex gap-4">
        <legend class="sr-only">Whether it must match</legend>
        {#each [[false, 'must match'], [true, 'must not match']] as const as [negated, label] (label)}
          <label class="flex min-h-6 items-center gap-1.5"
            ><input type="radio" name={`${id}-not`} checked={line.negated === negated} onchange={() => change({ negated })} />{label}</label
          >
        {/each}
      </fieldset>
      {#if line.reach !== null}
        <label class="heading" for={`${id}-reach`}>How widely “{line.value}” is matched</label>
        <select
          class="input"
          id={`${id}-reach`}
          value={line.reach}
          onchange={(e) => {
            const to = line.reaches.find((r) => r.value === e.currentTarget.value);
            if (to) change({ cql: to.cql });
          }}
        >
          {#each line.reaches as r (r.value)}<option value={r.value}>{r.label}</option>{/each}
        </select>
        {#each reached as v (v.of)}
          <ul class="mt-1 max-h-44 overflow-y-auto">
            {#each v.words as w (w.word)}
              <li>
                <label class="flex min-h-6 items-center gap-1.5"
                  ><input
                    type="checkbox"
                    class="check"
                    style="width:13px;height:13px"
                    checked={w.on}
                    onchange={() => change({ cql: w.cql })}
                  /><span class="min-w-0 flex-1 truncate" class:quiet={!w.on}>{w.word}</span><span class="num quiet">{count(w.count)}</span
                  ></label
                >
              </li>
            {/each}
            {#if v.all > v.words.length}<li class="quiet">and {count(v.all - v.words.length)} rarer words</li>{/if}
          </ul>
        {/each}
      {/if}
      {#if asking}
        <div class="mt-2 border-t border-hair pt-1">
          <CriterionForm
            {asking}
            act="Change the line"
            isNew={false}
            reach={(line.reach as Search['reach'] | null) ?? undefined}
            onmade={(cql) => {
              open = false;
              change({ cql });
            }}
            oncancel={() => (open = false)}
          />
        </div>
      {/if}
      <p class="small mt-2 flex flex-wrap gap-x-3 border-t border-hair pt-1.5">
        <button class="link min-h-6" type="button" onclick={copy}>Copy as CQL</button>
        {#if line.how}<button class="link min-h-6" type="button" onclick={apart}>Separate the lines</button>{/if}
      </p>
    </Popover>
  </div>
  <span class="num quiet w-12">{count(line.alone)}</span>
  <span class="num w-14">{line.on ? count(line.running) : '–'}</span>
  <button class="icon-btn -mt-0.5" aria-label={`Drop “${told}”`} title="Drop this line" onclick={() => change(null)}
    ><IconX size={14} strokeWidth={1.7} /></button
  >
</div>
{#if line.how}{@render partList(line.parts, line.how)}{/if}
<div class="bar" aria-hidden="true"><span style={`width:${share}%`}></span></div>
{#each unknown as value (value)}<p class="small pl-[22px] text-rust">
    There is no {line.subject.toLowerCase()} “{value}”, or you may not see it.
  </p>{/each}
{#each meant as v (v.of)}
  <p class="small pl-[22px]">
    “{v.of}” is in no document. Did you mean
    {#each v.words as w, n (w.word)}{n > 0 ? ', ' : ' '}<button class="link underline" onclick={() => change({ cql: w.cql })}
        >{w.word}</button
      > <span class="num quiet">{count(w.count)}</span>{/each}?
  </p>
{/each}
<!-- What a line costs, and what its words reached, have their room at all times: nothing moves as the mouse comes near. -->
<p class="below small">
  <span class="min-w-0 flex-1"
    >{#if words.length > 0}<span class="quiet">also&ensp;</span>{/if}{#each words.slice(0, NAMED) as w, i (w.word)}{i > 0 ? ' ' : ''}<button
        class="word"
        class:off={!w.on}
        aria-pressed={w.on}
        title={w.on ? `Do not look for “${w.word}”` : `Look for “${w.word}” too`}
        onclick={() => change({ cql: w.cql })}>{w.word}</button
      >{/each}{#if words.length > 0 && more > 0}<span class="quiet">&ensp;and {count(more)} more</span>{/if}</span
  >
  <span class="without" class:cause={isCause}
    >{line.on ? 'without this line' : 'this line is off:'} <span class="num">{count(line.without)}</span><span class="sr-only"
      >&nbsp;{plural(line.without, 'document', 'documents').replace(/^\S+\s/, '')}</span
    ></span
  >
</p>

<style>
  .bar {
    height: 3px;
    margin: 3px 28px 0 22px;
    background: color-mix(in srgb, var(--hair) 50%, transparent);
  }
  .bar span {
    display: block;
    height: 100%;
    background: var(--act);
    transition: width 0.18s;
  }
  .parts {
    padding-left: 12px;
    margin: 2px 34px 0 10px;
    border-left: 1px solid var(--hair);
    font-size: 13px;
  }
  .not {
    color: var(--rust);
    font-weight: 600;
  }
  .below {
    display: flex;
    align-items: flex-start;
    gap: 8px;
    min-height: 24px;
    padding: 2px 28px 0 22px;
  }
  .word {
    min-height: 24px;
    padding: 0 5px 0 0;
    color: var(--quiet);
  }
  .word:hover {
    color: var(--act);
    text-decoration: line-through;
  }
  .word.off {
    text-decoration: line-through;
  }
  .word.off:hover {
    text-decoration: none;
  }
  .without {
    flex: none;
    line-height: 24px;
    color: var(--quiet);
  }
  .without.cause {
    color: var(--ink);
    font-weight: 600;
  }
  :global(.line-text) {
    display: block;
    width: 100%;
    text-align: left;
    line-height: 1.375;
  }
</style>
