<script lang="ts">
  import { keys } from '@/state/keys.svelte';
  import { api, type ApiError } from '@/api/client';
  import type { CriterionInput, Facet, Found, LedgerLine } from '@/api/types';
  import { count, plural } from '@/parts/format';
  import { app } from '@/state/app.svelte';
  import type { SearchState } from '@/state/search';
  import Line from './LedgerLine.svelte';

  interface Props {
    answer: Found | null;
    fault: ApiError | null;
    search: SearchState;
    /** Of the present result: what may be chosen in a line, with counts. */
    facets: Facet[];
    change: (line: LedgerLine, change: Partial<CriterionInput> | null) => void;
    drop: (indexes: number[]) => void;
    go: (change: Partial<SearchState>) => void;
  }
  let { answer, fault, search, facets, change, drop, go }: Props = $props();

  const lines = $derived(answer?.ledger ?? []);
  const parts: [string, string][] = [
    ['title', 'titles'],
    ['values', 'index values'],
    ['text', 'full text'],
    ['comment', 'comments'],
    ['path', 'paths'],
    ['earlier', 'earlier versions'],
  ];
  /** Where words are looked for when nothing is said: everywhere but in versions that have been replaced. */
  const usual = ['title', 'values', 'text', 'comment', 'path'];
  const hasWords = $derived(lines.some((l) => l.field === null));
  let chosen = $state<number[]>([]);
  let joining = $state(false);
  let places = $state(false);
  const placesTold = $derived(
    search.where.length === 0
      ? 'everywhere'
      : parts
          .filter(([part]) => search.where.includes(part))
          .map(([, name]) => name)
          .join(', '),
  );
  let asText = $state(false);
  let text = $state('');
  let dragged = $state(-1);
  let over = $state(-1);
  $effect(() => {
    void answer;
    chosen = [];
  });

  function togglePart(part: string) {
    const now = search.where.length === 0 ? usual : search.where;
    const next = now.includes(part) ? now.filter((p) => p !== part) : [...now, part];
    go({ where: next.length === 0 || (next.length === usual.length && usual.every((p) => next.includes(p))) ? [] : next });
  }
  const plainLine = (i: number): CriterionInput => ({ cql: lines[i]!.cql, negated: lines[i]!.negated, on: lines[i]!.on });

  /** The lines as they would be: what was typed leaves the query line when its place changes. */
  function put(next: CriterionInput[]) {
    go({ words: '', criteria: next, steps: [] });
  }
  function move(from: number, to: number) {
    if (to < 0 || to >= lines.length || from === to) return;
    const next = lines.map((_, i) => plainLine(i));
    const [line] = next.splice(from, 1);
    next.splice(to, 0, line!);
    put(next);
    requestAnimationFrame(() => setTimeout(() => document.getElementById(`ledger-line-${to}`)?.focus(), 120));
  }
  async function join(how: 'any' | 'all' | 'none') {
    const at = Math.min(...chosen);
    const made = await api.group(how, chosen.toSorted((a, b) => a - b).map(plainLine));
    put(lines.flatMap((_, i) => (i === at ? [made] : chosen.includes(i) ? [] : [plainLine(i)])));
    joining = false;
  }
  async function apart(index: number) {
    const { criteria } = await api.apart(lines[index]!.cql, lines[index]!.negated);
    put(lines.flatMap((_, i) => (i === index ? criteria : [plainLine(i)])));
  }
  async function copy(cql: string) {
    await navigator.clipboard.writeText(cql).catch(() => {});
    app.say('The line is copied as CQL. Paste it into the query line of another search.');
  }
  function openText() {
    asText = !asText;
    text = answer?.cql === 'cql.allRecords = 1' ? '' : (answer?.cql ?? '');
  }

  keys.use(() => [
    { shown: 'Alt+↑ ↓', what: 'Move a line of the ledger' },
    { shown: 'Del', what: 'Drop a line of the ledger' },
  ]);
