<script lang="ts">
  import { Combobox } from 'bits-ui';
  import IconSelector from '@lucide/svelte/icons/chevrons-up-down';

  interface Item {
    value: string;
    label: string;
    /** How far below the top of a tree. */
    depth?: number;
    hint?: string;
  }
  interface Props {
    items: Item[];
    value: string;
    label: string;
    placeholder?: string;
    id?: string;
    invalid?: boolean;
    describedby?: string;
    onchange?: (value: string) => void;
  }
  let { items, value = $bindable(), label, placeholder = 'Type to choose', id, invalid = false, describedby, onchange }: Props = $props();

  const SHOWN = 200;
  let typed = $state('');
  let searching = $state(false);
  let open = $state(false);
  const fold = (text: string) => text.normalize('NFKD').replace(/\p{M}/gu, '').toLowerCase();
  const found = $derived(searching && typed.trim() !== '' ? items.filter((i) => fold(`${i.label} ${i.hint ?? ''}`).includes(fold(typed.trim()))) : items);
  const shown = $derived(items.find((i) => i.value === value)?.label ?? value);
</script>

<Combobox.Root
  type="single"
  {value}
  bind:open
  onValueChange={(chosen) => {
    value = chosen;
    searching = false;
    onchange?.(chosen);
  }}
  onOpenChange={(opened) => { if (!opened) searching = false; }}
  inputValue={searching ? typed : shown}
>
  <div class="relative">
    <Combobox.Input
      {id}
      class="input pr-8"
      aria-label={id ? undefined : label}
      aria-invalid={invalid || undefined}
      aria-describedby={describedby}
      {placeholder}
      clearOnDeselect
      onfocus={(event: FocusEvent) => (event.currentTarget as HTMLInputElement).select()}
      oninput={(event: Event) => {
        typed = (event.currentTarget as HTMLInputElement).value;
        searching = true;
        open = true;
        if (typed === '') { value = ''; onchange?.(''); }
      }}
    />
    <Combobox.Trigger class="icon-btn absolute top-[2px] right-0.5" aria-label={`Choices for ${label}`} tabindex={-1}><IconSelector size={15} strokeWidth={1.6} /></Combobox.Trigger>
  </div>
  <Combobox.Portal>
    <Combobox.Content class="z-50 max-h-72 w-[var(--bits-combobox-anchor-width)] min-w-56 overflow-y-auto border border-hair bg-sheet py-1 shadow-lg" sideOffset={2}>
      {#each found.slice(0, SHOWN) as item (item.value)}
        <Combobox.Item value={item.value} label={item.label} class="flex items-baseline gap-2 px-2 py-1 data-[highlighted]:bg-act-tint data-[selected]:font-semibold" style={`padding-left:${8 + (searching ? 0 : (item.depth ?? 0) * 14)}px`}>
          <span class="flex-1">{item.label}</span>{#if item.hint}<span class="small quiet">{item.hint}</span>{/if}
        </Combobox.Item>
      {:else}
        <p class="quiet px-3 py-1">Nothing fits “{typed}”.</p>
      {/each}
    </Combobox.Content>
  </Combobox.Portal>
</Combobox.Root>
