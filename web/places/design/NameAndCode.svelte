<script lang="ts" generics="T extends Versioned">
  import { codeOf } from './codes';
  import type { Editing, Versioned } from './editing.svelte';
  import TextRow from './TextRow.svelte';

  /** What a part is called by people, and its code, which a new part gets from its name until somebody types one. */
  interface Props {
    editing: Editing<T>;
    /** The property that has the name. */
    property?: 'name' | 'label';
    help?: string;
  }
  let { editing, property = 'name', help }: Props = $props();
  const draft = $derived(editing.draft as unknown as Record<string, string>);
  let codeTouched = false;
</script>

<TextRow
  label={property === 'name' ? 'Name' : 'Label'}
  value={draft[property] ?? ''}
  fault={editing.faults[property]}
  focused={editing.isNew}
  oninput={(v) => {
    draft[property] = v;
    if (editing.isNew && !codeTouched) draft.code = codeOf(v);
  }}
/>
<TextRow
  label="Code"
  mono
  {help}
  value={draft.code ?? ''}
  disabled={!editing.isNew}
  fault={editing.faults.code}
  oninput={(v) => {
    codeTouched = true;
    draft.code = v;
  }}
/>
