import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { api } from '@/api/client';
import type { Bringing } from '@/api/types';
import { batches, BringingIn, type Outcome, pathIn } from './bringing.svelte';

const counted = (counts: Partial<Record<Outcome, number>>): Bringing['counts'] =>
  Object.entries(counts).map(([outcome, count]) => ({ outcome: outcome as Outcome, count, noted: 0, examples: [] }));
const bringing = (state: Bringing['state'], counts: Partial<Record<Outcome, number>> = {}, more: Partial<Bringing> = {}): Bringing => ({
  library: 'works',
  what: 'table',
  file_name: 'letters.csv',
  state,
  says: '',
  with_rest: false,
  counts: counted(counts),
  ...more,
});
const file = (path: string, size = 1): File => {
  const made = new File(['x'.repeat(size)], path.split('/').at(-1)!);
  Object.defineProperty(made, 'webkitRelativePath', { value: path });
  return made;
};

/** A server that wants some paths, page by page, and remembers what came. */
function server(wanted: string[], page = 3) {
  const came: string[] = [];
  const left = () => wanted.filter((path) => !came.includes(path));
  vi.spyOn(api, 'wantedFiles').mockImplementation((after) => {
    const from = after === '' ? 0 : wanted.indexOf(after) + 1;
    const sources = wanted.slice(from).filter((path) => left().includes(path));
    return Promise.resolve({ sources: sources.slice(0, page) });
  });
  const sent = vi.spyOn(api, 'bringFiles').mockImplementation((files) => {
    came.push(...files.map((f) => f.source));
    return Promise.resolve({ bringing: bringing('open', { in: came.length, new: left().length }) });
  });
  vi.spyOn(api, 'finishBringing').mockImplementation(() =>
    Promise.resolve({ bringing: bringing(left().length > 0 ? 'open' : 'done', { in: came.length, new: left().length }) }),
  );
  return { came, sent };
}

beforeEach(() => vi.useFakeTimers());
afterEach(() => {
  vi.useRealTimers();
  vi.restoreAllMocks();
});

describe('the files of a folder', () => {
  it('are known by their path within it', () => {
    expect(pathIn(file('office/2021/plan.pdf'))).toBe('2021/plan.pdf');
    expect(pathIn(file('office/plan.pdf'))).toBe('plan.pdf');
    expect(pathIn(new File([], 'plan.pdf'))).toBe('plan.pdf');
  });

  it('are sent a few together, large ones alone, each once and in their order', () => {
    const files = Array.from({ length: 25 }, (_, i) => ({ source: `f${i}`, file: file(`o/f${i}`) }));
    const big = { source: 'big', file: { size: 40 * 1024 * 1024 } as File };
    const made = batches([...files.slice(0, 3), big, ...files.slice(3)]);
    expect(made.map((b) => b.length)).toEqual([3, 1, 20, 2]);
    expect(made.flat().map((f) => f.source)).toEqual(['f0', 'f1', 'f2', 'big', ...files.slice(3).map((f) => f.source)]);
    expect(batches([])).toEqual([]);
  });
});

describe('bringing in', () => {
  it('looks first, then sends what is wanted and nothing else', async () => {
    const looked = vi.spyOn(api, 'lookAtBringing').mockResolvedValue({ bringing: bringing('ready', { new: 5, rest: 2 }) });
    vi.spyOn(api, 'openBringing').mockResolvedValue({ bringing: bringing('open', { new: 5, rest: 2 }) });
    const paths = ['a', 'b', 'c', 'd', 'e'];
    const { came } = server(paths);
    const it = new BringingIn();
    it.library = 'works';
    await it.choose([...paths, 'x', 'y'].map((path) => file(`office/${path}`)));
    expect(looked).toHaveBeenCalledWith('works', [...paths, 'x', 'y']);
    expect(it.toCome).toBe(5);
    it.rest = true;
    expect(it.toCome).toBe(7);
    it.rest = false;
    await it.begin();
    expect(came.toSorted()).toEqual(paths);
    expect([it.now?.state, it.sending, it.lacking]).toEqual(['done', false, 0]);
  });

  it('goes on where it was after the page was left, and names what is not in the folder', async () => {
    vi.spyOn(api, 'bringing').mockResolvedValue({ bringing: bringing('open', { in: 2, new: 3 }) });
    const { came } = server(['c', 'd', 'e']);
    const it = new BringingIn();
    await it.load();
    expect([it.isAtHand, it.toCome]).toEqual([false, 3]);
    await it.choose(['c', 'e'].map((path) => file(`office/${path}`)));
    expect(came).toEqual(['c', 'e']);
    expect([it.now?.state, it.lacking]).toEqual(['open', 1]);
  });

  it('keeps what is in when the connection is lost, and goes on', async () => {
    vi.spyOn(api, 'bringing').mockResolvedValue({ bringing: bringing('open', { new: 2 }) });
    const { came, sent } = server(['a', 'b'], 1);
    const answer = sent.getMockImplementation()!;
    sent.mockImplementationOnce(answer).mockRejectedValueOnce(new TypeError('offline'));
    const it = new BringingIn();
    await it.load();
    await it.choose(['a', 'b'].map((path) => file(`office/${path}`)));
    expect(it.trying.fault).not.toBe('');
    expect([came, it.sending]).toEqual([['a'], false]);
    await it.send();
    expect([came, it.trying.fault, it.now?.state]).toEqual([['a', 'b'], '', 'done']);
  });

  it('stops when it is paused', async () => {
    vi.spyOn(api, 'bringing').mockResolvedValue({ bringing: bringing('open', { new: 3 }) });
    const { came, sent } = server(['a', 'b', 'c'], 1);
    const answer = sent.getMockImplementation()!;
    const it = new BringingIn();
    await it.load();
    sent.mockImplementation((files) => {
      it.pause();
      return answer(files);
    });
    await it.choose(['a', 'b', 'c'].map((path) => file(`office/${path}`)));
    expect(came).toEqual(['a']);
    expect([it.now?.state, it.sending, it.isAtHand]).toEqual(['open', false, true]);
  });

  it('is asked about while it is looked at, and while documents change', async () => {
    const asked = vi.spyOn(api, 'bringing').mockResolvedValue({ bringing: bringing('looking') });
    const it = new BringingIn();
    await it.load();
    asked.mockResolvedValue({ bringing: bringing('open', { changed: 2 }) });
    await vi.advanceTimersByTimeAsync(800);
    asked.mockResolvedValue({ bringing: bringing('done', { altered: 2 }) });
    await vi.advanceTimersByTimeAsync(800);
    expect([it.now?.state, it.count('altered', 'changed')]).toEqual(['done', 2]);
    await vi.advanceTimersByTimeAsync(5_000);
    expect(asked).toHaveBeenCalledTimes(3);
  });
});
