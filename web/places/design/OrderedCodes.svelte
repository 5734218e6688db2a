<script lang="ts">
  import IconArrowDown from '@lucide/svelte/icons/arrow-down';
  import IconArrowUp from '@lucide/svelte/icons/arrow-up';
  import IconX from '@lucide/svelte/icons/x';
  import Combobox from '@/parts/Combobox.svelte';
  import { focusOn } from '@/parts/focus';
  import type { Snippet } from 'svelte';
  import NewPart, { MAKEABLE, type Makeable } from './NewPart.svelte';

  interface Props {
    label: string;
    codes: string[];
    items: { value: string; label: string; hint?: string }[];
    fault?: string;
    onchange: (codes: string[]) => void;
    extra?: Snippet<[string]>;
    /** What stands below an entry when it is opened, and in a few words while it is not. */
    more?: Snippet<[string]>;
    says?: (code: string) => string;
    /** What can be made here when it is not among the items. */
    makes?: Makeable;
  }
  let { label, codes, items, fault, onchange, extra, more, says, makes }: Props = $props();
  const id = $props.id();
  let adding = $state('');
  let opened = $state('');
  let missing = $state<string | null>(null);

  /** The next one is added where the last one was. */
  async function made(code?: string) {
    if (code !== undefined) onchange([...codes, code]);
    missing = null;
    await focusOn(id);
  }

  function move(index: number, by: number) {
    const next = [...codes];
    const [code] = next.splice(index, 1);
    next.splice(index + by, 0, code!);
    onchange(next);
  }
  const nameOf = (code: string) => items.find((i) => i.value === code)?.label ?? code;
</script>

<div class="py-1.5">
  <label class="heading" for={id}>{label}</label>
  <ol>
    {#each codes as code, i (code)}
      <li class="border-t border-hair">
        <div class="flex items-center gap-2 py-0.5">
          <span class="num quiet small w-5">{i + 1}</span>
          <span class="min-w-0 flex-1 truncate">{nameOf(code)} <span class="mono quiet small">{code}</span></span>
          {#if more}<button
              class="link small max-w-52 truncate"
              type="button"
              aria-expanded={opened === code}
              aria-label={`More of ${nameOf(code)}${says?.(code) ? `: ${says(code)}` : ''}`}
              onclick={() => (opened = opened === code ? '' : code)}>{says?.(code) || 'options'}</button
            >{/if}
          {@render extra?.(code)}
          <button
            class="icon-btn"
            type="button"
            disabled={i === 0}
            onclick={() => move(i, -1)}
            aria-label={`Move ${nameOf(code)} up`}
            title="Up"><IconArrowUp size={15} strokeWidth={1.7} /></button
          >
          <button
            class="icon-btn"
            type="button"
            disabled={i === codes.length - 1}
            onclick={() => move(i, 1)}
            aria-label={`Move ${nameOf(code)} down`}
            title="Down"><IconArrowDown size={15} strokeWidth={1.7} /></button
          >
          <button
            class="icon-btn"
            type="button"
            onclick={() => onchange(codes.filter((c) => c !== code))}
            aria-label={`Remove ${nameOf(code)}`}
            title="Remove"><IconX size={15} strokeWidth={1.7} /></button
          >
        </div>
        {#if more && opened === code}<div class="pb-2 pl-7">{@render more(code)}</div>{/if}
      </li>
    {/each}
  </ol>
  {#if makes && missing !== null}<NewPart kind={makes} name={missing} onmade={made} oncancel={() => made()} />{/if}
  <div class="mt-1 max-w-xs" hidden={missing !== null}>
    <Combobox
      {id}
      {label}
      placeholder="Add…"
      items={items.filter((i) => !codes.includes(i.value))}
      bind:value={adding}
      invalid={!!fault}
      onchange={(code) => {
        if (code) {
          onchange([...codes, code]);
          adding = '';
        }
      }}
      create={makes && { what: MAKEABLE[makes], make: (typed) => (missing = typed) }}
    />
  </div>
  {#if fault}<p class="fault" role="alert">{fault}</p>{/if}
</div>
