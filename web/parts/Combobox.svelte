<script lang="ts">
  import type { TermSource } from '@/state/choices.svelte';
  import IconSelector from '@lucide/svelte/icons/chevrons-up-down';
  import { Combobox } from 'bits-ui';
  import { tick } from 'svelte';
  import { Browsing } from './browsing.svelte';
  import type { Choice } from './terms';

  interface Props {
    items?: Choice[];
    /** Of a vocabulary that is too large to be at hand. */
    source?: TermSource;
    value: string;
    label: string;
    placeholder?: string;
    id?: string;
    invalid?: boolean;
    describedby?: string;
    onchange?: (value: string) => void;
    /** Offers to make what was typed and is not among the choices. */
    create?: { what: string; make: (typed: string) => void };
  }
  /** No choice has this value. */
  const NEW = '\0';
  let {
    items = [],
    source,
    value = $bindable(),
    label,
    placeholder = 'Type to choose',
    id,
    invalid = false,
    describedby,
    onchange,
    create,
  }: Props = $props();

  let typed = $state('');
  let searching = $state(false);
  let open = $state(false);
  let input = $state<HTMLInputElement | null>(null);
  let at = $state.raw<Choice | null>(null);
  const browsing = new Browsing(
    () => items,
    () => source,
  );
  const rows = $derived(browsing.rows(searching ? typed : ''));
  const shown = $derived(value === '' ? '' : source ? source.label(value) : (items.find((i) => i.value === value)?.label ?? value));

  const makes = $derived(
    create && searching && typed.trim() !== '' && !rows.some((r) => r.label.toLowerCase() === typed.trim().toLowerCase()) ? create : null,
  );

  function choose(chosen: string) {
    searching = false;
    if (chosen === NEW) {
      create!.make(typed.trim());
      return;
    }
    value = chosen;
    onchange?.(chosen);
    // The library writes the label of what was chosen; whoever adds to a list has emptied the value again.
    void tick().then(() => {
      if (input && !searching) input.value = shown;
    });
  }
  function keydown(event: KeyboardEvent) {
    // Within what is typed the arrows move the cursor.
    if (!open || searching || !at?.more || (event.key !== 'ArrowRight' && event.key !== 'ArrowLeft')) return;
    event.preventDefault();
    browsing.toggle(at, event.key === 'ArrowRight');
  }
</script>

<Combobox.Root
  type="single"
  allowDeselect={false}
  bind:value={() => value, choose}
  bind:open
  onOpenChange={(opened) => {
    if (opened) browsing.start();
    else searching = false;
  }}
  inputValue={searching ? typed : shown}
>
  <div class="relative">
    <Combobox.Input
      {id}
      bind:ref={input}
      class="input pr-8"
      aria-label={id ? undefined : label}
      aria-invalid={invalid || undefined}
      aria-describedby={describedby}
      {placeholder}
      clearOnDeselect
      onkeydown={keydown}
      onfocus={(event: FocusEvent) => (event.currentTarget as HTMLInputElement).select()}
      oninput={(event: Event) => {
        typed = (event.currentTarget as HTMLInputElement).value;
        searching = true;
        open = true;
        browsing.type(typed);
        if (typed === '') {
          value = '';
          onchange?.('');
        }
      }}
    />
    <Combobox.Trigger class="icon-btn absolute top-[2px] right-0.5" aria-label={`Choices for ${label}`} tabindex={-1}
      ><IconSelector size={15} strokeWidth={1.6} /></Combobox.Trigger
    >
  </div>
  <Combobox.Portal>
    <Combobox.Content
      class="z-50 max-h-72 w-[var(--bits-combobox-anchor-width)] min-w-56 overflow-y-auto border border-hair bg-sheet py-1 shadow-lg"
      sideOffset={2}
    >
      {#each rows as item (item.key ?? item.value)}
        <Combobox.Item
          value={item.value}
          label={item.label}
          onHighlight={() => (at = item)}
          class="flex items-baseline gap-2 px-2 py-1 data-[highlighted]:bg-act-tint data-[selected]:font-semibold"
          style={`padding-left:${8 + (searching ? 0 : (item.depth ?? 0) * 14)}px`}
        >
          {#if source && !searching}
            <span
              class="opener"
              role="presentation"
              class:more={item.more}
              class:opened={browsing.isOpen(item)}
              title={item.more ? 'What is below (→)' : undefined}
              onpointerup={(e) => {
                if (item.more) {
                  e.stopPropagation();
                  e.preventDefault();
                  browsing.toggle(item);
                }
              }}
            ></span>
          {/if}
          <span class="flex-1">{item.label}</span>{#if item.hint}<span class="small quiet">{item.hint}</span>{/if}
        </Combobox.Item>
      {:else}
        {#if browsing.busy || !makes}<p class="quiet px-3 py-1">{browsing.busy ? 'Loading…' : `Nothing fits “${typed}”.`}</p>{/if}
      {/each}
      {#if makes}
        <Combobox.Item value={NEW} label={typed} class="border-t border-hair px-2 py-1 first:border-t-0 data-[highlighted]:bg-act-tint"
          >Create the {makes.what} “{typed.trim()}”…</Combobox.Item
        >
      {/if}
    </Combobox.Content>
  </Combobox.Portal>
</Combobox.Root>

<style>
  .opener {
    width: 14px;
    height: 14px;
    flex: none;
    align-self: center;
    color: var(--quiet);
    cursor: pointer;
  }
  .opener.more::before {
    display: inline-block;
    width: 6px;
    height: 6px;
    margin: 0 0 3px 3px;
    border: solid currentColor;
    border-width: 1.5px 1.5px 0 0;
    transform: rotate(45deg);
    content: '';
  }
  .opener.more.opened::before {
    transform: rotate(135deg);
  }
</style>
