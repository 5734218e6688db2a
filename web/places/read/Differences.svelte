<script lang="ts">
  import type { DiffPiece } from '@/api/types';
  import { count, plural } from '@/parts/format';
  import { keys } from '@/state/keys.svelte';
  import type { Snippet } from 'svelte';

  /** What differs between two texts, to be gone through. */
  let { pieces, same, children }: { pieces: DiffPiece[]; same: string; children?: Snippet } = $props();

  let whole = $state(false);
  let at = $state(-1);
  const AROUND = 160;
  const changes = $derived(
    pieces.map((p, i) => (p[0] === 'same' || (p[0] === 'put_in' && pieces[i - 1]?.[0] === 'taken_out') ? -1 : i)).filter((i) => i >= 0),
  );
  const words = (kind: DiffPiece[0]) => pieces.filter((p) => p[0] === kind).reduce((sum, p) => sum + (p[1].match(/\S+/g)?.length ?? 0), 0);
  /** Long stretches that are alike are left out between changes. */
  function shown(text: string, i: number): [string, number, string] {
    if (whole || text.length <= 3 * AROUND) return [text, 0, ''];
    const head = i === 0 ? '' : text.slice(0, AROUND);
    const tail = i === pieces.length - 1 ? '' : text.slice(-AROUND);
    return [head, text.slice(head.length, text.length - tail.length).match(/\S+/g)?.length ?? 0, tail];
  }
  function step(by: 1 | -1) {
    if (changes.length === 0) return;
    at = (at + by + changes.length) % changes.length;
    document.getElementById(`change-${changes[at]}`)?.scrollIntoView({ block: 'center' });
  }
  keys.use(() => [
    { on: 'n', run: () => step(1) },
    { on: 'p', run: () => step(-1) },
    { shown: 'n  p', what: 'Next and previous difference' },
  ]);
</script>

<div class="sticky top-0 flex flex-wrap items-center gap-x-5 bg-paper py-2" role="status">
  {#if changes.length === 0}<p>{same}</p>
  {:else}
    <p>
      <span class="num font-semibold">{count(words('put_in'))}</span>
      {words('put_in') === 1 ? 'word' : 'words'} added, <span class="num font-semibold">{count(words('taken_out'))}</span> removed, in {plural(
        changes.length,
        'place',
        'places',
      )}.
    </p>
    <span class="flex-1"></span>
    <button class="link" title="p" onclick={() => step(-1)}>Previous</button><button class="link" title="n" onclick={() => step(1)}
      >Next</button
    >
    <label class="flex items-center gap-1.5"><input type="checkbox" class="check" bind:checked={whole} />the whole text</label>
  {/if}
</div>
{@render children?.()}
<div class="diff bg-sheet">
  {#each pieces as [kind, text], i (i)}
    {#if kind === 'same'}{@const [head, left, tail] = shown(text, i)}{head}{#if left > 0}<span class="left small quiet"
          >{plural(left, 'word', 'words')} alike</span
        >{/if}{tail}
    {:else if kind === 'taken_out'}<del id={`change-${i}`} class:at={changes[at] === i}><span class="sr-only">removed: </span>{text}</del>
    {:else}<ins id={`change-${i}`} class:at={changes[at] === i}><span class="sr-only">put in: </span>{text}</ins>{/if}
  {/each}
</div>

<style>
  .diff {
    white-space: pre-wrap;
    overflow-wrap: anywhere;
    padding: 20px 26px;
    border: 1px solid var(--hair);
    font-family: var(--font-serif);
    font-size: 16px;
    line-height: 1.5;
  }
  del {
    color: var(--rust);
    text-decoration: line-through;
  }
  ins {
    color: var(--moss);
    text-decoration: underline;
    text-underline-offset: 3px;
  }
  .at {
    outline: 2px solid var(--act);
    outline-offset: 2px;
  }
  .left {
    display: block;
    margin: 6px 0;
    padding: 1px 0;
    border-top: 1px solid var(--hair);
    border-bottom: 1px solid var(--hair);
    text-align: center;
    font-family: var(--font-sans);
  }
</style>
