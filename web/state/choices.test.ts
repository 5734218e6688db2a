import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { Field, Term, TermChoice } from '@/api/types';

const api = vi.hoisted(() => ({ terms: vi.fn() }));
const app = vi.hoisted(() => ({
  revision: 1,
  isDraft: false,
  vocabularies: {} as Record<string, { code: string; terms: unknown[]; term_count: number; depends_on?: string; is_tree?: boolean }>,
  vocabulary: (field: { vocabulary?: string }) => app.vocabularies[field.vocabulary ?? ''],
  terms: (field: { vocabulary?: string }) => app.vocabularies[field.vocabulary ?? '']?.terms ?? [],
}));
vi.mock('@/api/client', () => ({ api }));
vi.mock('./app.svelte', () => ({ app }));
const { choicesOf, termLabel } = await import('./choices.svelte');

const term = (code: string, parent: string | null = null, more: Partial<Term> = {}) =>
  ({ code, label: code.toUpperCase(), parent, retired: false, synonyms: [], ...more }) as unknown as Term;
const reach = { code: 'reach', vocabulary: 'reaches' } as unknown as Field;
const answered = (...codes: string[]) => ({
  terms: codes.map((code) => ({ ...term(code), path: ['Top'], more: code === 'a' }) as unknown as TermChoice),
});

beforeEach(() => {
  vi.resetAllMocks();
  app.revision++;
  app.vocabularies = {
    reaches: { code: 'reaches', terms: [term('b', 'a'), term('a'), term('old', null, { retired: true })], term_count: 3 },
  };
});

describe('what may be chosen', () => {
  it('is all of a small vocabulary, as a tree where it is one, without what is retired', () => {
    const { items, source, isTree } = choicesOf(reach);
    expect(items.map((i) => [i.value, i.depth])).toEqual([
      ['a', 0],
      ['b', 1],
    ]);
    expect([source, isTree]).toEqual([undefined, true]);
    // A value that is there already is called by its name, retired or not.
    expect([termLabel(reach, 'old'), termLabel(reach, 'unknown')]).toEqual(['OLD', 'unknown']);
    expect(api.terms).not.toHaveBeenCalled();
  });

  it('of a large one is fetched as it is opened or typed, under what narrows it', async () => {
    app.vocabularies['reaches'] = { code: 'reaches', terms: [], term_count: 900, is_tree: true };
    const { items, source, isTree } = choicesOf(reach, { from: 'north', beside: ['x'] });
    expect([items, isTree]).toEqual([[], true]);
    api.terms.mockResolvedValue(answered('a', 'b'));
    expect(await source!.below('')).toMatchObject([
      { value: 'a', label: 'A', more: true },
      { value: 'b', more: false },
    ]);
    // It depends on nothing, so what stands beside it narrows nothing.
    expect(api.terms).toHaveBeenLastCalledWith('reaches', false, { below: '', from: 'north', beside: null, retired: undefined }, undefined);
    expect(await source!.matching('a')).toMatchObject([{ value: 'a', hint: 'Top' }, { value: 'b' }]);
    app.vocabularies['reaches'].depends_on = 'waterway';
    api.terms.mockResolvedValue(answered());
    await choicesOf(reach, { beside: ['x'] }).source!.below('a');
    expect(api.terms.mock.lastCall![2]).toMatchObject({ below: 'a', beside: ['x'] });
  });

  it('is called by its name once that is known, asked for in one go for all that are shown', async () => {
    app.vocabularies['reaches'] = { code: 'reaches', terms: [], term_count: 900 };
    api.terms.mockResolvedValue(answered('a', 'b'));
    expect(['a', 'b', 'a', ''].map((code) => termLabel(reach, code))).toEqual(['a', 'b', 'a', '']);
    await vi.waitFor(() => expect(termLabel(reach, 'a')).toBe('A'));
    expect(termLabel(reach, 'b')).toBe('B');
    expect(api.terms).toHaveBeenCalledExactlyOnceWith('reaches', false, { codes: ['a', 'b'] });
    // Another state of the design may call it otherwise.
    app.revision++;
    expect(termLabel(reach, 'a')).toBe('a');
  });
});
