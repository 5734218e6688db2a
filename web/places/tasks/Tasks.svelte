<script lang="ts">
  import { api, messageOf, type TaskPart } from '@/api/client';
  import type { TaskRow } from '@/api/types';
  import { count, day, plural } from '@/parts/format';
  import { app } from '@/state/app.svelte';
  import { counts } from '@/state/counts.svelte';
  import { keys } from '@/state/keys.svelte';
  import { router } from '@/state/router.svelte';
  import { tick } from 'svelte';
  import TaskView from './TaskView.svelte';
  import { TaskLists } from './tasks.svelte';

  const PARTS: Record<TaskPart, string> = { mine: 'Mine', groups: 'My groups’', others: 'Waiting for others' };
  const EMPTY: Record<TaskPart, string> = {
    mine: 'Nothing waits for you.',
    groups: 'Nothing waits for your groups.',
    others: 'Nothing that you began, decided or look after waits for others.',
  };
  const lists = new TaskLists();
  const open = $derived(router.parts[1] ? Number(router.parts[1]) : null);
  const began = (['mine', 'groups', 'others'] as const).find((p) => p === router.params.get('part'));

  let list = $state<HTMLElement>();
  let comment = $state('');
  let deciding = $state('');
  let busy = $state(false);
  let many = $state.raw<{ code: string; label: string; comment: boolean }[]>([]);

  // Where nothing waits for oneself the groups’ tasks are what one comes for.
  void lists.load(began ?? 'mine').then(() => {
    if (!began && open === null && lists.counts.mine === 0 && lists.counts.groups > 0) void lists.load('groups');
  });

  const changed = $derived(lists.known && (counts.mine !== lists.counts.mine || counts.groups !== lists.counts.groups));
  $effect(() => {
    const timer = setInterval(() => {
      if (!document.hidden) void counts.look();
    }, 10_000);
    return () => clearInterval(timer);
  });

  const address = (id: number | null) => `/tasks${id === null ? '' : `/${id}`}${lists.part === 'mine' ? '' : `?part=${lists.part}`}`;
  const show = (id: number | null) => router.go(address(id));
  async function turn(to: TaskPart) {
    lists.picked = [];
    await lists.load(to);
    router.go(address(null));
  }
  async function step(by: 1 | -1) {
    const next = lists.beside(open, by);
    if (next === null) return;
    show(next);
    await tick();
    list?.querySelector(`[data-task="${next}"]`)?.scrollIntoView({ block: 'nearest' });
  }
  async function decided(id: number, says: string) {
    const next = lists.next(id);
    app.say(says);
    await lists.load();
    void counts.look();
    show(next !== null && lists.rows.some((row) => row.id === next) ? next : null);
  }

  $effect(() => {
    const first = lists.picked[0];
    if (first === undefined) {
      many = [];
      deciding = '';
    } else if (many.length === 0) void api.task(first).then((task) => (many = task.decisions));
  });
  async function decideMany(event: SubmitEvent) {
    event.preventDefault();
    busy = true;
    try {
      const got = await api.decideMany(lists.picked, deciding, comment);
      app.say(
        `${plural(got.done, 'task', 'tasks')} decided.${got.left.length > 0 ? ` ${plural(got.left.length, 'is', 'are')} left: ${got.left[0]!.why}` : ''}`,
        { wrong: got.left.length > 0 },
      );
      lists.picked = [];
      comment = '';
      await lists.load();
    } catch (error) {
      app.say(messageOf(error, 'Nothing was decided. Try again.'), { wrong: true });
    } finally {
      busy = false;
    }
  }

  keys.use(() => [
    { on: ['ArrowDown', 'j'], run: () => void step(1), shown: '↓  j', what: 'Next task' },
    { on: ['ArrowUp', 'k'], run: () => void step(-1), shown: '↑  k', what: 'Task before' },
    { on: 'x', run: () => open !== null && lists.pick(open), what: 'Select the task, to decide several at once', when: () => fitsOpen },
    { on: 'Escape', run: () => show(null), what: 'Close the task', when: () => open !== null },
  ]);
  const fitsOpen = $derived(lists.rows.some((row) => row.id === open && lists.fits(row)));
  const who = (row: TaskRow) => row.holder ?? row.for.join(', ');
</script>

