import type { WaitingDocument } from '@/api/types';
import { count, plural } from '@/parts/format';

export type Grouping = 'source' | 'age' | 'state';
export type Order = 'arrival' | 'latest' | 'name' | 'type';

export interface Group {
  name: string;
  documents: WaitingDocument[];
}

const DAY = 86_400_000;
const AGES: [number, string][] = [
  [1, 'Today'],
  [2, 'Yesterday'],
  [7, 'This week'],
  [30, 'This month'],
];

export function ageOf(document: WaitingDocument, now: number): string {
  const day = (at: Date) => Math.floor((at.getTime() - at.getTimezoneOffset() * 60_000) / DAY);
  const days = day(new Date(now)) - day(new Date(document.created_at));
  return AGES.find(([most]) => days < most)?.[1] ?? 'Longer';
}

/** What is to be done with a document, in the order in which it is done. */
export function stateOf(document: WaitingDocument): string {
  if (document.text_state === 'pending') return 'Being read';
  if (document.lacks.length === 0) return 'Complete';
  return document.type === null ? 'Nothing known yet' : 'Begun';
}
const STATES = ['Complete', 'Begun', 'Nothing known yet', 'Being read'];

const text = (a: string, b: string) => a.localeCompare(b, 'en', { numeric: true, sensitivity: 'base' });

export function ordered(documents: WaitingDocument[], order: Order): WaitingDocument[] {
  if (order === 'arrival') return documents;
  if (order === 'latest') return documents.toReversed();
  return documents.toSorted(
    (a, b) => (order === 'type' ? text(a.type?.name ?? '￿', b.type?.name ?? '￿') : 0) || text(a.file_name, b.file_name),
  );
}

/** Documents in their groups; what people brought themselves comes first. */
export function grouped(documents: WaitingDocument[], by: Grouping, order: Order, now: number): Group[] {
  const names = {
    source: (d: WaitingDocument) => d.source ?? (d.group ? `For ${d.group}` : 'Brought in by you'),
    age: (d: WaitingDocument) => ageOf(d, now),
    state: stateOf,
  }[by];
  const groups: Record<string, WaitingDocument[]> = {};
  for (const document of ordered(documents, order)) (groups[names(document)] ??= []).push(document);
  const rank = (name: string) =>
    by === 'age'
      ? [...AGES.map(([, age]) => age), 'Longer'].indexOf(name)
      : by === 'state'
        ? STATES.indexOf(name)
        : name === 'Brought in by you'
          ? -1
          : 0;
  return Object.keys(groups)
    .toSorted((a, b) => rank(a) - rank(b) || text(a, b))
    .map((name) => ({ name, documents: groups[name]! }));
}

/** Why a document is not complete, in a word. */
export function lacking(document: WaitingDocument): string {
  const [first, ...more] = document.lacks;
  return first === undefined
    ? 'complete'
    : more.length === 0
      ? `no ${first.toLowerCase()}`
      : `no ${first.toLowerCase()} and ${count(more.length)} more`;
}

export const attachmentsOf = (document: WaitingDocument): string =>
  document.attachments === 0 ? '' : plural(document.attachments, 'attachment', 'attachments');

/** Rows of different heights, of which only those are drawn that are near to where one looks. */
export function inSight(heights: number[], top: number, height: number): { from: number; to: number; above: number; below: number } {
  const margin = height;
  let above = 0;
  let from = 0;
  while (from < heights.length && above + heights[from]! < top - margin) above += heights[from++]!;
  let to = from;
  let sum = above;
  while (to < heights.length && sum < top + height + margin) sum += heights[to++]!;
  return { from, to, above, below: heights.slice(to).reduce((a, b) => a + b, 0) };
}

interface Entry {
  isFile: boolean;
  isDirectory: boolean;
  fullPath: string;
  file(take: (file: File) => void, fail: (fault: unknown) => void): void;
  createReader(): { readEntries(take: (entries: Entry[]) => void, fail: (fault: unknown) => void): void };
}

export interface Brought {
  file: File;
  /** Where it was in the folder that was dropped; empty for a file on its own. */
  path: string;
}

/** All files of what was dropped, those in folders with their paths. */
/** What a table with the values of files begins with. */
const TABLE_HEAD = 4096;

/** Whether a file is a table with a column `file`, so that it may say what the values of others are. */
export async function isValuesTable(file: File): Promise<boolean> {
  if (!/\.(csv|tsv)$/i.test(file.name)) return false;
  const head = new TextDecoder().decode(await file.slice(0, TABLE_HEAD).arrayBuffer());
  const names = head
    .replace(/^\uFEFF/, '')
    .split(/\r?\n/)[0]!
    .split(/[,;\t|]/);
  return names.length > 1 && names.some((name) => name.trim().replace(/^"|"$/g, '').toLowerCase() === 'file');
}

export async function filesOf(transfer: DataTransfer): Promise<Brought[]> {
  // Asked for at once: after the first wait the browser tells nothing any more.
  const entries = [...transfer.items].map((item) => item.webkitGetAsEntry?.() as unknown as Entry | null).filter((e) => e !== null);
  if (entries.length === 0) return [...transfer.files].map((file) => ({ file, path: '' }));
  const found: Brought[] = [];
  const walk = async (entry: Entry): Promise<void> => {
    if (entry.isFile) {
      const file = await new Promise<File>((take, fail) => entry.file(take, fail));
      const path = entry.fullPath.replace(/^\//, '');
      found.push({ file, path: path.includes('/') ? path : '' });
      return;
    }
    const reader = entry.createReader();
    for (;;) {
      // Told a hundred at a time.
      const some = await new Promise<Entry[]>((take, fail) => reader.readEntries(take, fail));
      if (some.length === 0) return;
      for (const below of some) await walk(below);
    }
  };
  for (const entry of entries) await walk(entry);
  // What systems leave in folders is no document.
  return found.filter(({ file }) => !/^(\.DS_Store|Thumbs\.db|desktop\.ini)$/i.test(file.name));
}
