import type { ReportTable } from '@/api/types';
import { bytes, count, day, moment } from '@/parts/format';

export type Cell = string | number | null;
type Measure = ReportTable['columns'][number]['measure'];
type Columns = Pick<ReportTable, 'columns'>;
export type Asked = Record<'from' | 'until' | 'library' | 'type', string>;

const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'];

export const measureOf = (table: Columns, column: number): Measure => table.columns[column]?.measure ?? 'text';
export const headOf = (table: Columns, column: number): string => table.columns[column]?.name ?? '';

/** A cell as people read it; a dash where nothing can be said. */
export function shown(cell: Cell, measure: Measure): string {
  if (cell === null) return '–';
  if (typeof cell === 'string') {
    if (measure === 'moment') return moment(cell);
    if (measure !== 'day' || cell === '') return cell;
    return /^\d{4}-\d{2}$/.test(cell) ? `${MONTHS[Number(cell.slice(5)) - 1]} ${cell.slice(0, 4)}` : day(cell);
  }
  switch (measure) {
    case 'bytes':
      return bytes(cell);
    case 'percent':
      return `${cell}%`;
    case 'milliseconds':
      return cell < 1000 ? `${Math.round(cell)} ms` : `${(cell / 1000).toFixed(1)} s`;
    case 'hours':
      return cell < 1 ? `${Math.round(cell * 60)} min` : cell < 48 ? `${cell} h` : `${Math.round(cell / 24)} days`;
    default:
      return count(cell);
  }
}

/** Which cell of its rows opens what they are about: the first that counts, or the name where there is no other text before it. */
export function opening(table: Columns): number {
  const first = table.columns.findIndex((of) => of.measure === 'count');
  return first > 1 ? first : 0;
}

/** What is drawn: a row of bars for each column, and what stands under or before each bar. */
export function drawn(table: ReportTable, most: number): { series: string; name: string; value: number; says: string }[] {
  const plot = table.plot;
  if (!plot) return [];
  const cell = (row: ReportTable['rows'][number], i: number): Cell => row.cells[i] ?? null;
  const value = (row: ReportTable['rows'][number], i = 0): number => Number(cell(row, i) ?? 0);
  const rows = plot.kind === 'bars' ? [...table.rows].sort((a, b) => value(b, plot.of[0]) - value(a, plot.of[0])) : table.rows;
  return plot.of.flatMap((of) =>
    rows.slice(0, plot.kind === 'bars' ? most : rows.length).map((row) => ({
      series: headOf(table, of),
      name: shown(cell(row, plot.along), measureOf(table, plot.along)),
      value: value(row, of),
      says: shown(cell(row, of), measureOf(table, of)),
    })),
  );
}

/** The names under which there is room for a word: about so many, evenly. */
export function marked(names: readonly string[], most: number): string[] {
  const step = Math.max(1, Math.ceil(names.length / most));
  return names.filter((_, i) => i % step === 0);
}

/** Times as they stand under bars: without their year where all are of one. */
export function timeMark(names: readonly string[]): (name: string) => string {
  const year = / \d{4}$/;
  const years = new Set(names.map((name) => year.exec(name)?.[0] ?? '').filter(Boolean));
  return (name) => (years.size === 1 ? name.replace(year, '') : name);
}

const iso = (at: Date): string =>
  `${at.getFullYear()}-${String(at.getMonth() + 1).padStart(2, '0')}-${String(at.getDate()).padStart(2, '0')}`;

/** The periods that are a click away. */
export function periods(today: Date): { name: string; from: string; until: string }[] {
  const [year, month, date] = [today.getFullYear(), today.getMonth(), today.getDate()];
  const of = (name: string, from: Date, until: Date) => ({ name, from: iso(from), until: iso(until) });
  return [
    of('last 30 days', new Date(year, month, date - 29), today),
    of('this month', new Date(year, month, 1), today),
    of('last month', new Date(year, month - 1, 1), new Date(year, month, 0)),
    of('this year', new Date(year, 0, 1), today),
    of('last year', new Date(year - 1, 0, 1), new Date(year - 1, 11, 31)),
  ];
}

/** What an address asks for, without what is empty. */
export function askedIn(params: URLSearchParams): Partial<Asked> {
  const asked = (['from', 'until', 'library', 'type'] as const).map((key) => [key, params.get(key) ?? '']).filter(([, value]) => value);
  return Object.fromEntries(asked) as Partial<Asked>;
}

export function addressOf(code: string, asked: Partial<Asked>): string {
  const params = new URLSearchParams(Object.entries(asked).filter(([, value]) => value));
  return `/oversight/reports/${code}${params.size > 0 ? `?${params}` : ''}`;
}
