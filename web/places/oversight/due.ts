import type { DueOnly } from '@/api/client';
import type { DueList } from '@/api/types';

export const ACTIONS = [
  ['review', 'Review'],
  ['destroy', 'Destroy'],
  ['hand_over', 'Hand over'],
] as const;
export type Action = (typeof ACTIONS)[number][0];
type Period = DueList['periods'][number];

/** The lines of a search that finds what is due in a period. */
export function criteriaOf(period: Pick<Period, 'from' | 'until'>, action: string, only: DueOnly): string[] {
  return [
    period.from ? `retention_due >= ${period.from}` : '',
    period.until ? `retention_due <= ${period.until}` : '',
    `retention_action == ${action}`,
    ...narrowed(only),
  ].filter(Boolean);
}

/** The lines that narrow it to a library or a rule. */
export function narrowed(only: DueOnly): string[] {
  return [only.library ? `library == "${only.library}"` : '', only.rule ? `retention_rule == "${only.rule}"` : ''].filter(Boolean);
}

/** The address at which Find shows what some lines find. */
export const findUrl = (lines: string[]): string => `/find?${lines.map((line) => `c=${encodeURIComponent(line)}`).join('&')}`;

/** The address of the calendar with something else chosen; what is empty is left out. */
export function turned(params: URLSearchParams, change: Record<string, string>): string {
  const next = new URLSearchParams(params);
  for (const [key, value] of Object.entries(change)) {
    if (value) next.set(key, value);
    else next.delete(key);
  }
  return `/oversight${next.size > 0 ? `?${next}` : ''}`;
}
