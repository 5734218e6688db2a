<script lang="ts">
  import { api, ApiError } from '@/api/client';
  import type { Change, Effect, Row, Version } from '@/api/types';
  import { count, moment, plural } from '@/parts/format';
  import { app } from '@/state/app.svelte';
  import IconUndo from '@lucide/svelte/icons/undo-2';
  import { draft } from './draft.svelte';

  const SHOWN = 12;
  let note = $state('');
  let busy = $state(false);
  let opened = $state('');
  let rows = $state.raw<{ rows: Row[]; total: number } | null>(null);
  let versions = $state.raw<Version[] | null>(null);
  let against = $state(0);
  let compared = $state.raw<{ number: number; changes: Change[] } | null>(null);

  // Effects on values of a field that a changed vocabulary brings stand with the vocabulary.
  const loose = $derived((draft.effects ?? []).filter((e) => !draft.changes.some((c) => c.kind === e.kind && c.code === e.code)));
  const kept = $derived(draft.changes.filter((c) => (c.kept_by ?? []).length > 0));
  /** Schemes are vocabularies with a place of their own. */
  const place = (c: Change) =>
    c.kind === 'vocabularies' && app.design!.vocabularies.find((v) => v.code === c.code)?.scheme ? 'schemes' : c.kind;
  const key = (e: Effect) => `${e.kind}/${e.code}/${e.effect}/${e.what}`;

  async function list(effect: Effect) {
    if (opened === key(effect)) {
      opened = '';
      return;
    }
    opened = key(effect);
    rows = null;
    if (effect.cql === null) return;
    const got = await api.search({
      words: '',
      criteria: [{ cql: effect.cql, negated: false, on: true }],
      limit: SHOWN,
      rows_only: true,
      draft: true,
    });
    if (opened === key(effect)) rows = got;
  }

  async function publish() {
    busy = true;
    try {
      const version = await api.publish(note.trim());
      note = '';
      opened = '';
      await draft.load();
      if (versions) versions = (await api.versions()).versions;
      app.say(`Published as version ${version.number}. It is in use from now on.`);
    } catch (error) {
      app.fail(error, 'It could not be published.');
    } finally {
      busy = false;
    }
  }

  async function showVersions() {
    versions = versions ? null : (await api.versions()).versions;
    compared = null;
  }

  async function compare(number: number, to = 0) {
    const isSame = compared?.number === number && against === to;
    against = to;
    compared = isSame ? null : { number, changes: (await api.compare(number, to)).changes };
  }

  async function take(event: Event & { currentTarget: HTMLInputElement }, merge = false) {
    const file = event.currentTarget.files?.[0];
    event.currentTarget.value = '';
    if (!file) return;
    try {
      const parsed: unknown = JSON.parse(await file.text());
      await draft.act(
        () => api.importDesign(parsed, merge),
        merge
          ? 'What the file changed is in the draft, beside what was there.'
          : 'The file is in the draft. Look at its effect before you publish it.',
      );
    } catch (error) {
      app.say(error instanceof ApiError ? error.message : `${file.name} is not a JSON file.`, { wrong: true });
    }
  }
</script>

