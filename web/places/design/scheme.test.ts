import type { Term } from '@/api/types';
import { parentsOf } from '@/parts/terms';
import fc from 'fast-check';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { SchemeTree } from './scheme.svelte';
import { branch } from './terms';

const term = (code: string, parent: string | null = null, more: Partial<Term> = {}): Term => ({
  code,
  label: code.toUpperCase(),
  parent,
  synonyms: [],
  ...more,
});
let terms: Term[];
const focus = vi.fn();
const of = (code: string) => terms.find((t) => t.code === code)!;
function treeOf(made: Term[], known: string[] = made.map((t) => t.code)): SchemeTree {
  terms = made;
  return new SchemeTree({ terms: () => terms, known: new Set(known), focus });
}
/** Rows as they stand: how deep and which. */
const seen = (tree: SchemeTree) => tree.rows.map((r) => '-'.repeat(r.depth) + r.term.code);
const press = (tree: SchemeTree, key: string, held = {}) => tree.press(key, tree.row!, held);

beforeEach(() => focus.mockReset());

describe('what is in sight', () => {
  it('begins with the top opened, and a large tree closed', () => {
    expect(seen(treeOf([term('a'), term('b', 'a'), term('c', 'b'), term('d')]))).toEqual(['a', '-b', 'd']);
    const many = Array.from({ length: 600 }, (_, i) => term(`t${i}`, i === 0 ? null : 't0'));
    expect(seen(treeOf(many))).toEqual(['t0']);
  });

  it('shows a concept of two places at both, and goes to the one that was meant', () => {
    const tree = treeOf([term('a'), term('b'), term('c', 'a', { also_below: ['b'] })]);
    expect(seen(tree)).toEqual(['a', '-c', 'b', '-c']);
    tree.choose('c', 'b');
    expect(tree.row?.key).toBe('b/c');
    press(tree, 'ArrowLeft');
    expect(tree.row?.key).toBe('b');
  });

  it('ends at a circle', () => {
    const tree = treeOf([term('a', null), term('b', 'a', { also_below: ['b'] })]);
    tree.open.b = true;
    expect(seen(tree)).toEqual(['a', '-b']);
  });
});

describe('keys', () => {
  it('go up and down, in and out, to the ends', () => {
    const tree = treeOf([term('a'), term('b', 'a'), term('c')]);
    for (const [key, to] of [
      ['ArrowDown', 'b'],
      ['ArrowDown', 'c'],
      ['ArrowDown', 'c'],
      ['Home', 'a'],
      ['End', 'c'],
      ['ArrowUp', 'b'],
      ['ArrowLeft', 'a'],
    ] as const) {
      expect(press(tree, key), key).toBe(true);
      expect(tree.at, key).toBe(to);
    }
    press(tree, 'ArrowLeft');
    expect(seen(tree)).toEqual(['a', 'c']);
    press(tree, 'ArrowRight');
    expect(seen(tree)).toEqual(['a', '-b', 'c']);
    expect(press(tree, 'q')).toBe(false);
  });

  it('with Alt move a concept among, into and out of its neighbours', () => {
    const tree = treeOf([term('a'), term('b'), term('c')]);
    tree.go('c');
    press(tree, 'ArrowUp', { alt: true });
    expect(seen(tree)).toEqual(['a', 'c', 'b']);
    press(tree, 'ArrowDown', { alt: true });
    expect(seen(tree)).toEqual(['a', 'b', 'c']);
    press(tree, 'ArrowRight', { alt: true });
    expect(seen(tree)).toEqual(['a', 'b', '-c']);
    press(tree, 'ArrowLeft', { alt: true });
    expect(seen(tree)).toEqual(['a', 'b', 'c']);
    expect(tree.at).toBe('c');
  });

  it('add beside and below, and put the focus on the name', () => {
    const tree = treeOf([term('a'), term('b')]);
    press(tree, 'Enter');
    expect(seen(tree)).toEqual(['a', 'concept', 'b']);
    tree.rename(of('concept'), 'Locks');
    expect(tree.at).toBe('locks');
    tree.choose('a', null);
    press(tree, 'Insert');
    expect(parentsOf(of('concept'))).toEqual(['a']);
    expect(focus).toHaveBeenCalledWith('label');
    tree.choose('a', null);
    expect(press(tree, 'Enter', { ctrl: true })).toBe(false);
  });

  it('take out what no document can have yet, and nothing else', () => {
    const tree = treeOf([term('a'), term('b', 'a'), term('new')], ['a', 'b']);
    expect(press(tree, 'Delete')).toBe(false);
    tree.go('new');
    expect(press(tree, 'Delete')).toBe(true);
    expect(seen(tree)).toEqual(['a', '-b']);
    expect(tree.at).toBe('a');
  });
});

