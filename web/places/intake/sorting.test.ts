import type { PageSign } from '@/api/types';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import * as sorting from './sorting';

const sign = (page: number, more: Partial<PageSign> = {}): PageSign => ({ page, blank: false, skew: 0, turn: 0, separator: null, ...more });
const document = (ref: string, signs: PageSign[]) => ({
  ref,
  file_name: `${ref}.pdf`,
  file_kind: 'pdf',
  page_count: signs.length,
  version: 1,
  text_state: 'read',
  fault: '',
  signs,
});
const sheet = (type: string | null = null) => ({ separator: { library: null, type, dossier: null } });
/** Documents as lines: pages by number, those left out in brackets. */
const shown = (stacks: sorting.Stack[]) => stacks.map((s) => s.tiles.map((t) => (t.left_out ? `(${t.page})` : `${t.page}`)).join(' '));

function given(kinds: string) {
  const documents = [
    document(
      'A',
      [...kinds].map((kind, i) => sign(i + 1, kind === 'b' ? { blank: true } : kind === 'S' ? sheet('type') : {})),
    ),
  ];
  return { stacks: sorting.stacksOf(documents), signs: sorting.signsOf(documents) };
}

describe('splitting a stack', () => {
  it('begins a document behind each separator sheet, which is left out of it', () => {
    const { stacks, signs } = given('Sp.SppSSp'.replace('.', 'p'));
    const got = sorting.atSeparators(stacks, signs);
    expect(shown(got)).toEqual(['(1) 2 3', '(4) 5 6', '(7) (8) 9']);
    expect(got.map((s) => s.known.type)).toEqual(['type', 'type', 'type']);
  });

  it('gives what stands before the first sheet nothing that a sheet says', () => {
    const { stacks, signs } = given('ppSp');
    expect(sorting.atSeparators(stacks, signs).map((s) => s.known.type)).toEqual([null, 'type']);
  });

  it('takes a sheet that nothing is behind to the document before it', () => {
    const { stacks, signs } = given('pSpS');
    expect(shown(sorting.atSeparators(stacks, signs))).toEqual(['1', '(2) 3 (4)']);
  });

  it('ends a document with a blank page, which is left out of it', () => {
    const { stacks, signs } = given('ppbpbbp');
    expect(shown(sorting.atBlanks(stacks, signs))).toEqual(['1 2 (3)', '4 (5) (6)', '7']);
    expect(shown(sorting.atBlanks(given('bpb').stacks, given('bpb').signs))).toEqual(['(1) 2 (3)']);
    const backs = given('SbpbSbpb');
    const split = sorting.atSeparators(backs.stacks, backs.signs);
    expect(shown(sorting.leaveOutBlanks(split, backs.signs))).toEqual(['(1) (2) 3 (4)', '(5) (6) 7 (8)']);
  });

  it('begins a document with every so many pages', () => {
    expect(shown(sorting.everyPages(given('ppppp').stacks, 2))).toEqual(['1 2', '3 4', '5']);
    expect(shown(sorting.everyPages(given('ppp').stacks, 0))).toEqual(['1 2 3']);
  });
});

describe('moving pages', () => {
  it('goes over the edge of a document into the next, and back', () => {
    const halves = sorting.everyPages(given('pppp').stacks, 2);
    const over = sorting.moveBy(halves, 'A/2', 1);
    expect(shown(over)).toEqual(['1', '2 3 4']);
    expect(shown(sorting.moveBy(over, 'A/2', -1))).toEqual(['1 2', '3 4']);
    expect(shown(sorting.moveBy(halves, 'A/1', -1))).toEqual(['1 2', '3 4']);
    expect(shown(sorting.moveBy(halves, 'A/4', 1))).toEqual(['1 2', '3 4']);
    expect(shown(sorting.moveBy(halves, 'A/1', 1))).toEqual(['2 1', '3 4']);
  });

  it('takes several along in their order, and leaves no empty document', () => {
    const parts = sorting.everyPages(given('pppp').stacks, 2);
    expect(shown(sorting.moveTo(parts, ['A/1', 'A/2'], { stack: 1, tile: 1 }))).toEqual(['3 1 2 4']);
    expect(shown(sorting.moveTo(parts, ['A/4', 'A/1'], { stack: 0, tile: 1 }))).toEqual(['1 4 2', '3']);
    expect(shown(sorting.moveTo(parts, ['A/1'], { stack: 9, tile: 0 }))).toEqual(['1 2', '3 4']);
  });

  it('joins a document with the one before it', () => {
    const parts = sorting.everyPages(given('ppp').stacks, 1);
    expect(shown(sorting.joinWithPrevious(parts, 2))).toEqual(['1', '2 3']);
    expect(shown(sorting.joinWithPrevious(parts, 0))).toEqual(['1', '2', '3']);
  });
});

it('loses no page and doubles none, whatever is done in whatever order', () => {
  const acts = fc.array(fc.record({ what: fc.integer({ min: 0, max: 7 }), a: fc.nat(20), b: fc.nat(20) }), { maxLength: 25 });
  fc.assert(
    fc.property(fc.array(fc.constantFrom('p', 'b', 'S'), { minLength: 1, maxLength: 14 }), acts, (kinds, list) => {
      const { stacks: start, signs } = given(kinds.join(''));
      const pages = start[0]!.tiles.map((t) => t.key);
      let now = start;
      for (const { what, a, b } of list) {
        const key = pages[a % pages.length]!;
        now = [
          () => sorting.atSeparators(now, signs),
          () => sorting.atBlanks(now, signs),
          () => sorting.everyPages(now, b),
          () => sorting.joinWithPrevious(now, b % now.length),
          () => sorting.moveBy(now, key, b % 2 === 0 ? 1 : -1),
          () => sorting.moveTo(now, [key, pages[b % pages.length]!], { stack: b % now.length, tile: a }),
          () => sorting.splitAt(now, (t) => t.key === key),
          () => sorting.change(now, [key], (t) => ({ ...t, turn: 90 })),
        ][what]!();
      }
      expect(now.flatMap((s) => s.tiles.map((t) => t.key)).toSorted()).toEqual(pages.toSorted());
      expect(now.every((s) => s.tiles.length > 0)).toBe(true);
    }),
  );
});
