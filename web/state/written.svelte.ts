import type { Preferences } from '@/api/types';

export type DateForm = NonNullable<Preferences['dates']>;
export type NumberForm = NonNullable<Preferences['numbers']>;

/** How the person has dates and numbers written. Values of fields come so from the server. */
export const written = $state<{ dates: DateForm; numbers: NumberForm }>({ dates: 'words', numbers: 'point' });

export function writeAs(preferences: Pick<Preferences, 'dates' | 'numbers'>): void {
  written.dates = preferences.dates ?? 'words';
  written.numbers = preferences.numbers ?? 'point';
}
