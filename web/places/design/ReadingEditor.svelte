<script lang="ts">
  import type { ReadingRule, ReadingTrial } from '@/api/types';
  import Pieces from '@/parts/Pieces.svelte';
  import { count, plural } from '@/parts/format';
  import { app } from '@/state/app.svelte';
  import { addressOf, emptySearch } from '@/state/search';
  import { Editing } from './editing.svelte';
  import EditorFrame from './EditorFrame.svelte';
  import NameAndCode from './NameAndCode.svelte';
  import OrderedCodes from './OrderedCodes.svelte';
  import { PATTERNS, textOf, wordsOf, wordsOfTable } from './reading';
  import { RuleTrial } from './readingTrial.svelte';
  import TextRow from './TextRow.svelte';

  let { rule }: { rule: ReadingRule | null } = $props();
  // svelte-ignore state_referenced_locally
  const editing = new Editing<ReadingRule>('readings', rule, {
    code: '',
    name: '',
    field: app.design!.fields[0]?.code ?? '',
    types: [],
    for: 'sheet',
    method: 'position',
    words: [],
    vocabulary: null,
    pattern: '',
    anchor: '',
    direction: 'behind',
    lock_version: 1,
  });
  const draft = $derived(editing.draft);
  const trial = new RuleTrial();
  const faults = $derived({ ...trial.faults, ...editing.faults });
  const label = $derived(app.label(draft.field));
  const result = $derived(trial.result);
  const types = $derived(app.design!.types.filter((t) => draft.for === 'mention' || t.fields.some((f) => f.code === draft.field)));
  let words = $state(textOf(editing.draft.words));
  let table: HTMLInputElement | undefined = $state();
  async function fromTable(event: Event & { currentTarget: HTMLInputElement }) {
    const file = event.currentTarget.files?.[0];
    event.currentTarget.value = '';
    if (!file) return;
    draft.words = wordsOfTable(await file.text());
    words = textOf(draft.words);
  }

  const SAYS: Record<ReadingTrial['outcomes'][number]['outcome'], [string, string]> = {
    agrees: ['agrees', 'The rule found the value that was entered.'],
    differs: ['differs', 'The rule found a different value than the one that was entered.'],
    nothing: ['nothing found', 'A value was entered, and the rule found none.'],
    new: ['new', 'The rule found a value where none was entered.'],
    empty: ['neither', 'No value was entered, and the rule found none.'],
  };
</script>

