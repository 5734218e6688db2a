<script lang="ts">
  import { api } from '@/api/client';
  import type { Desk, DeskRow, Notice as Told, TaskRow } from '@/api/types';
  import { searches } from '@/state/searches.svelte';
  import IconArrowDown from '@lucide/svelte/icons/arrow-down';
  import IconArrowUp from '@lucide/svelte/icons/arrow-up';
  import { app } from '@/state/app.svelte';
  import { counts } from '@/state/counts.svelte';
  import { drafts } from '@/state/drafts';
  import { count, day, moment, plural } from '@/parts/format';
  import { addressOf, emptySearch, keptAddress, viewAddress } from '@/state/search';

  let desk = $state.raw<Desk | null>(null);

  const NOTICES = 8;
  let tasks = $state.raw<TaskRow[]>([]);
  let notices = $state.raw<Told[]>([]);
  async function loadTasks() {
    const [mine, groups] = await Promise.all([api.tasks('mine'), api.tasks('groups')]);
    tasks = [...mine.tasks, ...groups.tasks].slice(0, 6);
    notices = (await api.notices()).notices.slice(0, NOTICES);
    // What is shown here has been looked at.
    if (notices.some((notice) => !notice.seen)) await api.noticesSeen(notices[0]!.id).then(() => counts.look());
  }
  void loadTasks().catch(() => undefined);

  async function load() {
    desk = await api.desk();
    searches.take({ searches: desk.searches, recent: desk.recent });
  }
  void load();
  // The background worker's progress is worth watching only while there is some.
  $effect(() => {
    if (!desk || desk.reading === 0) return;
    const timer = setTimeout(load, 4000);
    return () => clearTimeout(timer);
  });

  const repositories = $derived(desk ? [...Map.groupBy(desk.libraries, (l) => l.repository)] : []);
  const most = $derived(Math.max(1, ...(desk?.libraries.map((l) => l.documents) ?? [1])));
  const total = $derived(desk?.libraries.reduce((sum, l) => sum + l.documents, 0) ?? 0);
  /** A library opens with its own view, if it has one. */
  const inLibrary = (code: string) => {
    const view = app.design!.views.find((v) => v.code === app.library(code)?.view);
    const here = [{ cql: `library == ${code}`, negated: false, on: true }];
    return view ? viewAddress(view, here) : addressOf({ ...emptySearch, criteria: here });
  };
  /** What a person began to change and has not saved. */
  const begun = drafts.names('sheet:').map((name) => name.slice(6));

  // Arranged by its person: the order of the parts, and which are shown.
  const names: Record<string, string> = {
    tasks: 'Tasks',
    notices: 'Notices',
    searches: 'Saved searches',
    pinned: 'Pinned',
    read: 'Recently read',
    filed: 'Recently filed',
    recent: 'Recent searches',
    drafts: 'Drafts',
    in_progress: 'Checked out',
    libraries: 'Libraries',
    views: 'Views',
    dossiers: 'Dossiers',
  };
  const usual = [
    'tasks',
    'notices',
    'searches',
    'pinned',
    'libraries',
    'in_progress',
    'read',
    'drafts',
    'recent',
    'filed',
    'views',
    'dossiers',
  ];
  const prefer = $derived(app.person?.preferences.desk ?? {});
  const order = $derived([...(prefer.order ?? []).filter((p) => usual.includes(p)), ...usual.filter((p) => !prefer.order?.includes(p))]);
  let arranging = $state(false);
  const isThere: Record<string, () => boolean> = {
    tasks: () => tasks.length > 0,
    notices: () => notices.length > 0,
    searches: () => (desk?.searches.length ?? 0) > 0,
    pinned: () => (desk?.pinned.length ?? 0) > 0,
    drafts: () => begun.length > 0,
    in_progress: () => (desk?.in_progress.length ?? 0) > 0,
    recent: () => (desk?.recent.length ?? 0) > 0,
    views: () => (app.design?.views.length ?? 0) > 0,
    dossiers: () => (app.design?.dossier_kinds.length ?? 0) > 0,
  };
  const shown = $derived(order.filter((p) => !prefer.hidden?.includes(p) && (isThere[p]?.() ?? true)));
  function move(part: string, by: 1 | -1) {
    const next = [...order];
    const at = next.indexOf(part);
    [next[at], next[at + by]] = [next[at + by]!, next[at]!];
    void app.prefer({ desk: { ...prefer, order: next } });
  }
  const hide = (part: string, hidden: boolean) =>
    app.prefer({
      desk: { ...prefer, hidden: hidden ? [...(prefer.hidden ?? []), part] : (prefer.hidden ?? []).filter((p) => p !== part) },
    });
</script>

