import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { PATTERNS, textOf, wordsOf } from './reading';

describe('a word list as text', () => {
  it('has a value a line with its other spellings', () => {
    expect(wordsOf('Lower basin = the basin; basin, lower\n\n Weir \n= nothing\nSill =')).toEqual([
      { value: 'Lower basin', spellings: ['the basin', 'basin, lower'] },
      { value: 'Weir', spellings: [] },
      { value: 'Sill', spellings: [] },
    ]);
  });

  it('comes back as it was', () => {
    const word = fc.stringMatching(/^[a-zé][a-zé ,.-]{0,10}[a-z]$/);
    fc.assert(
      fc.property(fc.array(fc.record({ value: word, spellings: fc.array(word, { maxLength: 4 }) })), (words) => {
        expect(wordsOf(textOf(words))).toEqual(words);
      }),
    );
  });
});

it('begins with patterns that work', () => {
  const finds = (label: string, text: string) => new RegExp(PATTERNS.find((p) => p.label === label)!.pattern, 'mu').exec(text)?.[0];
  expect(finds('E-mail address', 'to h.oake@tarnwick.example, soon')).toBe('h.oake@tarnwick.example');
  expect(finds('Telephone number', 'Call +44 (0)1632 960417 now')).toBe('+44 (0)1632 960417');
  expect(finds('Reference like AB-1234-5', 'see LK-0417-T.')).toBe('LK-0417-T');
  expect(finds('Whatever follows on its line', 'x\nRe: the gate\ny')).toBe('Re: the gate');
});
