<script lang="ts">
  import type { ValuesReport } from '@/api/types';
  import { plural } from '@/parts/format';
  import { Dialog } from 'bits-ui';

  /** What became of the rows of a table whose values were put onto the sheets of what waits. */
  interface Props {
    name: string;
    report: ValuesReport;
    onlook: (document: string) => void;
    onleave: () => void;
  }
  let { name, report, onlook, onleave }: Props = $props();

  const SAYS: Record<ValuesReport['rows'][number]['outcome'], string> = {
    filled: 'Filled in',
    partly: 'Filled in',
    refused: 'Not filled in',
    no_file: 'No waiting file is called so',
    several: 'Not filled in',
  };
  const filled = $derived(report.rows.filter((r) => r.outcome === 'filled' || r.outcome === 'partly').length);
  const rest = $derived(report.without === 1 ? 'stays as it is' : 'stay as they are');
  const left = $derived(report.rows.filter((r) => r.outcome !== 'filled'));
</script>

<Dialog.Root open onOpenChange={(open) => !open && onleave()}>
  <Dialog.Portal>
    <Dialog.Overlay class="fixed inset-0 z-40 bg-black/30" />
    <Dialog.Content
      class="fixed top-[8vh] left-1/2 z-50 flex max-h-[84vh] w-[720px] max-w-[94vw] -translate-x-1/2 flex-col border border-hair bg-sheet shadow-xl"
    >
      <div class="px-6 pt-5 pb-3">
        <Dialog.Title class="font-serif text-[20px]">Values from “{name}”</Dialog.Title>
        <p class="small quiet">
          {plural(filled, 'sheet was', 'sheets were')} filled in.
          {report.without === 0
            ? 'Every waiting file has a row.'
            : `${plural(report.without, 'waiting file has', 'waiting files have')} no row in the table and ${rest}.`}
        </p>
      </div>
      <div class="min-h-0 flex-1 overflow-y-auto px-6">
        <table class="small w-full">
          <thead
            ><tr><th class="heading w-1/3 py-1 pr-4 text-left">File</th><th class="heading py-1 text-left">What became of it</th></tr
            ></thead
          >
          <tbody>
            {#each left as row (row.file)}
              <tr class="border-t border-hair align-top">
                <td class="py-1 pr-4 [overflow-wrap:anywhere]"
                  >{#if row.ref}<button class="link text-left" onclick={() => onlook(row.ref!)}>{row.file}</button
                    >{:else}{row.file}{/if}</td
                >
                <td class="py-1">{SAYS[row.outcome]}{row.outcome === 'no_file' ? '.' : `. ${row.note}`}</td>
              </tr>
            {/each}
          </tbody>
        </table>
      </div>
      <div class="flex justify-end px-6 py-4"><button class="btn btn-main" onclick={onleave}>Close</button></div>
    </Dialog.Content>
  </Dialog.Portal>
</Dialog.Root>