{#snippet effectLine(effect: Effect)}
  <li>
    <button class="effect" class:stops={effect.stops} aria-expanded={opened === key(effect)} onclick={() => list(effect)}>
      <span class="num n">{count(effect.documents)}</span><span class="min-w-0 flex-1"
        >{effect.what}{#if effect.stops}<strong class="text-rust"> (blocks publication)</strong>{/if}</span
      >
    </button>
    {#if opened === key(effect)}
      <div class="list small">
        {#each effect.examples as example (example.value)}
          <p class="example">
            <span class="num">{count(example.documents)}</span><span
              ><span class="font-semibold">{example.value}</span> <span class="quiet">{example.reason}</span></span
            >
          </p>
        {/each}
        {#each effect.rows as row (row.ref)}<a
            class="block min-h-6 truncate font-serif text-[14px] leading-6"
            href={`/documents/${row.ref}`}>{row.title}</a
          >{/each}
        {#if effect.rows.length > 0 && effect.documents > effect.rows.length}<p class="quiet">
            and {count(effect.documents - effect.rows.length)} more
          </p>{/if}
        {#if rows}
          {#each rows.rows as row (row.ref)}<a
              class="block min-h-6 truncate font-serif text-[14px] leading-6"
              href={`/documents/${row.ref}`}>{row.title}</a
            >{/each}
          {#if rows.total > rows.rows.length}<p class="quiet">and {count(rows.total - rows.rows.length)} more</p>{/if}
        {:else if effect.cql !== null}<p class="quiet">Loading…</p>{/if}
      </div>
    {/if}
  </li>
{/snippet}

{#snippet changeLine(change: Change)}
  <p class="leading-snug">
    {#if change.act === 'removed'}<s>{change.name}</s>{:else}<a href={`/design/${place(change)}/${change.code}`}>{change.name}</a>{/if}
    <span class="quiet small"
      >{change.one}, {change.act}{#if change.by}, by {change.by}{/if}</span
    >
  </p>
  {#each change.properties as p (p.property)}
    <p class="small quiet break-words pl-2">
      {p.property}: {#if p.before}<s>{p.before}</s>{#if p.after}
          →{/if}{/if} <span class="text-ink">{p.after}</span>
    </p>
  {/each}
{/snippet}

<aside class="panel" aria-labelledby="effect">
  <h2 class="text-[17px]" id="effect">Effect of the draft</h2>
  {#if draft.changes.length === 0}
    <p class="quiet py-2">
      The draft is empty. Changes you save are collected here, with their effect on existing documents, and come into use when you publish.
    </p>
  {:else}
    <ul aria-live="polite" aria-busy={draft.effects === null}>
      {#each draft.changes as change (change.kind + change.code)}
        <li class="border-t border-hair py-1.5">
          <div class="flex items-start gap-1">
            <div class="min-w-0 flex-1">{@render changeLine(change)}</div>
            {#if !change.kept_by?.length}<button
                class="icon-btn -mt-1"
                aria-label={`Undo the change of ${change.name}`}
                title="Undo this change"
                onclick={() => draft.act(() => api.takeBack(change.kind, change.code), `The change of “${change.name}” is undone.`)}
                ><IconUndo size={14} strokeWidth={1.7} /></button
              >{/if}
          </div>
          {#if draft.effects === null}<p class="small quiet">Counting…</p>
          {:else}
            <ul>
              {#each draft.of(change) as effect (key(effect))}{@render effectLine(
                  effect,
                )}{:else}{#if loose.length === 0 || change.kind !== 'vocabularies'}<li class="small quiet">
                    No document is affected.
                  </li>{/if}{/each}
            </ul>
          {/if}
        </li>
      {/each}
      {#each loose as effect (key(effect))}<ul class="border-t border-hair">{@render effectLine(effect)}</ul>{/each}
    </ul>
    <form
      class="publish mt-1 border-t border-hair pt-2"
      onsubmit={(e) => {
        e.preventDefault();
        void publish();
      }}
    >
      {#if draft.restores}<p class="small mb-1">
          Publishing brings back version {draft.restores} and the values changed since, except those someone has edited.
        </p>{/if}
      <label class="heading" for="publish-note">What changed and why</label>
      <input class="input" id="publish-note" bind:value={note} maxlength="500" autocomplete="off" />
      {#if kept.length > 0}<p class="small mt-2">
          {kept.map((c) => c.name).join(', ')}
          may be changed only by other groups; they publish the draft.
        </p>{/if}
      <button class="btn btn-main mt-2 w-full" disabled={busy || kept.length > 0 || draft.effects === null || draft.stopped}
        >Publish {plural(draft.changes.length, 'change', 'changes')}</button
      >
    </form>
  {/if}
  {#each draft.work.filter((w) => w.state !== 'done') as work (work.id)}
    <div class="mt-3 border-t border-hair pt-2" role="status">
      <p class="small">
        {work.state === 'running' ? 'Re-indexing' : 'Stopped'}: {work.name}{#if work.says}
          <span class="text-rust">{work.says}</span>{/if}
      </p>
      <div class="flex items-center gap-2">
        <progress class="flex-1" max={100} value={work.percent} aria-label={`Re-indexing after ${work.name}`}></progress><span
          class="num small">{work.percent}%</span
        >
      </div>
      {#if work.state === 'running'}<button class="link small" onclick={async () => draft.follow((await api.stopWork(work.id)).work)}
          >Stop it</button
        >
      {:else}<button class="link small" onclick={async () => draft.follow((await api.goOnWork(work.id)).work)}>Go on</button>
        <span class="small quiet">Finished documents are fully re-indexed; the rest are found as before.</span>{/if}
    </div>
  {/each}
  <div class="mt-4 border-t border-hair pt-2">
    <button class="link" aria-expanded={versions !== null} onclick={showVersions}
      >{versions ? 'Hide versions' : 'Published versions'}</button
    >
    {#if versions}
      <ul>
        {#each versions as version (version.number)}
          <li class="border-t border-hair py-1.5 first:mt-1">
            <p><span class="num font-semibold">{version.number}</span> {version.note || 'Without a note'}</p>
            <p class="small quiet">
              {moment(version.at)}{#if version.by}, {version.by}{/if}
            </p>
            <p class="small flex gap-3">
              <button class="link" aria-expanded={compared?.number === version.number} onclick={() => compare(version.number)}
                >Compare</button
              >{#if compared?.number === version.number}<label
                  ><span class="sr-only">Compare with</span><select
                    class="input"
                    style="min-height:24px;width:auto"
                    value={against}
                    onchange={(e) => compare(version.number, Number(e.currentTarget.value))}
                    ><option value={0}>now</option
                    >{#each versions.filter((v) => v.number !== version.number) as other (other.number)}<option value={other.number}
                        >version {other.number}</option
                      >{/each}</select
                  ></label
                >{/if}<button
                class="link"
                onclick={() =>
                  draft.act(
                    () => api.bringBack(version.number),
                    `The draft would bring version ${version.number} back. Publish it to do so.`,
                  )}>Bring back</button
              >
            </p>
            {#if compared?.number === version.number}
              {#each compared.changes as change (change.kind + change.code)}<div class="py-0.5 pl-2">
                  {@render changeLine(change)}
                </div>{:else}<p class="small quiet pl-2">Nothing differs.</p>{/each}
            {/if}
          </li>
        {:else}<li class="quiet small py-1">Nothing has been published since installation.</li>{/each}
      </ul>
    {/if}
  </div>
  <p class="small mt-3 flex flex-wrap gap-x-4 gap-y-1 border-t border-hair pt-2">
    <a href={api.designFile} download="design.json">Export the design</a>
    <label class="link cursor-pointer"
      >Import a design…<input class="sr-only" type="file" accept=".json,application/json" onchange={(e) => take(e)} /></label
    >
    <label class="link cursor-pointer" title="Imports only what the file changed since it was exported"
      >Merge a design…<input class="sr-only" type="file" accept=".json,application/json" onchange={(e) => take(e, true)} /></label
    >
  </p>
</aside>

<style>
  .panel {
    height: 100%;
    overflow-y: auto;
    padding: 14px 14px 24px;
  }
  /* However long the list of changes is, what is done with them stays in sight. */
  .publish {
    position: sticky;
    bottom: -24px;
    padding-bottom: 14px;
    background: var(--paper);
  }
  .effect {
    display: flex;
    gap: 8px;
    width: 100%;
    align-items: baseline;
    text-align: left;
    padding: 3px 4px;
    border-radius: 2px;
  }
  .effect:hover {
    background: var(--act-tint);
  }
  .n {
    min-width: 38px;
    font-weight: 600;
    color: var(--brass-text);
  }
  .stops .n {
    color: var(--rust);
  }
  .effect:hover .n {
    color: var(--ink);
  }
  progress {
    height: 6px;
    accent-color: var(--act);
  }
  .list {
    padding: 2px 4px 6px 50px;
  }
  .example {
    display: grid;
    grid-template-columns: 22px 1fr;
    gap: 8px;
    line-height: 1.35;
    padding: 1px 0;
    margin-left: -30px;
  }
</style>
