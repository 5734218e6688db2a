<script lang="ts">
  import { app, looksOver } from '@/state/app.svelte';
  import { lastActs } from '@/state/acts.svelte';
  import { lists } from '@/state/lists.svelte';
  import { count, plural } from './format';
  import { counts } from '@/state/counts.svelte';
  import { inbox } from '@/state/inbox.svelte';
  import { privacy } from '@/state/privacy.svelte';
  import { searches } from '@/state/searches.svelte';
  import { theme } from '@/state/theme.svelte';
  import QueryLine from './QueryLine.svelte';
  import Scope from './Scope.svelte';
  import IconEye from '@lucide/svelte/icons/eye';
  import IconEyeOff from '@lucide/svelte/icons/eye-off';
  import IconSun from '@lucide/svelte/icons/sun';
  import IconMoon from '@lucide/svelte/icons/moon';
  import IconContrast from '@lucide/svelte/icons/contrast';
  import IconHistory from '@lucide/svelte/icons/history';
  import IconLogout from '@lucide/svelte/icons/log-out';

  let { place }: { place: string } = $props();

  // What is new in watched searches can wait until everything else is there.
  (window.requestIdleCallback ?? ((f: () => void) => setTimeout(f, 400)))(() => {
    if (!searches.known) void searches.load().catch(() => {});
    if (app.person?.may.file) inbox.watch();
    counts.watch();
    if (!lists.known) void lists.load().catch(() => {});
  });

  const tabs = $derived([
    { place: 'desk', name: 'Desk', shown: true },
    { place: 'find', name: 'Find', shown: true },
    { place: 'intake', name: 'Intake', shown: app.person?.may.file },
    { place: 'tasks', name: 'Tasks', shown: true },
    { place: 'design', name: 'Design', shown: app.person?.may.design },
    { place: 'oversight', name: 'Oversight', shown: !!app.person && looksOver(app.person) },
    { place: 'office', name: 'Office', shown: app.person?.may.administer },
  ]);
  const themes = { auto: 'same as this computer', light: 'light', dark: 'dark' };
</script>

<a href="#place" class="sr-only focus:not-sr-only focus:absolute focus:z-50 focus:bg-sheet focus:p-2">Skip to the place</a>
<header class="flex-none">
  <div class="flex h-12 items-center gap-4 bg-sheet px-4">
    <a href="/desk" class="font-serif text-[21px] font-medium text-ink no-underline hover:no-underline">Brenvic</a>
    <QueryLine {place} />
    <div class="hidden md:block"><Scope {place} /></div>
    <a
      class="small hidden whitespace-nowrap md:block"
      href={lists.current ? `/lists/${lists.current.id}` : '/lists'}
      title={lists.current ? `Current pull list: ${lists.current.name}` : 'Pull lists'}
      >{#if lists.current}<span class="inline-block max-w-36 truncate align-bottom">{lists.current.name}</span>
        {count(lists.current.documents)}{:else}Pull lists{/if}</a
    >
    <button class="icon-btn ml-auto" onclick={() => lastActs.show()} aria-label="Last acts" title="Last acts, to be undone (u)"
      ><IconHistory size={17} strokeWidth={1.6} /></button
    >
    <button
      class="icon-btn"
      aria-pressed={privacy.on}
      onclick={() => privacy.toggle()}
      aria-label={privacy.on ? 'Sensitive values are masked' : 'Mask all sensitive values'}
      title={privacy.on ? 'Sensitive values are masked. Click to allow revealing' : 'Mask all sensitive values while the screen is shared'}
      >{#if privacy.on}<IconEyeOff size={17} strokeWidth={1.6} />{:else}<IconEye size={17} strokeWidth={1.6} />{/if}</button
    >
    <button
      class="icon-btn"
      onclick={() => theme.next()}
      aria-label={`Theme: ${themes[theme.choice]}`}
      title={`Theme: ${themes[theme.choice]}`}
    >
      {#if theme.choice === 'light'}<IconSun size={17} strokeWidth={1.6} />{:else if theme.choice === 'dark'}<IconMoon
          size={17}
          strokeWidth={1.6}
        />{:else}<IconContrast size={17} strokeWidth={1.6} />{/if}
    </button>
    <a class="small hidden whitespace-nowrap text-ink sm:block" href="/me" title="Your settings">{app.person?.name}</a>
    <button class="icon-btn" onclick={() => app.signOut()} aria-label="Sign out" title="Sign out"
      ><IconLogout size={17} strokeWidth={1.6} /></button
    >
  </div>
  <nav class="tabs flex gap-1 border-b border-hair bg-sheet px-4" aria-label="Places">
    {#each tabs.filter((tab) => tab.shown) as tab (tab.place)}
      {@const here = place === tab.place || (['documents', 'dossiers', 'lists'].includes(place) && tab.place === 'find')}
      <a href={`/${tab.place}`} class="tab" class:here aria-current={here ? 'page' : undefined}
        >{tab.name}{#if tab.place === 'find' && searches.fresh > 0}<span
            class="small ml-1.5 text-brass-text"
            title={`${searches.fresh} new in your watched searches`}>{searches.fresh} new</span
          >{/if}{#if tab.place === 'intake' && inbox.waiting > 0}<span
            class="small ml-1.5 text-brass-text"
            title={`${plural(inbox.waiting, 'document waits', 'documents wait')} to be filed`}>{count(inbox.waiting)}</span
          >{/if}{#if tab.place === 'tasks' && counts.mine + counts.groups > 0}<span
            class="small ml-1.5 text-brass-text"
            title={`${plural(counts.mine, 'task waits', 'tasks wait')} for you, ${count(counts.groups)} for your groups`}
            >{count(counts.mine + counts.groups)}</span
          >{/if}{#if tab.place === 'desk' && counts.notices > 0}<span
            class="small ml-1.5 text-brass-text"
            title={plural(counts.notices, 'notice you have not looked at', 'notices you have not looked at')}>{count(counts.notices)}</span
          >{/if}{#if tab.place === 'office' && (app.person?.alarms ?? 0) > 0}<span
            class="small ml-1.5 text-brass-text"
            title={plural(app.person!.alarms, 'alarm to look after', 'alarms to look after')}>{count(app.person!.alarms)}</span
          >{/if}</a
      >
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
  .tab:hover {
    color: var(--act);
  }
  [aria-pressed='true'] {
    color: var(--act);
  }
  .tab.here {
    border-color: var(--hair);
    border-bottom-color: var(--paper);
    background: var(--paper);
    color: var(--ink);
  }
</style>
