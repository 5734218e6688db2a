<script lang="ts">
  import { count } from '@/parts/format';
  import { lists } from '@/state/lists.svelte';
  import { keptOf } from '@/state/searches.svelte';
  import type { SearchState } from './search';

  /** Adds what is chosen, or all that was found, to a pull list. */
  let { search, total, chosen, onclear }: { search: SearchState; total: number; chosen: string[]; onclear: () => void } = $props();

  let open = $state(false);
  let name = $state('');
  let box: HTMLElement;
  function toggle() {
    open = !open;
    if (open && !lists.known) void lists.load();
  }
  async function add(what: 'chosen' | 'all' | 'keep') {
    open = false;
    if (what === 'chosen') await lists.gather({ documents: chosen });
    else {
      // What the steps and the filter narrow is part of what was found.
      const kept = keptOf(search);
      const steps = search.steps.map((s) => ({ cql: s.cql, negated: false, on: true }));
      const within = search.within.trim().length > 1 ? [{ cql: `cql.anywhere all "${search.within.trim().replace(/["\\]/g, '')}*"`, negated: false, on: true }] : [];
      await lists.gather({ search: { ...kept, criteria: [...kept.criteria, ...steps, ...within] }, keep: what === 'keep' });
    }
    onclear();
  }
</script>

<svelte:window onclick={(e) => { if (open && !box.contains(e.target as Node) && (e.target as Node).isConnected) open = false; }} />

<div class="relative" bind:this={box} role="presentation" onkeydown={(e) => { if (e.key === 'Escape' && open) { e.stopPropagation(); open = false; } }}>
  <button class="link small" aria-expanded={open} onclick={toggle}>{chosen.length > 0 ? `Gather ${count(chosen.length)}` : 'Gather'}</button>
  {#if open}
    <div class="menu">
      {#if lists.open.length > 0}
        <label class="heading" for="gather-into">Into the list</label>
        <select class="input" id="gather-into" value={lists.current?.id} onchange={(e) => lists.choose(Number(e.currentTarget.value))}>{#each lists.open as l (l.id)}<option value={l.id}>{l.name}, {count(l.documents)}</option>{/each}</select>
      {/if}
      <form class="mt-1 flex gap-2" onsubmit={async (e) => { e.preventDefault(); await lists.make(name.trim()); name = ''; }}><input class="input" aria-label="Name of a new list" placeholder="a new list" bind:value={name} maxlength="200" autocomplete="off" /><button class="btn" disabled={name.trim() === ''}>Make</button></form>
      <ul class="mt-2">
        {#if chosen.length > 0}<li><button class="link py-1" onclick={() => add('chosen')}>Add the {count(chosen.length)} chosen</button> <button class="link small" onclick={onclear}>choose none</button></li>{/if}
        <li><button class="link py-1" disabled={total === 0} onclick={() => add('all')}>Add all {count(total)} found</button></li>
        <li><button class="link py-1" disabled={total === 0} onclick={() => add('keep')}>Add them, and what matches from now on</button></li>
      </ul>
      <p class="small quiet mt-1"><kbd>a</kbd> adds the document you are at, <kbd>x</kbd> chooses it.</p>
      {#if lists.current}<a class="small" href={`/lists/${lists.current.id}`}>Open “{lists.current.name}”</a>{/if}
    </div>
  {/if}
</div>

<style>
  .menu { position: absolute; z-index: 20; top: 26px; right: 0; width: 290px; padding: 8px 14px 12px; border: 1px solid var(--hair); background: var(--sheet); box-shadow: 0 6px 18px rgb(0 0 0 / 12%); }
</style>