{#snippet rows(list: DeskRow[], empty: string)}
  {#each list as row (row.ref)}
    <li class="flex items-baseline gap-3 border-t border-hair py-1.5">
      <a class="min-w-0 flex-1 truncate font-serif text-[15.5px] text-ink" href={`/documents/${row.ref}`} title={row.title}>{row.title}</a>
      {#if row.reading}<span class="small text-brass-text" title="Its words are found when its text has been read.">being read</span>{/if}
      <span class="small quiet hidden w-32 truncate lg:block">{row.type}</span>
      <span class="small quiet num w-24">{moment(row.moment)}</span>
    </li>
  {:else}
    <li class="quiet border-t border-hair py-2">{empty}</li>
  {/each}
{/snippet}

{#snippet part(name: string)}
  {#if desk}
    {#if name === 'searches'}
      <ul>
        {#each desk.searches as saved (saved.id)}
          <li class="flex items-baseline gap-3 border-t border-hair py-1.5">
            <a
              class="min-w-0 flex-1 truncate"
              href={keptAddress(saved.search, {
                layout: app.design!.views.find((v) => v.code === saved.search.view)?.opens ?? 'table',
              })}
              onclick={() => {
                if (saved.watched) void api.lookAtSearch(saved.id).then((got) => searches.take(got));
              }}>{saved.name}</a
            >{#if saved.by}<span class="small quiet">{saved.by}</span>{/if}{#if saved.new}<span class="text-brass-text"
                >{count(saved.new)} new</span
              >{:else if saved.watched}<span class="small quiet">nothing new</span>{/if}<span class="num w-14"
              >{saved.total === null ? '–' : count(saved.total)}</span
            >
          </li>
        {/each}
      </ul>
    {:else if name === 'tasks'}<ul>
        {#each tasks as task (task.id)}<li class="flex items-baseline gap-3 border-t border-hair py-1.5">
            <a class="min-w-0 flex-1 truncate font-serif text-[15.5px] text-ink" href={`/tasks/${task.id}`}>{task.document.title}</a><span
              class="small quiet hidden w-44 truncate lg:block">{task.step.name}</span
            ><span class="small num w-36 whitespace-nowrap" class:text-rust={task.overdue} class:quiet={!task.overdue}
              >{task.due ? `${task.overdue ? 'overdue' : 'due'} ${day(task.due)}` : ''}</span
            >
          </li>{/each}
        <li class="border-t border-hair py-1.5"><a href="/tasks">All tasks</a></li>
      </ul>
    {:else if name === 'notices'}<ul>
        {#each notices as notice (notice.id)}<li class="flex items-baseline gap-3 border-t border-hair py-1.5">
            <a class="min-w-0 flex-1 text-ink" class:font-semibold={!notice.seen} href={notice.link}>{notice.says}</a><span
              class="small quiet num w-24">{moment(notice.at)}</span
            >
          </li>{/each}
      </ul>
    {:else if name === 'pinned'}<ul>{@render rows(desk.pinned, '')}</ul>
    {:else if name === 'read'}<ul>{@render rows(desk.read, 'Documents you read appear here. Press / to search.')}</ul>
    {:else if name === 'filed'}<ul>{@render rows(desk.filed, 'Nothing has been filed yet. Documents are brought in at Intake.')}</ul>
    {:else if name === 'drafts'}<ul>
        {#each begun as ref (ref)}<li class="border-t border-hair py-1.5">
            <a href={`/documents/${ref}`}>Continue the index sheet of <span class="mono">{ref}</span></a>
          </li>{/each}
      </ul>
    {:else if name === 'in_progress'}<ul>
        {#each desk.in_progress as out (out.ref)}<li class="border-t border-hair py-1.5">
            <div class="flex items-baseline gap-3">
              <a class="min-w-0 flex-1 truncate font-serif text-[15.5px]" href={`/documents/${out.ref}`}>{out.title}</a><span
                class="small quiet num">{moment(out.since)}</span
              >
            </div>
            <p class="small quiet">
              {[
                out.own ? '' : `by ${out.by}`,
                out.note,
                out.copy ? `saved, not checked in: ${out.copy.file_name}` : '',
                out.behind ? 'a newer version was made in the meantime' : '',
              ]
                .filter(Boolean)
                .join('; ')}
            </p>
          </li>{/each}
      </ul>
    {:else if name === 'recent'}<ul>
        {#each desk.recent as recent, i (i)}<li class="flex items-baseline gap-3 border-t border-hair py-1.5">
            <a class="min-w-0 flex-1 truncate" href={keptAddress(recent.search)}>{recent.words || 'Everything'}</a><span class="num w-14"
              >{count(recent.total)}</span
            >
          </li>{/each}
      </ul>
    {:else if name === 'views'}<ul>
        {#each app.design!.views as view (view.code)}<li class="flex items-baseline border-t border-hair py-1.5">
            <a class="flex-1" href={viewAddress(view)}>{view.name}</a>{#if view.own}<span class="small quiet mr-3">my own</span>{/if}<span
              class="num">{view.code in desk.views ? count(desk.views[view.code]!) : ''}</span
            >
          </li>{/each}
      </ul>
    {:else if name === 'dossiers'}<ul>
        {#each app.design!.dossier_kinds as kind (kind.code)}<li class="border-t border-hair py-1.5">
            <a href={`/dossiers?kind=${kind.code}`}>{kind.name}</a>
          </li>{/each}
      </ul>
    {:else}
      {#each repositories as [repository, libraries] (repository)}
        <h3 class="heading mt-3 mb-1">{repository}</h3>
        <ul>
          {#each libraries as library (library.code)}
            <li class="border-t border-hair py-1.5">
              <div class="flex items-baseline gap-3">
                <a class="flex-1 font-serif text-[15.5px]" href={inLibrary(library.code)}>{library.name}</a>
                <span class="block h-[3px] w-24 self-center" aria-hidden="true"
                  ><span class="block h-full bg-quiet/50" style={`width:${(100 * library.documents) / most}%`}></span></span
                >
                <span class="num w-14">{count(library.documents)}</span>
              </div>
              <p class="small quiet">{library.note}</p>
            </li>
          {/each}
        </ul>
      {:else}
        <p class="quiet mt-2">
          No library yet. {#if app.person?.may.design}<a href="/design/libraries">Make the first one in Design</a>.{:else}The records
            librarian makes them.{/if}
        </p>
      {/each}
      {#if app.design!.remote.length > 0}
        <h3 class="heading mt-3 mb-1">Elsewhere</h3>
        <ul>
          {#each app.design!.remote as remote (remote.code)}
            <li class="border-t border-hair py-1.5">
              <a class="font-serif text-[15.5px]" href={addressOf({ ...emptySearch, from: remote.code })}>{remote.name}</a>
              <p class="small quiet">Remote repository, searched along with your libraries</p>
            </li>
          {/each}
        </ul>
      {/if}
    {/if}
  {/if}
{/snippet}

<div class="h-full overflow-y-auto">
  <div class="mx-auto max-w-[1180px] px-6 py-7">
    <div class="flex items-baseline gap-4">
      <h1 class="flex-1 text-[28px]">{app.person?.name}’s desk</h1>
      <button class="link small" aria-expanded={arranging} onclick={() => (arranging = !arranging)}>{arranging ? 'Done' : 'Arrange'}</button
      >
    </div>
    {#if desk}
      <p class="quiet mt-1">
        {plural(total, 'document', 'documents')} in {plural(desk.libraries.length, 'library', 'libraries')}{#if desk.reading > 0}; <span
            class="text-brass-text">the text of {count(desk.reading)} is still being read</span
          >{/if}.
        {#if desk.waiting > 0}<a href="/intake">{plural(desk.waiting, 'document waits', 'documents wait')} in intake</a>.{/if}
      </p>
      {#if arranging}
        <ol class="mt-4 max-w-sm" aria-label="Parts of the desk">
          {#each order as name, i (name)}
            <li class="flex items-center gap-1 border-t border-hair">
              <label class="flex min-h-7 flex-1 items-center gap-2"
                ><input
                  type="checkbox"
                  class="check"
                  checked={!prefer.hidden?.includes(name)}
                  onchange={(e) => hide(name, !e.currentTarget.checked)}
                />{names[name]}</label
              ><button class="icon-btn" disabled={i === 0} aria-label={`Move ${names[name]} up`} onclick={() => move(name, -1)}
                ><IconArrowUp size={15} strokeWidth={1.7} /></button
              ><button
                class="icon-btn"
                disabled={i === order.length - 1}
                aria-label={`Move ${names[name]} down`}
                onclick={() => move(name, 1)}><IconArrowDown size={15} strokeWidth={1.7} /></button
              >
            </li>
          {/each}
        </ol>
      {/if}
      <div class="parts mt-7">
        {#each shown as name (name)}
          <section class="mb-8 break-inside-avoid" aria-labelledby={`desk-${name}`}>
            <h2 class="mb-1 text-lg" id={`desk-${name}`}>
              {#if name === 'dossiers'}<a href="/dossiers">{names[name]}</a>{:else}{names[name]}{/if}
            </h2>
            {@render part(name)}
          </section>
        {/each}
      </div>
    {/if}
  </div>
</div>

<style>
  .parts {
    columns: 2 440px;
    column-gap: 48px;
  }
</style>
