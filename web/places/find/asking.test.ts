import { beforeEach, describe, expect, it, vi } from 'vitest';

const server = vi.hoisted(() => ({ criterion: vi.fn() }));
vi.mock('@/api/client', () => {
  class ApiError extends Error {
    fields: Record<string, string> = {};
  }
  return { ApiError, api: server };
});
const kinds = [
  {
    value: 'choice',
    options: ['vocabulary'],
    is_ordered: false,
    widget: '',
    relations: [
      { value: 'is', label: 'is' },
      { value: 'contains', label: 'contains' },
      { value: 'is_empty', label: 'is empty' },
    ],
    tree_relations: [],
  },
  {
    value: 'date',
    options: [],
    is_ordered: true,
    widget: 'date',
    relations: [
      { value: 'is', label: 'is' },
      { value: 'between', label: 'between' },
    ],
    tree_relations: [],
  },
  { value: 'person', options: [], is_ordered: false, widget: '', relations: [{ value: 'is', label: 'is' }], tree_relations: [] },
];
const fields = [
  { code: 'condition', label: 'Condition', kind: 'choice' },
  { code: 'made', label: 'Made', kind: 'date' },
  { code: 'holder', label: 'Holder', kind: 'person' },
];
vi.mock('@/state/app.svelte', () => ({
  app: {
    design: {
      words: {
        places: [{ value: 'text', label: 'Words in full text' }],
        relations: [
          { value: 'all_words', label: 'contains all of' },
          { value: 'near', label: 'near' },
        ],
        near: 10,
      },
    },
    field: (code: string) => fields.find((f) => f.code === code),
    kind: (field?: { kind: string }) => kinds.find((k) => k.value === field?.kind),
  },
}));
const terms = [
  { value: 'a', label: 'Good' },
  { value: 'b', label: 'Bad' },
];
vi.mock('@/state/choices.svelte', () => ({
  choicesOf: (field: { code: string }) => ({ items: field.code === 'condition' ? terms : [], isTree: false }),
  termLabel: (_: unknown, value: string) => terms.find((t) => t.value === value)?.label ?? value,
}));
const { Asking } = await import('./asking.svelte');
const { ApiError } = await import('@/api/client');

const facets = [
  { field: 'condition', values: [{ value: 'a', label: 'Good', count: 3 }], ranges: [] },
  { field: 'holder', values: [{ value: 'M. Ash', label: 'M. Ash', count: 7 }], ranges: [] },
] as never;
const fresh = (asked?: { of: string; relation: string; values: string[] }) => new Asking(() => facets, asked);

beforeEach(() => {
  server.criterion.mockReset();
  server.criterion.mockResolvedValue({ cql: 'made' });
});

describe('a criterion that is being made', () => {
  it('begins with the first relation of what is asked of, and nothing of what was typed for another', () => {
    const asking = fresh();
    asking.choose('condition');
    asking.add('a');
    asking.choose('made');
    expect([asking.relation, asking.values, asking.first, asking.given]).toEqual(['is', [], '', ['']]);
  });

  it('offers what may be chosen with its counts, and not what is chosen already', () => {
    const asking = fresh();
    asking.choose('condition');
    expect(asking.items.map((i) => [i.value, i.hint])).toEqual([
      ['a', '3'],
      ['b', '0'],
    ]);
    asking.add('a');
    asking.add('a');
    expect(asking.items.map((i) => i.value)).toEqual(['b']);
    expect(asking.given).toEqual(['a']);
    asking.remove('a');
    expect(asking.values).toEqual([]);
    asking.relation = 'contains';
    expect(asking.isChoice).toBe(false);
    asking.relation = 'is_empty';
    expect(asking.given).toEqual([]);
  });

  it('lets people be picked from those that the documents name', () => {
    const asking = fresh();
    asking.choose('holder');
    expect(asking.isChoice).toBe(true);
    expect(asking.items).toEqual([{ value: 'M. Ash', label: 'M. Ash', hint: '7' }]);
  });

  it('gives words with how far apart they may be, and how far they reach', async () => {
    const asking = fresh();
    asking.choose('text');
    expect(asking.isWords).toBe(true);
    asking.relation = 'near';
    asking.first = 'gate sill';
    asking.second = '4';
    expect(await asking.make('same_stem')).toBe('made');
    expect(server.criterion).toHaveBeenCalledWith('text', 'near', ['gate sill', '4'], { reach: 'same_stem' });
  });

  it('asks for a stretch that was drawn', async () => {
    const asking = fresh();
    asking.choose('made');
    await asking.stretch('2020', '2022');
    expect(server.criterion).toHaveBeenCalledWith('made', 'between', ['2020', '2022'], {});
  });

  it('says what is wrong and keeps what was typed', async () => {
    const asking = fresh();
    asking.choose('made');
    asking.first = 'soon';
    server.criterion.mockRejectedValue(
      Object.assign(new (ApiError as unknown as new () => Error)(), { fields: { value: '“soon” is not a date.' } }),
    );
    expect(await asking.make()).toBeNull();
    expect([asking.fault, asking.first, asking.busy]).toEqual(['“soon” is not a date.', 'soon', false]);
    server.criterion.mockRejectedValue(new Error('x'));
    await asking.make();
    expect(asking.fault).toBe('The line could not be added. Try again.');
  });
});

describe('a criterion that is opened again', () => {
  it('stands as it was made', () => {
    expect(fresh({ of: 'condition', relation: 'is', values: ['a', 'b'] }).values).toEqual(['a', 'b']);
    const between = fresh({ of: 'made', relation: 'between', values: ['2020', '2021'] });
    expect([between.relation, between.first, between.second]).toEqual(['between', '2020', '2021']);
    expect(fresh({ of: 'condition', relation: 'is_empty', values: [] }).needsValue).toBe(false);
    expect(fresh({ of: 'text', relation: 'near', values: ['gate sill', '4'] }).given).toEqual(['gate sill', '4']);
  });
});
