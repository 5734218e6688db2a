<script lang="ts">
  import Popover from './Popover.svelte';
  import { api } from '@/api/client';
  import { count } from '@/parts/format';
  import { addressOf, askedOutside, emptySearch, searchFrom, type SearchState } from '@/state/search';
  import { app } from '@/state/app.svelte';
  import { remotes } from '@/state/remotes.svelte';
  import { router } from '@/state/router.svelte';

  /** Where is searched: the libraries as words, each with what the present search has in it. */
  let { place }: { place: string } = $props();

  const LINE = /^library == "?[\w-]+"?( or library == "?[\w-]+"?)*$/;
  const search = $derived<SearchState>(place === 'find' ? searchFrom(router.params) : emptySearch);
  const libraries = $derived(app.design?.libraries ?? []);
  const repositories = $derived(
    [...Map.groupBy(libraries, (l) => l.repository)].map(([code, list]) => ({
      code,
      name: app.design?.repositories.find((r) => r.code === code)?.name ?? code,
      libraries: list,
    })),
  );
  const line = $derived(search.criteria.find((c) => c.on && !c.negated && LINE.test(c.cql)));
  const chosen = $derived(line ? [...line.cql.matchAll(/library == "?([\w-]+)"?/g)].map((m) => m[1]!) : []);
  const dossier = $derived(search.criteria.find((c) => c.on && !c.negated && /^dossier == "?[\w-]+"?$/.test(c.cql)));
  const remote = $derived(app.design?.remote ?? []);
  const outside = $derived(askedOutside(search, remote));
  const words = $derived((dossier ? `In ${/"?([\w-]+)"?$/.exec(dossier.cql)![1]}, ` : '') + inWords());
  function inWords(): string {
    const elsewhere = remote
      .filter((r) => outside.includes(r.code))
      .map((r) => ` + ${r.name}`)
      .join('');
    if (chosen.length === 1) return (app.library(chosen[0]!)?.name ?? chosen[0]!) + elsewhere;
    if (chosen.length > 1) return `${chosen.length} of ${libraries.length} libraries${elsewhere}`;
    if (libraries.length === 0) return `No library yet${elsewhere}`;
    return `${repositories.map((r) => r.name).join(' + ')}${elsewhere}, ${libraries.length} ${libraries.length === 1 ? 'library' : 'libraries'}`;
  }

  let open = $state(false);
  let counts = $state.raw<Record<string, number>>({});

  async function load() {
    // Without the line that chooses libraries: what would be there, were they chosen.
    const got = await api
      .search({
        words: search.words,
        any: search.any,
        reach: search.reach || undefined,
        where: search.where,
        once: search.once || undefined,
        criteria: search.criteria.filter((c) => c !== line),
        limit: 0,
        rows_only: true,
      })
      .catch(() => null);
    counts = Object.fromEntries(got?.facets.find((f) => f.field === 'library')?.values.map((v) => [v.value, v.count]) ?? []);
  }
  function choose(codes: string[]) {
    const rest = search.criteria.filter((c) => c !== line);
    const all = codes.length === 0 || codes.length === libraries.length;
    const made = codes.map((c) => `library == ${/^[a-z]\w*$/.test(c) ? c : `"${c}"`}`).join(' or ');
    router.go(addressOf({ ...search, criteria: all ? rest : [{ cql: made, negated: false, on: true }, ...rest] }));
  }
  const toggleOutside = (code: string) =>
    router.go(
      addressOf({
        ...search,
        from: '',
        record: null,
        outside: outside.includes(code) ? outside.filter((c) => c !== code) : [...outside, code],
      }),
    );
  const toggle = (code: string) => choose(chosen.includes(code) ? chosen.filter((c) => c !== code) : [...chosen, code]);
</script>

<Popover
  label={words}
  called="Where to search"
  look="small quiet scope"
  title={`Where to search: ${words}`}
  width={290}
  bind:open
  onopen={() => void load()}
>
  {#snippet trigger()}{words}{/snippet}
  <div role="group" aria-label="Where to search">
    {#if dossier}<button
        class="link block py-1"
        onclick={() => router.go(addressOf({ ...search, criteria: search.criteria.filter((c) => c !== dossier) }))}
        >Search outside the dossier too</button
      >{/if}
    <button class="link py-1" disabled={chosen.length === 0} onclick={() => choose([])}>All libraries</button>
    {#each repositories as repository (repository.code)}
      {@const codes = repository.libraries.map((l) => l.code)}
      <div class="border-t border-hair pt-1"><button class="heading link" onclick={() => choose(codes)}>{repository.name}</button></div>
      {#each repository.libraries as library (library.code)}
        <label class="flex min-h-7 items-center gap-2"
          ><input type="checkbox" class="check" checked={chosen.includes(library.code)} onchange={() => toggle(library.code)} /><span
            class="flex-1">{library.name}</span
          ><span class="num quiet">{library.code in counts ? count(counts[library.code]!) : ''}</span></label
        >
      {/each}
    {/each}
    {#if remote.length > 0}
      <p class="heading mt-1 border-t border-hair pt-1">Remote repositories, searched as well</p>
      {#each remote as r (r.code)}
        <label class="flex min-h-7 items-center gap-2"
          ><input type="checkbox" class="check" checked={outside.includes(r.code)} onchange={() => toggleOutside(r.code)} /><span
            class="flex-1">{r.name}</span
          ><span class="num quiet">{remotes.count(r.code)}</span></label
        >
      {/each}
    {/if}
  </div>
</Popover>

<style>
  :global(.scope) {
    max-width: min(100%, clamp(240px, 24vw, 520px));
    min-height: 28px;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
    border-bottom: 1px solid transparent;
  }
  :global(.scope:hover) {
    color: var(--act);
    border-bottom-color: var(--act);
  }
</style>
