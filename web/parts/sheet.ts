import type { Sheet } from '@/api/client';
import type { Field, SheetEntry, Term } from '@/api/types';
import { app } from '@/state/app.svelte';

/** What a new sheet begins with. */
export function defaultsOf(entries: SheetEntry[]): Sheet {
  const values: Sheet = {};
  for (const entry of entries) {
    const value = entry.default || app.design?.fields.find((f) => f.code === entry.code)?.default;
    if (value) values[entry.code] = [value];
  }
  return values;
}

/** The terms that may be chosen in a field now: not retired, below where the type belongs, fit for the field they depend on. */
export function choosable(field: Field, entry: SheetEntry, values: Sheet): Term[] {
  const vocabulary = app.vocabulary(field);
  if (!vocabulary) return [];
  const present = values[field.code] ?? [];
  const byCode = new Map(vocabulary.terms.map((t) => [t.code, t]));
  const isBelow = (term: Term): boolean => !entry.below || term.code === entry.below || (term.parent !== null && byCode.has(term.parent) && isBelow(byCode.get(term.parent)!));
  const beside = vocabulary.depends_on ? (values[vocabulary.depends_on] ?? []).filter(Boolean) : null;
  return vocabulary.terms.filter((t) => present.includes(t.code) || (!t.retired && isBelow(t) && (!beside || !t.under?.length || t.under.some((u) => beside.includes(u)))));
}

/** What a type or dossier kind says of one of its fields, in a few words. */
export function entryWords(entry: SheetEntry | undefined): string {
  const field = app.design?.fields.find((f) => f.code === entry?.code);
  if (!entry || !field) return '';
  const label = (code: string) => app.terms(field).find((t) => t.code === code)?.label ?? code;
  return [entry.section ? `begins “${entry.section}”` : '', entry.default ? `default ${label(entry.default)}` : '', entry.read_only ? 'read-only' : '', entry.below ? `below ${label(entry.below)}` : ''].filter(Boolean).join(', ');
}
