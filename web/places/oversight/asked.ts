import { runs } from '@/parts/runs';

/** What of the history is asked for, as the address has it. */
export const ASKED = ['person', 'act', 'document', 'library', 'from', 'until'] as const;
export type Asked = Record<(typeof ASKED)[number], string>;

export function askedIn(params: URLSearchParams): Asked {
  return Object.fromEntries(ASKED.map((name) => [name, params.get(name) ?? ''])) as Asked;
}

export function addressOf(asked: Asked): string {
  const params = new URLSearchParams(ASKED.filter((name) => asked[name] !== '').map((name) => [name, asked[name]]));
  return `/oversight/history${params.size > 0 ? `?${params}` : ''}`;
}

/** Entries by the day they were made on, in their order. */
export function byDay<T extends { at: string }>(entries: readonly T[]): { day: string; entries: T[] }[] {
  const dayOf = (entry: T) => new Date(entry.at).toLocaleDateString('en-CA');
  return runs(entries, dayOf).map(({ key, of }) => ({ day: key, entries: of }));
}
