import { beforeEach, describe, expect, it, vi } from 'vitest';

const api = vi.hoisted(() => ({ proposals: vi.fn() }));
vi.mock('@/api/client', () => ({ api }));

const { evidence, oneLine, Proposing } = await import('./proposing.svelte');

const place = (value: string) => ({ value, label: value, page: 1, pieces: [[value, true]] });
const day = { field: 'day', by: 'Days', kept: 1, made: 2, places: [place('2024-03-14')] };
const reach = { field: 'reach', by: 'Reaches', kept: 0, made: 0, places: [place('n'), place('s')] };

describe('what is proposed for a sheet', () => {
  let values: Record<string, string[]>;
  const made = () =>
    new Proposing({
      isEmpty: (field) => field in values && values[field]!.length === 0,
      take: (field, places) => (values[field] = places.map((p) => p.value)),
    });
  beforeEach(() => {
    api.proposals.mockReset();
    api.proposals.mockResolvedValue({ proposals: [day, reach] });
    values = { day: [], reach: [], fee: [] };
  });

  it('is taken one by one, or all at once, and nothing is taken by itself', async () => {
    const proposing = made();
    await proposing.ask('D-1', 'permit');
    expect(values).toEqual({ day: [], reach: [], fee: [] });
    expect(proposing.take('fee')).toBe(false);
    expect(proposing.take('day')).toBe(true);
    expect(values.day).toEqual(['2024-03-14']);
    values.day = [];
    made();
    const all = made();
    await all.ask('D-1', 'permit');
    all.takeAll();
    expect(values).toEqual({ day: ['2024-03-14'], reach: ['n', 's'], fee: [] });
  });

  it('leaves fields alone that have a value, or do not stand on the sheet', async () => {
    values = { day: ['2020'] };
    const proposing = made();
    await proposing.ask('D-1', '');
    expect(proposing.open).toEqual([]);
    proposing.takeAll();
    expect(values).toEqual({ day: ['2020'] });
  });

  it('is asked once for a document and its type, and is that of the newest', async () => {
    const proposing = made();
    await proposing.ask('D-1', '');
    await proposing.ask('D-1', '');
    expect(api.proposals).toHaveBeenCalledTimes(1);
    let late: (of: unknown) => void = () => {};
    api.proposals.mockImplementationOnce(() => new Promise((done) => (late = done)));
    const first = proposing.ask('D-2', '');
    expect(proposing.all).toEqual([]);
    api.proposals.mockResolvedValueOnce({ proposals: [reach] });
    await proposing.ask('D-3', '');
    late({ proposals: [day] });
    await first;
    expect(proposing.all).toEqual([reach]);
    api.proposals.mockRejectedValueOnce(new Error('away'));
    await proposing.ask('D-4', '');
    expect(proposing.all).toEqual([]);
    await proposing.ask('', '');
    expect(api.proposals).toHaveBeenCalledTimes(4);
  });
});

describe('the evidence of a proposal', () => {
  const of = (pieces: [string, boolean][]) => ({ ...day, places: [{ ...day.places[0]!, pieces }] });

  it('is shown with the value in sight, and whole where one asks', () => {
    const long = of([
      ['The structure was last of all inspected on ', false],
      ['14 March 2024', true],
      [' by Fenn', false],
    ]);
    expect(oneLine(long)).toEqual([
      ['… of all inspected on ', false],
      ['14 March 2024', true],
      [' by Fenn', false],
    ]);
    expect(evidence(long)).toBe('The structure was last of all inspected on 14 March 2024 by Fenn');
    const short = of([
      ['on ', false],
      ['14 March 2024', true],
    ]);
    expect(oneLine(short)).toEqual(short.places[0]!.pieces);
    expect(oneLine(of([['14 March 2024', true]]))).toEqual([['14 March 2024', true]]);
  });
});
