import fc from 'fast-check';
import { describe, expect, it, vi } from 'vitest';
import { Columns, sortedBy } from './columns.svelte';

function columns(wanted: string[], more: { room?: number; width?: Record<string, number>; short?: string[]; folded?: string[] } = {}) {
  const keep = vi.fn();
  return {
    keep,
    of: new Columns({
      wanted: () => wanted,
      isFolded: (code) => more.folded?.includes(code) ?? false,
      width: (code) => more.width?.[code] ?? null,
      room: () => more.room ?? 1200,
      isShort: (code) => more.short?.includes(code) ?? false,
      keep,
    }),
    kept: () => (keep.mock.calls.at(-1)?.[0] as { code: string }[] | undefined)?.map((c) => c.code).join(''),
  };
}

describe('columns', () => {
  it('are shown as far as there is room, one at least', () => {
    expect(columns(['a', 'b', 'c'], { room: 230 + 2 * 108 }).of.shown).toEqual(['a', 'b']);
    expect(columns(['a', 'b'], { room: 100 }).of.shown).toEqual(['a']);
    expect(columns(['a', 'b'], { room: 450, width: { a: 200 } }).of.shown).toEqual(['a']);
    expect(columns([]).of.shown).toEqual([]);
  });

  it('that have no room are turned to, and back', () => {
    const { of } = columns(['a', 'b', 'c', 'd', 'e'], { room: 230 + 2 * 108 });
    expect([of.shown.join(''), of.before, of.behind]).toEqual(['ab', 0, 3]);
    of.turn(1);
    expect([of.shown.join(''), of.before, of.behind]).toEqual(['cd', 2, 1]);
    of.turn(1);
    expect([of.shown.join(''), of.before, of.behind]).toEqual(['e', 4, 0]);
    of.turn(-1);
    of.turn(-1);
    of.turn(-1);
    expect([of.shown.join(''), of.before]).toEqual(['ab', 0]);
  });

  it('that are folded leave their room to others and keep their place', () => {
    const { of, kept } = columns(['a', 'b', 'c'], { room: 230 + 2 * 108, folded: ['a'] });
    expect([of.shown.join(''), of.behind]).toEqual(['bc', 0]);
    of.move('c', -1);
    expect(kept()).toBe('acb');
    expect(columns(['a'], { folded: ['a'] }).of.shown).toEqual([]);
  });

  it('are as wide as they are drawn, short ones narrower by themselves', () => {
    const { of } = columns(['a', 'b', 'c'], { width: { b: 90 }, short: ['a'] });
    expect(of.template).toBe('minmax(180px, 2.6fr) minmax(76px, 0.7fr) 90px minmax(84px, 1fr)');
    of.draw('c', 5000.4);
    of.draw('b', 3);
    expect([of.widthOf('c'), of.widthOf('b'), of.widthOf('a')]).toEqual([800, 40, null]);
  });

  it('are widened by keys, and kept', () => {
    const { of, keep } = columns(['a', 'b']);
    of.widen('a', 1);
    expect(keep).toHaveBeenLastCalledWith([
      { code: 'a', width: 124 },
      { code: 'b', width: null },
    ]);
    of.widen('a', -1);
    expect(of.widthOf('a')).toBe(108);
  });

  it('are moved by one place, and not beyond the ends', () => {
    const { of, keep, kept } = columns(['a', 'b', 'c']);
    of.move('b', -1);
    expect(kept()).toBe('bac');
    of.move('b', 1);
    expect(kept()).toBe('acb');
    for (const [code, by] of [
      ['a', -1],
      ['c', 1],
      ['x', 1],
    ] as const)
      of.move(code, by);
    expect(keep).toHaveBeenCalledTimes(2);
  });

  it('are put where they are dropped: all are there still, and the dragged one is beside that place', () => {
    fc.assert(
      fc.property(fc.uniqueArray(fc.stringMatching(/^[a-z]$/), { minLength: 2, maxLength: 8 }), fc.nat(), fc.nat(), (wanted, i, j) => {
        const [from, on] = [wanted[i % wanted.length]!, wanted[j % wanted.length]!];
        const { of, keep, kept } = columns(wanted);
        of.dragged = from;
        of.dropOn(on);
        expect(of.dragged).toBe('');
        if (from === on) {
          expect(keep).not.toHaveBeenCalled();
          return;
        }
        const now = [...kept()!];
        expect(now.toSorted()).toEqual(wanted.toSorted());
        expect(now.indexOf(from)).toBe(wanted.indexOf(on));
      }),
    );
  });
});

describe('sorting', () => {
  const up = (field: string) => ({ field, descending: false });
  const down = (field: string) => ({ field, descending: true });

  it('goes up, then down, then is gone', () => {
    expect(sortedBy([], 'a', false)).toEqual([up('a')]);
    expect(sortedBy([up('a')], 'a', false)).toEqual([down('a')]);
    expect(sortedBy([down('a')], 'a', false)).toEqual([]);
    expect(sortedBy([up('b'), up('c')], 'a', false)).toEqual([up('a')]);
  });

  it('takes one more behind the others, and changes one where it stands', () => {
    expect(sortedBy([up('b')], 'a', true)).toEqual([up('b'), up('a')]);
    expect(sortedBy([up('a'), up('b')], 'a', true)).toEqual([down('a'), up('b')]);
    expect(sortedBy([down('a'), up('b')], 'a', true)).toEqual([up('b')]);
  });
});
