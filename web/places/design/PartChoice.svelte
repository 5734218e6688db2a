<script lang="ts">
  import Combobox from '@/parts/Combobox.svelte';
  import type { Choice } from '@/parts/terms';
  import { focusOn } from '@/parts/focus';
  import NewPart, { MAKEABLE, type Makeable } from './NewPart.svelte';

  /** One part of the design that another refers to; what is not there yet is made here. */
  interface Props {
    label: string;
    kind: Makeable;
    items: Choice[];
    value: string | null;
    placeholder?: string;
    fault?: string;
    onchange: (code: string | null) => void;
    /** Whether one is just being made. */
    isMaking?: boolean;
  }
  let { label, kind, items, value, placeholder, fault, onchange, isMaking = $bindable(false) }: Props = $props();
  const id = $props.id();
  let missing = $state<string | null>(null);

  function make(typed: string) {
    missing = typed;
    isMaking = true;
  }
  async function made(code?: string) {
    if (code !== undefined) onchange(code);
    missing = null;
    isMaking = false;
    await focusOn(id);
  }
</script>

<div class="py-1.5">
  <label class="heading" for={id}>{label}</label>
  <Combobox
    {id}
    {label}
    {items}
    {placeholder}
    value={value ?? ''}
    invalid={!!fault}
    onchange={(code) => onchange(code || null)}
    create={{ what: MAKEABLE[kind], make }}
  />
  {#if missing !== null}<NewPart {kind} name={missing} onmade={made} oncancel={() => made()} />{/if}
  {#if fault}<p class="fault" role="alert">{fault}</p>{/if}
</div>