<EditorFrame {editing} title={draft.name} what="reading rule">
  <p class="quiet mb-2 max-w-prose">
    {draft.for === 'stored'
      ? 'What the rule finds is put on the index sheet of what arrives, where the field is empty, and can be changed there. Let a rule do so only once its trial shows that it is right.'
      : draft.for === 'sheet'
        ? 'A reading rule finds values of a field in the text. In Intake they are proposed, each with its place on the page; nothing is saved until somebody takes it.'
        : 'All values that a rule finds in the text of a document count as mentioned there: in a field of its own that is on no sheet and is counted in the margins. After publishing, existing documents are read in the background; bringing back an earlier version of the design undoes that.'}
    Try it below on the existing documents before you publish it.
  </p>
  <NameAndCode {editing} />
  <label class="block py-1.5"
    ><span class="heading">What it is for</span><select class="input" bind:value={draft.for}
      ><option value="sheet">proposals for the index sheet, in Intake</option><option value="stored"
        >values put on the index sheet, in Intake, where the field is empty</option
      ><option value="mention">values mentioned in the text, as a facet</option></select
    ></label
  >
  <div class="grid grid-cols-2 gap-4 py-1.5">
    <label
      ><span class="heading">Field</span><select class="input" bind:value={draft.field}
        >{#each app.design!.fields as f (f.code)}<option value={f.code}>{f.label}</option>{/each}</select
      >{#if faults.field}<span class="fault" role="alert">{faults.field}</span>{/if}</label
    >
    <label
      ><span class="heading">What it reads</span><select class="input" bind:value={draft.method}
        ><option value="position">the value beside printed words</option><option value="kind">any value that fits the field</option><option
          value="words">words from a list</option
        ><option value="pattern">text that matches a pattern</option></select
      ></label
    >
  </div>
  {#if draft.method === 'position'}
    <div class="grid grid-cols-2 gap-4">
      <TextRow
        label="Printed words"
        value={draft.anchor}
        fault={faults.anchor}
        help="As they are printed, like Permit no."
        oninput={(anchor) => (draft.anchor = anchor)}
      />
      <label class="block py-1.5"
        ><span class="heading">Where the value is</span><select class="input" bind:value={draft.direction}
          ><option value="behind">after them in the text</option><option value="right">to the right of them on the page</option><option
            value="below">below them on the page</option
          ></select
        ></label
      >
    </div>
  {:else if draft.method === 'words'}
    <label class="block py-1.5"
      ><span class="heading">Words</span><select
        class="input"
        value={draft.vocabulary ?? ''}
        onchange={(e) => (draft.vocabulary = e.currentTarget.value || null)}
        ><option value="">as entered here</option>{#each app.design!.vocabularies as v (v.code)}<option value={v.code}
            >the terms of {v.name}</option
          >{/each}</select
      >{#if faults.vocabulary}<span class="fault" role="alert">{faults.vocabulary}</span>{/if}</label
    >
    {#if draft.vocabulary === null}
      <label class="block py-1.5"
        ><span class="heading">One value per line; other spellings after an equals sign, separated by semicolons</span><textarea
          class="input mono"
          rows="6"
          placeholder="Lower basin = the basin; basin, lower"
          bind:value={words}
          oninput={() => (draft.words = wordsOf(words))}></textarea></label
      >
      <p class="small links">
        <button class="link" type="button" onclick={() => table?.click()}>From a CSV file</button>
        <span class="quiet">Each row a value, with other spellings in the columns after it.</span>
        <input
          bind:this={table}
          type="file"
          accept=".csv,.tsv,.txt"
          class="sr-only"
          tabindex="-1"
          aria-label="Word list"
          onchange={fromTable}
        />
      </p>
    {/if}
    {#if faults.words}<p class="fault" role="alert">{faults.words}</p>{/if}
  {:else if draft.method === 'pattern'}
    <TextRow
      label="Pattern"
      mono
      value={draft.pattern}
      fault={faults.pattern}
      help="A regular expression; a part named (?<value>…) is taken alone. Without look-around and back-references."
      oninput={(pattern) => (draft.pattern = pattern)}
    />
    <p class="small links">
      Begin with:
      {#each PATTERNS as p (p.label)}<button class="link" type="button" onclick={() => (draft.pattern = p.pattern)}>{p.label}</button
        >{/each}
    </p>
  {:else}
    <p class="small quiet max-w-prose py-1.5">
      Dates, amounts in the field’s currency, numbers with its unit, identifiers with their right check character, terms of its vocabulary,
      names of two to four words in capitals. It cannot know what is meant: a date of birth is a date, too.
    </p>
  {/if}
  <OrderedCodes
    label={draft.for === 'mention' ? 'Document types; none for all' : 'Document types; none for all that have the field'}
    codes={draft.types}
    items={types.map((t) => ({ value: t.code, label: t.name }))}
    fault={faults.types}
    onchange={(codes) => (draft.types = codes)}
  />
  <section class="mt-5" aria-labelledby="trial">
    <h3 class="text-[17px]" id="trial">Trial</h3>
    <div class="flex items-end gap-3 border-t border-hair pt-2">
      <label class="min-w-0 flex-1"
        ><span class="heading">On which documents, as a search</span><input
          class="input mono"
          bind:value={trial.criterion}
          placeholder="all that you may see"
          autocomplete="off"
          onkeydown={(e) => {
            if (e.key !== 'Enter' || e.ctrlKey) return;
            e.preventDefault();
            void trial.run(draft);
          }}
        /></label
      >
      <button class="btn" type="button" disabled={trial.busy} onclick={() => void trial.run(draft)}
        >{trial.busy ? 'Trying…' : 'Try it'}</button
      >
    </div>
    {#if trial.fault}<p class="fault py-1" role="alert">{trial.fault}</p>{/if}
    {#if result}
      {#if result.fault}<p class="fault py-1" role="alert">{result.fault}</p>{/if}
      {#if result.is_everywhere}<p class="fault py-1" role="alert">
          This rule matches too often to be useful: {count(result.hits)} places in {plural(result.tried, 'document', 'documents')}.
        </p>{/if}
      <p class="py-1.5" role="status">
        {plural(result.tried, 'document', 'documents')} read{result.tried < result.documents
          ? `, evenly chosen from ${count(result.documents)}`
          : ''}, {plural(result.hits, 'place', 'places')} found.
      </p>
      <div class="flex flex-wrap gap-x-6 border-t border-hair pt-2" role="group" aria-label="What came of it">
        {#each result.outcomes as { outcome, count: number } (outcome)}
          <button
            class="outcome"
            type="button"
            title={SAYS[outcome][1]}
            aria-pressed={trial.outcome === outcome}
            disabled={number === 0}
            onclick={() => (trial.outcome = outcome)}
            ><span class="num block text-left font-serif text-[19px]">{count(number)}</span><span class="small">{SAYS[outcome][0]}</span
            ></button
          >
        {/each}
      </div>
      {#if trial.listed && trial.listed.count > 0}
        <p class="small quiet mt-2 flex flex-wrap gap-x-4">
          <span class="min-w-0 flex-1">{SAYS[trial.outcome][1]}</span>
          {#if trial.listed.cql}<a
              class="link"
              href={addressOf({ ...emptySearch, criteria: [{ cql: trial.listed.cql, negated: false, on: true }] })}>Show them in Find</a
            >{/if}
        </p>
        <ul aria-label="Documents">
          {#each trial.listed.documents as document (document.ref)}
            <li class="border-t border-hair py-1.5">
              <p>
                <a class="font-serif text-[15.5px]" href={`/documents/${document.ref}`}>{document.title}</a>
                {#if document.given.length > 0}<span class="quiet small ml-2">{label}: {document.given.join(', ')}</span>{/if}
              </p>
              {#each document.found as found, i (i)}
                <p class="small">
                  <Pieces pieces={found.pieces} /><span class="quiet">&ensp;page {found.page}, read as {found.value}</span>
                </p>
              {/each}
            </li>
          {/each}
        </ul>
        {#if trial.listed.documents.length < trial.listed.count}<p class="small quiet border-t border-hair py-1">
            The first {trial.listed.documents.length} of {count(trial.listed.count)}.
          </p>{/if}
      {/if}
    {/if}
  </section>
</EditorFrame>

<style>
  .outcome {
    min-height: 44px;
    padding: 2px 6px 2px 0;
    border-bottom: 2px solid transparent;
    text-align: left;
  }
  .outcome[aria-pressed='true'] {
    border-color: var(--act);
    color: var(--act);
  }
  .outcome:disabled {
    color: var(--quiet);
  }
</style>
