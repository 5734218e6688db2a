<script lang="ts">
  import { keys } from '@/state/keys.svelte';
  import type { Annotation } from '@/api/types';
  import { app } from '@/state/app.svelte';
  import { keptWhile } from '@/state/drafts';
  import IconArea from '@lucide/svelte/icons/square-dashed';
  import IconHighlight from '@lucide/svelte/icons/highlighter';
  import IconNote from '@lucide/svelte/icons/sticky-note';
  import IconPen from '@lucide/svelte/icons/pencil';
  import IconRedo from '@lucide/svelte/icons/redo-2';
  import IconStamp from '@lucide/svelte/icons/stamp';
  import IconUndo from '@lucide/svelte/icons/undo-2';
  import type { Marking, Tool } from './marking.svelte';

  /** The tools for laying something over the pages. */
  let { marking, pictures }: { marking: Marking; pictures: boolean } = $props();

  const tools: [Tool, string, string, typeof IconPen][] = [
    ['words', 'Highlight words', 'w', IconHighlight],
    ['area', 'Highlight an area', 'e', IconArea],
    ['note', 'Note', 'm', IconNote],
    ['pen', 'Pen', 'd', IconPen],
    ['stamp', 'Stamp', 's', IconStamp],
  ];
  // Areas are measured on pictures; everything else finds its place by a word too, and in the cells of a table only words do.
  const isTable = $derived(!pictures && marking.reading.record?.file_kind === 'csv');
  const usable = $derived(
    tools.filter(([tool]) => (pictures || (tool !== 'area' && !isTable)) && (tool !== 'stamp' || marking.stamps.length > 0)),
  );
  const listed = $derived(
    marking.shown ? marking.annotations.filter((a) => a.kind === 'highlight' && !a.lost && (a.own || marking.others)) : [],
  );
  const lost = $derived(marking.annotations.filter((a) => a.lost));
  $effect(() => {
    if (marking.stamp === '' && marking.stamps.length > 0) marking.stamp = marking.stamps[0]!;
  });
  function choose(tool: Tool) {
    marking.tool = marking.tool === tool ? '' : tool;
  }
  /** What lost its place stands on a page again, where it was on its own. */
  async function putOn(a: Annotation, page: number) {
    await marking.change(a, { page, ...(a.strokes.length > 0 ? { strokes: a.strokes } : { boxes: a.boxes }) });
    marking.reading.goToPage(page);
  }
  // These stand above the reader's own as long as the tools are there.
  keys.use(() => [
    ...usable.map(([tool, , key]) => ({ on: key, run: () => choose(tool) })),
    { shown: usable.map(([, , key]) => key).join(' '), what: 'Words, area, note, pen, stamp, while marking' },
    { on: 'z', ctrl: true, what: 'Undo a mark', run: (event) => void (event.shiftKey ? marking.redo() : marking.undo()) },
    { on: 'Escape', run: () => (marking.tool = ''), when: () => marking.tool !== '' },
  ]);
</script>

