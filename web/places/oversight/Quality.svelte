<script lang="ts">
  import { api, messageOf } from '@/api/client';
  import type { QualityFinding } from '@/api/types';
  import { count, plural } from '@/parts/format';
  import { app } from '@/state/app.svelte';
  import { router } from '@/state/router.svelte';
  import { findUrl } from './due';
  import { grouped, share } from './quality';

  /** How well documents are indexed: each number opens its documents in Find. */
  const only = $derived({ library: router.params.get('library'), type: router.params.get('type') });
  let findings = $state.raw<QualityFinding[] | null>(null);
  let documents = $state(0);
  let fault = $state('');
  $effect(() => {
    api.quality(only).then(
      (got) => {
        findings = got.findings;
        documents = got.documents;
        fault = '';
      },
      (error: unknown) => (fault = messageOf(error, 'The report cannot be shown.')),
    );
  });
  const groups = $derived(grouped(findings ?? []));

  function turn(change: Partial<Record<'library' | 'type', string>>) {
    const asked = { ...only, ...change };
    const query = (['library', 'type'] as const).filter((k) => asked[k]).map((k) => `${k}=${encodeURIComponent(asked[k]!)}`);
    router.go(`/oversight/quality${query.length > 0 ? `?${query.join('&')}` : ''}`, 'replace');
  }
</script>

<section class="min-h-0 overflow-y-auto bg-sheet px-8 py-5" aria-label="Indexing quality">
  <div class="flex items-baseline gap-4">
    <h1 class="flex-1 text-[26px]">Indexing quality</h1>
    {#if app.person?.may.download}<a class="small" href={api.qualityUrl(only)} download>Export as CSV</a>{/if}
  </div>
  <div class="mt-2 flex flex-wrap gap-4">
    <label class="small block w-52"
      >Library<select class="input" value={only.library ?? ''} onchange={(e) => turn({ library: e.currentTarget.value })}
        ><option value="">all libraries</option>{#each app.design!.libraries as l (l.code)}<option value={l.code}>{l.name}</option
          >{/each}</select
      ></label
    >
    <label class="small block w-64"
      >Document type<select class="input" value={only.type ?? ''} onchange={(e) => turn({ type: e.currentTarget.value })}
        ><option value="">all types</option>{#each app.design!.types as t (t.code)}<option value={t.code}>{t.name}</option>{/each}</select
      ></label
    >
  </div>
  {#if fault}<p class="fault mt-3" role="alert">{fault}</p>{/if}
  {#if findings?.length === 0}<p class="quiet mt-5">Nothing is amiss with {plural(documents, 'document', 'documents')}.</p>
  {:else if findings}
    <p class="quiet mt-3">
      Of {plural(documents, 'document', 'documents')} that you may see. A bar as long as the line would be all of them.
    </p>
    {#each groups as group (group.name)}
      <h2 class="mt-5 text-[18px]">{group.name}</h2>
      <table class="w-full max-w-4xl table-fixed">
        <colgroup><col class="w-[84px]" /><col /><col class="w-[30%]" /><col class="w-[64px]" /></colgroup>
        <tbody>
          {#each group.findings as finding (finding.words)}
            <tr class="border-t border-hair">
              <td class="num py-1 pr-4"
                ><a
                  class="inline-flex min-h-6 items-center"
                  href={findUrl([finding.cql])}
                  aria-label={`${plural(finding.documents, 'document', 'documents')} ${finding.words}: open in Find`}
                  >{count(finding.documents)}</a
                ></td
              >
              <td class="py-1 pr-4">{finding.words}</td>
              <td class="align-middle"
                ><span class="rail" aria-hidden="true"><span style={`width:${Math.max(0.5, share(finding, documents))}%`}></span></span></td
              >
              <td class="num small quiet">{share(finding, documents) < 1 ? '<1' : Math.round(share(finding, documents))}%</td>
            </tr>
          {/each}
        </tbody>
      </table>
    {/each}
  {:else if !fault}<p class="quiet mt-5" role="status">Counting…</p>{/if}
</section>

<style>
  .rail {
    display: block;
    height: 6px;
    border-bottom: 1px solid var(--hair);
  }
  .rail span {
    display: block;
    height: 5px;
    background: color-mix(in srgb, var(--quiet) 60%, transparent);
  }
</style>
