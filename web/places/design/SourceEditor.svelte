<script lang="ts">
  import type { Source } from '@/api/types';
  import { app } from '@/state/app.svelte';
  import { draft as whole } from './draft.svelte';
  import { Editing } from './editing.svelte';
  import EditorFrame from './EditorFrame.svelte';
  import NameAndCode from './NameAndCode.svelte';
  import OrderedCodes from './OrderedCodes.svelte';
  import TextRow from './TextRow.svelte';

  let { source }: { source: Source | null } = $props();
  const libraries = app.design!.libraries;
  // svelte-ignore state_referenced_locally
  const editing = new Editing<Source>('sources', source, {
    code: '',
    name: '',
    way: 'folder',
    folder: '',
    mailbox: '',
    rules: [],
    scanner: '',
    library: libraries[0]?.code ?? '',
    type: null,
    pattern: '',
    values: [],
    group: whole.groups[0] ?? '',
    original: 'kept',
    lock_version: 1,
  });
  const draft = $derived(editing.draft);
  const takes = $derived(libraries.find((l) => l.code === draft.library)?.types ?? []);
  const types = $derived(app.design!.types.filter((t) => takes.includes(t.code)));
  /** The fields of the type that is proposed; all where none is. */
  function fieldsOf(type: string | null) {
    const of = types.find((t) => t.code === type)?.fields.map((f) => f.code);
    return app.design!.fields.filter((f) => !of || of.includes(f.code));
  }
  const fields = $derived(fieldsOf(draft.type));
  const example = $derived(fields.length > 1 ? `{${fields[0]!.code}}_{${fields[1]!.code}}` : '{field}_{field}');
  const namesHelp = $derived(`Codes of fields in braces, like ${example}; folders with slashes; the ending is no part of it.`);
</script>

