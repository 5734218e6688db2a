<script lang="ts" module>
  /** The kinds of parts that can be made from where they are missed. */
  export type Makeable = 'fields' | 'vocabularies' | 'types' | 'views' | 'repositories';

  export const MAKEABLE: Record<Makeable, string> = {
    fields: 'field',
    vocabularies: 'vocabulary',
    types: 'document type',
    views: 'view',
    repositories: 'repository',
  };
</script>

<script lang="ts">
  import { api, ApiError } from '@/api/client';
  import type { Term } from '@/api/types';
  import type { Choice } from '@/parts/terms';
  import { app } from '@/state/app.svelte';
  import { choicesOf } from '@/state/choices.svelte';
  import { onMount, tick } from 'svelte';
  import { codeOf, freeCode, termsOf } from './codes';
  import { draft } from './draft.svelte';
  import OrderedCodes from './OrderedCodes.svelte';
  import PartChoice from './PartChoice.svelte';

  /** A part of the design made where it is missed, with what it cannot do without; everything else is in its own editor. */
  interface Props {
    kind: Makeable;
    /** What was typed where it was missed. */
    name: string;
    onmade: (code: string) => void;
    oncancel: () => void;
  }
  let { kind, name: typed, onmade, oncancel }: Props = $props();
  const id = $props.id();
  const design = $derived(app.design!);
  // svelte-ignore state_referenced_locally
  let name = $state(typed);
  let fieldKind = $state('text');
  let vocabulary = $state<string | null>(null);
  let unit = $state('');
  let faceted = $state(false);
  let terms = $state('');
  let dependsOn = $state('');
  let codes = $state<string[]>([]);
  let isMaking = $state(false);
  let busy = $state(false);
  let fault = $state('');
  let first = $state<HTMLInputElement>();
  let group = $state<HTMLElement>();
  const chosenKind = $derived(design.kinds.find((k) => k.value === fieldKind));
  const has = (option: string) => chosenKind?.options.includes(option) === true;
  const fieldItems = $derived(design.fields.map((f) => ({ value: f.code, label: f.label, hint: app.kind(f)?.label })));
  const choices = $derived(design.fields.filter((f) => f.kind === 'choice'));

  onMount(() => {
    group?.addEventListener('keydown', keydown);
    first?.focus();
    group?.scrollIntoView({ block: 'nearest' });
  });

  /** The terms as written, with the codes of what they may be chosen under. */
  async function termsMade(): Promise<Term[]> {
    const on = design.fields.find((f) => f.code === dependsOn);
    const { items, source } = on ? choicesOf(on) : { items: [], source: undefined };
    const same = (label: string) => (choice: Choice) => choice.label.toLowerCase() === label.toLowerCase() || choice.value === label;
    const made: Term[] = [];
    for (const { under, ...term } of termsOf(terms, on !== undefined)) {
      const codes: string[] = [];
      for (const label of under) {
        const found = (source ? await source.matching(label) : items).find(same(label));
        if (!found) throw new ApiError(422, 'invalid', `“${label}” is not a value of ${on!.label}.`);
        codes.push(found.value);
      }
      made.push({ ...term, parent: null, synonyms: [], ...(codes.length > 0 ? { under: codes } : {}) });
    }
    return made;
  }

  function content(code: string, made: Term[]): Record<string, unknown> {
    switch (kind) {
      case 'fields':
        return {
          code,
          label: name,
          kind: fieldKind,
          vocabulary: has('vocabulary') ? vocabulary : null,
          unit: has('unit') || has('currency') ? unit : '',
          faceted: chosenKind?.may_be_faceted === true && faceted,
        };
      case 'vocabularies':
        return { code, name, terms: made, depends_on: dependsOn || null };
      case 'types':
        return { code, name, fields: codes.map((field) => ({ code: field, required: false })) };
      case 'views':
        return { code, name, criterion: '', columns: codes, levels: [], sort: [] };
      default:
        return { code, name };
    }
  }

  async function make() {
    busy = true;
    const code = freeCode(
      codeOf(name) || MAKEABLE[kind].split(' ').at(-1)!,
      (design[kind] as { code: string }[]).map((p) => p.code),
    );
    try {
      await api.create(kind, content(code, await termsMade()) as never);
      await draft.load();
      app.say(`The ${MAKEABLE[kind]} “${name}” is in the draft.`);
      onmade(code);
    } catch (error) {
      if (!(error instanceof ApiError)) throw error;
      fault = Object.values(error.fields)[0] ?? error.message;
      await tick();
      group?.scrollIntoView({ block: 'nearest' });
    } finally {
      busy = false;
    }
  }

  function keydown(event: KeyboardEvent) {
    const inText = event.target instanceof HTMLInputElement && event.target.getAttribute('role') !== 'combobox';
    if (event.key === 'Escape' && !event.defaultPrevented) {
      event.stopPropagation();
      oncancel();
    } else if (event.key === 'Enter' && (event.ctrlKey || inText)) {
      // Enter here makes this, and does not save the part it is made for.
      event.preventDefault();
      event.stopPropagation();
      if (!busy && name.trim() !== '') void make();
    }
  }
