import type { Term } from '@/api/types';
import { parentsOf } from '@/parts/terms';
import { describe, expect, it } from 'vitest';
import { below, branch, freeCode, merge, place, reparent } from './terms';

const term = (code: string, parent: string | null = null, more: Partial<Term> = {}): Term => ({
  code,
  label: code,
  parent,
  synonyms: [],
  ...more,
});
const made = () => [term('a'), term('b'), term('c', 'a', { also_below: ['b'] }), term('d', 'c'), term('e', 'b')];
const at = (terms: Term[], code: string) => terms.find((t) => t.code === code)!;
const codes = (terms: Term[]) => terms.map((t) => t.code);

describe('trees with several places', () => {
  it('lists a term below each of its parents, and its branch by all', () => {
    const terms = made();
    expect(codes(below(terms, 'a'))).toEqual(['c']);
    expect(codes(below(terms, 'b'))).toEqual(['c', 'e']);
    expect([...branch(terms, 'b')].sort()).toEqual(['b', 'c', 'd', 'e']);
  });

  it('moves the place that was taken up and leaves the others', () => {
    const terms = made();
    place(terms, 'c', 'e', null, 'b');
    expect(parentsOf(at(terms, 'c'))).toEqual(['a', 'e']);
    place(terms, 'c', 'e', null, 'a');
    expect(parentsOf(at(terms, 'c'))).toEqual(['e']);
    place(terms, 'c', null, 'a');
    expect(parentsOf(at(terms, 'c'))).toEqual([]);
    expect(codes(below(terms, null))).toEqual(['a', 'c', 'b']);
  });

  it('puts nothing below itself', () => {
    const terms = made();
    const before = JSON.stringify(terms);
    place(terms, 'b', 'd', null);
    expect(JSON.stringify(terms)).toBe(before);
  });

  it('puts a term behind a sibling, or first', () => {
    const terms = [term('p'), term('x', 'p'), term('y', 'p'), term('z', 'p')];
    place(terms, 'z', 'p', 'x');
    expect(codes(below(terms, 'p'))).toEqual(['x', 'z', 'y']);
    place(terms, 'y', 'p', null);
    expect(codes(below(terms, 'p'))).toEqual(['y', 'x', 'z']);
  });

  it('takes a parent away, and the next one is its place', () => {
    const c = at(made(), 'c');
    reparent(c, 'a', null);
    expect([c.parent, c.also_below]).toEqual(['b', []]);
    reparent(c, 'b', null);
    expect(c.parent).toBeNull();
  });

  it('merges names and everything below, once', () => {
    const terms = [
      ...made(),
      term('g', 'a', { also_below: ['b'], synonyms: ['G2'] }),
      term('r', null, { retired: true, replaced_by: 'a' }),
    ];
    merge(terms, 'a', 'b');
    expect(at(terms, 'a')).toMatchObject({ retired: true, replaced_by: 'b' });
    expect(parentsOf(at(terms, 'c'))).toEqual(['b']);
    expect(parentsOf(at(terms, 'g'))).toEqual(['b']);
    expect(at(terms, 'r').replaced_by).toBe('b');
    expect(at(terms, 'b').synonyms).toEqual(['a']);
  });

  it('makes a code that none has', () => {
    expect(freeCode(made(), 'c')).toBe('c_2');
    expect(freeCode([term('term'), term('term_2')], '')).toBe('term_3');
  });
});
