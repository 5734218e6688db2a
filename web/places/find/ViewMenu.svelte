<script lang="ts">
  import { api, messageOf } from '@/api/client';
  import type { SortKey, View } from '@/api/types';
  import Combobox from '@/parts/Combobox.svelte';
  import { app } from '@/state/app.svelte';
  import { router } from '@/state/router.svelte';
  import { addressOf, type SearchState } from '@/state/search';

  /** A view of one's own, made of the one in use; and the one to begin with. */
  let { view, search, columns, sort }: { view: View | null; search: SearchState; columns: string[]; sort: SortKey[] } = $props();

  let open = $state(false);
  let name = $state('');
  let mine = $state<string[]>([]);
  let fault = $state('');
  const items = $derived(
    [...app.design!.fields, ...app.design!.system_fields]
      .filter((f) => !mine.includes(f.code))
      .map((f) => ({ value: f.code, label: f.label })),
  );

  function start() {
    open = !open;
    name = view?.own ? view.name : view ? `My ${view.name}` : '';
    mine = [...columns];
    fault = '';
  }
  async function save(event: SubmitEvent) {
    event.preventDefault();
    const code =
      view?.own && view.name === name.trim()
        ? view.code
        : `my-${
            name
              .toLowerCase()
              .replace(/[^a-z0-9]+/g, '_')
              .replace(/^_|_$/g, '')
              .slice(0, 34) || 'view'
          }`;
    const on = search.criteria.filter((c) => c.on);
    // Several criteria are one: what must hold first, what must not behind it.
    const text = (c: { cql: string }) => `(${c.cql})`;
    const must = on
      .filter((c) => !c.negated)
      .map(text)
      .join(' and ');
    const not = on
      .filter((c) => c.negated)
      .map((c) => `not ${text(c)}`)
      .join(' ');
    const criterion = on.length === 1 && !on[0]!.negated ? on[0]!.cql : `${must || (not ? 'cql.allRecords = 1' : '')} ${not}`.trim();
    try {
      await api.saveOwnView(code, {
        code,
        name: name.trim(),
        criterion,
        columns: mine,
        formats: view?.formats ?? {},
        sort,
        levels: view?.levels ?? [],
        opens: search.layout === 'digest' ? 'table' : search.layout,
        groups: [],
        position: 100,
        lock_version: 1,
      });
      await app.loadDesign();
      open = false;
      router.go(addressOf({ ...search, view: code, criteria: criterion ? [{ cql: criterion, negated: false, on: true }] : [], sort: [] }));
      app.say(`“${name.trim()}” is saved with your own views.`);
    } catch (error) {
      fault = messageOf(error, 'The view could not be saved. Try again.');
    }
  }
  async function remove() {
    const gone = view!;
    await api.removeOwnView(gone.code);
    await app.loadDesign();
    open = false;
    router.go(addressOf({ ...search, view: '' }));
    app.say(`“${gone.name}” is removed.`, { undo: () => api.saveOwnView(gone.code, gone).then(() => app.loadDesign()) });
  }
  async function begin() {
    const chosen = app.design!.default_view === view?.code ? null : (view?.code ?? null);
    await api.preferences({ default_view: chosen });
    await app.loadDesign();
    app.say(chosen ? `Find begins with “${view!.name}” for you.` : 'Find begins with everything again.');
  }
</script>

<div class="relative">
  <button class="link small" aria-expanded={open} onclick={start}>Save as my view…</button>
  {#if open}
    <form class="menu" onsubmit={save} aria-label="A view of my own">
      <label class="heading" for="own-name">Name of my view</label>
      <input class="input" id="own-name" bind:value={name} maxlength="200" autocomplete="off" />
      <p class="heading mt-2">Columns</p>
      <ol>
        {#each mine as code, i (code)}
          <li class="flex items-center gap-2 border-t border-hair">
            <span class="flex-1 truncate">{app.label(code)}</span>
            <button
              class="link small min-h-6"
              type="button"
              disabled={i === 0}
              onclick={() => {
                [mine[i - 1], mine[i]] = [mine[i]!, mine[i - 1]!];
              }}
              aria-label={`Move ${app.label(code)} up`}>move up</button
            >
            <button
              class="link small min-h-6"
              type="button"
              disabled={mine.length === 1}
              onclick={() => (mine = mine.filter((c) => c !== code))}
              aria-label={`Remove ${app.label(code)}`}>remove</button
            >
          </li>
        {/each}
      </ol>
      <Combobox
        label="Add a column"
        placeholder="Add…"
        {items}
        value=""
        onchange={(v) => {
          if (v) mine = [...mine, v];
        }}
      />
      {#if fault}<p class="fault" role="alert">{fault}</p>{/if}
      <p class="mt-3 flex gap-2">
        <button class="btn btn-main" disabled={name.trim() === ''}>Save view</button><button
          class="btn"
          type="button"
          onclick={() => (open = false)}>Cancel</button
        >
      </p>
      {#if view}
        <p class="small mt-2 flex gap-4 border-t border-hair pt-2">
          <button class="link" type="button" onclick={begin}
            >{app.design!.default_view === view.code ? 'Open Find without it' : 'Open Find with this view'}</button
          >{#if view.own}<button class="link" type="button" onclick={remove}>Remove it</button>{/if}
        </p>
      {/if}
    </form>
  {/if}
</div>

<style>
  .menu {
    position: absolute;
    z-index: 20;
    top: 26px;
    right: 0;
    width: 280px;
    padding: 12px 14px;
    border: 1px solid var(--hair);
    background: var(--sheet);
    box-shadow: 0 6px 18px rgb(0 0 0 / 12%);
  }
</style>