<div class="flex h-full">
  <section class="flex h-full w-full flex-none flex-col border-r border-hair md:w-[350px]" class:aside={open !== null} aria-label="Tasks">
    <header class="border-b border-hair px-4 pt-3 pb-2">
      <div class="flex items-baseline gap-3">
        <h1 class="flex-1 text-[22px]">Tasks</h1>
        <!-- The list stays as it is under the mouse, and says that there is something else. -->
        {#if changed}<button class="link small" onclick={() => void lists.load()}>Changed: show</button>{/if}
        <a class="small" href="/tasks/figures">Figures</a>
      </div>
      <div class="mt-1.5 flex gap-4" role="group" aria-label="Whose tasks">
        {#each Object.entries(PARTS) as [code, name] (code)}
          <button class="part" aria-pressed={lists.part === code} onclick={() => void turn(code as TaskPart)}
            >{name} <span class="small quiet">{count(lists.counts[code as TaskPart])}</span></button
          >
        {/each}
      </div>
    </header>
    <div class="min-h-0 flex-1 overflow-y-auto" bind:this={list}>
      {#if lists.fault}<p class="fault p-4" role="alert">{lists.fault}</p>{/if}
      {#if lists.stopped.length > 0}
        <h2 class="heading px-4 pt-3 pb-1">Stopped, for you to look after</h2>
        <ul>
          {#each lists.stopped as stopped (stopped.id)}
            <li class="border-t border-hair px-4 py-1.5">
              <a class="block truncate font-serif text-[15.5px] text-ink" href={`/documents/${stopped.document.ref}`}
                >{stopped.document.title}</a
              >
              <p class="small text-rust">{stopped.fault}</p>
            </li>
          {/each}
        </ul>
        <h2 class="heading px-4 pt-3 pb-1">Under way</h2>
      {/if}
      <ul>
        {#each lists.rows as row (row.id)}
          <li class="row flex border-t border-hair" class:here={row.id === open} data-task={row.id}>
            {#if row.together !== null && lists.part !== 'others'}
              <label class="flex w-8 flex-none items-start justify-center pt-2"
                ><input
                  type="checkbox"
                  class="check"
                  checked={lists.picked.includes(row.id)}
                  disabled={!lists.fits(row)}
                  onchange={() => lists.pick(row.id)}
                  aria-label={`Select ${row.document.title}`}
                /></label
              >
            {:else}<span class="w-4 flex-none"></span>{/if}
            <a class="min-w-0 flex-1 py-1.5 pr-4 text-ink no-underline hover:no-underline" href={address(row.id)}>
              <span class="block truncate font-serif text-[15.5px]">{row.document.title}</span>
              <span class="small flex items-baseline gap-3">
                <span class="quiet min-w-0 flex-1 truncate"
                  >{row.is_question ? 'A question to you · ' : ''}{row.step.name}{lists.part === 'mine' ? '' : ` · ${who(row)}`}</span
                >
                {#if row.due}<span class="num whitespace-nowrap" class:text-rust={row.overdue} class:quiet={!row.overdue}
                    >{row.overdue ? 'overdue' : 'due'} {day(row.due)}</span
                  >{/if}
              </span>
            </a>
          </li>
        {:else}
          {#if lists.known && !lists.fault}<li class="quiet px-4 py-4">{EMPTY[lists.part]}</li>{/if}
        {/each}
      </ul>
      {#if lists.rows.length < lists.total}<button class="btn m-4" onclick={() => void lists.more()}
          >Show more of {count(lists.total)}</button
        >{/if}
    </div>
    {#if lists.picked.length > 0}
      <form class="border-t border-hair bg-sheet px-4 py-3" onsubmit={decideMany}>
        <p>{plural(lists.picked.length, 'task', 'tasks')} selected</p>
        <div class="mt-1 flex flex-wrap gap-x-4 gap-y-1">
          {#each many as decision (decision.code)}<label class="flex min-h-7 items-center gap-1.5"
              ><input type="radio" name="many" value={decision.code} bind:group={deciding} />{decision.label}</label
            >{/each}
        </div>
        <label class="heading mt-1" for="many-comment">Comment</label>
        <input id="many-comment" class="input" bind:value={comment} />
        <div class="mt-2 flex gap-2">
          <button class="btn btn-main" disabled={busy || !deciding}>Decide all</button><button
            class="btn"
            type="button"
            onclick={() => (lists.picked = [])}>Cancel</button
          >
        </div>
      </form>
    {/if}
  </section>
  <div class="h-full min-w-0 flex-1" class:aside={open === null}>
    {#if open !== null}
      {#key open}<TaskView id={open} onclose={() => show(null)} ondecided={decided} onchanged={() => void lists.load()} />{/key}
    {:else if lists.rows.length > 0}
      <p class="quiet p-6">Choose a task, or press ↓.</p>
    {/if}
  </div>
</div>

<style>
  @media (width < 768px) {
    .aside {
      display: none;
    }
  }
  .part {
    padding: 4px 0 3px;
    border-bottom: 2px solid transparent;
    color: var(--quiet);
  }
  .part[aria-pressed='true'] {
    color: var(--ink);
    border-bottom-color: var(--act);
    font-weight: 600;
  }
  .row:hover {
    background: var(--sheet);
  }
  .row.here {
    background: var(--act-tint);
  }
</style>
