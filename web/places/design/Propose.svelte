<script lang="ts">
  import { count, plural } from '@/parts/format';
  import { app } from '@/state/app.svelte';
  import { onDestroy } from 'svelte';
  import BringIn from './BringIn.svelte';
  import { draft } from './draft.svelte';
  import { Proposing } from './proposing.svelte';

  /** A design proposed from the register that an office has: looked at column by column, and put into the draft. */
  const proposing = new Proposing();
  void proposing.load();
  onDestroy(() => proposing.stop());
  const proposal = $derived(proposing.proposal);
  const kindLabel = (kind: string) => app.design!.kinds.find((k) => k.value === kind)?.label ?? kind;
  const percent = (share: number) => `${share === 1 ? 100 : Math.min(99.9, Math.round(1000 * share) / 10)}%`;
  const name = (place: number) => proposal?.columns[place]?.name ?? '';
  const quoted = (place: number) => `“${name(place)}”`;
  const rules = $derived(
    proposal?.dependencies
      .filter((d) => d.exceptions.length > 0 && d.from.every((f) => proposing.column(f).kind === 'choice'))
      .slice(0, 12) ?? [],
  );

  function take(event: Event & { currentTarget: HTMLInputElement }) {
    const file = event.currentTarget.files?.[0];
    event.currentTarget.value = '';
    if (file) void proposing.give(file);
  }
  function takeFolder(event: Event & { currentTarget: HTMLInputElement }) {
    const files = [...(event.currentTarget.files ?? [])];
    event.currentTarget.value = '';
    if (files.length > 0) void proposing.giveFolder(files);
  }
  // Of libraries elsewhere nothing is filed.
  const libraries = $derived(app.design!.libraries.filter((l) => l.may_change));
  // Once it is accepted, what is done next stands first.
  let showsSheet = $state(false);
  const isSheetShown = $derived(showsSheet || !proposal?.accepted);
  let page: HTMLElement;
  async function accept() {
    if (!(await proposing.accept())) return;
    showsSheet = false;
    page.scrollTo({ top: 0 });
  }
  /** The place of a column that is being joined with another. */
  let joining = $state<number | null>(null);
  const madeOf = { dossiers: 'Dossiers', table: 'A reference table', nothing: 'Nothing' } as const;
</script>

