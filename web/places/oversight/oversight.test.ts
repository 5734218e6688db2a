import { beforeEach, describe, expect, it, vi } from 'vitest';
import { addressOf, askedIn, byDay } from './asked';
import { criteriaOf, findUrl, turned } from './due';
import { addressOf as reportAddress, askedIn as reportAsked, drawn, marked, opening, periods, shown, timeMark } from './reports';

const api = vi.hoisted(() => ({
  disposal: vi.fn(),
  disposalItems: vi.fn(),
  reviewDisposal: vi.fn(),
  actOnDisposal: vi.fn(),
  due: vi.fn(),
  duePeriod: vi.fn(),
}));
vi.mock('@/api/client', async () => ({ ...(await vi.importActual<object>('@/api/client')), api }));
const { Reviewing } = await import('./reviewing.svelte');
const { Due } = await import('./due.svelte');
const { ApiError } = await import('@/api/client');

const counts = { all: 3, undecided: 3, released: 0, postponed: 0, kept: 0, left_out: 0, done: 0 };
const disposal = (more = {}) => ({ id: 1, state: 'review', says: '', counts, lock_version: 1, ...more }) as never;

describe('what falls due', () => {
  it('makes the lines that find what is due in a period', () => {
    expect(criteriaOf({ from: null, until: '2026-09-30' }, 'destroy', {})).toEqual([
      'retention_due <= 2026-09-30',
      'retention_action == destroy',
    ]);
    expect(criteriaOf({ from: '2028-10-01', until: null }, 'review', { library: 'works', rule: 'type.tender' })).toEqual([
      'retention_due >= 2028-10-01',
      'retention_action == review',
      'library == "works"',
      'retention_rule == "type.tender"',
    ]);
    expect(findUrl(['a == "b c"'])).toBe('/find?c=a%20%3D%3D%20%22b%20c%22');
  });

  it('changes the address, and leaves out what is empty', () => {
    expect(turned(new URLSearchParams('library=works'), { at: 'before', do: 'destroy' })).toBe(
      '/oversight?library=works&at=before&do=destroy',
    );
    expect(turned(new URLSearchParams('library=works'), { library: '' })).toBe('/oversight');
  });

  it('shows the period that was asked for last, whichever answer comes last', async () => {
    const due = new Due();
    let slow: (of: unknown) => void = () => undefined;
    api.duePeriod.mockReturnValueOnce(new Promise((done) => (slow = done))).mockResolvedValueOnce({ documents: 2 });
    const first = due.open({ from: null, until: null } as never, 'destroy', {});
    await due.open({ from: null, until: null } as never, 'review', {});
    slow({ documents: 1 });
    await first;
    expect(due.period).toEqual({ documents: 2 });
  });
});

describe('reviewing a disposal', () => {
  beforeEach(() => {
    vi.clearAllMocks();
    vi.useFakeTimers();
    api.disposalItems.mockResolvedValue({ total: 1, items: [{ ref: 'D-1' }] });
  });

  it('decides about what is selected, or about all that is left', async () => {
    api.disposal.mockResolvedValue(disposal());
    const work = new Reviewing(1);
    await work.load();
    expect(work.pile).toBe('undecided');
    work.pick('D-1');
    api.reviewDisposal.mockResolvedValue(disposal({ lock_version: 2, counts: { ...counts, undecided: 2, released: 1 } }));
    await work.decide('release');
    expect(api.reviewDisposal).toHaveBeenLastCalledWith(1, {
      documents: ['D-1'],
      decision: 'release',
      reason: '',
      until: null,
      lock_version: 1,
    });
    expect(work.picked).toEqual([]);
    expect(work.piles.map(([pile]) => pile)).toEqual(['undecided', 'released']);
    await work.decide('keep', 'In use');
    expect(api.reviewDisposal).toHaveBeenLastCalledWith(1, { decision: 'keep', reason: 'In use', until: null, lock_version: 2 });
  });

  it('shows how it is now when somebody else was at it', async () => {
    api.disposal.mockResolvedValueOnce(disposal()).mockResolvedValueOnce(disposal({ state: 'approval', lock_version: 5 }));
    const work = new Reviewing(1);
    await work.load();
    api.actOnDisposal.mockRejectedValueOnce(new ApiError(409, 'stale', 'Somebody else changed this.'));
    expect(await work.act('submit')).toBe(false);
    expect(work.disposal?.state).toBe('approval');
    expect(work.fault).not.toBe('');
  });

  it('looks again while something is done in the background, and no longer', async () => {
    api.disposal.mockResolvedValueOnce(disposal({ state: 'running' })).mockResolvedValue(disposal({ state: 'done' }));
    const work = new Reviewing(1);
    await work.load();
    await vi.advanceTimersByTimeAsync(2000);
    expect(work.disposal?.state).toBe('done');
    await vi.advanceTimersByTimeAsync(9000);
    expect(api.disposal).toHaveBeenCalledTimes(2);
  });
});

