import { beforeEach, describe, expect, it, vi } from 'vitest';
import { addressOf, emptySearch, searchFrom, type SearchState } from '@/state/search';

const place = vi.hoisted(() => ({ params: new URLSearchParams(), went: [] as string[] }));
vi.mock('@/state/router.svelte', () => ({
  router: {
    get params() {
      return place.params;
    },
    go(url: string) {
      place.went.push(url);
      place.params = new URL(url, 'http://here').searchParams;
    },
  },
}));
vi.mock('@/state/app.svelte', () => ({
  app: {
    person: { preferences: {} },
    design: {
      views: [
        {
          code: 'locks',
          criterion: 'type == lock',
          columns: ['grade'],
          sort: [{ field: 'grade', descending: true }],
          levels: [],
          opens: 'table',
        },
        { code: 'steps', criterion: '', columns: ['grade'], sort: [], levels: [{ field: 'grade' }], opens: 'steps' },
      ],
    },
    field: (code: string) => (['type', 'library', 'grade'].includes(code) ? { code } : undefined),
  },
}));
const asked = vi.hoisted(() => ({
  bodies: [] as Record<string, unknown>[],
  answer: {} as Record<string, unknown>,
  fault: null as unknown,
}));
vi.mock('@/api/client', () => {
  class ApiError extends Error {}
  return {
    ApiError,
    api: {
      searchInParts: async (body: Record<string, unknown>, _signal: AbortSignal, take: (found: unknown) => void) => {
        asked.bodies.push(body);
        if (asked.fault) return Promise.reject(asked.fault as Error);
        take(asked.answer);
        return { ...asked.answer, facets: [] };
      },
      search: async (body: Record<string, unknown>) => {
        asked.bodies.push(body);
        return { rows: [{ ref: `row ${String(body.offset)}` }] };
      },
    },
  };
});
vi.stubGlobal('localStorage', { getItem: () => null, setItem: () => undefined });
const { Finding } = await import('./finding.svelte');
const { ApiError } = await import('@/api/client');
const { columnsOf, withinCriterion } = await import('./question');

const line = (cql: string) => ({ cql, negated: false, on: true });
const step = (cql: string) => ({ cql, label: cql, level: 0, below: null });
const stands = (): SearchState => searchFrom(place.params);

function at(search: Partial<SearchState>) {
  place.params = new URL(addressOf({ ...emptySearch, ...search }), 'http://here').searchParams;
  place.went = [];
  return new Finding(() => false);
}

/** A line of the ledger as the server gives it. */
const given = (cql: string, origin: string, more = {}) =>
  ({ cql, negated: false, on: true, origin, words_without: null, ...more }) as never;

beforeEach(() => {
  asked.bodies = [];
  asked.fault = null;
  asked.answer = { rows: [], criteria: [], ledger: [], total: 0 };
});

describe('what is asked', () => {
  it('says of each criterion where it comes from', () => {
    const finding = at({ criteria: [line('a == 1'), line('b == 2')], steps: [step('c == 3')], within: ' lock"gate ' });
    expect(finding.criteria.map((c) => [c.cql, c.origin])).toEqual([
      ['a == 1', 'criterion/0'],
      ['b == 2', 'criterion/1'],
      ['c == 3', 'step/0'],
      ['cql.anywhere all "lockgate*"', 'within'],
    ]);
  });

  it('is sorted as the view is, until words are looked for or an order is chosen', () => {
    expect(at({ view: 'locks' }).sort).toEqual([{ field: 'grade', descending: true }]);
    expect(at({ view: 'locks', words: 'gate' }).sort).toEqual([]);
    expect(at({ view: 'locks', words: 'gate', sort: [{ field: 'type', descending: false }] }).sort).toHaveLength(1);
  });

  it('is the same question when only the open document is another', () => {
    expect(at({ words: 'gate', open: 'D-1' }).question).toBe(at({ words: 'gate' }).question);
    expect(at({ words: 'gate', layout: 'digest' }).question).not.toBe(at({ words: 'gate' }).question);
  });

  it('has columns that are there, of the person, the view, or the usual ones', () => {
    expect(columnsOf([{ code: 'grade' }, { code: 'gone' }, { code: 'path' }], null)).toEqual(['grade', 'path']);
    expect(columnsOf(undefined, { columns: ['x'] })).toEqual(['x']);
    expect(columnsOf(undefined, null)).toEqual(['type', 'library']);
  });

  it('filters by two letters and more', () => {
    expect(withinCriterion(' a ')).toEqual([]);
    expect(withinCriterion('\\"')).toEqual([]);
    expect(withinCriterion('ab')).toHaveLength(1);
  });
});

