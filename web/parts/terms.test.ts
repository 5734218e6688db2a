import type { Term } from '@/api/types';
import { describe, expect, it } from 'vitest';
import { fitting, inTreeOrder, levelsOf, nameOf, searched } from './terms';

const term = (code: string, parent: string | null = null, more: Partial<Term> = {}): Term => ({
  code,
  label: code.toUpperCase(),
  parent,
  synonyms: [],
  ...more,
});
const tree = [term('a'), term('b'), term('c', 'a', { also_below: ['b'] }), term('d', 'c'), term('e', 'gone')];

describe('the order of a tree', () => {
  it('shows a term at each of its places, with all below it', () => {
    expect(inTreeOrder(tree).map((c) => [c.key, c.depth])).toEqual([
      ['a', 0],
      ['a/c', 1],
      ['a/c/d', 2],
      ['b', 0],
      ['b/c', 1],
      ['b/c/d', 2],
      ['e', 0],
    ]);
  });

  it('ends where terms stand in a circle', () => {
    const circle = [term('top'), term('x', 'top', { also_below: ['y'] }), term('y', 'x')];
    expect(inTreeOrder(circle).map((c) => c.key)).toEqual(['top', 'top/x', 'top/x/y']);
    expect(
      levelsOf(circle)
        .get('y')
        ?.map((t) => t.code),
    ).toEqual(['x']);
  });

  it('names a term by its notation, unless its label has it', () => {
    expect(nameOf({ label: 'Weirs', notation: 'NAV.1' })).toBe('NAV.1 Weirs');
    expect(nameOf({ label: 'NAV.1 Weirs', notation: 'NAV.1' })).toBe('NAV.1 Weirs');
  });
});

describe('what may be chosen', () => {
  const all = [...tree, term('old', 'a', { retired: true }), term('only', 'b', { under: ['x'] })];
  const codes = (terms: Term[]) => terms.map((t) => t.code);

  it('is below the term to begin from, by any of its parents', () => {
    expect(codes(fitting(all, { from: 'b' }))).toEqual(['b', 'c', 'd', 'only']);
    expect(codes(fitting(all, { from: 'a' }))).toEqual(['a', 'c', 'd']);
  });

  it('is not retired, unless it is asked for or chosen already', () => {
    expect(codes(fitting(all, {}))).not.toContain('old');
    expect(codes(fitting(all, { retired: true }))).toContain('old');
    expect(codes(fitting(all, { present: ['old'] }))).toContain('old');
  });

  it('goes with the value that the choice depends on', () => {
    expect(codes(fitting(all, { beside: ['y'] }))).not.toContain('only');
    expect(codes(fitting(all, { beside: ['x'] }))).toContain('only');
    expect(codes(fitting(all, { beside: null }))).toContain('only');
  });

  it('is found once by any part of its name, whatever accents and capitals', () => {
    const items = [
      { value: 'c', label: 'Écluse', key: 'a/c' },
      { value: 'c', label: 'Écluse', key: 'b/c' },
      { value: 'd', label: 'Weir', hint: 'barrage' },
    ];
    expect(searched(items, ' ecl ').map((i) => i.key)).toEqual(['a/c']);
    expect(searched(items, 'RRAG').map((i) => i.value)).toEqual(['d']);
    expect(searched(items, ' ')).toHaveLength(3);
  });
});