describe('the history', () => {
  it('keeps what is asked for in the address', () => {
    const asked = askedIn(new URLSearchParams('person=clerk&from=2026-01-01&other=x'));
    expect(asked).toMatchObject({ person: 'clerk', from: '2026-01-01', act: '' });
    expect(addressOf(asked)).toBe('/oversight/history?person=clerk&from=2026-01-01');
    expect(addressOf(askedIn(new URLSearchParams()))).toBe('/oversight/history');
  });

  it('puts entries under their days, in their order', () => {
    const at = (iso: string) => ({ at: new Date(iso).toISOString() });
    const entries = [at('2026-03-02T10:00:00'), at('2026-03-02T09:00:00'), at('2026-03-01T12:00:00')];
    expect(byDay(entries).map((d) => [d.day, d.entries.length])).toEqual([
      ['2026-03-02', 2],
      ['2026-03-01', 1],
    ]);
  });
});

describe('reports', () => {
  const column = (name: string, measure: 'text' | 'count' | 'day') => ({ name, measure });
  const table = (plot: { kind: 'bars' | 'columns'; along: number; of: number[] }) => ({
    name: 'By source',
    says: '',
    columns: [column('Source', 'text'), column('Documents', 'count'), column('Late', 'count')],
    rows: [
      { cells: ['Post', 3, 1], search: null },
      { cells: ['Mail', 12, 0], search: null },
    ],
    plot,
  });

  it('write their cells as the interface writes numbers, days and sizes', () => {
    expect(shown(null, 'count')).toBe('–');
    expect(shown(12_345, 'count')).toBe('12\u202f345');
    expect(shown(2_500_000_000, 'bytes')).toBe('2.5 GB');
    expect(shown(0.5, 'hours')).toBe('30 min');
    expect(shown(5.2, 'hours')).toBe('5.2 h');
    expect(shown(72, 'hours')).toBe('3 days');
    expect(shown(80, 'milliseconds')).toBe('80 ms');
    expect(shown(1234, 'milliseconds')).toBe('1.2 s');
    expect(shown('2026-03', 'day')).toBe('Mar 2026');
    expect(shown('2019-03-04', 'day')).toBe('4 Mar 2019');
    expect(shown('', 'day')).toBe('');
    expect(shown(7.5, 'percent')).toBe('7.5%');
  });

  it('draw the longest bar first, each column in a row of its own, and times in their order', () => {
    expect(drawn(table({ kind: 'bars', along: 0, of: [1, 2] }), 1).map((p) => [p.series, p.name, p.value])).toEqual([
      ['Documents', 'Mail', 12],
      ['Late', 'Mail', 0],
    ]);
    expect(drawn(table({ kind: 'columns', along: 0, of: [1] }), 1).map((p) => p.name)).toEqual(['Post', 'Mail']);
    expect(drawn({ ...table({ kind: 'bars', along: 0, of: [1] }), plot: null }, 9)).toEqual([]);
  });

  it('open what a row is about from its number, or from its name where nothing else is said before', () => {
    expect(opening(table({ kind: 'bars', along: 0, of: [1] }))).toBe(0);
    expect(opening({ columns: [column('Of', 'text'), column('Finding', 'text'), column('Documents', 'count')] })).toBe(2);
  });

  it('have words under as many bars as there is room for', () => {
    const names = Array.from({ length: 30 }, (_, i) => String(i));
    expect(marked(names, 8).length).toBeLessThanOrEqual(8);
    expect(marked(names, 40)).toEqual(names);
    expect(marked([], 5)).toEqual([]);
    expect(['2 Nov 2026', 'today'].map(timeMark(['2 Nov 2026', 'today']))).toEqual(['2 Nov', 'today']);
    expect(['Dec 2026'].map(timeMark(['Dec 2026', 'Jan 2027']))).toEqual(['Dec 2026']);
  });

  it('know the periods around a day, also over the end of a year', () => {
    const at = Object.fromEntries(periods(new Date(2027, 0, 3)).map((of) => [of.name, [of.from, of.until]]));
    expect(at['last month']).toEqual(['2026-12-01', '2026-12-31']);
    expect(at['last 30 days']).toEqual(['2026-12-05', '2027-01-03']);
    expect(at['last year']).toEqual(['2026-01-01', '2026-12-31']);
  });

  it('keep what they are asked for in the address', () => {
    const asked = { from: '2026-01-01', until: '2026-01-31', library: 'harbour' };
    const address = reportAddress('use', asked);
    expect(reportAsked(new URL(address, 'http://x').searchParams)).toEqual(asked);
    expect(reportAddress('quality', { library: '' })).toBe('/oversight/reports/quality');
  });
});
