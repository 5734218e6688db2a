import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { addressOf, askedOutside, emptySearch, searchFrom, viewAddress, type SearchState, keptAddress } from './search';

const text = fc.string({ unit: 'grapheme', maxLength: 24 });
const code = fc.stringMatching(/^[a-z][a-z0-9_-]{0,12}$/);
/** CQL never begins with the signs that an address writes before it. */
const cql = fc.string({ unit: 'grapheme', minLength: 1, maxLength: 30 }).filter((c) => !/^[-~]/.test(c));
const step = fc.record({
  cql: cql.filter((c) => !c.includes('\t')),
  label: text.filter((t) => !t.includes('\t')),
  level: fc.nat({ max: 9 }),
  below: fc.option(
    text.filter((t) => t !== '' && !t.includes('\t')),
    { nil: null },
  ),
});

const anySearch: fc.Arbitrary<SearchState> = fc.record({
  words: text,
  any: fc.boolean(),
  reach: fc.constantFrom('' as const, 'as_written' as const, 'misspelt' as const),
  criteria: fc.array(fc.record({ cql, negated: fc.boolean(), on: fc.boolean() }), { maxLength: 5 }),
  view: fc.oneof(fc.constant(''), code),
  sort: fc.array(fc.record({ field: code, descending: fc.boolean() }), { maxLength: 3 }),
  where: fc.uniqueArray(fc.constantFrom('title', 'values', 'text', 'comment', 'path', 'earlier')),
  layout: fc.constantFrom('table' as const, 'digest' as const, 'outline' as const, 'steps' as const),
  steps: fc.array(step, { maxLength: 3 }),
  within: text,
  person: fc.oneof(fc.constant(''), code),
  once: fc.boolean(),
  open: fc.oneof(fc.constant(''), fc.stringMatching(/^D-\d{5}-[A-Z]$/)),
  outside: fc.option(fc.uniqueArray(code, { maxLength: 3 }), { nil: null }),
  from: fc.oneof(fc.constant(''), code),
  record: fc.option(fc.nat({ max: 5000 }), { nil: null }),
});

const through = (search: SearchState) => searchFrom(new URL(addressOf(search), 'http://here').searchParams);

describe('a kept search in its address', () => {
  const kept = { words: 'gate', any: false, criteria: [], view: '', where: [] };

  it('finds what it found, whatever the person likes', () => {
    expect(keptAddress(kept)).toBe('/find?q=gate&reach=as_written');
    expect(keptAddress({ ...kept, reach: 'same_stem' }, { layout: 'digest' })).toBe('/find?q=gate&reach=same_stem&as=digest');
    expect(keptAddress({ ...kept, words: '' })).toBe('/find');
  });
});

describe('a search in its address', () => {
  it('comes back as it was, whatever is in it', () => {
    fc.assert(
      fc.property(anySearch, (search) => {
        // A record is one of the repository that is looked at.
        // How far words reach says nothing without words.
        const whole = { ...search, record: search.from ? search.record : null, reach: search.words ? search.reach : ('' as const) };
        expect(through(whole)).toEqual(whole);
      }),
    );
  });

  it('is as short as the search allows', () => {
    expect(addressOf(emptySearch)).toBe('/find');
    expect(addressOf({ ...emptySearch, words: 'gate' })).toBe('/find?q=gate');
    expect(through(emptySearch)).toEqual(emptySearch);
  });

  it('says who is asked elsewhere: nobody is another thing than everybody', () => {
    expect(through({ ...emptySearch, outside: [] }).outside).toEqual([]);
    expect(through({ ...emptySearch, outside: null }).outside).toBeNull();
  });

  it('takes what nobody wrote for what is usual', () => {
    expect(searchFrom(new URLSearchParams('as=carousel&rec=x&step='))).toEqual({
      ...emptySearch,
      record: 0,
      steps: [{ cql: '', label: '', level: 0, below: null }],
    });
  });
});

describe('what is asked elsewhere', () => {
  const remote = [{ code: 'survey' }, { code: 'port' }];
  const line = (cql: string, on = true, negated = false) => ({ cql, on, negated });

  it('is everything, unless the search is one of places here', () => {
    expect(askedOutside(emptySearch, remote)).toEqual(['survey', 'port']);
    for (const place of ['library == a', 'repository == b', 'dossier == "D-1"'])
      expect(askedOutside({ ...emptySearch, criteria: [line(place)] }, remote)).toEqual([]);
  });

  it('is not bound by lines that are off, or that leave a place out', () => {
    expect(askedOutside({ ...emptySearch, criteria: [line('library == a', false)] }, remote)).toHaveLength(2);
    expect(askedOutside({ ...emptySearch, criteria: [line('library == a', true, true)] }, remote)).toHaveLength(2);
  });

  it('is what was chosen, of what there is', () => {
    expect(askedOutside({ ...emptySearch, outside: ['port', 'gone'], criteria: [line('library == a')] }, remote)).toEqual(['port']);
  });
});

describe('a view', () => {
  it('opens with its criterion first and what is added behind it', () => {
    const view = { code: 'locks', criterion: 'type == lock', opens: 'steps' } as Parameters<typeof viewAddress>[0];
    const search = searchFrom(new URL(viewAddress(view, [{ cql: 'year == 2019', negated: false, on: true }]), 'http://here').searchParams);
    expect(search.criteria.map((c) => c.cql)).toEqual(['type == lock', 'year == 2019']);
    expect(search.layout).toBe('steps');
    expect(search.view).toBe('locks');
  });
});
