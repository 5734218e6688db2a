<script lang="ts">
  import type { Field } from '@/api/types';
  import type { Choices } from '@/state/choices.svelte';
  import IconPlus from '@lucide/svelte/icons/plus';
  import IconX from '@lucide/svelte/icons/x';
  import { app } from '@/state/app.svelte';
  import { onDestroy } from 'svelte';
  import { Judging } from './judging.svelte';
  import Pin from './Pin.svelte';
  import { widget } from './kinds';

  interface Props {
    field: Field;
    required: boolean;
    readonly?: boolean;
    /** Of a choice: what may be chosen. */
    choices?: Choices;
    values: string[];
    fault?: string;
    /** Whether the value stays for the sheets that follow, where that can be chosen. */
    pin?: { on: boolean; toggle: () => void };
    onchange: (values: string[]) => void;
  }
  let { field, required, readonly = false, choices, values, fault, pin, onchange }: Props = $props();

  // Told while it is typed, not only when the sheet is saved.
  const judging = new Judging();
  onDestroy(() => judging.stop());

  const uid = $props.id();
  const id = $derived(`${uid}-${field.code}`);
  const shown = $derived(values.length === 0 ? [''] : values);
  const describedby = $derived(
    [field.help ? `${id}-help` : '', judging.fault || fault ? `${id}-fault` : ''].filter(Boolean).join(' ') || undefined,
  );
  const items = $derived(choices?.items ?? []);
  const source = $derived(choices?.source);
  const kind = $derived(app.kind(field));
  const Widget = $derived(widget(kind?.widget));

  function set(index: number, value: string) {
    judging.judge(field, value);
    const next = [...shown];
    next[index] = value;
    onchange(next);
  }
</script>

<div class="py-1.5" data-field={field.code}>
  <div class="flex items-baseline">
    <label class="heading flex flex-1 items-baseline gap-2" for={`${id}-0`}>
      <span
        >{field.label}{#if field.unit}<span class="quiet">, {field.unit}</span>{/if}</span
      >
      {#if required}<span class="small text-act">required</span>{/if}
      {#if field.sensitive}<span class="small quiet">sensitive</span>{/if}
      {#if readonly}<span class="small quiet">filled in automatically</span>{/if}
    </label>
    {#if pin}<Pin what={field.label} on={pin.on} toggle={pin.toggle} hint=" (Alt p)" />{/if}
  </div>
  {#each shown as value, i (i)}
    <div class="mt-0.5 flex items-start gap-1">
      <div class="flex-1">
        {#if readonly}
          <input
            class="input"
            id={`${id}-${i}`}
            value={source ? source.label(value) : (items.find((t) => t.value === value)?.label ?? value)}
            readonly
            aria-describedby={describedby}
          />
        {:else}
          <Widget
            use="give"
            {field}
            id={`${id}-${i}`}
            label={field.label}
            hint={kind?.hint || field.pattern}
            {choices}
            {value}
            invalid={!!(judging.fault || fault)}
            {describedby}
            onchange={(v) => set(i, v)}
          />
        {/if}
      </div>
      {#if field.multiple && !readonly && shown.length > 1}
        <button
          class="icon-btn"
          type="button"
          aria-label={`Remove value ${i + 1} of ${field.label}`}
          onclick={() => onchange(shown.filter((_, n) => n !== i))}><IconX size={15} strokeWidth={1.6} /></button
        >
      {/if}
    </div>
  {/each}
  {#if field.multiple && !readonly && shown.at(-1) !== ''}
    <button class="link small mt-1 inline-flex min-h-6 items-center gap-1" type="button" onclick={() => onchange([...shown, ''])}
      ><IconPlus size={13} strokeWidth={1.8} />Another value</button
    >
  {/if}
  {#if field.help}<p class="small quiet" id={`${id}-help`}>{field.help}</p>{/if}
  {#if judging.fault || fault}<p class="fault" id={`${id}-fault`} role="alert">{judging.fault || fault}</p>{:else if judging.isRight}<p
      class="small text-moss"
      role="status"
    >
      The check character fits.
    </p>{/if}
</div>
