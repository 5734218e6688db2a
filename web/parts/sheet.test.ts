import { describe, expect, it, vi } from 'vitest';

vi.mock('@/state/app.svelte', () => ({
  app: {
    design: {
      fields: [
        { code: 'grade', label: 'Grade', default: 'c' },
        { code: 'note', label: 'Note', default: '' },
      ],
    },
    vocabulary: () => null,
  },
}));
vi.mock('@/state/choices.svelte', () => ({
  choicesOf: (field: { code: string }, asked: unknown) => ({ field: field.code, asked }),
  termLabel: (_field: unknown, code: string) => code.toUpperCase(),
}));
const { choosable, defaultsOf, entryWords } = await import('./sheet');

describe('a new sheet', () => {
  it('begins with what the type says, then with what the field says', () => {
    expect(
      defaultsOf([
        { code: 'grade', required: false },
        { code: 'note', required: false },
      ]),
    ).toEqual({ grade: ['c'] });
    expect(defaultsOf([{ code: 'grade', required: false, default: 'a' }])).toEqual({ grade: ['a'] });
    expect(defaultsOf([{ code: 'gone', required: true }])).toEqual({});
  });
});

describe('what a type says of a field', () => {
  it('is told in a few words', () => {
    expect(entryWords({ code: 'grade', required: true, section: 'Findings', default: 'a', read_only: true, below: 'x' })).toBe(
      'begins “Findings”, default A, read-only, below X',
    );
    expect(entryWords({ code: 'grade', required: true })).toBe('');
    expect(entryWords({ code: 'gone', required: true, default: 'a' })).toBe('');
    expect(entryWords(undefined)).toBe('');
  });
});

describe('what may be chosen', () => {
  it('is below where the type belongs, and what is there may stay', () => {
    const field = { code: 'grade' } as never;
    expect(choosable(field, { code: 'grade', required: false, below: 'x' }, { grade: ['b'] })).toEqual({
      field: 'grade',
      asked: { from: 'x', beside: null, present: ['b'] },
    });
  });
});