{#snippet chooser(label: string, look: string)}
  <label class={`${look} cursor-pointer`}
    >{label}<input class="sr-only" type="file" accept=".csv,.tsv,.txt,.xlsx,.ods,text/csv" onchange={take} /></label
  >
{/snippet}

<div
  class="flex h-full flex-col"
  role="presentation"
  ondragover={(e) => e.preventDefault()}
  ondrop={(e) => {
    e.preventDefault();
    const file = e.dataTransfer?.files[0];
    if (file) void proposing.give(file);
  }}
>
  <header class="flex flex-none items-baseline gap-3 border-b border-hair px-6 py-3">
    <h2 class="min-w-0 flex-1 truncate text-[22px]">A design from what you have</h2>
    {#if proposal}{@render chooser('Another table…', 'link small')}<button class="link small" onclick={() => proposing.drop()}
        >Remove the table</button
      >{/if}
    {#if proposal?.state === 'ready' && isSheetShown}<button
        class="btn btn-main"
        disabled={proposing.trying.busy || proposing.taken === 0 || proposing.name.trim() === ''}
        onclick={accept}>Add to the draft</button
      >{/if}
  </header>
  <div class="min-h-0 flex-1 overflow-y-auto px-6 py-4" bind:this={page}>
    {#if proposing.trying.fault}<p class="fault mb-3" role="alert">{proposing.trying.fault}</p>{/if}
    {#if !proposing.known}<p class="quiet" role="status">Loading…</p>
    {:else if proposal === null}
      <p class="max-w-prose">
        Give the register you have, as a spreadsheet (XLSX, ODS) or a CSV file, with the names of the columns in its first line. Its columns
        are read, and fields, vocabularies, document types and a view are proposed. You decide about each; nothing is changed until you
        publish.
      </p>
      <p class="mt-4">{@render chooser('Choose a table…', 'btn btn-main')} <span class="quiet small ml-2">or drop it here</span></p>
      <p class="mt-6 max-w-prose">
        Or give the folders you have: what each level means is proposed as a field, and a view with these levels, so that everybody finds
        their way as before. Only the paths are read, not the files.
      </p>
      <p class="mt-3">
        <label class="btn cursor-pointer"
          >Choose a folder…<input class="sr-only" type="file" webkitdirectory multiple onchange={takeFolder} /></label
        >
      </p>
    {:else if proposal.state === 'waiting'}
      <p role="status">
        Reading {proposal.file_name}{proposal.rows > 0 ? `: ${count(proposal.rows)} rows so far` : ''}…
        <button class="link" onclick={() => proposing.drop()}>Cancel</button>
      </p>
    {:else if proposal.state === 'failed'}
      <p class="text-rust" role="alert">{proposal.says}</p>
    {:else}
      <p>
        <span class="font-serif text-[17px]">{proposal.file_name}</span>
        <span class="quiet small ml-2" role="status"
          >{proposal.what === 'folders' ? plural(proposal.rows, 'file', 'files') : plural(proposal.rows, 'row', 'rows')}, {plural(
            proposal.columns.length,
            'column',
            'columns',
          )}; {proposing.taken} selected.</span
        >
      </p>
      {#if proposal.accepted}
        <BringIn what={proposal.what} isDraft={draft.changes.length > 0} />
        <button class="link mt-4" aria-expanded={showsSheet} onclick={() => (showsSheet = !showsSheet)}
          >{showsSheet ? 'Hide the sheet' : 'Show the sheet: what the columns became'}</button
        >
      {/if}
      <div class="mt-3 flex flex-wrap items-end gap-6" class:hidden={!isSheetShown}>
        <label class="w-60"
          ><span class="heading">Name of the view and the type</span><input
            class="input"
            bind:value={proposing.name}
            autocomplete="off"
          /></label
        >
        {#if proposing.withTypes}<label class="w-48"
            ><span class="heading">Library</span><select class="input" bind:value={proposing.library}>
              {#each libraries as l (l.code)}<option value={l.code}>{l.name}</option>{/each}
              <option value="">a new library</option>
            </select></label
          >{/if}
        <label class="flex items-center gap-1.5 pb-1.5"
          ><input type="checkbox" class="check" bind:checked={proposing.withTypes} />with document types and a view</label
        >
      </div>
      <div class:hidden={!isSheetShown}>
        {#each proposal.faults as f (f.what)}
          <details class="small">
            <summary class="cursor-pointer py-0.5 text-rust">{count(f.count)} {f.what}</summary>
            <ul class="ml-4">
              {#each f.examples as e, i (i)}<li>{e}</li>{/each}
            </ul>
          </details>
        {/each}
        <table class="mt-4 w-full">
          <caption class="sr-only">Columns of the table and the fields proposed</caption>
          <thead
            ><tr class="text-left"
              ><th class="heading w-7"><span class="sr-only">Take it</span></th><th class="heading w-56">Field</th><th class="heading w-44"
                >Kind</th
              ><th class="heading">Evidence</th></tr
            ></thead
          >
          <tbody>
            {#each proposing.decided.filter((d) => proposal.what === 'table' || d.place > 0) as decision (decision.place)}
              {@const column = proposing.column(decision.place)}
              {@const reading = proposing.reading(decision)}
              {@const field = proposing.field(decision.place)}
              <tr class="border-t border-hair align-top" class:quiet={!decision.take}>
                <td class="py-1.5"
                  ><input type="checkbox" class="check mt-1.5" aria-label={`Take ${column.name}`} bind:checked={decision.take} /></td
                >
                <td class="py-1 pr-4">
                  <input
                    class="input"
                    aria-label={`Label of ${column.name}`}
                    bind:value={decision.label}
                    disabled={!decision.take || decision.into !== null}
                  />
                  {#if field.existing && reading.kind === field.kind}<label class="small flex min-h-7 items-center gap-1.5"
                      ><input
                        type="checkbox"
                        class="check"
                        checked={decision.existing !== null}
                        disabled={!decision.take}
                        onchange={(e) => (decision.existing = e.currentTarget.checked ? field.existing : null)}
                      />is the field {app.label(field.existing)}</label
                    >{/if}
                  {#if decision.take && decision.existing !== null && column.unknown_count > 0}<label
                      class="small flex min-h-7 items-center gap-1.5"
                      ><input type="checkbox" class="check" bind:checked={decision.adds_terms} />with {plural(
                        column.unknown_count,
                        'new term',
                        'new terms',
                      )}</label
                    >{/if}
                  {#if decision.take && proposing.above(decision)}<label class="small flex min-h-7 items-center gap-1.5"
                      ><input
                        type="checkbox"
                        class="check"
                        checked={decision.tree}
                        onchange={(e) => proposing.plant(decision, e.currentTarget.checked)}
                      />one tree with {name(column.depends_on!)}</label
                    >{/if}
                  {#if decision.take && (decision.into !== null || joining === decision.place)}
                    <select
                      class="input small mt-1"
                      aria-label={`Where the values of ${column.name} go`}
                      value={decision.into === null ? '' : String(decision.into)}
                      onchange={(e) => {
                        proposing.join(decision, e.currentTarget.value === '' ? null : Number(e.currentTarget.value));
                        joining = null;
                      }}
                    >
                      <option value="">a field of its own</option>
                      {#each proposing.joinable(decision) as d (d.place)}<option value={String(d.place)}>together with {d.label}</option
                        >{/each}
                    </select>
                  {:else if decision.take && decision.existing === null && proposing.joinable(decision).length > 0}
                    <button
                      class="link small min-h-7"
                      aria-label={`Join ${column.name} with another`}
                      onclick={() => (joining = decision.place)}>Join with another…</button
                    >
                  {/if}
                </td>
                <td class="py-1 pr-4">
                  <select
                    class="input"
                    aria-label={`Kind of ${column.name}`}
                    value={decision.kind}
                    disabled={!decision.take}
                    onchange={(e) => proposing.choose(decision, e.currentTarget.value)}
                  >
                    {#each column.readings as r (r.kind)}<option value={r.kind}>{kindLabel(r.kind)}, {percent(r.share)}</option>{/each}
                  </select>
                  <p class="small quiet">
                    {[
                      reading.unit,
                      reading.pattern,
                      column.several ? 'several values' : '',
                      reading.kind === 'choice' ? `${count(column.terms)} ${column.is_scheme ? 'concepts in a tree' : 'terms'}` : '',
                      column.required ? 'required' : '',
                    ]
                      .filter(Boolean)
                      .join(', ')}
                  </p>
                </td>
                <td class="small py-1.5">
                  <p>
                    {percent(column.fill)} filled, {count(column.distinct)} different:
                    <span class="quiet">{column.examples.slice(0, 4).join(' · ')}</span>
                  </p>
                  {#if decision.place === proposal.type_column}<p>Names the document type of each row.</p>{/if}
                  {#if column.same_as !== null}<p>Says the same as {name(column.same_as)}; its values become the notations there.</p>{/if}
                  {#if column.depends_on !== null && reading.kind === 'choice'}<p>The choice depends on {name(column.depends_on)}.</p>{/if}
                  {#if column.sensitive}<p class="text-rust">Probably sensitive: {column.sensitive}.</p>{/if}
                  {#each [...reading.says, ...column.says] as says (says)}<p class="quiet">
                      {says[0]!.toUpperCase() + says.slice(1)}.
                    </p>{/each}
                  {#if reading.misfits.length > 0}
                    <details>
                      <summary class="cursor-pointer text-rust"
                        >Does not fit: {reading.misfits[0]!.value}{reading.misfits.length > 1 ? ' and others' : ''}</summary
                      >
                      <ul class="ml-4">
                        {#each reading.misfits as m (m.value)}<li>
                            {m.value} <span class="quiet">{plural(m.rows, 'row', 'rows')}</span>
                          </li>{/each}
                      </ul>
                    </details>
                  {/if}
                  {#if column.doubles.length > 0 && reading.kind === 'choice'}
                    <details>
                      <summary class="cursor-pointer"
                        >Probably duplicates: {column.doubles[0]!.rare}{column.doubles.length > 1 ? ' and others' : ''}</summary
                      >
                      <ul class="ml-4">
                        {#each column.doubles as d (d.rare + d.usual)}<li>{d.rare} <span class="quiet">for {d.usual}</span></li>{/each}
                      </ul>
                    </details>
                  {/if}
                </td>
              </tr>
            {/each}
          </tbody>
        </table>
        {#if proposal.gatherings.length > 0}
          <section class="mt-6 border-t border-hair pt-3" aria-label="What belongs together">
            <h3 class="heading">What belongs together</h3>
            {#each proposal.gatherings as g, i (g.key)}
              {@const made = proposing.gathered[i]!}
              <div class="mt-2 flex flex-wrap items-start gap-x-4 gap-y-1">
                <p class="min-w-72 flex-1">
                  Rows with the same {quoted(g.key)} have the same {g.shares.map(quoted).join(', ')}.
                  <span class="quiet small"
                    >{count(g.values)} values with {g.each} rows each{g.says.length > 0 ? `; ${g.says.join('; ')}` : ''}.</span
                  >
                </p>
                <select class="input w-44" aria-label={`What ${name(g.key)} makes`} bind:value={made.as}>
                  {#each Object.entries(madeOf) as [value, label] (value)}<option {value}>{label}</option>{/each}
                </select>
                <input
                  class="input w-44"
                  aria-label={`Name of what ${name(g.key)} makes`}
                  bind:value={made.name}
                  disabled={made.as === 'nothing'}
                  autocomplete="off"
                />
              </div>
            {/each}
          </section>
        {/if}
        {#if proposing.withTypes}
          <section class="mt-6 border-t border-hair pt-3" aria-label="Types and view">
            <h3 class="heading">Document types</h3>
            <p>
              {proposal.type_column === null
                ? 'One type for all rows.'
                : `${name(proposal.type_column)} tells which columns are filled: one type for each of its values.`}
            </p>
            <ul class="mt-1 columns-2">
              {#each proposal.types as t (t.name)}<li>
                  {t.name} <span class="quiet small">{plural(t.rows, 'row', 'rows')}, {plural(t.fields, 'field', 'fields')}</span>
                </li>{/each}
            </ul>
            <p class="mt-2 small quiet">
              {proposal.title.length > 0
                ? `Titles are made of ${proposal.title.map(quoted).join(', ')}.`
                : 'No columns tell the rows apart; titles stay the names of the files.'}
              {proposal.levels.length > 0 ? `The view has the levels ${proposal.levels.map(quoted).join(', ')}.` : ''}
            </p>
          </section>
        {/if}
        {#if rules.length > 0}
          <section class="mt-6 border-t border-hair pt-3" aria-label="What contradicts itself">
            <h3 class="heading">What contradicts itself</h3>
            <ul>
              {#each rules as rule (rule.from.join('+') + rule.to)}
                <li class="small">
                  {rule.from.map(name).join(' and ')} decides {name(rule.to)} but for {percent(rule.error)} of the rows:
                  {#each rule.exceptions.slice(0, 2) as e, i (i)}{i > 0 ? '; ' : ''}<span class="quiet"
                      >{e.from.join(', ')} has {e.found || 'nothing'} in {plural(e.rows, 'row', 'rows')}, otherwise {e.usual ||
                        'nothing'}</span
                    >{/each}
                </li>
              {/each}
            </ul>
          </section>
        {/if}
      </div>
    {/if}
  </div>
</div>
