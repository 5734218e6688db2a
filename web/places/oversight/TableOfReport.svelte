<script lang="ts">
  import type { ReportTable } from '@/api/types';
  import { keptAddress } from '@/state/search';
  import Plot from './Plot.svelte';
  import { measureOf, opening, shown } from './reports';

  /** One table of a report: drawn, then in numbers. A long one that is drawn keeps its numbers until they are asked for. */
  let { table, csv }: { table: ReportTable; csv: string } = $props();
  const LONG = 14;
  const link = $derived(opening(table));
  const isLong = $derived(table.plot?.kind === 'columns' && table.rows.length > LONG);
  const isText = (i: number) => ['text', 'day', 'moment'].includes(measureOf(table, i));
</script>

{#snippet numbers()}
  <div class="mt-2 max-w-4xl overflow-x-auto">
    <table class="w-full">
      <thead>
        <tr class="heading"
          >{#each table.columns as column, i (column.name)}<th
              class={`py-1 pr-4 align-bottom font-medium ${isText(i) ? 'text-left' : 'num'}`}
              scope="col">{column.name}</th
            >{/each}</tr
        >
      </thead>
      <tbody>
        {#each table.rows as row, r (r)}
          <tr class="border-t border-hair align-baseline">
            {#each row.cells as cell, i (i)}
              {@const says = shown(cell, measureOf(table, i))}
              {@const isSame = i === 0 && r > 0 && measureOf(table, 1) === 'text' && table.rows[r - 1]?.cells[0] === cell}
              <td class={`py-1 pr-4 ${isText(i) ? '' : 'num'}`}
                >{#if i === link && row.search}<a
                    class="inline-flex min-h-6 items-center"
                    href={keptAddress(row.search)}
                    aria-label={`${says}${i > 0 ? `, ${row.cells[i - 1]}` : ''}: open in Find`}>{says}</a
                  >{:else if isSame}<span class="sr-only">{says}</span>{:else}{says}{/if}</td
              >
            {/each}
          </tr>
        {/each}
      </tbody>
    </table>
  </div>
{/snippet}

<section class="mt-7" aria-label={table.name}>
  <div class="flex max-w-4xl items-baseline gap-4">
    <h2 class="flex-1 text-[18px]">{table.name}</h2>
    {#if csv && table.rows.length > 0}<a class="small" href={csv} download aria-label={`${table.name} as CSV`}>CSV</a>{/if}
  </div>
  {#if table.says}<p class="quiet max-w-4xl">{table.says}</p>{/if}
  {#if table.rows.length === 0}<p class="mt-1">Nothing.</p>
  {:else}
    {#if table.plot}<Plot {table} />{/if}
    {#if isLong}<details class="mt-1">
        <summary class="small w-fit cursor-pointer">The {table.rows.length} rows in numbers</summary>
        {@render numbers()}
      </details>
    {:else}{@render numbers()}{/if}
  {/if}
</section>