describe('a line of the ledger', () => {
  const search = {
    words: 'gate lock',
    criteria: [line('a == 1'), line('b == 2')],
    steps: [step('c == 3'), step('d == 4')],
    within: 'silt',
  };

  it('is changed where it stands among the criteria', () => {
    at(search).change(given('b == 2', 'criterion/1'), { on: false });
    expect(stands().criteria).toEqual([line('a == 1'), { ...line('b == 2'), on: false }]);
    expect(stands().steps).toHaveLength(2);
  });

  it('is taken out', () => {
    at(search).change(given('a == 1', 'criterion/0'), null);
    expect(stands().criteria).toEqual([line('b == 2')]);
  });

  it('leaves the query line when it is changed, and the order stays', async () => {
    const typed = (cql: string, more: object): object => given(cql, '', { typed: true, ...more });
    const lines = [
      typed('gate', { words_before: '', words_without: 'lock weir' }),
      typed('lock', { words_before: 'gate', words_without: 'gate weir' }),
      typed('weir', { words_before: 'gate lock', words_without: 'gate lock' }),
    ];
    asked.answer = { ...asked.answer, ledger: lines };
    const finding = at({ ...search, words: 'gate lock weir' });
    await finding.run();
    finding.change(lines[1] as never, { on: false });
    expect(stands().words).toBe('gate');
    expect(stands().criteria).toEqual([{ ...line('lock'), on: false }, line('weir'), line('a == 1'), line('b == 2')]);
    const other = at({ ...search, words: 'gate lock weir' });
    await other.run();
    other.change(lines[1] as never, null);
    expect(stands().words).toBe('gate weir');
    expect(stands().criteria).toHaveLength(2);
  });

  it('takes back the steps behind it, and becomes a criterion when it is changed', () => {
    at(search).change(given('c == 3', 'step/0'), null);
    expect(stands().steps).toEqual([]);
    expect(stands().criteria).toHaveLength(2);
    at(search).change(given('d == 4', 'step/1'), { negated: true });
    expect(stands().steps.map((s) => s.cql)).toEqual(['c == 3']);
    expect(stands().criteria.at(-1)).toEqual({ cql: 'd == 4', negated: true, on: true });
  });

  it('of the words within is let go of, or becomes a criterion', () => {
    at(search).change(given('cql.anywhere all "silt*"', 'within'), null);
    expect(stands().within).toBe('');
    at(search).change(given('cql.anywhere all "silt*"', 'within'), { on: false });
    expect([stands().within, stands().criteria.length]).toEqual(['', 3]);
  });

  it('goes with others at once', async () => {
    const finding = at(search);
    asked.answer = { ...asked.answer, ledger: ['x', 'y', 'z'].map((cql) => given(cql, '')) };
    await finding.run();
    finding.drop([0, 2]);
    expect(stands()).toMatchObject({ words: '', within: '', steps: [], criteria: [line('y')] });
  });
});

describe('a choice in the margins', () => {
  it('is kept as a criterion, beside steps that stay steps', async () => {
    const finding = at({ criteria: [line('a == 1')], steps: [step('c == 3')], within: 'silt' });
    asked.answer = { ...asked.answer, criteria: [...finding.criteria, line('f == "x"')] };
    await finding.run({ field: 'f', value: 'x' });
    expect(stands().criteria).toEqual([line('a == 1'), line('f == "x"')]);
    expect(stands()).toMatchObject({ steps: [step('c == 3')], within: 'silt' });
    // The answer is here already: nothing is asked a second time.
    finding.ask();
    expect(asked.bodies).toHaveLength(1);
    expect(asked.bodies[0]!.toggle).toEqual({ field: 'f', value: 'x' });
  });

  it('that changes a step makes a criterion of it', async () => {
    const finding = at({ steps: [step('f == "x"')] });
    asked.answer = { ...asked.answer, criteria: [line('f == "x" or f == "y"')] };
    await finding.run({ field: 'f', value: 'y' });
    expect(stands()).toMatchObject({ steps: [], criteria: [line('f == "x" or f == "y"')] });
  });
});

describe('answers', () => {
  it('of older questions are dropped', async () => {
    const finding = at({ words: 'gate' });
    asked.answer = { ...asked.answer, total: 1 };
    const first = finding.run();
    asked.answer = { ...asked.answer, total: 2 };
    await Promise.all([first, finding.run()]);
    expect(finding.answer?.total).toBe(2);
    expect(finding.busy).toBe(false);
  });

  it('that are refused are said, and let go with the next', async () => {
    const finding = at({ words: 'gate' });
    asked.fault = new (ApiError as unknown as new (m: string) => Error)('no');
    await finding.run();
    expect(finding.fault).toBe(asked.fault);
    asked.fault = null;
    await finding.run();
    expect(finding.fault).toBeNull();
  });

  it('have their rows fetched a page at a time, each once', async () => {
    const finding = at({ words: 'gate' });
    await finding.run();
    await Promise.all([finding.need(50, 130), finding.need(60, 70)]);
    expect(asked.bodies.slice(1).map((b) => b.offset)).toEqual([0, 60, 120]);
    expect(finding.rows[120]).toEqual({ ref: 'row 120' });
  });
});

describe('a view that is chosen', () => {
  it('puts its criterion in the place of that of the view before, and opens in its way', () => {
    at({ view: 'locks', criteria: [line('type == lock'), line('a == 1')], steps: [step('c == 3')] }).chooseView('steps');
    expect(stands()).toMatchObject({ view: 'steps', criteria: [line('a == 1')], steps: [], layout: 'steps' });
    at({ layout: 'digest' }).chooseView('locks');
    expect(stands()).toMatchObject({ layout: 'digest', criteria: [line('type == lock')] });
    at({ view: 'locks', criteria: [line('type == lock')] }).chooseView('');
    expect(stands()).toMatchObject({ view: '', criteria: [], layout: 'table' });
  });

  it('lets a criterion be chosen and let go of', () => {
    at({}).toggle('a == 1');
    expect(stands().criteria).toEqual([line('a == 1')]);
    at({ criteria: [line('a == 1')] }).toggle('a == 1');
    expect(stands().criteria).toEqual([]);
  });
});
