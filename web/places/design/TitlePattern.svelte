<script lang="ts">
  import Combobox from '@/parts/Combobox.svelte';
  import { app } from '@/state/app.svelte';
  import { tick } from 'svelte';

  interface Props {
    value: string;
    /** Codes of the fields that a title may be made of. */
    fields: string[];
    fault?: string;
    help: string;
    oninput: (pattern: string) => void;
  }
  /** How titles are made; fields are picked, and go where the cursor is. */
  let { value, fields, fault, help, oninput }: Props = $props();
  const id = $props.id();
  let input: HTMLInputElement | undefined = $state();
  const items = $derived(fields.map((code) => ({ value: code, label: app.label(code) })));

  async function insert(code: string) {
    const at = input?.selectionStart ?? value.length;
    const before = value.slice(0, at);
    const space = before !== '' && !/[\s(“]$/u.test(before) ? ' ' : '';
    const made = `${before}${space}{${code}}`;
    oninput(made + value.slice(input?.selectionEnd ?? at));
    await tick();
    input?.focus();
    input?.setSelectionRange(made.length, made.length);
  }
</script>

<div class="py-1.5">
  <label class="heading" for={id}>Title pattern</label>
  <input
    class="input mono"
    {id}
    {value}
    bind:this={input}
    aria-invalid={fault ? true : undefined}
    aria-describedby={`${id}-help`}
    oninput={(e) => oninput(e.currentTarget.value)}
    autocomplete="off"
  />
  {#if items.length > 0}<div class="mt-1 max-w-64">
      <Combobox
        label="A field of the title"
        placeholder="Insert a field…"
        {items}
        value=""
        onchange={(code) => {
          if (code) void insert(code);
        }}
      />
    </div>{/if}
  <p class="small quiet" id={`${id}-help`}>{help}</p>
  {#if fault}<p class="fault" role="alert">{fault}</p>{/if}
</div>
