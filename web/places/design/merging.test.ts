import { describe, expect, it } from 'vitest';
import { merged, same, settled } from './merging';

const scheme = () => ({
  code: 's',
  name: 'Scheme',
  lock_version: 1,
  terms: [
    { code: 'a', label: 'A', note: '' },
    { code: 'b', label: 'B', note: '' },
    { code: 'c', label: 'C', note: '' },
  ],
});
type Scheme = ReturnType<typeof scheme>;
const changed = (change: (s: Scheme) => void, lock = 1): Scheme => {
  const made = scheme();
  change(made);
  made.lock_version = lock;
  return made;
};

describe('what two people made of one part', () => {
  it('takes the changes of both, entry by entry', () => {
    const mine = changed((s) => {
      s.terms[0]!.label = 'Alpha';
      s.name = 'Works';
    });
    const theirs = changed((s) => {
      s.terms[1]!.label = 'Beta';
      s.terms[0]!.note = 'First';
    }, 2);
    const { value, conflicts } = merged(scheme(), mine, theirs);
    expect(conflicts).toEqual([]);
    expect(value).toMatchObject({
      name: 'Works',
      lock_version: 2,
      terms: [{ label: 'Alpha', note: 'First' }, { label: 'Beta' }, { label: 'C' }],
    });
  });

  it('names only what both changed differently, in words', () => {
    const { value, conflicts } = merged(
      scheme(),
      changed((s) => (s.terms[1]!.label = 'Mine')),
      changed((s) => {
        s.terms[1]!.label = 'Theirs';
        s.terms[2]!.label = 'Gamma';
      }, 2),
    );
    expect(conflicts.map(({ what, mine, theirs }) => [what, mine, theirs])).toEqual([['“Mine”, label', '“Mine”', '“Theirs”']]);
    expect(value.terms.map((t) => t.label)).toEqual(['A', 'Mine', 'Gamma']);
    settled(value, conflicts[0]!);
    expect(value.terms.map((t) => t.label)).toEqual(['A', 'Theirs', 'Gamma']);
  });

  it('keeps what either added, and takes away what either removed and nobody changed', () => {
    const mine = changed((s) => {
      s.terms.splice(1, 1);
      s.terms.push({ code: 'd', label: 'D', note: '' });
    });
    const theirs = changed((s) => s.terms.splice(1, 0, { code: 'e', label: 'E', note: '' }), 2);
    const { value, conflicts } = merged(scheme(), mine, theirs);
    expect(conflicts).toEqual([]);
    expect(value.terms.map((t) => t.code)).toEqual(['a', 'e', 'c', 'd']);
  });

  it('lets nothing go that the other changed', () => {
    const { value, conflicts } = merged(
      scheme(),
      changed((s) => s.terms.splice(1, 1)),
      changed((s) => (s.terms[1]!.label = 'Beta'), 2),
    );
    expect(value.terms.map((t) => t.label)).toEqual(['A', 'Beta', 'C']);
    expect(conflicts[0]).toMatchObject({ what: '“Beta”', mine: 'removed' });
    const other = merged(
      scheme(),
      changed((s) => (s.terms[1]!.label = 'Beta')),
      changed((s) => s.terms.splice(1, 1), 2),
    );
    expect(other.conflicts[0]).toMatchObject({ what: '“Beta”', theirs: 'removed' });
    settled(other.value, other.conflicts[0]!);
    expect(other.value.terms.map((t) => t.code)).toEqual(['a', 'c']);
  });

  it('keeps the order of whoever changed it', () => {
    const mine = changed((s) => s.terms.reverse());
    const theirs = changed((s) => s.terms.push({ code: 'd', label: 'D', note: '' }), 2);
    expect(merged(scheme(), mine, theirs).value.terms.map((t) => t.code)).toEqual(['c', 'd', 'b', 'a']);
    expect(merged(scheme(), theirs, mine).value.terms.map((t) => t.code)).toEqual(['c', 'd', 'b', 'a']);
  });

  it('gives mine where they changed nothing, and theirs where I did not, whatever the change', () => {
    const change = changed((s) => {
      s.terms = [{ code: 'x', label: 'X', note: '' }];
      s.name = '';
    });
    expect(merged(scheme(), change, scheme()).value.terms).toEqual(change.terms);
    expect(merged(scheme(), scheme(), change).value.terms).toEqual(change.terms);
    expect(same({ a: null, b: [] }, { b: undefined })).toBe(true);
    expect(same({ a: 0 }, {})).toBe(false);
  });
});
