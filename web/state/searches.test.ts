import { describe, expect, it, vi } from 'vitest';

const api = vi.hoisted(() => ({ searches: vi.fn() }));
vi.mock('@/api/client', () => ({ api }));
vi.mock('@/state/app.svelte', () => ({ app: { reach: 'same_stem' } }));
const { asksTheSame, keptOf, searches } = await import('./searches.svelte');
const { emptySearch } = await import('./search');

describe('a search that is kept', () => {
  it('has what is asked, and not what is looked at', () => {
    const kept = keptOf({
      ...emptySearch,
      words: 'gate',
      open: 'D-1',
      within: 'x',
      layout: 'steps',
      sort: [{ field: 'a', descending: true }],
    });
    expect(kept).toEqual({ words: 'gate', any: false, criteria: [], view: '', where: [], reach: 'same_stem' });
    expect(keptOf({ ...emptySearch, words: 'gate', reach: 'misspelt' })).toHaveProperty('reach', 'misspelt');
    expect(keptOf({ ...emptySearch, outside: [] })).toHaveProperty('outside', []);
  });

  it('is the same as another that asks the same', () => {
    const one = keptOf({ ...emptySearch, words: 'gate', criteria: [{ cql: 'a', negated: false, on: true }] });
    const other = {
      criteria: [{ on: true, negated: false, cql: 'a' }],
      where: [],
      view: '',
      any: false,
      words: 'gate',
      reach: 'same_stem' as const,
    };
    expect(asksTheSame(one, other)).toBe(true);
    for (const change of [
      { words: 'lock' },
      { any: true },
      { reach: 'as_written' },
      { view: 'v' },
      { where: ['title' as const] },
      { outside: [] },
      { criteria: [] },
    ])
      expect(asksTheSame(one, { ...one, ...change } as never)).toBe(false);
  });
});

describe('the searches of a person', () => {
  it('say how much is new in those that are watched', async () => {
    api.searches.mockResolvedValue({ searches: [{ new: 2 }, { new: null }, { new: 3 }], recent: [{ words: 'x' }] });
    await searches.load();
    expect(searches.fresh).toBe(5);
    expect(searches.known).toBe(true);
    expect(searches.recent).toHaveLength(1);
  });
});
