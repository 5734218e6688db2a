<script lang="ts">
  import type { ApiError } from '@/api/client';
  import type { Answer, CriterionInput } from '@/api/types';
  import { count, plural } from '@/parts/format';
  import IconX from '@lucide/svelte/icons/x';
  import type { SearchState } from './search';

  interface Props {
    answer: Answer | null;
    fault: ApiError | null;
    search: SearchState;
    change: (index: number, change: Partial<CriterionInput> | null) => void;
    drop: (indexes: number[]) => void;
    go: (change: Partial<SearchState>) => void;
  }
  let { answer, fault, search, change, drop, go }: Props = $props();

  const lines = $derived(answer?.ledger ?? []);
  const parts: [string, string][] = [['title', 'names'], ['values', 'values'], ['text', 'text'], ['comment', 'comments'], ['path', 'paths']];
  const hasWords = $derived(lines.some((l) => l.field === null));

  function togglePart(part: string) {
    const now = search.where.length === 0 ? parts.map(([p]) => p) : search.where;
    const next = now.includes(part) ? now.filter((p) => p !== part) : [...now, part];
    go({ where: next.length === parts.length || next.length === 0 ? [] : next });
  }
</script>

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
      {#if fault.suggestion && fault.code === 'query'}<span class="quiet block">{fault.suggestion.includes(' ') ? fault.suggestion : ''}</span>{/if}
    </p>
  {/if}
  <ul>
    {#each lines as line, i (line.cql + (line.negated ? '-' : '') + i)}
      <li class="line border-t border-hair pt-1 pb-1.5" class:off={!line.on} class:cause={answer?.total === 0 && line.on && line.without > 0}>
        <div class="flex items-start gap-1.5">
          <input type="checkbox" class="check mt-[3px]" checked={line.on} aria-label={`Use “${line.subject} ${line.negated ? 'not ' : ''}${line.relation} ${line.value}”`} onchange={() => change(i, { on: !line.on })} />
          <button
            class="min-w-0 flex-1 text-left leading-snug"
            title={`${line.cql}\n${line.negated ? 'Left out. Click to ask for it instead' : 'Click to leave it out instead'}`}
            onclick={() => change(i, { negated: !line.negated })}
          >
            <span class="quiet">{line.subject} {#if line.negated}<strong class="text-rust">not</strong> {/if}{line.relation}</span>
            <span class="font-semibold break-words">{line.value}</span>
          </button>
          <span class="num quiet w-12">{count(line.alone)}</span>
          <span class="num w-14">{line.on ? count(line.running) : '–'}</span>
          <button class="icon-btn -mt-0.5" aria-label={`Drop “${line.subject} ${line.relation} ${line.value}”`} title="Drop this line" onclick={() => change(i, null)}><IconX size={14} strokeWidth={1.7} /></button>
        </div>
        <div class="bar" aria-hidden="true"><span style={`width:${answer && answer.visible > 0 && line.on ? Math.max(0.5, (100 * line.running) / answer.visible) : 0}%`}></span></div>
        {#if line.on && line.variants.some((v) => v.suggested)}
          <p class="small pl-[22px]">
            {#each line.variants.filter((v) => v.suggested) as v (v.of)}
              “{v.of}” is in no document. Meant
              {#each v.words as w, n (w.word)}{n > 0 ? ', ' : ' '}<button class="link underline" onclick={() => change(i, { cql: w.cql })}>{w.word}</button> <span class="num quiet">{count(w.count)}</span>{/each}?
            {/each}
          </p>
        {/if}
        {#if line.reach !== null}
          <div class="reach small" class:wide={line.reach !== 'as_written'}>
            <label><span class="sr-only">How far “{line.value}” reaches</span>
              <select value={line.reach} onchange={(e) => { const to = line.reaches.find((r) => r.value === e.currentTarget.value); if (to) change(i, { cql: to.cql }); }}>
                {#each line.reaches as r (r.value)}<option value={r.value}>{r.label}</option>{/each}
              </select>
            </label>
            {#each line.variants.filter((v) => !v.suggested) as v (v.of)}
              <ul>
                {#each v.words as w (w.word)}
                  <li><label class="flex items-center gap-1.5"><input type="checkbox" class="check" style="width:13px;height:13px" checked={w.on} onchange={() => change(i, { cql: w.cql })} /><span class="min-w-0 flex-1 truncate" class:quiet={!w.on}>{w.word}</span><span class="num quiet">{count(w.count)}</span></label></li>
                {/each}
                {#if v.all > v.words.length}<li class="quiet">and {count(v.all - v.words.length)} rarer words</li>{/if}
              </ul>
            {/each}
          </div>
        {/if}
        <p class="without small">{line.on ? 'without this' : 'it is off;'} {plural(line.without, 'document', 'documents')}</p>
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
          <button class="link block py-0.5" onclick={() => drop(rescue.lines)}>Drop {rescue.lines.map((n) => `“${lines[n]!.value || lines[n]!.relation}”`).join(' and ')}: {plural(rescue.count, 'document', 'documents')}</button>
        {/each}
      </p>
      {#if answer.near_misses.length > 0}
        <p class="border-t border-hair py-2">
          Nearly:
          {#each answer.near_misses as miss (miss.line + miss.cql)}
            <button class="link block py-0.5" onclick={() => change(miss.line, { cql: miss.cql })}>
              {#if miss.kind === 'variant'}“{miss.value}”, {miss.reach}{:else if miss.kind === 'other_place'}In {miss.value}{:else}{miss.subject} {miss.relation} {miss.value}{/if}: {plural(miss.count, 'document', 'documents')}
            </button>
          {/each}
        </p>
      {/if}
    {/if}
  {/if}
  {#if hasWords}
    <fieldset class="small flex flex-wrap gap-x-2.5 gap-y-0.5 border-t border-hair py-1.5">
      <legend class="sr-only">Where words are looked for</legend>
      <span class="quiet">Words in</span>
      {#each parts as [part, name] (part)}
        {@const on = search.where.length === 0 || search.where.includes(part)}
        <label class="inline-flex items-center gap-1 whitespace-nowrap"><input type="checkbox" class="check" style="width:13px;height:13px" checked={on} onchange={() => togglePart(part)} />{name}</label>
      {/each}
      {#if lines.filter((l) => l.typed).length > 1}
        <label class="flex w-full items-center gap-1"><input type="checkbox" class="check" style="width:13px;height:13px" checked={search.any} onchange={() => go({ any: !search.any })} />any of the typed words will do</label>
      {/if}
    </fieldset>
  {/if}
</section>

<style>
  .off { color: var(--quiet); }
  .bar { height: 3px; margin: 3px 28px 0 22px; background: color-mix(in srgb, var(--hair) 50%, transparent); }
  .bar span { display: block; height: 100%; background: var(--act); transition: width 0.18s; }
  .without { display: none; padding-left: 22px; color: var(--brass-text); }
  .line:hover .without, .line:focus-within .without, .cause .without { display: block; }
  .reach { display: none; padding: 2px 28px 0 22px; }
  .reach.wide, .line:hover .reach, .line:focus-within .reach { display: block; }
  .reach select { min-height: 24px; max-width: 100%; color: var(--quiet); background: transparent; }
  .reach ul { margin-top: 2px; }
  .reach li { min-height: 24px; }
  .cause { background: color-mix(in srgb, var(--brass) 35%, transparent); }
  .cause .without { color: var(--ink); }
  .cause :global(.quiet) { color: var(--ink); }
</style>
