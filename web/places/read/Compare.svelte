<script lang="ts">
  import { keys } from '@/state/keys.svelte';
  import { api, messageOf } from '@/api/client';
  import type { DiffPiece, DocumentRecord, DocumentVersion } from '@/api/types';
  import { count, moment, plural } from '@/parts/format';
  import { router } from '@/state/router.svelte';

  /** What differs between the texts of two versions. */
  let { document: ref }: { document: string } = $props();
  const from = $derived(Number(router.params.get('from') ?? 1));
  const to = $derived(Number(router.params.get('to') ?? 2));

  let record = $state.raw<DocumentRecord | null>(null);
  let versions = $state.raw<DocumentVersion[]>([]);
  let pieces = $state.raw<DiffPiece[] | null>(null);
  let unread = $state.raw<number[]>([]);
  let fault = $state('');
  let whole = $state(false);
  let at = $state(-1);
  // svelte-ignore state_referenced_locally
  void Promise.all([api.document(ref), api.versionsOf(ref)]).then(
    ([doc, all]) => {
      record = doc;
      versions = all.versions;
    },
    (e: unknown) => (fault = messageOf(e, 'The document cannot be shown.')),
  );
  $effect(() => {
    const [a, b] = [from, to];
    pieces = null;
    at = -1;
    void api.compareVersions(ref, a, b).then(
      (got) => {
        if (a === from && b === to) {
          pieces = got.pieces;
          unread = got.unread;
          fault = '';
        }
      },
      (e: unknown) => (fault = messageOf(e, 'The versions cannot be compared.')),
    );
  });

  const AROUND = 160;
  const changes = $derived(
    pieces
      ?.map((p, i) => (p[0] === 'same' || (p[0] === 'put_in' && pieces?.[i - 1]?.[0] === 'taken_out') ? -1 : i))
      .filter((i) => i >= 0) ?? [],
  );
  const words = (kind: DiffPiece[0]) =>
    pieces?.filter((p) => p[0] === kind).reduce((sum, p) => sum + (p[1].match(/\S+/g)?.length ?? 0), 0) ?? 0;
  /** Long stretches that are alike are left out between changes. */
  function shown(text: string, i: number): [string, number, string] {
    if (whole || text.length <= 3 * AROUND) return [text, 0, ''];
    const head = i === 0 ? '' : text.slice(0, AROUND);
    const tail = i === (pieces?.length ?? 0) - 1 ? '' : text.slice(-AROUND);
    return [head, text.slice(head.length, text.length - tail.length).match(/\S+/g)?.length ?? 0, tail];
  }
  const choose = (a: number, b: number) => router.go(`/documents/${ref}/compare?from=${a}&to=${b}`, 'replace');
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

{#snippet side(label: string, value: number, other: number, onchange: (n: number) => void)}
  <label class="flex items-baseline gap-2"
    ><span class="quiet">{label}</span>
    <select class="input" style="width:auto" {value} onchange={(e) => onchange(Number(e.currentTarget.value))}>
      {#each versions as v (v.number)}<option value={v.number} disabled={v.number === other}
          >Version {v.number}, {moment(v.at)}{v.note ? `: ${v.note}` : ''}</option
        >{/each}
    </select>
  </label>
{/snippet}

<div class="h-full overflow-y-auto" role="region" aria-label="Comparison">
  <div class="mx-auto max-w-[920px] px-6 py-5">
    <h1 class="text-[24px] leading-snug">{record?.title ?? 'Versions'}</h1>
    <div class="mt-2 flex flex-wrap items-baseline gap-x-6 gap-y-1 border-b border-hair pb-2">
      {@render side('From', from, to, (n) => choose(n, to))}
      {@render side('to', to, from, (n) => choose(from, n))}
      <a href={`/documents/${ref}`}>Back to the document</a>
    </div>
    {#if fault}<p class="fault mt-4" role="alert">{fault}</p>
    {:else if !pieces}<p class="quiet mt-4" role="status">Comparing…</p>
    {:else}
      <div class="sticky top-0 flex flex-wrap items-center gap-x-5 bg-paper py-2" role="status">
        {#if changes.length === 0}<p>The two versions have the same words.</p>
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
      {#if unread.length > 0}<p class="small quiet">
          No text has been read of version {unread.join(' and ')}, so there is nothing of it to compare.
        </p>{/if}
      <div class="diff bg-sheet">
        {#each pieces as [kind, text], i (i)}
          {#if kind === 'same'}{@const [head, left, tail] = shown(text, i)}{head}{#if left > 0}<span class="left small quiet"
                >{plural(left, 'word', 'words')} alike</span
              >{/if}{tail}
          {:else if kind === 'taken_out'}<del id={`change-${i}`} class:at={changes[at] === i}
              ><span class="sr-only">removed: </span>{text}</del
            >
          {:else}<ins id={`change-${i}`} class:at={changes[at] === i}><span class="sr-only">put in: </span>{text}</ins>{/if}
        {/each}
      </div>
    {/if}
  </div>
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
