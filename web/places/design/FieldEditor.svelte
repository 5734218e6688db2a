<script lang="ts">
  import { api } from '@/api/client';
  import type { Field } from '@/api/types';
  import Combobox from '@/parts/Combobox.svelte';
  import { app } from '@/state/app.svelte';
  import { router } from '@/state/router.svelte';
  import { draft as whole } from './draft.svelte';
  import { Editing } from './editing.svelte';
  import EditorFrame from './EditorFrame.svelte';
  import TextRow from './TextRow.svelte';
  import NameAndCode from './NameAndCode.svelte';
  import PartChoice from './PartChoice.svelte';

  let { field }: { field: Field | null } = $props();
  // svelte-ignore state_referenced_locally
  const editing = new Editing<Field>('fields', field, {
    code: '',
    label: '',
    kind: 'text',
    help: '',
    multiple: false,
    faceted: false,
    sensitive: false,
    vocabulary: null,
    unit: '',
    pattern: '',
    dublin_core: null,
    minimum: null,
    maximum: null,
    max_length: null,
    default: '',
    refers_to: 'document',
    formerly: [],
    lock_version: 1,
  });
  const draft = $derived(editing.draft);
  const design = $derived(app.design!);
  const kind = $derived(design.kinds.find((k) => k.value === draft.kind));
  const has = (option: string) => kind?.options.includes(option) === true;
  const usedBy = $derived([
    ...design.types
      .filter((t) => t.fields.some((f) => f.code === draft.code))
      .map((t) => ({ href: `/design/types/${t.code}`, name: t.name })),
    ...design.dossier_kinds
      .filter((d) => d.fields.some((f) => f.code === draft.code))
      .map((d) => ({ href: `/design/dossier_kinds/${d.code}`, name: d.name })),
    ...design.views
      .filter((v) => !v.own && (v.columns.includes(draft.code) || v.levels.some((l) => l.field === draft.code)))
      .map((v) => ({ href: `/design/views/${v.code}`, name: `view ${v.name}` })),
    ...design.forms
      .filter((f) => f.fields.some((e) => e.code === draft.code))
      .map((f) => ({ href: `/design/forms/${f.code}`, name: `form ${f.name}` })),
    ...design.tables
      .filter((t) => t.key === draft.code || t.fills.includes(draft.code))
      .map((t) => ({ href: `/design/tables/${t.code}`, name: `table ${t.name}` })),
  ]);
  let merging = $state(false);

  /** What is no number goes as it is: the server says what is wrong with it. */
  const number = (text: string) => {
    const plain = text.trim().replace(/^([-\d]*),(\d*)$/, '$1.$2');
    return plain === '' ? null : Number.isNaN(Number(plain)) ? (text as unknown as number) : Number(plain);
  };
  const flags: ['multiple' | 'faceted' | 'sensitive', string, string][] = [
    ['multiple', 'Several values', 'A document may have more than one.'],
    ['faceted', 'Facet', 'Its values are listed with counts beside the results.'],
    ['sensitive', 'Sensitive', 'Hidden from readers, in searches too.'],
  ];
  const may = (flag: string) => (flag === 'faceted' ? kind?.may_be_faceted : flag === 'multiple' ? kind?.may_be_multiple : true);

  async function merge(into: string) {
    if (
      into &&
      (await whole.act(
        () => api.mergeFields(field!.code, into),
        `“${field!.label}” is merged into “${app.label(into)}” in the draft. Publishing moves the values.`,
      ))
    )
      router.go(`/design/fields/${into}`);
  }
</script>