</script>

<section class="px-3 pt-3" aria-labelledby="ledger">
  <div class="flex items-baseline">
    <h2 class="flex-1 text-[17px]" id="ledger">Ledger</h2>
    {#if lines.length > 0}
      <span class="heading num w-14" title="Documents that a line matches by itself">alone</span><span
        class="heading num w-14"
        title="Documents left after a line">left</span
      ><span class="w-7"></span>
    {/if}
  </div>
  {#if fault}
    <p class="fault border-t border-hair py-2" role="alert">
      {fault.message}
      {#if fault.suggestion && fault.code === 'query'}<span class="quiet block"
          >{fault.suggestion.includes(' ') ? fault.suggestion : ''}</span
        >{/if}
    </p>
  {/if}
  {#if asText}
    <form
      class="border-t border-hair pt-1.5"
      onsubmit={(e) => {
        e.preventDefault();
        go({ words: text.trim(), criteria: [], steps: [] });
        asText = false;
      }}
    >
      <label class="sr-only" for="ledger-cql">The search as CQL</label>
      <textarea
        class="input mono"
        id="ledger-cql"
        rows="5"
        spellcheck="false"
        bind:value={text}
        onkeydown={(e) => {
          if (e.key === 'Enter' && e.ctrlKey) e.currentTarget.form?.requestSubmit();
        }}></textarea>
      <p class="mt-1 flex gap-2">
        <button class="btn btn-main">Search</button><button class="btn" type="button" onclick={() => (asText = false)}>As lines</button>
      </p>
    </form>
  {:else}
    <ul>
      {#each lines as line, i (i)}
        <li
          class="line border-t border-hair pt-1 pb-1.5"
          class:off={!line.on}
          class:cause={answer?.total === 0 && line.on && line.without > 0}
          class:over={over === i && dragged !== i}
          draggable="true"
          ondragstart={(e) => {
            dragged = i;
            e.dataTransfer?.setData('text/plain', line.cql);
          }}
          ondragover={(e) => {
            if (dragged >= 0) {
              e.preventDefault();
              over = i;
            }
          }}
          ondragend={() => {
            dragged = over = -1;
          }}
          ondrop={(e) => {
            e.preventDefault();
            if (dragged >= 0) move(dragged, i);
            dragged = over = -1;
          }}
        >
          <Line
            {line}
            index={i}
            visible={answer?.visible ?? 0}
            isCause={answer?.total === 0 && line.on && line.without > 0}
            {facets}
            joined={joining ? chosen.includes(i) : null}
            onjoin={() => (chosen = chosen.includes(i) ? chosen.filter((c) => c !== i) : [...chosen, i])}
            change={(to) => change(line, to)}
            copy={() => copy(line.cql)}
            apart={() => apart(i)}
            move={(by) => move(i, i + by)}
          />
        </li>
      {/each}
    </ul>
    {#if answer && !fault}
      <p class="flex border-t border-hair py-1.5">
        <span class="flex-1">{lines.length === 0 ? 'Everything you may see' : 'Found'}</span>
        <span class="num font-semibold" data-testid="ledger-total">{count(answer.total)}</span><span class="w-7"></span>
      </p>
      {#if answer.with_copies !== undefined}
        <p class="quiet flex pb-1.5">
          <span class="flex-1">With every near copy</span><span class="num" data-testid="ledger-with-copies"
            >{count(answer.with_copies)}</span
          ><span class="w-7"></span>
        </p>
      {/if}
      {#if answer.total === 0 && lines.length > 0}
        <p class="border-t border-hair py-2">
          No document meets every line.
          {#each answer.rescues as rescue (rescue.lines.join())}
            <button class="link block py-0.5" onclick={() => drop(rescue.lines)}
              >Drop {rescue.lines.map((n) => `“${lines[n]!.value || lines[n]!.relation}”`).join(' and ')} to find {plural(
                rescue.count,
                'document',
                'documents',
              )}</button
            >
          {/each}
        </p>
        {#if answer.near_misses.length > 0}
          <p class="border-t border-hair py-2">
            What nearly fits:
            {#each answer.near_misses as miss (miss.line + miss.cql)}
              <button class="link block py-0.5" onclick={() => change(lines[miss.line]!, { cql: miss.cql })}>
                {#if miss.kind === 'variant'}“{miss.value}”, {miss.reach}{:else if miss.kind === 'other_place'}In {miss.value}{:else}{miss.subject}
                  {miss.relation}
                  {miss.value}{/if}: {plural(miss.count, 'document', 'documents')}
              </button>
            {/each}
          </p>
        {/if}
      {/if}
    {/if}
    {#if answer && !fault && (lines.length > 0 || answer.total > 0)}
      <p class="small flex flex-wrap items-center gap-x-3 border-t border-hair py-1.5">
        {#if joining}
          {#if chosen.length > 0}{#each [['any', 'Any of these'], ['all', 'All of these'], ['none', 'None of these']] as const as [how, label] (how)}<button
                class="link min-h-6"
                onclick={() => join(how)}>{label}</button
              >{/each}{:else}<span class="quiet">Tick lines above.</span>{/if}
          <button
            class="link min-h-6"
            onclick={() => {
              joining = false;
              chosen = [];
            }}>Cancel</button
          >
        {:else}
          {#if lines.length > 0}<button class="link min-h-6" onclick={openText}>As CQL</button>{/if}
          {#if lines.length > 1}<button class="link min-h-6" onclick={() => (joining = true)}>Join lines</button>{/if}
          {#if !lines.some((l) => l.field === 'attached')}<button
              class="link min-h-6"
              title="Finds mail, not the files attached to it"
              onclick={() => go({ criteria: [...search.criteria, { cql: 'attached == 1', negated: true, on: true }] })}
              >Leave out attachments</button
            >{/if}
          <button
            class="link min-h-6"
            title={search.once
              ? 'Count each document by itself'
              : 'Of documents with nearly the same text, count only the latest, in the margins too'}
            onclick={() => go({ once: !search.once })}>{search.once ? 'Count every near copy' : 'Count near copies once'}</button
          >
        {/if}
      </p>
    {/if}
  {/if}
  {#if hasWords}
    <div class="small border-t border-hair py-1.5">
      <button class="link flex min-h-6 items-center gap-1" aria-expanded={places} onclick={() => (places = !places)}
        >Look for words in <span class="text-ink">{placesTold}</span></button
      >
      {#if places}
        <fieldset class="flex flex-wrap gap-x-2.5 gap-y-0.5">
          <legend class="sr-only">Where words are looked for</legend>
          {#each parts as [part, name] (part)}
            {@const on = (search.where.length === 0 ? usual : search.where).includes(part)}
            <label class="inline-flex min-h-6 items-center gap-1 whitespace-nowrap"
              ><input
                type="checkbox"
                class="check"
                style="width:13px;height:13px"
                checked={on}
                onchange={() => togglePart(part)}
              />{name}</label
            >
          {/each}
        </fieldset>
      {/if}
      {#if lines.filter((l) => l.typed).length > 1 || search.any}
        <label class="flex min-h-6 w-full items-center gap-1"
          ><input
            type="checkbox"
            class="check"
            style="width:13px;height:13px"
            checked={search.any}
            onchange={() => go({ any: !search.any })}
          />any one of these words is enough</label
        >
      {/if}
    </div>
  {/if}
</section>

<style>
  .off {
    color: var(--quiet);
  }
  .line.over {
    box-shadow: inset 0 2px 0 var(--act);
  }
  .cause {
    background: color-mix(in srgb, var(--brass) 35%, transparent);
  }
  .cause :global(.quiet) {
    color: var(--ink);
  }
</style>