</script>

<div class="my-2 border-l-2 border-act pl-3" role="group" bind:this={group} aria-label={`New ${MAKEABLE[kind]}`}>
  <div class="grid gap-x-4 gap-y-1" class:grid-cols-2={kind === 'fields' || kind === 'vocabularies'}>
    <div>
      <label class="heading" for={`${id}-name`}>{`Name of the new ${MAKEABLE[kind]}`}</label>
      <input class="input" id={`${id}-name`} bind:value={name} bind:this={first} autocomplete="off" />
    </div>
    {#if kind === 'fields'}
      <div>
        <label class="heading" for={`${id}-kind`}>Kind</label>
        <select
          class="input"
          id={`${id}-kind`}
          bind:value={fieldKind}
          onchange={() => {
            faceted = fieldKind === 'choice';
            unit = has('currency') ? 'GBP' : '';
          }}
        >
          {#each design.kinds as k (k.value)}<option value={k.value}>{k.label}</option>{/each}
        </select>
      </div>
      {#if has('vocabulary')}
        <div class="col-span-2">
          <PartChoice
            label="Vocabulary"
            kind="vocabularies"
            items={design.vocabularies.map((v) => ({ value: v.code, label: v.name }))}
            value={vocabulary}
            onchange={(code) => (vocabulary = code)}
            bind:isMaking
          />
        </div>
      {/if}
      {#if has('unit') || has('currency')}
        <div>
          <label class="heading" for={`${id}-unit`}>{has('currency') ? 'Currency' : 'Unit'}</label>
          <input class="input" id={`${id}-unit`} bind:value={unit} autocomplete="off" />
        </div>
      {/if}
      {#if chosenKind?.may_be_faceted}
        <label class="flex items-center gap-1.5 self-end pb-1.5"
          ><input type="checkbox" class="check" bind:checked={faceted} />facet
          <span class="quiet small">listed beside the results</span></label
        >
      {/if}
    {:else if kind === 'vocabularies'}
      <div>
        <label class="heading" for={`${id}-depends`}>The choice depends on</label>
        <select class="input" id={`${id}-depends`} bind:value={dependsOn}>
          <option value="">no other field</option>
          {#each choices as f (f.code)}<option value={f.code}>{f.label}</option>{/each}
        </select>
      </div>
      <div class="col-span-2">
        <label class="heading" for={`${id}-terms`}>Terms, one per line</label>
        <textarea class="input" id={`${id}-terms`} rows="4" bind:value={terms} spellcheck="false"></textarea>
        {#if dependsOn}<p class="small quiet">
            Behind a colon: the values of {app.label(dependsOn)} it may be chosen under, separated with commas.
          </p>{/if}
      </div>
    {/if}
  </div>
  {#if kind === 'types' || kind === 'views'}
    <OrderedCodes
      label={kind === 'types' ? 'Its fields' : 'Its columns'}
      {codes}
      items={fieldItems}
      makes="fields"
      onchange={(next) => (codes = next)}
    />
  {/if}
  {#if fault}<p class="fault mt-1" role="alert">{fault}</p>{/if}
  {#if !isMaking}
    <p class="mt-2 flex gap-2">
      <button class="btn btn-main" type="button" disabled={busy || name.trim() === ''} onclick={make}>Create {MAKEABLE[kind]}</button
      ><button class="btn" type="button" onclick={oncancel}>Cancel</button>
    </p>
  {/if}
</div>
