<script lang="ts">
  import { keys } from '@/state/keys.svelte';
  import { api } from '@/api/client';
  import type { CompletionAnswer } from '@/api/types';
  import { count } from '@/parts/format';
  import { addressOf, emptySearch, keptAddress, searchFrom } from '@/state/search';
  import { router } from '@/state/router.svelte';
  import { past } from '@/state/past.svelte';
  import IconBack from '@lucide/svelte/icons/chevron-left';
  import IconForward from '@lucide/svelte/icons/chevron-right';
  import IconSearch from '@lucide/svelte/icons/search';

  let { place }: { place: string } = $props();

  const search = $derived(searchFrom(router.params));
  // What stands in the line follows the address, so that back and forward work.
  let text = $derived(place === 'find' ? search.words : '');
  let input: HTMLInputElement;
  let found = $state.raw<CompletionAnswer | null>(null);
  let at = $state(-1);
  let open = $state(false);

  interface Choice {
    kind: string;
    label: string;
    hint: string;
    take: () => void;
  }
  const here = $derived(place === 'find' ? search : emptySearch);
  const choices = $derived.by((): Choice[] => {
    if (!found) return [];
    const before = text.slice(0, found.from);
    return [
      ...found.values.map((v) => ({
        kind: v.field_label,
        label: v.label,
        hint: count(v.count),
        take: () =>
          router.go(
            addressOf({ ...here, words: before.trim(), criteria: [...here.criteria, { cql: v.cql, negated: false, on: true }], steps: [] }),
          ),
      })),
      ...found.fields.map((f) => ({
        kind: 'Field',
        label: f.label,
        hint: `${f.code} =`,
        take: () => {
          text = `${before}${f.code} = `;
          void ask();
          input.focus();
        },
      })),
      ...found.searches.map((s) => ({
        kind: 'Earlier search',
        label: s.words || 'Everything',
        hint: count(s.total),
        take: () => router.go(keptAddress(s.search)),
      })),
    ];
  });

  let current: AbortController | null = null;
  /** At once, unless an answer is under way: then for what stands in the line when it has come. */
  async function ask() {
    if (current) return;
    const mine = (current = new AbortController());
    try {
      let asked: string;
      do {
        asked = text;
        const got = await api.complete(asked, mine.signal);
        if (mine !== current || document.activeElement !== input) break;
        if (asked !== text) continue;
        found = got;
        at = -1;
        open = true;
      } while (asked !== text);
    } catch {
      /* The line works without help. */
    }
    if (mine === current) current = null;
  }
  function close() {
    current?.abort();
    current = null;
    open = false;
    at = -1;
  }
  function take(choice: Choice) {
    close();
    choice.take();
  }
  function submit(event: SubmitEvent) {
    event.preventDefault();
    const choice = open ? choices[at] : undefined;
    if (choice) {
      take(choice);
      return;
    }
    close();
    const base = place === 'find' ? search : searchFrom(new URLSearchParams());
    router.go(addressOf({ ...base, words: text.trim(), ...(text.trim() === base.words ? {} : { reach: '' }) }));
    input.blur();
  }
  function lineKey(event: KeyboardEvent) {
    if (event.key === 'Escape' && open) close();
    else if (event.key === 'ArrowDown' && !open) void ask();
    else if (event.key === 'ArrowDown') at = Math.min(choices.length - 1, at + 1);
    else if (event.key === 'ArrowUp' && open) at = Math.max(-1, at - 1);
    else return;
    event.preventDefault();
  }
  keys.use(() => [
    {
      on: '/',
      common: true,
      what: 'Put the cursor in the query line',
      run: () => {
        input.focus();
        input.select();
      },
    },
  ]);
</script>

<form class="flex max-w-[720px] min-w-0 flex-1 items-center" role="search" onsubmit={submit}>
  {#if place === 'find'}
    <!-- Their room stays, so that the line does not move when there is something to go back to. -->
    <div class="hidden flex-none sm:flex">
      {#each [['Back to', past.before, IconBack], ['Forward to', past.after, IconForward]] as const as [way, to, Icon] (way)}
        <button
          class="icon-btn"
          type="button"
          disabled={!to}
          aria-label={to ? `${way} the search “${to.name}”` : `${way} another search`}
          title={to ? `${way} “${to.name}”` : undefined}
          onclick={() => to && router.go(to.address)}><Icon size={16} strokeWidth={1.7} /></button
        >
      {/each}
    </div>
  {/if}
  <div class="relative flex-1">
    <span class="pointer-events-none absolute top-[8px] left-2 text-quiet"><IconSearch size={17} strokeWidth={1.6} /></span>
    <input
      bind:this={input}
      bind:value={text}
      class="input pl-8"
      type="search"
      role="combobox"
      aria-expanded={open && choices.length > 0}
      aria-controls="query-choices"
      aria-autocomplete="list"
      aria-activedescendant={at >= 0 ? `query-choice-${at}` : undefined}
      aria-label="Query line: words, phrases in quotation marks, or CQL"
      placeholder="Words, “a phrase”, or a field: vessel = marigold"
      autocomplete="off"
      spellcheck="false"
      oninput={ask}
      onkeydown={lineKey}
      onblur={() => setTimeout(close, 120)}
    />
    {#if open && choices.length > 0}
      <ul id="query-choices" class="choices" role="listbox" aria-label="Suggestions">
        {#each choices as choice, i (i)}
          <!-- svelte-ignore a11y_click_events_have_key_events -->
          <li
            id={`query-choice-${i}`}
            role="option"
            aria-selected={at === i}
            class:at={at === i}
            onmousedown={(e) => e.preventDefault()}
            onclick={() => take(choice)}
          >
            <span class="quiet small w-28 flex-none truncate">{choice.kind}</span><span class="min-w-0 flex-1 truncate">{choice.label}</span
            ><span class="num quiet small">{choice.hint}</span>
          </li>
        {/each}
      </ul>
    {/if}
  </div>
</form>

<style>
  .choices {
    position: absolute;
    z-index: 40;
    top: 100%;
    left: 0;
    right: 0;
    max-height: 420px;
    overflow-y: auto;
    border: 1px solid var(--hair);
    background: var(--sheet);
    box-shadow: 0 6px 18px rgb(0 0 0 / 12%);
  }
  .choices li {
    display: flex;
    align-items: baseline;
    gap: 10px;
    padding: 4px 12px;
    cursor: pointer;
  }
  .choices li.at,
  .choices li:hover {
    background: var(--act-tint);
  }
</style>
