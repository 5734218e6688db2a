<script lang="ts">
  import { api } from '@/api/client';
  import type { Advice, View } from '@/api/types';
  import { count } from '@/parts/format';
  import { app } from '@/state/app.svelte';

  let { view }: { view: View } = $props();

  let advice = $state.raw<Advice | null>(null);
  $effect(() => {
    const criterion = view.criterion;
    const stop = new AbortController();
    const timer = setTimeout(() => {
      api.advice(criterion, stop.signal).then(
        (got) => (advice = got),
        () => {},
      );
    }, 300);
    return () => {
      clearTimeout(timer);
      stop.abort();
    };
  });

  const of = (code: string) => advice?.fields.find((f) => f.field === code);
  const alike = $derived(view.columns.filter((c) => of(c)?.only != null));
  const empty = $derived(
    advice === null ? [] : view.columns.filter((c) => app.field(c) && c !== 'path' && (of(c) === undefined || of(c)!.mostly_empty)),
  );
  const dividing = $derived((advice?.dividing ?? []).filter((code) => !view.levels.some((l) => l.field === code)));
  const drop = (code: string) => (view.columns = view.columns.filter((c) => c !== code));
</script>

{#if advice && advice.documents > 0}
  <section class="mt-4 border-t border-hair pt-2" aria-label="What the documents say">
    <h3 class="text-[17px]">What the documents say</h3>
    <ul>
      {#each alike as code (code)}
        <li class="line">
          <span class="flex-1"
            ><strong class="font-semibold">{app.label(code)}</strong> has the same value on every row: “{of(code)!.only}”.</span
          >{#if view.columns.length > 1}<button class="link small" type="button" onclick={() => drop(code)}>Remove the column</button>{/if}
        </li>
      {/each}
      {#each empty as code (code)}
        <li class="line">
          <span class="flex-1"
            ><strong class="font-semibold">{app.label(code)}</strong> is empty on {count(advice.documents - (of(code)?.filled ?? 0))} of {count(
              advice.documents,
            )} rows.</span
          >{#if view.columns.length > 1}<button class="link small" type="button" onclick={() => drop(code)}>Remove the column</button>{/if}
        </li>
      {/each}
      {#if dividing.length > 0}
        <li class="pt-1.5"><span class="quiet small">Divide these documents best</span></li>
        {#each dividing as code (code)}
          <li class="line">
            <span class="min-w-0 flex-1 truncate"
              ><strong class="font-semibold">{app.label(code)}</strong> <span class="quiet">{count(of(code)!.distinct)} groups</span></span
            ><button
              class="link small w-28 text-right"
              type="button"
              onclick={() => (view.levels = [...view.levels, { field: code, total: null, total_as: 'sum' }])}>Add as a level</button
            >
          </li>
        {/each}
      {/if}
      {#if alike.length + empty.length + dividing.length === 0}<li class="quiet">
          Every column tells something, and the levels divide the documents well.
        </li>{/if}
    </ul>
  </section>
{/if}

<style>
  .line {
    display: flex;
    align-items: baseline;
    gap: 10px;
    min-height: 26px;
  }
</style>
