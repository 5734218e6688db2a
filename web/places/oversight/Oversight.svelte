<script lang="ts">
  import { router } from '@/state/router.svelte';
  import Disposal from './Disposal.svelte';
  import Disposals from './Disposals.svelte';
  import Due from './Due.svelte';
  import Health from './Health.svelte';
  import History from './History.svelte';
  import Hold from './Hold.svelte';
  import Reports from './Reports.svelte';
  import Holds from './Holds.svelte';
  import { app, looksOver } from '@/state/app.svelte';

  const PARTS = [
    ['', 'What falls due'],
    ['disposals', 'Disposals'],
    ['holds', 'Holds'],
    ['history', 'History'],
    ['reports', 'Reports'],
    ['health', 'Health'],
  ] as const;
  /** Custodians of a hold come for this and nothing else. */
  const shown = $derived(
    PARTS.filter(
      ([code]) =>
        code === 'holds' ||
        (['history', 'health', 'reports'].includes(code) ? app.person?.may.oversee : !!app.person && looksOver(app.person)),
    ),
  );
  const part = $derived(router.parts[1] ?? '');
</script>

<div class="grid h-full grid-rows-[auto_minmax(0,1fr)] md:grid-cols-[190px_minmax(0,1fr)] md:grid-rows-1">
  <nav
    class="flex gap-x-3 overflow-x-auto border-b border-hair px-4 py-2 md:block md:border-r md:border-b-0 md:py-4"
    aria-label="Parts of oversight"
  >
    {#each shown as [code, name] (code)}
      <a
        class="section"
        class:here={part === code}
        href={code ? `/oversight/${code}` : '/oversight'}
        aria-current={part === code ? 'page' : undefined}>{name}</a
      >
    {/each}
  </nav>
  {#if part === ''}<Due />
  {:else if part === 'disposals' && router.parts[2]}{#key router.parts[2]}<Disposal id={Number(router.parts[2])} />{/key}
  {:else if part === 'disposals'}<Disposals />
  {:else if part === 'holds' && router.parts[2]}{#key router.parts[2]}<Hold id={Number(router.parts[2])} />{/key}
  {:else if part === 'holds'}<Holds />
  {:else if part === 'history' && app.person?.may.oversee}<History />
  {:else if part === 'reports' && app.person?.may.oversee}<Reports />
  {:else if part === 'health' && app.person?.may.oversee}<Health />
  {:else}<p class="quiet p-8">This page does not exist.</p>{/if}
</div>

<style>
  .section {
    display: block;
    padding: 5px 8px;
    border-left: 2px solid transparent;
    color: var(--ink);
    white-space: nowrap;
  }
  .section.here {
    border-left-color: var(--act);
    background: var(--act-tint);
    font-weight: 600;
  }
</style>
