<script lang="ts">
  import { app } from '@/state/app.svelte';
  import { router } from '@/state/router.svelte';
  import { theme } from '@/state/theme.svelte';
  import { addressOf, searchFrom } from '@/places/find/search';
  import IconSearch from '@lucide/svelte/icons/search';
  import IconSun from '@lucide/svelte/icons/sun';
  import IconMoon from '@lucide/svelte/icons/moon';
  import IconContrast from '@lucide/svelte/icons/contrast';
  import IconLogout from '@lucide/svelte/icons/log-out';

  let { place }: { place: string } = $props();

  const search = $derived(searchFrom(router.params));
  // What stands in the line follows the address, so that back and forward work.
  let text = $derived(place === 'find' ? search.words : '');
  let input: HTMLInputElement;

  function submit(event: SubmitEvent) {
    event.preventDefault();
    const base = place === 'find' ? search : searchFrom(new URLSearchParams());
    router.go(addressOf({ ...base, words: text.trim() }));
    input.blur();
  }

  function keydown(event: KeyboardEvent) {
    const target = event.target as HTMLElement;
    if (event.key === '/' && !target.closest('input, textarea, select, [contenteditable]')) {
      event.preventDefault();
      input.focus();
      input.select();
    }
  }

  const libraries = $derived(app.design?.libraries ?? []);
  const scope = $derived.by(() => {
    const repositories = [...new Set(libraries.map((l) => l.repository))].map((code) => app.design?.repositories.find((r) => r.code === code)?.name ?? code);
    return `${repositories.join(' + ')}, ${libraries.length} ${libraries.length === 1 ? 'library' : 'libraries'}`;
  });
  const tabs = $derived([
    { place: 'desk', name: 'Desk', shown: true },
    { place: 'find', name: 'Find', shown: true },
    { place: 'intake', name: 'Intake', shown: app.person?.may.file },
    { place: 'design', name: 'Design', shown: app.person?.may.design },
  ]);
  const themes = { auto: 'as the machine', light: 'light', dark: 'dark' };
</script>

<svelte:window onkeydown={keydown} />

<a href="#place" class="sr-only focus:not-sr-only focus:absolute focus:z-50 focus:bg-sheet focus:p-2">Skip to the place</a>
<header class="flex-none">
  <div class="flex h-12 items-center gap-4 bg-sheet px-4">
    <a href="/desk" class="font-serif text-[21px] font-medium text-ink no-underline hover:no-underline">Brenvic</a>
    <form class="flex max-w-[720px] min-w-0 flex-1 items-center" role="search" onsubmit={submit}>
      <div class="relative flex-1">
        <span class="pointer-events-none absolute top-[8px] left-2 text-quiet"><IconSearch size={17} strokeWidth={1.6} /></span>
        <input
          bind:this={input}
          bind:value={text}
          class="input pl-8"
          type="search"
          aria-label="Query line: words, phrases in quotation marks, or CQL"
          placeholder="Words, “a phrase”, or a field: vessel = marigold"
          autocomplete="off"
          spellcheck="false"
        />
      </div>
    </form>
    <span class="small quiet hidden truncate md:block" title="Where this searches">{scope}</span>
    <button class="icon-btn ml-auto" onclick={() => theme.next()} aria-label={`Theme: ${themes[theme.choice]}`} title={`Theme: ${themes[theme.choice]}`}>
      {#if theme.choice === 'light'}<IconSun size={17} strokeWidth={1.6} />{:else if theme.choice === 'dark'}<IconMoon size={17} strokeWidth={1.6} />{:else}<IconContrast size={17} strokeWidth={1.6} />{/if}
    </button>
    <span class="small hidden sm:block">{app.person?.name}</span>
    <button class="icon-btn" onclick={() => app.signOut()} aria-label="Sign out" title="Sign out"><IconLogout size={17} strokeWidth={1.6} /></button>
  </div>
  <nav class="tabs flex gap-1 border-b border-hair bg-sheet px-4" aria-label="Places">
    {#each tabs.filter((tab) => tab.shown) as tab (tab.place)}
      {@const here = place === tab.place || (['documents', 'dossiers'].includes(place) && tab.place === 'find')}
      <a href={`/${tab.place}`} class="tab" class:here aria-current={here ? 'page' : undefined}>{tab.name}</a>
    {/each}
  </nav>
</header>

<style>
  /* Index dividers: the tab of the present place stands up from the sheet behind it. */
  .tab {
    position: relative;
    top: 1px;
    padding: 4px 18px 5px;
    border: 1px solid transparent;
    border-bottom-color: var(--hair);
    border-radius: 7px 7px 0 0;
    color: var(--quiet);
    font-weight: 500;
    text-decoration: none;
  }
  .tab:hover { color: var(--act); }
  .tab.here {
    border-color: var(--hair);
    border-bottom-color: var(--paper);
    background: var(--paper);
    color: var(--ink);
  }
</style>