describe('acts', () => {
  it('keep the code of a concept that documents may have, whatever it is called', () => {
    const tree = treeOf([term('a'), term('x', 'a')], ['a']);
    tree.rename(of('a'), 'Weirs');
    expect(of('a').label).toBe('Weirs');
    tree.rename(of('x'), 'Weirs of the north');
    expect(terms.map((t) => t.code)).toEqual(['a', 'weirs_of_the_north']);
  });

  it('moves what stood below a concept up when it is taken out', () => {
    const tree = treeOf([term('a'), term('b', 'a'), term('c', 'b')]);
    tree.remove(of('b'));
    expect(of('c').parent).toBe('a');
  });

  it('drops into and behind, never below itself', () => {
    const tree = treeOf([term('a'), term('b', 'a'), term('c')]);
    tree.dragged = { code: 'a', from: null };
    expect(tree.mayTake(of('b'))).toBe(false);
    expect(tree.mayTake(of('c'))).toBe(true);
    tree.over = { key: 'c', how: 'into' };
    tree.drop(tree.rows.find((r) => r.key === 'c')!);
    expect(seen(tree)).toEqual(['c', '-a', '--b']);
    tree.dragged = { code: 'b', from: 'a' };
    tree.over = { key: 'c', how: 'after' };
    tree.drop(tree.rows.find((r) => r.key === 'c')!);
    expect(seen(tree)).toEqual(['c', '-a', 'b']);
    expect([tree.dragged, tree.over]).toEqual([null, null]);
  });

  it('asks before it moves, merges, splits or retires', () => {
    const tree = treeOf([term('a'), term('b'), term('c', 'b')]);
    tree.go('c');
    tree.ask('move');
    expect(tree.asked).toMatchObject({ act: 'move', to: 'b' });
    tree.asked!.to = 'a';
    tree.act();
    expect(parentsOf(of('c'))).toEqual(['a']);
    tree.ask('split');
    expect(tree.ready).toBe(false);
    tree.asked!.to = 'Weirs';
    expect(tree.ready).toBe(false);
    tree.asked!.criterion = 'year = 1990';
    expect(tree.ready).toBe(true);
    tree.act();
    expect(of('weirs')).toMatchObject({ parent: 'a', from: { code: 'c', criterion: 'year = 1990' } });
    expect(tree.at).toBe('weirs');
    tree.go('b');
    tree.ask('merge');
    expect(tree.ready).toBe(false);
    tree.asked!.to = 'a';
    tree.act();
    expect(of('b')).toMatchObject({ retired: true, replaced_by: 'a' });
    tree.go('a');
    tree.ask('retire');
    expect(tree.ready).toBe(true);
    tree.act();
    expect(of('a')).toMatchObject({ retired: true, replaced_by: null });
    expect(tree.asked).toBeNull();
  });

  it('stays last when it is moved to where it is', () => {
    const tree = treeOf([term('a'), term('b', 'a'), term('c', 'a')]);
    tree.go('c');
    tree.ask('move');
    tree.act();
    expect(seen(tree)).toEqual(['a', '-b', '-c']);
  });

  it('keeps every concept once and none below itself, whatever is pressed', () => {
    const keys = fc.constantFrom('ArrowUp', 'ArrowDown', 'ArrowLeft', 'ArrowRight', 'Home', 'End');
    fc.assert(
      fc.property(fc.array(fc.tuple(keys, fc.boolean()), { maxLength: 40 }), (pressed) => {
        const tree = treeOf([term('a'), term('b', 'a'), term('c', 'a', { also_below: ['d'] }), term('d'), term('e', 'd')]);
        for (const [key, alt] of pressed) press(tree, key, { alt });
        expect(terms.map((t) => t.code).sort()).toEqual(['a', 'b', 'c', 'd', 'e']);
        for (const t of terms) for (const p of parentsOf(t)) expect(branch(terms, t.code).has(p)).toBe(false);
        expect(tree.row).toBeDefined();
      }),
    );
  });
});
