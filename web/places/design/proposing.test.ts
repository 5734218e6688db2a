import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { api } from '@/api/client';
import type { Proposal, ProposedColumn, ProposedDecision } from '@/api/types';
import { draft } from './draft.svelte';
import { Proposing } from './proposing.svelte';

const alone = { into: null, tree: false, adds_terms: false };
const reading = (kind: string, share = 1) => ({ kind, share, unit: '', pattern: '', says: [], misfits: [] });
const column = (place: number, more: Partial<ProposedColumn> = {}): ProposedColumn =>
  ({
    place,
    name: `Column ${place}`,
    kind: 'choice',
    readings: [reading('choice'), reading('text')],
    distinct: 4,
    same_as: null,
    existing: null,
    decided: null,
    ...more,
  }) as ProposedColumn;
const proposal = (more: Partial<Proposal> = {}) =>
  ({
    id: 1,
    name: 'Moorings',
    what: 'table',
    state: 'ready',
    rows: 9,
    columns: [],
    gatherings: [],
    type_column: null,
    ...more,
  }) as Proposal;

beforeEach(() => vi.useFakeTimers());
afterEach(() => {
  vi.useRealTimers();
  vi.restoreAllMocks();
});

describe('a proposal', () => {
  it('is taken but for what says nothing of its own', async () => {
    const columns = [column(0), column(1, { same_as: 0 }), column(2, { distinct: 0 }), column(3)];
    vi.spyOn(api, 'proposal').mockResolvedValue({ proposal: proposal({ columns, type_column: 3 }) });
    const proposing = new Proposing();
    await proposing.load();
    expect(proposing.decided.map((d) => d.take)).toEqual([true, false, false, false]);
    expect([proposing.taken, proposing.name]).toEqual([1, 'Moorings']);
  });

  it('is asked for until the table is read, and keeps what was decided', async () => {
    const asked = vi.spyOn(api, 'proposal').mockResolvedValue({ proposal: proposal({ state: 'waiting' }) });
    const proposing = new Proposing();
    await proposing.load();
    asked.mockResolvedValue({ proposal: proposal({ columns: [column(0)] }) });
    await vi.advanceTimersByTimeAsync(800);
    expect(proposing.proposal?.state).toBe('ready');
    proposing.decided[0]!.label = 'Berth';
    await proposing.load();
    expect(proposing.decided[0]!.label).toBe('Berth');
    await vi.advanceTimersByTimeAsync(5_000);
    expect(asked).toHaveBeenCalledTimes(3);
  });

  it('is a field of its own when read otherwise than the field that is there', async () => {
    vi.spyOn(api, 'proposal').mockResolvedValue({ proposal: proposal({ columns: [column(0, { existing: 'berth' })] }) });
    const proposing = new Proposing();
    await proposing.load();
    const [decision] = proposing.decided;
    expect(decision!.existing).toBe('berth');
    proposing.choose(decision!, 'text');
    expect([decision!.existing, proposing.reading(decision!).kind]).toEqual([null, 'text']);
    proposing.choose(decision!, 'choice');
    expect(decision!.existing).toBe('berth');
  });

  it('remembers what was decided when the source was given before', async () => {
    const decided = { take: false, label: 'Quay', kind: 'text', existing: null, ...alone };
    const made = { take: true, label: 'Berth', kind: 'choice', existing: 'berth_2', ...alone };
    const columns = [column(0, { decided }), column(1, { decided: made })];
    vi.spyOn(api, 'proposal').mockResolvedValue({ proposal: proposal({ columns }) });
    const proposing = new Proposing();
    await proposing.load();
    expect(proposing.decided).toEqual([
      { place: 0, ...decided },
      { place: 1, ...made },
    ]);
    proposing.choose(proposing.decided[1]!, 'text');
    expect(proposing.decided[1]!.existing).toBeNull();
    proposing.choose(proposing.decided[1]!, 'choice');
    expect(proposing.decided[1]!.existing).toBe('berth_2');
  });

  it('goes into the draft, or says why not and keeps everything', async () => {
    vi.spyOn(api, 'proposal').mockResolvedValue({ proposal: proposal({ columns: [column(0)] }) });
    const taken = vi.spyOn(draft, 'take').mockImplementation(() => {});
    const proposing = new Proposing();
    await proposing.load();
    const sent = vi.spyOn(api, 'takeProposal').mockRejectedValueOnce(new TypeError('offline'));
    expect(await proposing.accept()).toBe(false);
    expect(proposing.trying.fault).not.toBe('');
    sent.mockResolvedValue({ parts: 2, left: [], draft: {} } as unknown as Awaited<ReturnType<typeof api.takeProposal>>);
    const accepted = proposal({
      accepted: true,
      columns: [column(0, { decided: { take: true, label: 'Berth', kind: 'choice', existing: 'berth', ...alone } })],
    });
    vi.spyOn(api, 'proposal').mockResolvedValue({ proposal: accepted });
    expect(await proposing.accept()).toBe(true);
    expect(taken).toHaveBeenCalledOnce();
    const { columns, ...rest } = sent.mock.lastCall![0];
    expect(rest).toEqual({ name: 'Moorings', types: true, gatherings: [], library: null, new_library: true });
    expect(columns.map((c) => [c.label, c.existing])).toEqual([['Column 0', null]]);
    expect([proposing.proposal?.accepted, proposing.decided[0]!.existing]).toEqual([true, 'berth']);
  });

  it('joins a column with another of its kind, and what had been joined with it goes along', async () => {
    const columns = [column(0), column(1), column(2), column(3, { kind: 'date', readings: [reading('date')] })];
    vi.spyOn(api, 'proposal').mockResolvedValue({ proposal: proposal({ columns }) });
    const proposing = new Proposing();
    await proposing.load();
    const [first, second, third, date] = proposing.decided as [ProposedDecision, ProposedDecision, ProposedDecision, ProposedDecision];
    expect(proposing.joinable(first).map((d) => d.place)).toEqual([1, 2]);
    expect(proposing.joinable(date)).toEqual([]);
    proposing.join(first, 1);
    expect(proposing.joinable(third).map((d) => d.place)).toEqual([1]);
    proposing.join(second, 2);
    expect([first.into, second.into]).toEqual([2, 2]);
    proposing.join(first, null);
    expect(first.into).toBeNull();
  });

  it('makes one tree of a column and what it refines, which then needs no field of its own', async () => {
    const columns = [column(0), column(1, { depends_on: 0 }), column(2, { depends_on: null })];
    vi.spyOn(api, 'proposal').mockResolvedValue({ proposal: proposal({ columns }) });
    const proposing = new Proposing();
    await proposing.load();
    const [above, below, other] = proposing.decided as [ProposedDecision, ProposedDecision, ProposedDecision];
    expect(proposing.above(below)).toBe(above);
    expect(proposing.above(other)).toBeNull();
    proposing.plant(below, true);
    expect([above.take, below.tree]).toEqual([false, true]);
    proposing.plant(below, false);
    expect([above.take, below.tree]).toEqual([true, false]);
    proposing.choose(below, 'text');
    expect(proposing.above(below)).toBeNull();
  });

  it('proposes what rows make together, or what was decided before', async () => {
    const found = { key: 0, shares: [1], values: 9, each: 4, as: 'dossiers' as const, name: 'Job', says: [], decided: null };
    const decided = { as: 'nothing' as const, name: 'Work' };
    const gatherings = [found, { ...found, key: 1, decided }];
    vi.spyOn(api, 'proposal').mockResolvedValue({ proposal: proposal({ columns: [column(0), column(1)], gatherings }) });
    const proposing = new Proposing();
    await proposing.load();
    expect(proposing.gathered).toEqual([
      { key: 0, as: 'dossiers', name: 'Job' },
      { key: 1, ...decided },
    ]);
  });
});
