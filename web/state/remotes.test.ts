import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { RemoteAnswer, Search } from '@/api/types';

const api = vi.hoisted(() => ({ searchRemote: vi.fn() }));
vi.mock('@/api/client', () => ({ api }));
const { remotes } = await import('./remotes.svelte');

const answer = (state: RemoteAnswer['state'], total: number | null, positions: number[] = []) =>
  ({ repository: 'far', name: 'Far', state, says: state, total, rows: positions.map((position) => ({ position })) }) as RemoteAnswer;
const search = { q: 'gate' } as unknown as Search;
let asked = 0;
const ask = (codes = ['far']) => remotes.ask(codes, `question ${++asked}`, search);
const positions = (code = 'far') => remotes.answers[code]?.rows.map((r) => r.position);

beforeEach(() => {
  vi.useFakeTimers();
  api.searchRemote.mockReset();
});
afterEach(() => vi.useRealTimers());

describe('remote repositories', () => {
  it('are asked after a pause, once for a question that was changed meanwhile', async () => {
    api.searchRemote.mockResolvedValue(answer('found', 2, [1, 2]));
    ask();
    expect(remotes.answers).toEqual({ far: null });
    await vi.advanceTimersByTimeAsync(100);
    ask();
    await vi.advanceTimersByTimeAsync(400);
    expect(api.searchRemote).toHaveBeenCalledOnce();
    expect(positions()).toEqual([1, 2]);
    expect(remotes.count('far')).toBe('2');
    expect(remotes.row('far', 2)).toMatchObject({ position: 2 });
    expect(remotes.row('far', 3)).toBeNull();
    // The same question is not asked again.
    remotes.ask(['far'], `question ${asked}`, search);
    await vi.advanceTimersByTimeAsync(1000);
    expect(api.searchRemote).toHaveBeenCalledOnce();
  });

  it('say nothing any more to a question that is over', async () => {
    let late: (of: RemoteAnswer) => void = () => undefined;
    api.searchRemote.mockReturnValueOnce(new Promise((done) => (late = done))).mockResolvedValue(answer('found', 1, [7]));
    ask();
    await vi.advanceTimersByTimeAsync(400);
    ask();
    await vi.advanceTimersByTimeAsync(400);
    late(answer('found', 1, [9]));
    await vi.advanceTimersByTimeAsync(0);
    expect(positions()).toEqual([7]);
  });

  it('each answer in their own time, and one that fails hinders no other', async () => {
    api.searchRemote.mockImplementation((code: string) =>
      code === 'far' ? Promise.reject(new Error('The line is dead.')) : Promise.resolve(answer('found', 1, [1])),
    );
    ask(['far', 'near']);
    await vi.advanceTimersByTimeAsync(400);
    expect(remotes.answers['far']).toMatchObject({ state: 'unreachable', says: 'The line is dead.', total: null, rows: [] });
    expect(remotes.count('far')).toBe('');
    expect(positions('near')).toEqual([1]);
  });

  it('are asked again while they are busy, a few times', async () => {
    api.searchRemote.mockResolvedValue(answer('busy', null));
    ask();
    await vi.advanceTimersByTimeAsync(400);
    expect(remotes.answers['far']).toBeNull();
    await vi.advanceTimersByTimeAsync(20_000);
    expect(api.searchRemote).toHaveBeenCalledTimes(6);
    expect(remotes.answers['far']).toMatchObject({ state: 'busy' });
  });

  it('give more on top of what is there, which stays when it cannot be had', async () => {
    api.searchRemote.mockResolvedValueOnce(answer('found', 3, [1, 2]));
    ask();
    await vi.advanceTimersByTimeAsync(400);
    api.searchRemote.mockResolvedValueOnce(answer('unreachable', null));
    await remotes.more('far', search);
    expect(positions()).toEqual([1, 2]);
    expect(remotes.answers['far']).toMatchObject({ total: 3, says: 'unreachable' });
    api.searchRemote.mockResolvedValueOnce(answer('found', 3, [3]));
    await remotes.more('far', search);
    expect(positions()).toEqual([1, 2, 3]);
    expect(api.searchRemote).toHaveBeenLastCalledWith('far', expect.objectContaining({ offset: 2 }), expect.anything());
    // All of it is there.
    await remotes.more('far', search);
    expect(api.searchRemote).toHaveBeenCalledTimes(3);
  });
});
