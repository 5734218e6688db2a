import type { WaitingDocument } from '@/api/types';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { filesOf, isValuesTable, grouped, inSight, lacking } from './waiting';

const NOW = Date.parse('2026-03-14T12:00:00');
const waits = (file_name: string, more: Partial<WaitingDocument> = {}): WaitingDocument => ({
  ref: file_name,
  file_name,
  file_kind: 'pdf',
  path: '',
  bytes: 1,
  page_count: 1,
  drawn_pages: 0,
  library: { code: 'l', name: 'L' },
  type: null,
  source: null,
  group: null,
  brought_in_by: null,
  intake_note: null,
  proposed_dossier: null,
  text_state: 'read',
  created_at: '2026-03-14T09:00:00',
  attachments: 0,
  values: {},
  lacks: ['document type'],
  at_it: null,
  lock_version: 1,
  ...more,
});
const names = (groups: ReturnType<typeof grouped>) => groups.map((g) => `${g.name}: ${g.documents.map((d) => d.file_name).join(' ')}`);
const type = { code: 't', name: 'Notice' };

describe('what waits', () => {
  it('is grouped by where it came from, what one brought oneself first', () => {
    const all = [waits('a', { source: 'Scans' }), waits('b'), waits('c', { group: 'Harbour office' }), waits('d', { source: 'Mail' })];
    expect(names(grouped(all, 'source', 'arrival', NOW))).toEqual(['Brought in by you: b', 'For Harbour office: c', 'Mail: d', 'Scans: a']);
  });

  it('is grouped by age and by what is to be done, in that order', () => {
    const on = (day: string) => waits(day, { created_at: `2026-${day}T09:00:00` });
    expect(names(grouped([on('01-02'), on('03-13'), on('03-14'), on('03-10')], 'age', 'arrival', NOW))).toEqual([
      'Today: 03-14',
      'Yesterday: 03-13',
      'This week: 03-10',
      'Longer: 01-02',
    ]);
    const all = [waits('a'), waits('b', { type, lacks: ['Date'] }), waits('c', { type, lacks: [] }), waits('d', { text_state: 'pending' })];
    expect(names(grouped(all, 'state', 'arrival', NOW))).toEqual(['Complete: c', 'Begun: b', 'Nothing known yet: a', 'Being read: d']);
  });

  it('stands in the order that was chosen', () => {
    const all = [waits('scan 10'), waits('scan 9', { type }), waits('Scan 1')];
    const order = (by: Parameters<typeof grouped>[2]) => grouped(all, 'age', by, NOW)[0]!.documents.map((d) => d.file_name);
    expect(order('arrival')).toEqual(['scan 10', 'scan 9', 'Scan 1']);
    expect(order('latest')).toEqual(['Scan 1', 'scan 9', 'scan 10']);
    expect(order('name')).toEqual(['Scan 1', 'scan 9', 'scan 10']);
    expect(order('type')).toEqual(['scan 9', 'Scan 1', 'scan 10']);
  });

  it('says in a word what it lacks', () => {
    expect(lacking(waits('a', { lacks: [] }))).toBe('complete');
    expect(lacking(waits('a', { lacks: ['Document date'] }))).toBe('no document date');
    expect(lacking(waits('a', { lacks: ['Document date', 'Waterway', 'Vessel'] }))).toBe('no document date and 2 more');
  });
});

it('draws what is in sight and as much around it, and leaves room for the rest', () => {
  fc.assert(
    fc.property(
      fc.array(fc.integer({ min: 20, max: 240 }), { maxLength: 300 }),
      fc.nat(40_000),
      fc.integer({ min: 100, max: 900 }),
      (heights, top, height) => {
        const { from, to, above, below } = inSight(heights, top, height);
        const sum = (a: number, b: number) => heights.slice(a, b).reduce((x, y) => x + y, 0);
        expect(above).toBe(sum(0, from));
        expect(above + sum(from, to) + below).toBe(sum(0, heights.length));
        // Every row that can be seen is drawn.
        let y = 0;
        heights.forEach((h, i) => {
          if (y + h > top && y < top + height) expect(i >= from && i < to).toBe(true);
          y += h;
        });
      },
    ),
  );
});

it('takes folders that are dropped with all that is in them, and their paths', async () => {
  const file = (fullPath: string) => ({
    isFile: true,
    isDirectory: false,
    fullPath,
    file: (take: (f: File) => void) => take(new File(['x'], fullPath.split('/').at(-1)!)),
  });
  const folder = (fullPath: string, ...batches: unknown[][]) => ({
    isFile: false,
    isDirectory: true,
    fullPath,
    createReader: () => {
      const left = [...batches];
      return { readEntries: (take: (e: unknown[]) => void) => take(left.shift() ?? []) };
    },
  });
  const dropped = [
    file('/alone.txt'),
    folder(
      '/Harbour',
      [file('/Harbour/a.txt')],
      [file('/Harbour/b.txt'), folder('/Harbour/2024', [file('/Harbour/2024/c.txt'), file('/Harbour/2024/Thumbs.db')])],
    ),
    folder('/Works', [file('/Works/d.txt')]),
  ];
  const transfer = { items: dropped.map((entry) => ({ webkitGetAsEntry: () => entry })), files: [] } as unknown as DataTransfer;
  expect((await filesOf(transfer)).map((f) => f.path || f.file.name)).toEqual([
    'alone.txt',
    'Harbour/a.txt',
    'Harbour/b.txt',
    'Harbour/2024/c.txt',
    'Works/d.txt',
  ]);
});

it('tells a table that says what the values of files are from one that is a document', async () => {
  const is = (name: string, text: string) => isValuesTable(new File([text], name));
  expect(await is('values.csv', 'file,type,document_date\n')).toBe(true);
  expect(await is('Values.CSV', '\uFEFF"File";"Document date"\r\n')).toBe(true);
  expect(await is('values.tsv', 'document_date\tfile\n')).toBe(true);
  expect(await is('register.csv', 'files,date\nfile,2024\n')).toBe(false);
  expect(await is('values.csv', 'file\n')).toBe(false);
  expect(await is('letter.txt', 'file,type\n')).toBe(false);
});