<div class="flex flex-wrap items-center gap-x-1 border-b border-hair px-3 py-0.5" role="toolbar" aria-label="Marking">
  {#each usable as [tool, label, key, Icon] (tool)}
    <button class="tool small" aria-pressed={marking.tool === tool} title={`${label} (${key})`} onclick={() => choose(tool)}
      ><Icon size={15} strokeWidth={1.6} />{label}</button
    >
  {/each}
  {#if marking.tool === 'stamp'}<select
      class="input"
      style="width:200px;min-height:26px"
      aria-label="Which stamp"
      bind:value={marking.stamp}
      >{#each marking.stamps as stamp (stamp)}<option>{stamp}</option>{/each}</select
    >{/if}
  <span class="flex-1"></span>
  <label class="small flex min-h-6 items-center gap-1.5"
    ><input type="checkbox" class="check" bind:checked={marking.private} />only for me</label
  >
  <label class="small ml-3 flex min-h-6 items-center gap-1.5"
    ><input type="checkbox" class="check" bind:checked={marking.shown} />show marks</label
  >
  <label class="small ml-3 flex min-h-6 items-center gap-1.5"
    ><input type="checkbox" class="check" bind:checked={marking.others} disabled={!marking.shown} />show others’ marks</label
  >
  {#if pictures && marking.reading.record?.file_kind === 'pdf' && !marking.reading.record.redacted_only}<button
      class="link small ml-3"
      title="Annotations that the PDF itself has"
      onclick={() => marking.takeIn()}>Import the PDF’s annotations</button
    >{/if}
  <button class="icon-btn" disabled={!marking.mayUndo} aria-label="Undo" title="Undo (Ctrl+Z)" onclick={() => marking.undo()}
    ><IconUndo size={15} strokeWidth={1.7} /></button
  >
  <button class="icon-btn" disabled={!marking.mayRedo} aria-label="Redo" title="Do it again (Ctrl+Shift+Z)" onclick={() => marking.redo()}
    ><IconRedo size={15} strokeWidth={1.7} /></button
  >
  {#if lost.length > 0}
    <details class="small basis-full py-1 pl-2">
      <summary class="text-rust"
        >{lost.length === 1 ? 'One annotation has' : `${lost.length} annotations have`} no sure place in this version</summary
      >
      <p class="quiet">Their words or their page are gone, or stand in several places alike.</p>
      <ul>
        {#each lost as a (a.id)}<li class="flex gap-3 border-t border-hair py-0.5">
            <span class="min-w-0 flex-1 truncate"
              >{a.text || { highlight: 'Highlight', note: 'Note', stamp: 'Stamp', pen: 'Pen stroke' }[a.kind]}{#if a.exact}&ensp;<span
                  class="quiet">{a.kind === 'highlight' ? 'on' : 'by'} “{a.exact}”</span
                >{/if} <span class="quiet">{a.by}, was on page {a.page}</span></span
            >{#if a.own}{#if pictures}<form
                  class="flex items-center gap-2"
                  onsubmit={(e) => {
                    e.preventDefault();
                    void putOn(a, Number(new FormData(e.currentTarget).get('page')));
                  }}
                >
                  <label
                    >on page <input
                      class="input num"
                      style="width:56px;min-height:24px"
                      type="number"
                      name="page"
                      min="1"
                      max={marking.reading.record?.page_count}
                      value={Math.min(a.page, marking.reading.record?.page_count ?? a.page)}
                    /></label
                  ><button class="link">put there</button>
                </form>{/if}<button class="link" onclick={() => marking.remove(a)}>remove</button>{/if}
          </li>{/each}
      </ul>
    </details>
  {/if}
  {#if !pictures && listed.length > 0}
    <!-- A text has no room beside its words: what is said of them stands here. -->
    <ul class="basis-full pb-1" aria-label="Marks in this text">
      {#each listed as a (a.id)}<li class="small flex items-center gap-3 border-t border-hair py-0.5">
          <span class="max-w-[36%] flex-none truncate"><mark>{a.exact}</mark></span>{#if a.own}<input
              class="input"
              style="min-height:26px"
              aria-label={`What is said of “${a.exact}”`}
              placeholder="Comment"
              value={a.text}
              maxlength="4000"
              {@attach keptWhile(`note:${a.id}`, a.text, (text) => marking.change(a, { text }))}
            /><button class="link flex-none whitespace-nowrap" onclick={() => marking.remove(a)}>remove</button>{:else}<span
              class="min-w-0 flex-1 truncate">{a.text}</span
            >{/if}<span class="quiet whitespace-nowrap">{a.by}{a.private ? ', only for me' : ''}</span>
        </li>{/each}
    </ul>
  {/if}
  {#if marking.annotations.length === 0 && app.person}<p class="small quiet basis-full pb-0.5">
      {#if isTable}A table cannot be marked. Add a comment instead.{:else}Choose a tool and draw over the page. The file stays as it is.{/if}
    </p>{/if}
</div>

<style>
  .tool {
    display: inline-flex;
    align-items: center;
    gap: 5px;
    min-height: 28px;
    padding: 0 8px;
    border-radius: 3px;
  }
  .tool:hover {
    background: var(--act-tint);
  }
  .tool[aria-pressed='true'] {
    background: var(--act);
    color: #fff;
  }
</style>
