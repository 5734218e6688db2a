<script lang="ts">
  import { api } from '@/api/client';
  import type { Group, View } from '@/api/types';
  import { app } from '@/state/app.svelte';
  import GroupLine from './GroupLine.svelte';
  import type { SearchState } from '@/state/search';
  import { nextLevel } from '@/state/steps';
  import { untrack } from 'svelte';

  /** One level at a time: choosing a group goes on to the next level within it. */
  let { view, search, go }: { view: View; search: SearchState; go: (change: Partial<SearchState>) => void } = $props();

  const at = $derived(nextLevel(search.steps));
  const level = $derived(view.levels[at.level]!);
  /** What is shown: the groups with the question that they answer. They stay until the next ones are there. */
  let shown = $state.raw<{ question: string; at: typeof at; level: typeof level; groups: Group[] } | null>(null);
  const asked = $derived({
    words: search.words,
    any: search.any,
    reach: search.reach || undefined,
    where: search.where,
    once: search.once || undefined,
    as: search.person || undefined,
    criteria: [...search.criteria, ...search.steps.map((s) => ({ cql: s.cql, negated: false, on: true }))],
    level: level.field,
    below: at.below,
    total: level.total,
  });
  const question = $derived(JSON.stringify(asked));
  const groups = $derived(shown?.groups ?? []);
  const most = $derived(Math.max(1, ...groups.map((g) => g.count)));
  const name = $derived(app.label((shown?.level ?? level).field));

  $effect(() => {
    void question;
    const now = untrack(() => ({ question, at, level }));
    let stale = false;
    api.groups(untrack(() => asked)).then(
      (answer) => {
        if (!stale) shown = { ...now, groups: answer.groups };
      },
      (error) => {
        if (!stale) app.fail(error, 'The groups could not be fetched.');
      },
    );
    return () => (stale = true);
  });

  function open(group: Group) {
    // A second click meets the groups of a step that was taken already.
    if (shown?.question !== question) return;
    go({
      steps: [...search.steps, { cql: group.cql, label: group.label || `without ${name}`, level: at.level, below: group.deeper }],
    });
  }
  function keydown(event: KeyboardEvent) {
    const by = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (event.key === 'ArrowLeft' && search.steps.length > 0) go({ steps: search.steps.slice(0, -1) });
    else if (event.key === 'ArrowRight') (event.target as HTMLElement).click();
    else if (by) {
      const all = [...(event.currentTarget as HTMLElement).querySelectorAll('button')];
      all[all.indexOf(event.target as HTMLButtonElement) + by]?.focus();
    } else return;
    event.preventDefault();
  }
</script>

<h2 class="heading px-4 pt-3 pb-1">{(shown?.at ?? at).below ? `${name}, next level` : name}</h2>
<!-- svelte-ignore a11y_no_noninteractive_element_interactions -->
<ul aria-label={`Choose: ${name}`} aria-busy={shown?.question !== question} onkeydown={keydown}>
  {#each groups as group (group.cql)}
    <li>
      <button class="group" onclick={() => open(group)}>
        <GroupLine
          {group}
          {most}
          field={(shown?.level ?? level).field}
          total={shown?.level.total ?? null}
          totalAs={shown?.level.total_as ?? 'sum'}
        />
      </button>
    </li>
  {/each}
</ul>

<style>
  .group {
    display: flex;
    width: 100%;
    align-items: center;
    gap: 10px;
    min-height: 34px;
    padding: 0 16px;
    text-align: left;
    border-bottom: 1px solid color-mix(in srgb, var(--hair) 55%, transparent);
    font-family: var(--font-serif);
    font-size: 16px;
  }
  .group:hover {
    background: color-mix(in srgb, var(--act-tint) 45%, transparent);
  }
</style>
