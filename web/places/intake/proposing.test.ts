import type { SheetProposal } from '@/api/types';
import { beforeEach, describe, expect, it, vi } from 'vitest';

const api = vi.hoisted(() => ({ proposals: vi.fn() }));
vi.mock('@/api/client', () => ({ api }));

const { evidence, oneLine, Proposing } = await import('./proposing.svelte');

const place = (value: string) => ({ value, label: value, page: 1, pieces: [[value, true]] });
const speaking = { is_stored: false, kept: 0, made: 0, from: 0, documents: [] };
const day = { ...speaking, field: 'day', by: 'Days', kept: 1, made: 2, places: [place('2024-03-14')] };
const reach = { ...speaking, field: 'reach', by: 'Reaches', places: [place('n'), place('s')] };
const none = { type: null, dossier: null };

describe('what is proposed for a sheet', () => {
  let values: Record<string, string[]>;
  let type: string;
  let dossier: string;
  const made = () =>
    new Proposing({
      lacks: (field) => field in values && values[field]!.length === 0,
      type: () => type,
      dossier: () => dossier,
      take: (field, places) => (values[field] = places.map((p) => p.value)),
      takeType: (code) => (type = code),
      takeDossier: (ref) => (dossier = ref),
    });
  beforeEach(() => {
    api.proposals.mockReset();
    api.proposals.mockResolvedValue({ ...none, proposals: [day, reach] });
    type = 'permit';
    dossier = '';
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
    expect(proposing.open).toEqual([]);
    api.proposals.mockResolvedValueOnce({ ...none, proposals: [reach] });
    await proposing.ask('D-3', '');
    late({ ...none, proposals: [day] });
    await first;
    expect(proposing.open).toEqual([reach]);
    api.proposals.mockRejectedValueOnce(new Error('away'));
    await proposing.ask('D-4', '');
    expect(proposing.open).toEqual([]);
    await proposing.ask('', '');
    expect(api.proposals).toHaveBeenCalledTimes(4);
  });

  it('takes a type where none is chosen, and with all the rest what is proposed for it', async () => {
    type = '';
    api.proposals.mockResolvedValueOnce({ type: { ...speaking, code: 'permit' }, dossier: null, proposals: [] });
    const proposing = made();
    await proposing.ask('D-1', '');
    expect(proposing.type?.code).toBe('permit');
    proposing.takeAll();
    expect(type).toBe('permit');
    api.proposals.mockResolvedValueOnce({ type: null, dossier: { ...speaking, ref: 'DS-1', title: 'Lock' }, proposals: [day] });
    await proposing.ask('D-1', 'permit');
    expect(values.day).toEqual(['2024-03-14']);
    expect(dossier).toBe('DS-1');
  });

  it('takes nothing more when another document is looked at meanwhile', async () => {
    type = '';
    api.proposals.mockResolvedValueOnce({ type: { ...speaking, code: 'permit' }, dossier: null, proposals: [] });
    const proposing = made();
    await proposing.ask('D-1', '');
    proposing.takeAll();
    await proposing.ask('D-2', 'permit');
    expect(proposing.count).toBe(2);
    expect(values.day).toEqual([]);
  });

  it('takes by itself what the librarian lets be stored, where the field is empty', async () => {
    values = { day: [], reach: ['n'] };
    api.proposals.mockResolvedValueOnce({
      ...none,
      proposals: [
        { ...day, is_stored: true },
        { ...reach, is_stored: true },
      ],
    });
    await made().ask('D-1', 'permit');
    expect(values).toEqual({ day: ['2024-03-14'], reach: ['n'] });
  });

  it('proposes no dossier where one is given', async () => {
    api.proposals.mockResolvedValueOnce({ ...none, dossier: { ...speaking, ref: 'DS-1', title: 'Lock' }, proposals: [] });
    dossier = 'DS-2';
    const proposing = made();
    await proposing.ask('D-1', 'permit');
    expect(proposing.dossier).toBeNull();
    expect(proposing.takeDossier()).toBe(false);
    expect(proposing.takeType()).toBe(false);
  });
});

describe('the evidence of a proposal', () => {
  const of = (pieces: [string, boolean][]): SheetProposal => ({ ...day, places: [{ ...day.places[0]!, pieces }] });

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
