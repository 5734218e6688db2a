import { beforeEach, describe, expect, it, vi } from 'vitest';
import { addressOf, askedIn, byDay } from './asked';
import { criteriaOf, findUrl, turned } from './due';
import { grouped, share } from './quality';

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

describe('indexing quality', () => {
  it('puts findings under their groups and tells their share', () => {
    const finding = (group: string, documents: number) => ({ group, words: `${group} ${documents}`, documents, cql: '' });
    expect(grouped([finding('A', 3), finding('A', 1), finding('B', 2)]).map((g) => [g.name, g.findings.length])).toEqual([
      ['A', 2],
      ['B', 1],
    ]);
    expect(share(finding('A', 3), 12)).toBe(25);
    expect(share(finding('A', 3), 0)).toBe(0);
  });
});
