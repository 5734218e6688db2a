import { beforeEach, describe, expect, it, vi } from 'vitest';
import { keepPlace, placeKept, ResultList } from './results.svelte';

const row = (n: number) => ({ ref: `D-${n}` }) as never;
function listOf(total: number, come = total) {
  const rows = Object.fromEntries(Array.from({ length: come }, (_, i) => [i, row(i)]));
  return new ResultList({ total: () => total, rows: () => rows, height: () => 30 });
}
const store = new Map<string, string>();
vi.stubGlobal('sessionStorage', {
  getItem: (key: string) => store.get(key) ?? null,
  setItem: (key: string, value: string) => void store.set(key, value),
});

describe('a list of results', () => {
  it('has only the lines in sight in the document', () => {
    const list = listOf(1000);
    list.seen = 300;
    expect([list.from, list.to]).toEqual([0, 15]);
    list.top = 3000;
    expect([list.inSight[0], list.inSight.at(-1)]).toEqual([95, 115]);
    list.top = 29_900;
    expect(list.to).toBe(999);
    expect(listOf(0).inSight).toEqual([]);
  });

  it('is gone through by keys, and not beyond its ends', () => {
    const list = listOf(100);
    list.seen = 300;
    for (const [key, from, to] of [
      ['ArrowDown', 3, 4],
      ['ArrowUp', 0, 0],
      ['PageDown', 95, 99],
      ['PageUp', 20, 11],
      ['Home', 50, 0],
      ['End', 50, 99],
    ] as const) {
      list.at = from;
      expect(list.target(key), key).toBe(to);
    }
    expect(list.target('x')).toBeUndefined();
    expect(listOf(0).target('ArrowDown')).toBeUndefined();
  });

  it('is scrolled only as far as a line needs', () => {
    const list = listOf(100);
    list.seen = 300;
    list.top = 600;
    expect(list.scrollFor(5, 30)).toBe(150);
    expect(list.scrollFor(25, 30)).toBe(600);
    expect(list.scrollFor(40, 30)).toBe(30 + 41 * 30 - 300);
  });

  it('selects rows one by one and stretches, those that have come', () => {
    const list = listOf(100, 6);
    list.select('D-1');
    list.select('D-3');
    list.select('D-1');
    expect(list.selected).toEqual(['D-3']);
    list.at = 2;
    list.selectTo(4);
    expect(list.selected).toEqual(['D-3', 'D-2', 'D-4']);
    expect(list.at).toBe(4);
    list.selectTo(8);
    expect(list.selected).toEqual(['D-3', 'D-2', 'D-4', 'D-5']);
    expect(list.isSelected(row(4))).toBe(true);
    expect(list.isSelected(undefined)).toBe(false);
    list.clear();
    expect(list.selected).toEqual([]);
  });

  it('counts what is attached among its lines', () => {
    const list = listOf(10);
    list.lines.open(2, [row(20), row(21)]);
    expect(list.length).toBe(12);
    expect(list.rowAt(4)?.ref).toBe('D-21');
    expect(list.rowAt(5)?.ref).toBe('D-3');
  });
});

describe('where a list stood', () => {
  beforeEach(() => store.clear());

  it('is kept by what it answered, the latest twenty', () => {
    for (let i = 0; i < 25; i++) keepPlace({ question: `q${i}`, top: i, at: i });
    keepPlace({ question: 'q24', top: 7, at: 8 });
    expect(placeKept('q24')).toEqual({ question: 'q24', top: 7, at: 8 });
    expect(placeKept('q5')).toBeDefined();
    expect(placeKept('q4')).toBeUndefined();
  });

  it('is forgotten when what was kept cannot be read', () => {
    store.set('brenvic.places', '{');
    expect(placeKept('q')).toBeUndefined();
    keepPlace({ question: 'q', top: 1, at: 0 });
    expect(placeKept('q')?.top).toBe(1);
  });
});
