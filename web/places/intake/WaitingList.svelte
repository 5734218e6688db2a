<script lang="ts">
  import { api } from '@/api/client';
  import type { WaitingDocument } from '@/api/types';
  import { bytes, moment } from '@/parts/format';
  import { app } from '@/state/app.svelte';
  import { hasPages } from '@/places/read/shown';
  import { tick, untrack } from 'svelte';
  import { attachmentsOf, inSight, lacking, type Group } from './waiting';
  import type { Waiting } from './waiting.svelte';

  /** What waits: names, first pages or a table; only what is near is drawn, so that thousands scroll as tens do. */
  let { waiting, columns, onopen }: { waiting: Waiting; columns: string[]; onopen: () => void } = $props();

  const HEADING = 30;
  const NAME = 47;
  const ROW = 34;
  const TILE = 236;
  const TILE_WIDTH = 172;
  let top = $state(0);
  let height = $state(600);
  let width = $state(300);
  let box: HTMLElement | undefined = $state();

  type Line = { key: string; height: number; group?: Group; documents: WaitingDocument[] };
  const perRow = $derived(waiting.shape === 'pictures' ? Math.max(1, Math.floor((width - 32) / TILE_WIDTH)) : 1);
  const lines = $derived.by(() => {
    const all: Line[] = [];
    for (const group of waiting.groups) {
      if (waiting.groups.length > 1 || group.name !== 'Brought in by you')
        all.push({ key: `group ${group.name}`, height: HEADING, group, documents: [] });
      for (let i = 0; i < group.documents.length; i += perRow) {
        const documents = group.documents.slice(i, i + perRow);
        all.push({ key: documents[0]!.ref, height: { names: NAME, table: ROW, pictures: TILE }[waiting.shape], documents });
      }
    }
    return all;
  });
  const sight = $derived(
    inSight(
      lines.map((l) => l.height),
      top,
      height,
    ),
  );

  function keydown(event: KeyboardEvent) {
    const across = waiting.shape === 'pictures' ? perRow : 1;
    const by = (
      {
        ArrowDown: across,
        ArrowUp: -across,
        ...(across > 1 ? { ArrowRight: 1, ArrowLeft: -1 } : {}),
        PageDown: across * 8,
        PageUp: -across * 8,
      } as Record<string, number>
    )[event.key];
    if (by === undefined) return;
    event.preventDefault();
    const before = waiting.looking;
    waiting.step(by);
    if (event.shiftKey) for (const ref of [before, waiting.looking]) if (!waiting.chosen.includes(ref)) waiting.choose(ref, true);
    void show(waiting.looking);
  }
  /** Scrolls to where a document is in sight. */
  function reveal(ref: string) {
    const index = lines.findIndex((l) => l.documents.some((d) => d.ref === ref));
    if (!box || index < 0) return;
    const above = lines.slice(0, index).reduce((sum, l) => sum + l.height, 0);
    if (above < box.scrollTop) box.scrollTop = Math.max(0, above - HEADING);
    else if (above + lines[index]!.height > box.scrollTop + box.clientHeight)
      box.scrollTop = above + lines[index]!.height - box.clientHeight;
    top = box.scrollTop;
  }
  async function show(ref: string) {
    reveal(ref);
    await tick();
    document.getElementById(`waiting-${ref}`)?.focus();
  }
  // The one that is looked at is in sight, however one came to it.
  $effect(() => {
    const ref = waiting.looking;
    untrack(() => reveal(ref));
  });
  function click(event: MouseEvent, ref: string) {
    if (event.shiftKey) waiting.chooseTo(ref);
    else waiting.look(ref);
  }
  const says = (d: WaitingDocument) => (d.text_state === 'pending' ? 'reading its text…' : d.text_state === 'none' ? 'no text' : '');
  const cell = (d: WaitingDocument, code: string) => d.values[code]?.map((v) => v.label).join('; ') ?? '';
</script>

