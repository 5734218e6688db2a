<script lang="ts">
  import { api, ApiError } from '@/api/client';
  import type { Answer } from '@/api/types';
  import { count } from '@/parts/format';
  import AddCriterion from '@/places/find/AddCriterion.svelte';
  import IconX from '@lucide/svelte/icons/x';

  interface Props {
    label: string;
    criterion: string;
    fault?: string;
    help?: string;
    onchange: (cql: string) => void;
    /** Told what the criterion finds now. */
    onanswer?: (answer: Answer | null, fault: string) => void;
    /** What of the documents is wanted beside their number. */
    ask?: Partial<Parameters<typeof api.search>[0]>;
  }
  let { label, criterion, fault, help, onchange, onanswer, ask = {} }: Props = $props();
  const id = $props.id();

  let answer = $state.raw<Answer | null>(null);
  let wrong = $state('');
  let asText = $state(false);

  $effect(() => {
    const asked = {
      words: '',
      criteria: criterion.trim() ? [{ cql: criterion, negated: false, on: true }] : [],
      limit: 0,
      rows_only: true,
      draft: true,
      ...ask,
    };
    // A criterion joined by “and” is shown line by line, like the ledger of a search.
    // A criterion is CQL: its words mean what is written.
    const lines = { ...asked, words: criterion.trim(), criteria: [], reach: 'as_written' as const };
    const stop = new AbortController();
    const timer = setTimeout(() => {
      api.search(lines, stop.signal).then(
        (got) => {
          answer = got;
          wrong = '';
          onanswer?.(got, '');
        },
        (error: unknown) => {
          if (error instanceof ApiError) {
            answer = null;
            wrong = error.message;
            onanswer?.(null, error.message);
          }
        },
      );
    }, 200);
    return () => {
      clearTimeout(timer);
      stop.abort();
    };
  });

  const lines = $derived(criterion.trim() === '' ? [] : (answer?.ledger ?? []));
  const text = (l: { cql: string; negated: boolean }) => (/\s(and|or|not|prox)[\s/]/i.test(l.cql) ? `(${l.cql})` : l.cql);
  function join(kept: { cql: string; negated: boolean }[]): string {
    const first = kept.filter((l) => !l.negated);
    const rest = kept.filter((l) => l.negated);
    const head = first.map(text).join(' and ') || (rest.length > 0 ? 'cql.allRecords = 1' : '');
    return [head, ...rest.map((l) => `not ${text(l)}`)].join(' ').trim();
  }
  const drop = (index: number) => onchange(join(lines.filter((_, i) => i !== index)));
</script>

<div class="py-1.5">
  <div class="flex items-baseline">
    <label class="heading flex-1" for={id}>{label}</label>
    <button class="link small" type="button" aria-pressed={asText} onclick={() => (asText = !asText)}
      >{asText ? 'As lines' : 'As CQL'}</button
    >
  </div>
  {#if asText}
    <textarea
      class="input mono"
      {id}
      rows="2"
      value={criterion}
      spellcheck="false"
      aria-invalid={fault || wrong ? true : undefined}
      oninput={(e) => onchange(e.currentTarget.value)}></textarea>
  {:else}
    <ul {id} tabindex="-1">
      {#each lines as line, i (i + line.cql)}
        <li class="flex items-baseline gap-2 border-t border-hair py-0.5">
          <span class="min-w-0 flex-1"
            ><span class="quiet">{line.subject} <span class:text-rust={line.negated}>{line.relation}</span></span>
            <span class="font-semibold break-words">{line.value}</span></span
          >
          <span class="num quiet small">{count(line.alone)}</span><span class="num w-14">{count(line.running)}</span>
          <button
            class="icon-btn"
            type="button"
            onclick={() => drop(i)}
            aria-label={`Drop “${line.subject} ${line.relation} ${line.value}”`}
            title="Drop this line"><IconX size={14} strokeWidth={1.7} /></button
          >
        </li>
      {:else}<li class="quiet border-t border-hair py-1">
          {criterion.trim() === '' ? 'Everything a person may see.' : wrong ? '' : 'Counting…'}
        </li>{/each}
    </ul>
    <div class="-mx-3"><AddCriterion add={(cql) => onchange(join([...lines, { cql, negated: false }]))} /></div>
  {/if}
  {#if fault ?? wrong}<p class="fault" role="alert">{fault ?? wrong}</p>{/if}
  {#if help}<p class="small quiet">{help}</p>{/if}
  {#if answer && criterion.trim() !== ''}<p class="small quiet">{count(answer.total)} of the documents you may see.</p>{/if}
</div>
