<script lang="ts">
  import FeedOf from './FeedOf.svelte';
  import { api, messageOf } from '@/api/client';
  import Popover from '@/parts/Popover.svelte';
  import { app } from '@/state/app.svelte';
  import { router } from '@/state/router.svelte';
  import { asksTheSame, keptOf, searches } from '@/state/searches.svelte';
  import { count } from '@/parts/format';
  import { keptAddress, type SearchState } from '@/state/search';

  /** Keeping the present search, watching it, and opening one that was kept. */
  let { search }: { search: SearchState } = $props();

  let open = $state(false);
  let name = $state('');
  let forGroups = $state<string[]>([]);
  let watch = $state(false);
  let fault = $state('');
  const same = $derived(searches.saved.find((s) => asksTheSame(s.search, keptOf(search))));
  const mine = $derived(app.person?.groups ?? []);
  /** One’s own search of the typed name, which saving replaces; and others’ of that name, which stay. */
  const named = $derived(searches.saved.find((s) => s.own && s.name === name.trim()));
  const theirs = $derived(searches.saved.find((s) => !s.own && s.name === name.trim()));
  /** Whether replacing one that others use too was looked at. */
  let asked = $state(false);

  function ready() {
    fault = name = '';
    forGroups = [];
    watch = asked = false;
    if (!searches.known) void searches.load();
  }
  async function save(event: SubmitEvent) {
    event.preventDefault();
    const known = named;
    if (known && known.groups.length > 0 && !asked) {
      asked = true;
      return;
    }
    try {
      searches.take(
        known
          ? await api.changeSearch(known.id, {
              name: known.name,
              search: keptOf(search),
              groups: known.groups,
              lock_version: known.lock_version,
            })
          : await api.saveSearch(name.trim(), keptOf(search), forGroups),
      );
      const made = searches.saved.find((s) => s.own && s.name === name.trim());
      if (watch && made) searches.take(await api.lookAtSearch(made.id));
      const undo =
        known && made
          ? async () =>
              searches.take(
                await api.changeSearch(known.id, {
                  name: known.name,
                  search: known.search,
                  groups: known.groups,
                  lock_version: made.lock_version,
                }),
              )
          : undefined;
      app.say(known ? `“${known.name}” is replaced by this search.` : `“${name.trim()}” is saved.`, { undo });
      open = false;
    } catch (error) {
      fault = messageOf(error, 'The search could not be saved.');
    }
  }
  /** The search whose feed is looked at; 0 for none. */
  let feedOf = $state(0);
  function show(id: number) {
    const saved = searches.saved.find((s) => s.id === id)!;
    open = false;
    const view = app.design!.views.find((v) => v.code === saved.search.view);
    router.go(keptAddress(saved.search, { layout: view?.opens ?? 'table' }));
    if (saved.watched)
      void api.lookAtSearch(id).then(
        (got) => searches.take(got),
        () => {},
      );
  }
  async function remove(id: number) {
    const gone = searches.saved.find((s) => s.id === id)!;
    searches.take(await api.removeSearch(id));
    app.say(`“${gone.name}” is removed.`, {
      undo: () => api.saveSearch(gone.name, gone.search, gone.groups).then((got) => searches.take(got)),
    });
  }
</script>

<Popover label={same ? `“${same.name}”` : 'Saved searches'} bind:open width={380} onopen={ready}>
  <form onsubmit={save} aria-label="Save this search">
    <label class="heading" for="search-name">Save this search as</label>
    <input class="input" id="search-name" bind:value={name} maxlength="200" autocomplete="off" oninput={() => (asked = false)} />
    {#if named}<p class="small text-brass-text" role="status">
        You have a search of this name; saving replaces it{named.groups.length > 0 ? ` for ${named.groups.join(', ')} too` : ''}.
      </p>
    {:else if theirs}<p class="small text-brass-text" role="status">
        {theirs.by ?? 'Somebody'} shares a search of this name with you. It stays; yours would be another.
      </p>{/if}
    {#if mine.length > 0}<p class="small mt-1 flex flex-wrap gap-x-3">
        <span class="quiet">share with</span>{#each mine as group (group)}<label class="inline-flex min-h-6 items-center gap-1"
            ><input
              type="checkbox"
              class="check"
              checked={forGroups.includes(group)}
              onchange={(e) => (forGroups = e.currentTarget.checked ? [...forGroups, group] : forGroups.filter((g) => g !== group))}
            />{group}</label
          >{/each}
      </p>{/if}
    <label class="small flex min-h-6 items-center gap-1.5"
      ><input type="checkbox" class="check" bind:checked={watch} />watch it: count what is new</label
    >
    {#if fault}<p class="fault" role="alert">{fault}</p>{/if}
    {#if asked && named}
      <div class="mt-1 border-l-2 border-act pl-3" role="group" aria-label="Replace a shared search">
        <p>
          {named.groups.join(', ')}
          {named.groups.length === 1 ? 'uses' : 'use'} “{named.name}”. Replace it for {named.groups.length === 1 ? 'them' : 'all of them'}?
        </p>
        <p class="mt-1 flex gap-2">
          <button class="btn btn-main">Replace search</button><button class="btn" type="button" onclick={() => (asked = false)}
            >Cancel</button
          >
        </p>
      </div>
    {:else}<button class="btn btn-main mt-1" disabled={name.trim() === ''}
        >{named && named.groups.length > 0 ? 'Replace search…' : named ? 'Replace search' : 'Save search'}</button
      >{/if}
  </form>
  {#if searches.saved.length > 0}
    <h3 class="heading mt-3">Saved</h3>
    <ul>
      {#each searches.saved as saved (saved.id)}
        <li class="flex items-baseline gap-2 border-t border-hair py-0.5">
          <button class="link min-w-0 flex-1 truncate" onclick={() => show(saved.id)}>{saved.name}</button>
          {#if saved.new}<span class="small text-brass-text">{count(saved.new)} new</span>{/if}<span class="num small"
            >{saved.total === null ? '–' : count(saved.total)}</span
          >
          <button
            class="link small"
            onclick={async () => searches.take(saved.watched ? await api.unwatch(saved.id) : await api.lookAtSearch(saved.id))}
            >{saved.watched ? 'unwatch' : 'watch'}</button
          >
          <button
            class="link small"
            aria-expanded={feedOf === saved.id}
            aria-label={`Feed of ${saved.name}`}
            onclick={() => (feedOf = feedOf === saved.id ? 0 : saved.id)}>feed</button
          >
          {#if saved.own}<button class="link small" aria-label={`Remove the search ${saved.name}`} onclick={() => remove(saved.id)}
              >✕</button
            >{/if}
        </li>
        {#if feedOf === saved.id}<li><FeedOf id={saved.id} name={saved.name} has={saved.has_feed} /></li>{/if}
      {/each}
    </ul>
  {/if}
  {#if searches.recent.length > 0}
    <h3 class="heading mt-3">Recent</h3>
    <ul>
      {#each searches.recent.slice(0, 8) as recent, i (i)}
        <li class="flex items-baseline gap-2 border-t border-hair py-0.5">
          <a class="min-w-0 flex-1 truncate" href={keptAddress(recent.search)} onclick={() => (open = false)}
            >{recent.words || 'Everything'}</a
          ><span class="num small">{count(recent.total)}</span>
        </li>
      {/each}
    </ul>
  {/if}
</Popover>
