<script lang="ts">
  import { api, type Sheet } from '@/api/client';
  import type { SheetEntry } from '@/api/types';
  import { app } from '@/state/app.svelte';
  import FieldInput from './FieldInput.svelte';
  import { choosable } from './sheet';

  interface Props {
    /** The fields of a document type or dossier kind, in their order. */
    entries: SheetEntry[];
    values: Sheet;
    faults?: Record<string, string>;
    onchange: (code: string, values: string[]) => void;
  }
  let { entries, values, faults = {}, onchange }: Props = $props();

  const keys = $derived(new Set(app.design!.tables.map((t) => t.key)));
  /** What the lookup of a key filled in, so that another key may change it and what a person typed stays. */
  let filled = $state<Record<string, { fields: Record<string, string>; says: string; wrong: boolean }>>({});
  const timers: Record<string, ReturnType<typeof setTimeout>> = {};

  function change(code: string, given: string[]) {
    onchange(code, given);
    if (!keys.has(code)) return;
    clearTimeout(timers[code]);
    const value = given[0]?.trim() ?? '';
    timers[code] = setTimeout(async () => {
      const before = filled[code]?.fields ?? {};
      if (value === '') {
        delete filled[code];
        return;
      }
      const got = await api.lookUp(code, value).catch(() => null);
      if (!got || (values[code]?.[0]?.trim() ?? '') !== value) return;
      const taken: Record<string, string> = {};
      for (const [field, cell] of Object.entries(got.fills)) {
        const now = values[field]?.[0] ?? '';
        if (!entries.some((e) => e.code === field) || (now !== '' && now !== before[field])) continue;
        taken[field] = cell;
        onchange(field, [cell]);
      }
      const names = Object.keys(taken).map((f) => app.label(f));
      filled[code] = { fields: taken, wrong: got.trouble !== null, says: got.trouble ?? (names.length > 0 ? `${names.join(' and ')} filled in from “${got.table}”.` : '') };
    }, 250);
  }
</script>

{#each entries as entry (entry.code)}
  {@const field = app.design!.fields.find((f) => f.code === entry.code)}
  {#if field}
    {#if entry.section}<h4 class="mt-3 border-b border-hair pb-0.5 font-serif text-[15.5px]">{entry.section}</h4>{/if}
    <FieldInput {field} required={entry.required} readonly={entry.read_only ?? false} choices={field.kind === 'choice' ? choosable(field, entry, values) : undefined} values={values[entry.code] ?? []} fault={faults[entry.code]} onchange={(v) => change(entry.code, v)} />
    {#if filled[entry.code]?.says}<p class="small" class:fault={filled[entry.code]!.wrong} class:text-moss={!filled[entry.code]!.wrong} role="status">{filled[entry.code]!.says}</p>{/if}
  {/if}
{/each}
