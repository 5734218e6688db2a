<script lang="ts">
  import { api, type Sheet } from '@/api/client';
  import type { SheetEntry } from '@/api/types';
  import { app } from '@/state/app.svelte';
  import FieldInput from './FieldInput.svelte';
  import { choosable } from './sheet';
  import type { Snippet } from 'svelte';

  interface Props {
    /** The fields of a document type or dossier kind, in their order. */
    entries: SheetEntry[];
    values: Sheet;
    faults?: Record<string, string>;
    /** Fields whose values stay for the sheets that follow, where that can be chosen. */
    pins?: string[];
    onpin?: (code: string) => void;
    onchange: (code: string, values: string[]) => void;
    /** What stands below a field. */
    below?: Snippet<[string]>;
  }
  let { entries, values, faults = {}, pins = [], onpin, onchange, below }: Props = $props();

  const keys = $derived(new Set(app.design!.tables.map((t) => t.key)));
  /** What the look-up of a key did to other fields, and what it would do to those that a person filled in otherwise. */
  let filled = $state<Record<string, { says: string; wrong: boolean; asks: [string, string][] }>>({});
  /** The keys that were looked up last: what they gave follows the next. */
  const settled: Record<string, string> = {};
  const timers: Record<string, ReturnType<typeof setTimeout>> = {};
  const first = (code: string) => values[code]?.[0]?.trim() ?? '';

  function change(code: string, given: string[]) {
    if (keys.has(code)) settled[code] ??= first(code);
    onchange(code, given);
    if (!keys.has(code)) return;
    clearTimeout(timers[code]);
    const value = given[0]?.trim() ?? '';
    timers[code] = setTimeout(() => void lookUp(code, value), 250);
  }
  async function lookUp(code: string, value: string) {
    const was = settled[code] ?? '';
    if (was === value) return;
    const got = await api.lookUp(code, value, was, Object.fromEntries(entries.map((e) => [e.code, first(e.code)]))).catch(() => null);
    if (!got || first(code) !== value) return;
    settled[code] = value;
    const here = ([field]: [string, string]) => entries.some((e) => e.code === field && !e.read_only);
    const takes = Object.entries(got.takes).filter(here);
    for (const [field, cell] of takes) onchange(field, cell === '' ? [] : [cell]);
    const named = (empty: boolean) =>
      takes
        .filter(([, cell]) => (cell === '') === empty)
        .map(([field]) => app.label(field))
        .join(' and ');
    const says = [
      named(false) && `${named(false)} filled in from “${got.table}”.`,
      named(true) &&
        `${named(true)} emptied: ${value === '' ? 'they came from the key' : `${got.table === null ? 'no table' : `“${got.table}”`} has nothing for it here`}.`,
    ];
    filled[code] = {
      wrong: got.trouble !== null,
      says: got.trouble ?? says.filter(Boolean).join(' '),
      asks: Object.entries(got.asks).filter(here),
    };
  }
  function use(code: string, field: string, cell: string) {
    onchange(field, [cell]);
    filled[code]!.asks = filled[code]!.asks.filter(([asked]) => asked !== field);
  }
  /** A value of a field as people read it. */
  function shown(code: string, value: string): string {
    const field = app.field(code);
    return (field && app.terms(field).find((t) => t.code === value)?.label) || value;
  }
</script>

{#each entries as entry (entry.code)}
  {@const field = app.design!.fields.find((f) => f.code === entry.code)}
  {#if field}
    {#if entry.section}<h4 class="mt-3 border-b border-hair pb-0.5 font-serif text-[15.5px]">{entry.section}</h4>{/if}
    <FieldInput
      {field}
      required={entry.required}
      readonly={entry.read_only ?? false}
      choices={field.kind === 'choice' ? choosable(field, entry, values) : undefined}
      values={values[entry.code] ?? []}
      fault={faults[entry.code]}
      pin={onpin && !entry.read_only ? { on: pins.includes(entry.code), toggle: () => onpin(entry.code) } : undefined}
      onchange={(v) => change(entry.code, v)}
    />
    {@render below?.(entry.code)}
    {#if filled[entry.code]?.says}<p
        class="small"
        class:fault={filled[entry.code]!.wrong}
        class:text-moss={!filled[entry.code]!.wrong}
        role="status"
      >
        {filled[entry.code]!.says}
      </p>{/if}
    {#each filled[entry.code]?.asks ?? [] as [other, cell] (other)}<p class="small text-brass-text" role="status">
        {app.label(other)} stays “{shown(other, first(other))}”; for this {field.label.toLowerCase()} it is “{shown(other, cell)}”.
        <button class="link" type="button" onclick={() => use(entry.code, other, cell)}>Use that</button>
      </p>{/each}
  {/if}
{/each}
