import type { Sheet } from '@/api/client';
import type { Field, SheetEntry } from '@/api/types';
import { app } from '@/state/app.svelte';
import { choicesOf, termLabel, type Choices } from '@/state/choices.svelte';

/** What a new sheet begins with. */
export function defaultsOf(entries: SheetEntry[]): Sheet {
  const values: Sheet = {};
  for (const entry of entries) {
    const value = entry.default || app.design?.fields.find((f) => f.code === entry.code)?.default;
    if (value) values[entry.code] = [value];
  }
  return values;
}

/** What may be chosen in a field now: not retired, below where the type belongs, fit for the field they depend on. */
export function choosable(field: Field, entry: SheetEntry, values: Sheet): Choices {
  const dependsOn = app.vocabulary(field)?.depends_on;
  return choicesOf(field, {
    from: entry.below,
    beside: dependsOn ? (values[dependsOn] ?? []).filter(Boolean) : null,
    present: values[field.code] ?? [],
  });
}

/** What a type or dossier kind says of one of its fields, in a few words. */
export function entryWords(entry: SheetEntry | undefined): string {
  const field = app.design?.fields.find((f) => f.code === entry?.code);
  if (!entry || !field) return '';
  const label = (code: string) => termLabel(field, code);
  return [
    entry.section ? `begins “${entry.section}”` : '',
    entry.default ? `default ${label(entry.default)}` : '',
    entry.read_only ? 'read-only' : '',
    entry.below ? `below ${label(entry.below)}` : '',
  ]
    .filter(Boolean)
    .join(', ');
}
