import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { PATTERNS, textOf, wordsOf, wordsOfTable } from './reading';

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

describe('a word list out of a table', () => {
  it('has in each row a value and its other spellings', () => {
    expect(wordsOfTable('\uFEFFLower basin,the basin,\r\nReed\r\n,lost\r\n')).toEqual([
      { value: 'Lower basin', spellings: ['the basin'] },
      { value: 'Reed', spellings: [] },
    ]);
    expect(wordsOfTable('"Basin, lower";"the ""old"" basin";Basin, lower')).toEqual([
      { value: 'Basin, lower', spellings: ['the "old" basin'] },
    ]);
    expect(wordsOfTable('a\tb\tb\n"two\nlines"\tc')).toEqual([
      { value: 'a', spellings: ['b'] },
      { value: 'two\nlines', spellings: ['c'] },
    ]);
    expect(wordsOfTable('')).toEqual([]);
  });

  it('is read as it was written, whatever stands in it', () => {
    const cell = fc.stringMatching(/^[a-z",;\n ]{1,8}$/).filter((text) => text.trim() === text && text !== '');
    fc.assert(
      fc.property(fc.array(fc.array(cell, { minLength: 1, maxLength: 4 }), { minLength: 1 }), (rows) => {
        const quoted = (text: string) => `"${text.replaceAll('"', '""')}"`;
        const table = rows.map((row) => [...row, ''].map(quoted).join(',')).join('\r\n');
        if (/[;\t]/.test(table.split('\n', 1)[0]!)) return;
        expect(wordsOfTable(table)).toEqual(
          rows.map(([value, ...others]) => ({ value, spellings: [...new Set(others)].filter((s) => s !== value) })),
        );
      }),
    );
  });
});

it('begins with patterns that work', () => {
  const finds = (label: string, text: string) => new RegExp(PATTERNS.find((p) => p.label === label)!.pattern, 'mu').exec(text)?.[0];
  expect(finds('E-mail address', 'to h.oake@tarnwick.example, soon')).toBe('h.oake@tarnwick.example');
  expect(finds('Telephone number', 'Call +44 (0)1632 960417 now')).toBe('+44 (0)1632 960417');
  expect(finds('Firm or body', 'paid to Arkle & Sons on Monday')).toBe('Arkle & Sons');
  expect(finds('Firm or body', 'the works of Cragmoor Civil Ltd were')).toBe('Cragmoor Civil Ltd');
  expect(finds('Firm or body', 'the office was shut')).toBeUndefined();
  expect(finds('Reference like AB-1234-5', 'see LK-0417-T.')).toBe('LK-0417-T');
  expect(finds('Whatever follows on its line', 'x\nRe: the gate\ny')).toBe('Re: the gate');
});