{#snippet given(label: string, values: Source['values'], type: string | null, fault: string, onchange: (values: Source['values']) => void)}
  <OrderedCodes
    {label}
    codes={values.map((v) => v.code)}
    items={fieldsOf(type).map((f) => ({ value: f.code, label: f.label }))}
    {fault}
    onchange={(codes) => onchange(codes.map((code) => values.find((v) => v.code === code) ?? { code, value: '' }))}
  >
    {#snippet extra(code)}
      {@const value = values.find((v) => v.code === code)}
      {#if value}<input class="input w-56" aria-label={`Value of ${app.label(code)}`} bind:value={value.value} autocomplete="off" />{/if}
    {/snippet}
  </OrderedCodes>
{/snippet}

<EditorFrame {editing} title={draft.name} what="source">
  <p class="quiet mb-2 max-w-prose">
    {draft.way === 'scanner'
      ? 'Who is of the group that is named scans from Intake; the pages appear there one by one.'
      : 'What arrives comes to Intake by itself, once it is whole, and waits there for the group that is named.'}
    {draft.way === 'scanner'
      ? ''
      : draft.way === 'folder'
        ? 'The originals go to the folder “done” in it; what cannot come in goes to “refused”, with a text that says why.'
        : 'Mails that came in go to the folder “Brenvic done” of the mailbox; what cannot come in goes to “Brenvic refused”.'}
  </p>
  <NameAndCode {editing} />
  <label class="block py-1.5"
    ><span class="heading">How it arrives</span><select class="input" bind:value={draft.way}
      ><option value="folder">in a folder of the server</option><option value="mailbox">in a mailbox</option><option value="scanner"
        >from a scanner</option
      ></select
    ></label
  >
  {#if draft.way === 'folder'}
    <TextRow
      label="Folder"
      mono
      value={draft.folder}
      fault={editing.faults.folder}
      help="Below the one for all sources on the server, like scans/harbour. It is made when the source is published."
      oninput={(folder) => (draft.folder = folder)}
    />
  {:else if draft.way === 'scanner'}
    <TextRow
      label="Scanner"
      mono
      value={draft.scanner}
      fault={editing.faults.scanner}
      help="The name that the settings of the server give it (BRENVIC_SCANNERS). Any network scanner that speaks eSCL."
      oninput={(scanner) => (draft.scanner = scanner)}
    />
  {:else}
    <TextRow
      label="Mailbox"
      mono
      value={draft.mailbox}
      fault={editing.faults.mailbox}
      help="The name that the settings of the server give it (BRENVIC_MAILBOXES), where its address and password are."
      oninput={(mailbox) => (draft.mailbox = mailbox)}
    />
  {/if}
  <div class="grid grid-cols-2 gap-4 py-1.5">
    <label
      ><span class="heading">Library</span><select
        class="input"
        value={draft.library}
        onchange={(e) => {
          draft.library = e.currentTarget.value;
          if (draft.type !== null && !takes.includes(draft.type)) draft.type = null;
        }}
        >{#each libraries as l (l.code)}<option value={l.code}>{l.name}</option>{/each}</select
      >{#if editing.faults.library}<span class="fault" role="alert">{editing.faults.library}</span>{/if}</label
    >
    <label
      ><span class="heading">Document type, if always the same</span><select
        class="input"
        value={draft.type ?? ''}
        onchange={(e) => (draft.type = e.currentTarget.value || null)}
        ><option value="">is chosen in Intake</option>{#each types as t (t.code)}<option value={t.code}>{t.name}</option>{/each}</select
      >{#if editing.faults.type}<span class="fault" role="alert">{editing.faults.type}</span>{/if}</label
    >
    <label
      ><span class="heading">Who sees what arrives</span><select class="input" bind:value={draft.group}
        >{#each whole.groups as g (g)}<option value={g}>{g}</option>{/each}</select
      >{#if editing.faults.group}<span class="fault" role="alert">{editing.faults.group}</span>{/if}</label
    >
    {#if draft.way !== 'scanner'}<label
        ><span class="heading">The originals</span><select class="input" bind:value={draft.original}
          ><option value="kept">are kept there, apart</option><option value="removed">are removed once the document is safe</option></select
        ></label
      >{/if}
  </div>
  {#if draft.way === 'folder'}
    <TextRow
      label="What the names of files say"
      mono
      value={draft.pattern}
      fault={editing.faults.pattern}
      help={`${namesHelp} A file of the same name with .json or .csv gives values too.`}
      oninput={(pattern) => (draft.pattern = pattern)}
    />
  {/if}
  {#if draft.way === 'mailbox'}
    <fieldset class="py-1.5">
      <legend class="heading">Rules</legend>
      <p class="small quiet max-w-prose">
        What is known of mails that fit a criterion, as <span class="mono">from = holm and subject = quotation</span> or
        <span class="mono">attachment == *.pdf</span>. Of several that fit, the last says the document type and each value.
      </p>
      {#each draft.rules as rule, i (i)}
        <div class="flex items-center gap-2 border-t border-hair py-1.5">
          <input class="input mono" aria-label={`Criterion of rule ${i + 1}`} bind:value={rule.criterion} autocomplete="off" />
          <select
            class="input w-56"
            aria-label={`Document type of rule ${i + 1}`}
            value={rule.type ?? ''}
            onchange={(e) => (rule.type = e.currentTarget.value || null)}
            ><option value="">no document type</option>{#each types as t (t.code)}<option value={t.code}>{t.name}</option>{/each}</select
          >
          <button class="link small" type="button" onclick={() => (draft.rules = draft.rules.filter((_, n) => n !== i))}>Remove</button>
        </div>
        <div class="pb-2 pl-6">
          {@render given(`Values of rule ${i + 1}`, rule.values, rule.type ?? draft.type, '', (values) => (rule.values = values))}
        </div>
      {/each}
      <button class="link small" type="button" onclick={() => (draft.rules = [...draft.rules, { criterion: '', type: null, values: [] }])}
        >Add a rule</button
      >
      {#if editing.faults.rules}<p class="fault" role="alert">{editing.faults.rules}</p>{/if}
    </fieldset>
  {/if}
  {@render given('Values that all of it has', draft.values, draft.type, editing.faults.values ?? '', (values) => (draft.values = values))}
</EditorFrame>
