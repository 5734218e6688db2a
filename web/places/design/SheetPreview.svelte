<script lang="ts">
  import { api, type Sheet } from '@/api/client';
  import type { DocumentRecord, SheetEntry } from '@/api/types';
  import SheetForm from '@/parts/SheetForm.svelte';
  import { defaultsOf } from '@/parts/sheet';

  /** The index sheet as it would be, with a real document. */
  let { type, entries }: { type: string; entries: SheetEntry[] } = $props();

  let refs = $state.raw<string[]>([]);
  let at = $state(0);
  let record = $state.raw<DocumentRecord | null>(null);
  let tried = $state<Sheet>({});

  $effect(() => {
    if (type === '') return;
    api
      .search({
        words: '',
        criteria: [{ cql: `type == "${type}"`, negated: false, on: true }],
        sort: [{ field: 'created', descending: true }],
        limit: 20,
        rows_only: true,
      })
      .then(
        (got) => (refs = got.rows.map((r) => r.ref)),
        () => {},
      );
  });
  $effect(() => {
    const ref = refs[at];
    if (ref)
      api.document(ref).then(
        (got) => {
          record = got;
          tried = Object.fromEntries(Object.entries(got.values).map(([code, list]) => [code, list.map((v) => v.value)]));
        },
        () => {},
      );
  });
  const shown = $derived(record ? tried : { ...defaultsOf(entries), ...tried });
</script>

<section class="mt-4 border-t border-hair pt-2" aria-label="Preview of the index sheet">
  <div class="flex items-baseline gap-3">
    <h3 class="flex-1 text-[17px]">Preview of the index sheet</h3>
    {#if refs.length > 1}<button class="link small" type="button" onclick={() => (at = (at + 1) % refs.length)}>Another document</button
      >{/if}
  </div>
  <p class="small quiet">{record ? `With “${record.title}”. Nothing typed here is saved.` : 'As a new sheet begins.'}</p>
  <div class="max-w-sm border-l-2 border-hair pl-4">
    <SheetForm {entries} values={shown} onchange={(code, given) => (tried[code] = given)} />
  </div>
</section>
