import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { Browsing } from './browsing.svelte';

beforeEach(() => void vi.useFakeTimers());
afterEach(() => vi.useRealTimers());

/** A tree of terms a level at a time: a below nothing, b and c below a, a again below c. */
function source(key = 'one') {
  const levels: Record<string, { value: string; label: string; more?: boolean }[]> = {
    '': [{ value: 'a', label: 'A', more: true }],
    a: [
      { value: 'b', label: 'B' },
      { value: 'c', label: 'C', more: true },
    ],
    c: [{ value: 'a', label: 'A', more: true }],
  };
  return {
    key,
    below: vi.fn(async (code: string) => levels[code] ?? []),
    matching: vi.fn(async (typed: string) => [{ value: typed, label: typed.toUpperCase() }]),
  };
}

const settle = () => vi.advanceTimersByTimeAsync(200);
const shown = (browsing: Browsing, typed = '') => browsing.rows(typed).map((row) => `${'·'.repeat(row.depth ?? 0)}${row.value}`);

describe('a list at hand', () => {
  it('is narrowed by what is typed, and never longer than can be drawn', () => {
    const items = Array.from({ length: 500 }, (_, i) => ({ value: String(i), label: `Gate ${i}` }));
    const browsing = new Browsing(
      () => items,
      () => undefined,
    );
    expect(browsing.rows('')).toHaveLength(200);
    expect(browsing.rows('gate 499').map((r) => r.value)).toEqual(['499']);
  });
});

describe('a large tree', () => {
  it('is fetched as it is opened, each level once', async () => {
    const of = source();
    const browsing = new Browsing(
      () => [],
      () => of as never,
    );
    browsing.start();
    await settle();
    browsing.start();
    expect(shown(browsing)).toEqual(['a']);
    browsing.toggle(browsing.rows('')[0]!);
    await settle();
    expect(shown(browsing)).toEqual(['a', '·b', '·c']);
    browsing.toggle(browsing.rows('')[0]!);
    expect(shown(browsing)).toEqual(['a']);
    browsing.toggle(browsing.rows('')[0]!);
    expect(of.below.mock.calls).toEqual([[''], ['a']]);
  });

  it('does not go round in a circle', async () => {
    const of = source();
    const browsing = new Browsing(
      () => [],
      () => of as never,
    );
    browsing.start();
    await settle();
    for (const place of [0, 2, 3]) {
      browsing.toggle(browsing.rows('')[place]!, true);
      await settle();
    }
    expect(shown(browsing)).toEqual(['a', '·b', '·c', '··a']);
  });

  it('asks for what is typed after a pause, once for what was typed last', async () => {
    const of = source();
    const browsing = new Browsing(
      () => [],
      () => of as never,
    );
    browsing.type('l');
    browsing.type('lo');
    expect(browsing.busy).toBe(true);
    await settle();
    expect(of.matching).toHaveBeenCalledOnce();
    expect(shown(browsing, 'lo')).toEqual(['lo']);
    expect(browsing.busy).toBe(false);
    of.matching.mockRejectedValueOnce(new Error('offline'));
    browsing.type('loc');
    await settle();
    expect(shown(browsing, 'loc')).toEqual([]);
  });

  it('begins anew when it is another one, and closes what could not be had', async () => {
    let of = source();
    const browsing = new Browsing(
      () => [],
      () => of as never,
    );
    browsing.start();
    await settle();
    of.below.mockRejectedValueOnce(new Error('offline'));
    browsing.toggle(browsing.rows('')[0]!);
    await settle();
    expect(browsing.isOpen(browsing.rows('')[0]!)).toBe(false);
    of = source('two');
    browsing.start();
    expect(shown(browsing)).toEqual([]);
    await settle();
    expect(of.below).toHaveBeenCalledExactlyOnceWith('');
  });
});