{#snippet check(d: WaitingDocument)}
  <input
    type="checkbox"
    class="check"
    aria-label={`Select ${d.file_name}`}
    checked={waiting.chosen.includes(d.ref)}
    onchange={(e) => waiting.choose(d.ref, e.currentTarget.checked)}
  />
{/snippet}

{#snippet state(d: WaitingDocument)}
  {#if d.at_it}<span class="text-brass-text">{d.at_it} is working on it</span>
  {:else if d.lacks.length === 0}<span class="text-moss">complete</span>
  {:else if says(d)}<span class:text-rust={d.text_state === 'none'}>{says(d)}</span>
  {:else if d.type || waiting.shape !== 'names'}{lacking(d)}{/if}
{/snippet}

{#if waiting.shape === 'table'}
  <div
    class="row small head"
    style={`grid-template-columns:28px minmax(160px,2fr) 1fr 1fr 1fr ${columns.map(() => '1fr').join(' ')} 110px`}
  >
    <span></span><span>File</span><span>State</span><span>Library</span><span>Document type</span>
    {#each columns as code (code)}<span>{app.label(code)}</span>{/each}<span>Arrived</span>
  </div>
{/if}
<!-- svelte-ignore a11y_no_noninteractive_element_interactions -->
<ul
  class="min-h-0 flex-1 overflow-y-auto pr-4 pb-4 pl-2"
  bind:this={box}
  bind:clientHeight={height}
  bind:clientWidth={width}
  onscroll={() => (top = box!.scrollTop)}
  onkeydown={keydown}
>
  <li style={`height:${sight.above}px`} aria-hidden="true"></li>
  {#each lines.slice(sight.from, sight.to) as line (line.key)}
    {#if line.group}
      <li class="heading line flex items-end pb-1" style={`height:${HEADING}px`}>
        {line.group.name}&ensp;<span class="num">{line.group.documents.length}</span>
      </li>
    {:else if waiting.shape === 'names'}
      {@const d = line.documents[0]!}
      <li
        class="line flex items-start gap-2 border-t border-hair py-1.5"
        style={`height:${NAME}px`}
        class:looked={d.ref === waiting.looking}
      >
        <span class="pt-0.5">{@render check(d)}</span>
        <button
          id={`waiting-${d.ref}`}
          class="min-w-0 flex-1 text-left"
          aria-pressed={d.ref === waiting.looking}
          onclick={(e) => click(e, d.ref)}
        >
          <span class="block truncate" title={d.path || d.file_name}>{d.file_name}</span>
          <span class="small quiet block truncate"
            >{@render state(d)}{#if d.at_it || d.lacks.length === 0 || says(d) || d.type}&nbsp;·&nbsp;{/if}{d.library.name} · {bytes(
              d.bytes,
            )}{#if d.attachments > 0}&nbsp;· {attachmentsOf(d)}{/if}</span
          >
        </button>
      </li>
    {:else if waiting.shape === 'table'}
      {@const d = line.documents[0]!}
      <li
        class="row line border-t border-hair"
        style={`height:${ROW}px;grid-template-columns:28px minmax(160px,2fr) 1fr 1fr 1fr ${columns.map(() => '1fr').join(' ')} 110px`}
        class:looked={d.ref === waiting.looking}
      >
        {@render check(d)}
        <button
          id={`waiting-${d.ref}`}
          class="truncate text-left"
          aria-pressed={d.ref === waiting.looking}
          onclick={(e) => click(e, d.ref)}
          ondblclick={onopen}
          title={d.path || d.file_name}>{d.file_name}</button
        >
        <span class="small quiet truncate">{@render state(d)}</span>
        <span class="truncate">{d.library.name}</span>
        <span class="truncate">{d.type?.name ?? ''}</span>
        {#each columns as code (code)}<span class="truncate" title={cell(d, code)}>{cell(d, code)}</span>{/each}
        <span class="small quiet num">{moment(d.created_at)}</span>
      </li>
    {:else}
      <li class="flex gap-2" style={`height:${TILE}px`}>
        {#each line.documents as d (d.ref)}
          <div class="tile" class:looked={d.ref === waiting.looking} class:chosen={waiting.chosen.includes(d.ref)}>
            <button
              id={`waiting-${d.ref}`}
              class="block w-full text-left"
              aria-pressed={d.ref === waiting.looking}
              onclick={(e) => click(e, d.ref)}
              ondblclick={onopen}
              aria-label={d.file_name}
            >
              <span class="page"
                >{#if hasPages(d)}<img src={api.thumbUrl(d.ref)} alt="" loading="lazy" />{:else}<span class="quiet font-serif text-lg"
                    >{d.file_name.split('.').at(-1)}</span
                  >{/if}</span
              >
              <span class="block truncate" title={d.path || d.file_name}>{d.file_name}</span>
            </button>
            <div class="flex items-center gap-2">
              {@render check(d)}<span class="small quiet truncate">{@render state(d)}</span>
            </div>
          </div>
        {/each}
      </li>
    {/if}
  {:else}
    {#if waiting.known}<li class="line quiet border-t border-hair py-3">
        Nothing is waiting. Documents you bring in stay here until they are filed.
      </li>{/if}
  {/each}
  <li style={`height:${sight.below}px`} aria-hidden="true"></li>
</ul>

<style>
  .line {
    padding-left: 8px;
  }
  .looked {
    box-shadow: inset 3px 0 0 var(--act);
  }
  .row {
    display: grid;
    gap: 10px;
    align-items: center;
  }
  .head {
    padding: 4px 16px;
    color: var(--quiet);
  }
  .tile {
    width: 164px;
    flex: none;
    padding: 6px 8px;
    border-radius: 3px;
  }
  .tile.chosen {
    background: var(--act-tint);
  }
  .page {
    display: grid;
    height: 176px;
    place-items: center;
    margin-bottom: 4px;
  }
  .page img {
    max-width: 100%;
    max-height: 172px;
    background: #fff;
    box-shadow: 0 0 0 1px var(--hair);
  }
</style>
