import { describe, expect, it, vi } from 'vitest';

const kept = new Map<string, string>();
vi.stubGlobal('localStorage', { getItem: (k: string) => kept.get(k) ?? null, setItem: (k: string, v: string) => void kept.set(k, v) });
const { FacetAsks } = await import('./facets.svelte');

describe('how facets are asked for', () => {
  it('is kept as far as it is a wish, and not how much was opened', () => {
    const asks = new FacetAsks();
    expect(asks.of('vessel')).toEqual({ order: 'count' });
    asks.change('vessel', { order: 'name', most: 50 });
    asks.change('reach', { opened: ['n'] });
    expect(asks.list).toEqual([
      { field: 'vessel', order: 'name', most: 50 },
      { field: 'reach', order: 'count', opened: ['n'] },
    ]);
    const again = new FacetAsks();
    expect(again.of('vessel')).toEqual({ order: 'name' });
    expect(again.list).toContainEqual({ field: 'reach', order: 'count' });
  });

  it('begins anew where what was kept cannot be read', () => {
    kept.set('brenvic.facets', '{broken');
    expect(new FacetAsks().list).toEqual([]);
  });
});
