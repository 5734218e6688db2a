<script lang="ts">
  import { keys } from '@/state/keys.svelte';
  import { api, type ApiError } from '@/api/client';
  import type { CriterionInput, Found, GroupPart, LedgerLine } from '@/api/types';
  import { count, plural } from '@/parts/format';
  import { app } from '@/state/app.svelte';
  import IconX from '@lucide/svelte/icons/x';
  import type { SearchState } from '@/state/search';

  interface Props {
    answer: Found | null;
    fault: ApiError | null;
    search: SearchState;
    change: (line: LedgerLine, change: Partial<CriterionInput> | null) => void;
    drop: (indexes: number[]) => void;
    go: (change: Partial<SearchState>) => void;
  }
  let { answer, fault, search, change, drop, go }: Props = $props();

  const lines = $derived(answer?.ledger ?? []);
  const parts: [string, string][] = [
    ['title', 'names'],
    ['values', 'values'],
    ['text', 'text'],
    ['comment', 'comments'],
    ['path', 'paths'],
    ['earlier', 'earlier versions'],
  ];
  /** Where words are looked for when nothing is said: everywhere but in versions that have been replaced. */
  const usual = ['title', 'values', 'text', 'comment', 'path'];
  const hasWords = $derived(lines.some((l) => l.field === null));
  let chosen = $state<number[]>([]);
  let joining = $state(false);
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
  function key(event: KeyboardEvent, i: number) {
    if (event.altKey && event.key === 'ArrowUp') move(i, i - 1);
    else if (event.altKey && event.key === 'ArrowDown') move(i, i + 1);
    else if (event.key === 'Delete') change(lines[i]!, null);
    else if ((event.ctrlKey || event.metaKey) && event.key === 'c' && getSelection()?.isCollapsed) void copy(lines[i]!.cql);
    else return;
    event.preventDefault();
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

{#snippet partList(of: GroupPart[], how: 'any' | 'all')}
  <ul class="parts">
    {#each of as part, i (i)}
      <li>
        <div class="flex items-baseline gap-1.5">
          <span class="small quiet w-6 flex-none">{i === 0 ? '' : how === 'any' ? 'or' : 'and'}</span>
          {#if part.how}<span class="quiet min-w-0 flex-1">{part.negated ? 'none of' : part.how === 'any' ? 'any of' : 'all of'}</span
            >{:else}<span class="min-w-0 flex-1"
              ><span class="quiet"
                >{part.subject}
                {#if part.negated}<strong class="text-rust">not</strong>{/if}
                {part.relation}</span
              > <span class="font-semibold break-words">{part.value}</span></span
            >{/if}
          <span class="num quiet">{count(part.alone)}</span>
        </div>
        {#if part.how}{@render partList(part.parts, part.how)}{/if}
      </li>
    {/each}
  </ul>
{/snippet}

<section class="px-3 pt-3" aria-labelledby="ledger">
  <div class="flex items-baseline">
    <h2 class="flex-1 text-[17px]" id="ledger">Ledger</h2>
    {#if lines.length > 0}
      <span class="heading num w-14">alone</span><span class="heading num w-14">left</span><span class="w-7"></span>
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
      {#each lines as line, i (line.cql + (line.negated ? '-' : '') + i)}
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
          <div class="flex items-start gap-1.5">
            {#if joining}
              <input
                type="checkbox"
                class="check mt-[3px]"
                checked={chosen.includes(i)}
                aria-label={`Join “${line.subject} ${line.relation} ${line.value}”`}
                onchange={() => (chosen = chosen.includes(i) ? chosen.filter((c) => c !== i) : [...chosen, i])}
              />
            {:else}
              <input
                type="checkbox"
                class="check mt-[3px]"
                checked={line.on}
                aria-label={`Use “${line.subject} ${line.negated ? 'not ' : ''}${line.relation} ${line.value}”`}
                onchange={() => change(line, { on: !line.on })}
              />
            {/if}
            <button
              id={`ledger-line-${i}`}
              class="min-w-0 flex-1 text-left leading-snug"
              title={`${line.cql}\n${line.negated ? 'Left out. Click to ask for it instead' : 'Click to leave it out instead'}\nAlt with the arrows moves it, Delete drops it`}
              onclick={() => change(line, { negated: !line.negated })}
              onkeydown={(e) => key(e, i)}
            >
              {#if line.how}<span class="quiet"
                  >{line.negated ? 'None of these' : line.how === 'any' ? 'Any of these' : 'All of these'}</span
                >
              {:else}
                <span class="quiet"
                  >{line.subject}
                  {#if line.negated}<strong class="text-rust">not</strong>{/if}
                  {line.relation}</span
                >
                <span class="font-semibold break-words">{line.value}</span>
              {/if}
            </button>
            <span class="num quiet w-12">{count(line.alone)}</span>
            <span class="num w-14">{line.on ? count(line.running) : '–'}</span>
            <button
              class="icon-btn -mt-0.5"
              aria-label={`Drop “${line.subject} ${line.relation} ${line.value}”`}
              title="Drop this line"
              onclick={() => change(lines[i]!, null)}><IconX size={14} strokeWidth={1.7} /></button
            >
          </div>
          {#if line.how}{@render partList(line.parts, line.how)}{/if}
          <div class="bar" aria-hidden="true">
            <span style={`width:${answer && answer.visible > 0 && line.on ? Math.max(0.5, (100 * line.running) / answer.visible) : 0}%`}
            ></span>
          </div>
          {#if line.on && line.variants.some((v) => v.suggested)}
            <p class="small pl-[22px]">
              {#each line.variants.filter((v) => v.suggested) as v (v.of)}
                “{v.of}” is in no document. Meant
                {#each v.words as w, n (w.word)}{n > 0 ? ', ' : ' '}<button
                    class="link underline"
                    onclick={() => change(line, { cql: w.cql })}>{w.word}</button
                  > <span class="num quiet">{count(w.count)}</span>{/each}?
              {/each}
            </p>
          {/if}
          {#if line.reach !== null}
            <div class="reach small" class:wide={line.reach !== 'as_written'}>
              <label
                ><span class="sr-only">How far “{line.value}” reaches</span>
                <select
                  value={line.reach}
                  onchange={(e) => {
                    const to = line.reaches.find((r) => r.value === e.currentTarget.value);
                    if (to) change(line, { cql: to.cql });
                  }}
                >
                  {#each line.reaches as r (r.value)}<option value={r.value}>{r.label}</option>{/each}
                </select>
              </label>
              {#each line.variants.filter((v) => !v.suggested) as v (v.of)}
                <ul>
                  {#each v.words as w (w.word)}
                    <li>
                      <label class="flex items-center gap-1.5"
                        ><input
                          type="checkbox"
                          class="check"
                          style="width:13px;height:13px"
                          checked={w.on}
                          onchange={() => change(line, { cql: w.cql })}
                        /><span class="min-w-0 flex-1 truncate" class:quiet={!w.on}>{w.word}</span><span class="num quiet"
                          >{count(w.count)}</span
                        ></label
                      >
                    </li>
                  {/each}
                  {#if v.all > v.words.length}<li class="quiet">and {count(v.all - v.words.length)} rarer words</li>{/if}
                </ul>
              {/each}
            </div>
          {/if}
          <p class="without small">
            {line.on ? 'without this' : 'it is off;'}
            {plural(line.without, 'document', 'documents')}
            <button class="link ml-2" onclick={() => copy(line.cql)}>copy</button>{#if line.how}<button
                class="link ml-2"
                onclick={() => apart(i)}>take apart</button
              >{/if}
          </p>
        </li>
      {/each}
    </ul>
    {#if answer && !fault}
      <p class="flex border-t border-hair py-1.5">
        <span class="flex-1">{lines.length === 0 ? 'Everything you may see' : 'Found'}</span>
        <span class="num font-semibold" data-testid="ledger-total">{count(answer.total)}</span><span class="w-7"></span>
      </p>
      {#if answer.total === 0 && lines.length > 0}
        <p class="border-t border-hair py-2">
          Nothing has all of this.
          {#each answer.rescues as rescue (rescue.lines.join())}
            <button class="link block py-0.5" onclick={() => drop(rescue.lines)}
              >Drop {rescue.lines.map((n) => `“${lines[n]!.value || lines[n]!.relation}”`).join(' and ')}: {plural(
                rescue.count,
                'document',
                'documents',
              )}</button
            >
          {/each}
        </p>
        {#if answer.near_misses.length > 0}
          <p class="border-t border-hair py-2">
            Nearly:
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
          {#if chosen.length > 0}{#each [['any', 'Any of them'], ['all', 'All of them'], ['none', 'None of them']] as const as [how, label] (how)}<button
                class="link min-h-6"
                onclick={() => join(how)}>{label}</button
              >{/each}{:else}<span class="quiet">Choose lines above.</span>{/if}
          <button
            class="link min-h-6"
            onclick={() => {
              joining = false;
              chosen = [];
            }}>Leave</button
          >
        {:else}
          {#if lines.length > 0}<button class="link min-h-6" onclick={openText}>As CQL</button>{/if}
          {#if lines.length > 1}<button class="link min-h-6" onclick={() => (joining = true)}>Join lines</button>{/if}
          {#if !lines.some((l) => l.field === 'attached')}<button
              class="link min-h-6"
              title="Mail is found without what is attached to it"
              onclick={() => go({ criteria: [...search.criteria, { cql: 'attached == 1', negated: true, on: true }] })}
              >Leave attachments out</button
            >{/if}
        {/if}
      </p>
    {/if}
  {/if}
  {#if hasWords}
    <fieldset class="small flex flex-wrap gap-x-2.5 gap-y-0.5 border-t border-hair py-1.5">
      <legend class="sr-only">Where words are looked for</legend>
      <span class="quiet">Words in</span>
      {#each parts as [part, name] (part)}
        {@const on = (search.where.length === 0 ? usual : search.where).includes(part)}
        <label class="inline-flex items-center gap-1 whitespace-nowrap"
          ><input
            type="checkbox"
            class="check"
            style="width:13px;height:13px"
            checked={on}
            onchange={() => togglePart(part)}
          />{name}</label
        >
      {/each}
      {#if lines.filter((l) => l.typed).length > 1}
        <label class="flex w-full items-center gap-1"
          ><input
            type="checkbox"
            class="check"
            style="width:13px;height:13px"
            checked={search.any}
            onchange={() => go({ any: !search.any })}
          />any of the typed words will do</label
        >
      {/if}
    </fieldset>
  {/if}
</section>

<style>
  .off {
    color: var(--quiet);
  }
  .line.over {
    box-shadow: inset 0 2px 0 var(--act);
  }
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
  .without {
    display: none;
    padding-left: 22px;
    color: var(--brass-text);
  }
  .line:hover .without,
  .line:focus-within .without,
  .cause .without {
    display: block;
  }
  .reach {
    display: none;
    padding: 2px 28px 0 22px;
  }
  .reach.wide,
  .line:hover .reach,
  .line:focus-within .reach {
    display: block;
  }
  .reach select {
    min-height: 24px;
    max-width: 100%;
    color: var(--quiet);
    background: transparent;
  }
  .reach ul {
    margin-top: 2px;
  }
  .reach li {
    min-height: 24px;
  }
  .cause {
    background: color-mix(in srgb, var(--brass) 35%, transparent);
  }
  .cause .without {
    color: var(--ink);
  }
  .cause :global(.quiet) {
    color: var(--ink);
  }
</style>
