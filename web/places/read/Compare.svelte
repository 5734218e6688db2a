<script lang="ts">
  import { api, messageOf } from '@/api/client';
  import type { DiffPiece, DocumentRecord, DocumentVersion } from '@/api/types';
  import { moment } from '@/parts/format';
  import { router } from '@/state/router.svelte';
  import Differences from './Differences.svelte';

  /** What differs between the texts of two versions, or of a document and one that is like it. */
  let { document: ref }: { document: string } = $props();
  const other = $derived(router.params.get('with') ?? '');
  const from = $derived(Number(router.params.get('from') ?? 1));
  const to = $derived(Number(router.params.get('to') ?? 2));

  let record = $state.raw<DocumentRecord | null>(null);
  let versions = $state.raw<DocumentVersion[]>([]);
  let pieces = $state.raw<DiffPiece[] | null>(null);
  let unread = $state.raw<number[]>([]);
  let title = $state('');
  let fault = $state('');
  // svelte-ignore state_referenced_locally
  void Promise.all([api.document(ref), other ? { versions: [] } : api.versionsOf(ref)]).then(
    ([doc, all]) => {
      record = doc;
      versions = all.versions;
    },
    (e: unknown) => (fault = messageOf(e, 'The document cannot be shown.')),
  );
  $effect(() => {
    const [a, b, near] = [from, to, other];
    pieces = null;
    void (near ? api.compareCopies(ref, near) : api.compareVersions(ref, a, b)).then(
      (got) => {
        if (a !== from || b !== to || near !== other) return;
        pieces = got.pieces;
        unread = 'unread' in got ? got.unread : [];
        title = 'title' in got ? got.title : '';
        fault = '';
      },
      (e: unknown) => (fault = messageOf(e, near ? 'The documents cannot be compared.' : 'The versions cannot be compared.')),
    );
  });
  const choose = (a: number, b: number) => router.go(`/documents/${ref}/compare?from=${a}&to=${b}`, 'replace');
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
    <h1 class="text-[24px] leading-snug">{record?.title ?? (other ? 'Documents' : 'Versions')}</h1>
    <div class="mt-2 flex flex-wrap items-baseline gap-x-6 gap-y-1 border-b border-hair pb-2">
      {#if other}
        <span><span class="quiet">compared with</span> <a href={`/documents/${encodeURIComponent(other)}`}>{title || other}</a></span>
      {:else}
        {@render side('From', from, to, (n) => choose(n, to))}
        {@render side('to', to, from, (n) => choose(from, n))}
      {/if}
      {#if record?.state === 'waiting'}<a href="/intake">Back to Intake</a>{:else}<a href={`/documents/${ref}`}>Back to the document</a
        >{/if}
    </div>
    {#if fault}<p class="fault mt-4" role="alert">{fault}</p>
    {:else if !pieces}<p class="quiet mt-4" role="status">Comparing…</p>
    {:else}
      {#key pieces}
        <Differences {pieces} same={other ? 'The two documents have the same words.' : 'The two versions have the same words.'}>
          {#if unread.length > 0}<p class="small quiet">
              No text has been read of version {unread.join(' and ')}, so there is nothing of it to compare.
            </p>{/if}
        </Differences>
      {/key}
    {/if}
  </div>
</div>
