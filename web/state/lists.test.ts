import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { PullListRow } from '@/api/types';

const kept = vi.hoisted(() => {
  const store = new Map<string, string>();
  vi.stubGlobal('localStorage', {
    getItem: (key: string) => store.get(key) ?? null,
    setItem: (key: string, value: string) => void store.set(key, value),
  });
  return store;
});
const api = vi.hoisted(() => ({ lists: vi.fn(), makeList: vi.fn(), addToList: vi.fn(), takeOutOfList: vi.fn() }));
const app = vi.hoisted(() => ({ say: vi.fn(), fail: vi.fn() }));
vi.mock('@/api/client', () => ({ api }));
vi.mock('./app.svelte', () => ({ app }));
const { lists } = await import('./lists.svelte');

const row = (id: number, name: string, more: Partial<PullListRow> = {}) =>
  ({ id, name, documents: 0, may_change: true, ...more }) as PullListRow;

beforeEach(() => {
  vi.resetAllMocks();
  kept.clear();
  lists.all = [];
  lists.known = false;
  lists.choose(0);
});

describe('pull lists', () => {
  it('are gathered into the one that was chosen, else the first that may be changed', async () => {
    api.lists.mockResolvedValue({ lists: [row(1, 'Of others', { may_change: false }), row(2, 'Tender'), row(3, 'Hearing')] });
    await lists.load();
    expect(lists.current?.name).toBe('Tender');
    lists.choose(3);
    expect([lists.current?.name, kept.get('pull-list')]).toEqual(['Hearing', '3']);
    lists.choose(1);
    expect(lists.current?.name).toBe('Tender');
  });

  it('are fetched, and the first is made, when something is gathered', async () => {
    api.lists.mockResolvedValue({ lists: [] });
    api.makeList.mockResolvedValue(row(7, 'New pull list'));
    api.addToList.mockResolvedValue({ added: 2, new: ['D-1', 'D-3'], list: row(7, 'New pull list', { documents: 2 }) });
    await lists.gather({ documents: ['D-1', 'D-2', 'D-3'] });
    expect(api.makeList).toHaveBeenCalledExactlyOnceWith('New pull list');
    expect(api.addToList).toHaveBeenCalledExactlyOnceWith(7, { documents: ['D-1', 'D-2', 'D-3'] });
    expect(lists.all).toMatchObject([{ id: 7, documents: 2 }]);
    expect(app.say).toHaveBeenCalledWith('2 documents added to “New pull list”.', { undo: expect.any(Function) });
    // Only what is new in it is taken out again.
    api.takeOutOfList.mockResolvedValue(undefined);
    await app.say.mock.lastCall![1].undo();
    expect(api.takeOutOfList).toHaveBeenCalledWith(7, ['D-1', 'D-3']);
  });

  it('are waited for while one is made, so that nothing falls into another', async () => {
    api.lists.mockResolvedValue({ lists: [row(2, 'Tender')] });
    let made: (of: PullListRow) => void = () => undefined;
    api.makeList.mockReturnValue(new Promise((done) => (made = done)));
    api.addToList.mockResolvedValue({ added: 1, new: ['D-1'], list: row(8, 'Hearing', { documents: 1 }) });
    const making = lists.make('Hearing');
    const gathering = lists.gather({ documents: ['D-1'] });
    await Promise.resolve();
    expect(api.addToList).not.toHaveBeenCalled();
    made(row(8, 'Hearing'));
    await Promise.all([making, gathering]);
    expect(api.addToList).toHaveBeenCalledExactlyOnceWith(8, { documents: ['D-1'] });
  });

  it('say when there was nothing to add, and when it failed, and stay as they are', async () => {
    api.lists.mockResolvedValue({ lists: [row(2, 'Tender')] });
    api.addToList
      .mockResolvedValueOnce({ added: 0, new: [], list: row(2, 'Tender') })
      .mockRejectedValueOnce(new Error('The line is dead.'));
    await lists.gather({ documents: ['D-1'] });
    expect(app.say).toHaveBeenCalledWith('Already in “Tender”.', { undo: undefined });
    await lists.gather({ documents: ['D-1'] });
    expect(app.fail).toHaveBeenCalledWith(expect.any(Error), 'Nothing was added.');
    expect(lists.all.map((l) => l.id)).toEqual([2]);
  });
});