<EditorFrame {editing} title={draft.label} what="field">
  <NameAndCode {editing} property="label" help="The name used in queries and files. It cannot be changed later." />
  <div class="py-1.5">
    <label class="heading" for="kind">Kind</label>
    <select
      class="input"
      id="kind"
      bind:value={draft.kind}
      onchange={() => {
        if (!kind?.may_be_faceted) draft.faceted = false;
        if (!kind?.may_be_multiple) draft.multiple = false;
        if (editing.isNew) draft.faceted = draft.kind === 'choice';
        if (has('currency') && draft.unit === '') draft.unit = 'GBP';
      }}
    >
      {#each design.kinds as k (k.value)}<option value={k.value}>{k.label}</option>{/each}
    </select>
    {#if editing.faults.kind}<p class="fault" role="alert">{editing.faults.kind}</p>{/if}
  </div>
  {#if has('vocabulary')}
    <PartChoice
      label="Vocabulary"
      kind="vocabularies"
      items={design.vocabularies.map((v) => ({
        value: v.code,
        label: v.name,
        hint: v.scheme ? `scheme, ${v.term_count} concepts` : `${v.term_count} terms`,
      }))}
      value={draft.vocabulary}
      fault={editing.faults.vocabulary}
      onchange={(code) => (draft.vocabulary = code)}
    />
  {/if}
  {#if has('unit') || has('currency')}
    <div class="grid grid-cols-3 gap-4">
      <TextRow
        label={has('currency') ? 'Currency' : 'Unit'}
        value={draft.unit}
        fault={editing.faults.unit}
        help={has('currency') ? 'ISO 4217, like GBP' : undefined}
        oninput={(v) => (draft.unit = v)}
      />
      <TextRow
        label="Lowest value"
        value={draft.minimum?.toString() ?? ''}
        fault={editing.faults.minimum}
        oninput={(v) => (draft.minimum = number(v))}
      />
      <TextRow
        label="Highest value"
        value={draft.maximum?.toString() ?? ''}
        fault={editing.faults.maximum}
        oninput={(v) => (draft.maximum = number(v))}
      />
    </div>
  {/if}
  {#if has('refers_to')}
    <fieldset class="py-1.5">
      <legend class="heading">Refers to</legend>
      <label class="mr-4 inline-flex items-center gap-1.5"
        ><input type="radio" class="check" name="refers-to" value="document" bind:group={draft.refers_to} />a document</label
      >
      <label class="inline-flex items-center gap-1.5"
        ><input type="radio" class="check" name="refers-to" value="dossier" bind:group={draft.refers_to} />a dossier</label
      >
    </fieldset>
  {/if}
  {#if has('pattern')}
    <div class="grid grid-cols-[1fr_120px] gap-4">
      <TextRow
        label="Pattern"
        mono
        value={draft.pattern}
        fault={editing.faults.pattern}
        help="9 is a digit, A a capital letter, X either, ? at the end the check character (ISO 7064). AA-9999-? fits LK-0417-T."
        oninput={(v) => (draft.pattern = v)}
      />
      <TextRow
        label="Longest text, in characters"
        value={draft.max_length?.toString() ?? ''}
        fault={editing.faults.max_length}
        help="in characters"
        oninput={(v) => (draft.max_length = number(v))}
      />
    </div>
  {/if}
  {#if has('default')}<TextRow
      label="Default"
      value={draft.default}
      fault={editing.faults.default}
      help="The value a new index sheet starts with; a document type may set its own."
      oninput={(v) => (draft.default = v)}
    />{/if}
  <TextRow
    label="Help"
    value={draft.help}
    fault={editing.faults.help}
    help="Shown below the field on index sheets."
    oninput={(v) => (draft.help = v)}
  />
  <div class="py-1.5">
    <label class="heading" for="dublin-core">Dublin Core element</label>
    <select
      class="input"
      id="dublin-core"
      value={draft.dublin_core ?? ''}
      onchange={(e) => (draft.dublin_core = (e.currentTarget.value || null) as Field['dublin_core'])}
    >
      <option value="">none</option>
      {#each design.dublin_core as element (element)}<option value={element}>dc.{element}</option>{/each}
    </select>
    <p class="quiet small mt-0.5">Searches for this element look in the field too, and exports give its values under it.</p>
  </div>
  <fieldset class="py-1.5">
    <legend class="heading">Behaviour</legend>
    {#each flags as [name, label, what] (name)}
      <label class="flex items-baseline gap-2 py-0.5"
        ><input type="checkbox" class="check relative top-[2px]" bind:checked={draft[name]} disabled={!may(name)} /><span
          >{label} <span class="quiet small">{what}</span></span
        ></label
      >
    {/each}
    {#if editing.faults.faceted || editing.faults.multiple}<p class="fault" role="alert">
        {editing.faults.faceted ?? editing.faults.multiple}
      </p>{/if}
  </fieldset>
  {#if draft.formerly.length > 0}<p class="small quiet">
      Replaces <span class="mono">{draft.formerly.join(', ')}</span>; queries that use the old code find this field.
    </p>{/if}
  {#if !editing.isNew}
    <p class="quiet mt-3 border-t border-hair pt-2">
      {#if usedBy.length > 0}Used by {#each usedBy as user, i (user.href)}{i > 0 ? ', ' : ''}<a href={user.href}>{user.name}</a
          >{/each}.{:else}No document type uses it yet.{/if}
      <a href={`/find?c=${encodeURIComponent(`${draft.code} <> ""`)}`}>Documents that have it</a>
    </p>
    {#if merging}
      <div class="mt-2 max-w-xs">
        <label class="heading" for="merge-into">Replace it with</label>
        <Combobox
          id="merge-into"
          label="Replace it with"
          items={design.fields
            .filter((f) => f.code !== draft.code)
            .map((f) => ({ value: f.code, label: f.label, hint: design.kinds.find((k) => k.value === f.kind)?.label }))}
          value=""
          onchange={merge}
        />
        <p class="small quiet">
          Types, views and forms take the other field; publishing moves the values. The effect says which do not fit.
        </p>
      </div>
    {:else}<button class="link small mt-1" type="button" onclick={() => (merging = true)}>Merge it into another field</button>{/if}
  {/if}
</EditorFrame>
