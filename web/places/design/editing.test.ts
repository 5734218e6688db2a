import fc from 'fast-check';
import { beforeEach, describe, expect, it, vi } from 'vitest';

const mocks = vi.hoisted(() => ({
  create: vi.fn(),
  change: vi.fn(),
  remove: vi.fn(),
  draft: vi.fn(),
  load: vi.fn(),
  act: vi.fn(),
  say: vi.fn(),
  fail: vi.fn(),
  went: [] as string[],
}));
vi.mock('@/api/client', () => {
  class ApiError extends Error {
    constructor(
      readonly code: string,
      message = 'no',
      readonly fields: Record<string, string> = {},
      readonly current: unknown = null,
    ) {
      super(message);
    }
  }
  return { ApiError, api: { create: mocks.create, change: mocks.change, remove: mocks.remove, draft: mocks.draft } };
});
vi.mock('@/state/app.svelte', () => ({ app: { say: mocks.say, fail: mocks.fail } }));
vi.mock('@/state/router.svelte', () => ({ router: { go: (url: string, how = 'push') => mocks.went.push(`${how} ${url}`) } }));
vi.mock('./draft.svelte', () => ({ draft: { load: mocks.load, act: mocks.act } }));
const { Editing } = await import('./editing.svelte');
const { codeOf } = await import('./codes');
const { ApiError } = await import('@/api/client');
const refusal = (code: string, fields = {}, current: unknown = null) =>
  new (ApiError as never as new (...a: unknown[]) => Error)(code, 'No.', fields, current);

const field = { code: 'grade', label: 'Grade', help: '', lock_version: 3 };
const blank = { code: '', label: '', help: '', lock_version: 0 };

beforeEach(() => {
  vi.resetAllMocks();
  mocks.went = [];
});

describe('a part that is edited', () => {
  it('is a copy, and has changed when something in it is another', () => {
    const editing = new Editing('fields', field, blank);
    expect([editing.isNew, editing.changed]).toEqual([false, false]);
    editing.draft.label = 'Condition';
    expect([editing.changed, field.label]).toEqual([true, 'Grade']);
    editing.settle();
    expect(editing.changed).toBe(false);
    expect(new Editing('fields', null, blank).changed).toBe(true);
  });

  it('says who keeps it, and where schemes are edited', () => {
    expect(new Editing('fields', { ...field, kept_by: ['the library “Works”'] } as typeof field, blank).keptBy).toHaveLength(1);
    expect(new Editing('vocabularies', { ...field, scheme: true }, { ...blank, scheme: false }).place).toBe('schemes');
    expect(new Editing('vocabularies', { ...field, scheme: false }, { ...blank, scheme: false }).place).toBe('vocabularies');
  });

  it('is made, or changed, and the draft is read again', async () => {
    mocks.create.mockResolvedValue({ code: 'new' });
    mocks.change.mockResolvedValue({ code: 'grade' });
    await new Editing('fields', null, blank).save();
    await new Editing('fields', field, blank).save();
    expect(mocks.create).toHaveBeenCalledWith('fields', blank);
    expect(mocks.change).toHaveBeenCalledWith('fields', 'grade', field);
    expect(mocks.went).toEqual(['push /design/fields/new', 'replace /design/fields/grade']);
    expect(mocks.load).toHaveBeenCalledTimes(2);
  });

  it('shows what is wrong beside what it is about, and says what is about nothing', async () => {
    const editing = new Editing('fields', field, blank);
    mocks.change.mockRejectedValueOnce(refusal('invalid', { 'fields.0.code': 'There is none.', label: 'Give it a label.' }));
    await editing.save();
    expect(editing.faults).toEqual({ fields: 'There is none.', label: 'Give it a label.' });
    expect(mocks.say).not.toHaveBeenCalled();
    mocks.change.mockRejectedValueOnce(refusal('refused'));
    await editing.save();
    expect(mocks.say).toHaveBeenCalledWith('No.', { wrong: true });
    expect(editing.busy).toBe(false);
    mocks.change.mockRejectedValueOnce(new TypeError('broken'));
    await expect(editing.save()).rejects.toThrow('broken');
  });

  it('takes in what somebody else has saved since, where both changed different things', async () => {
    const editing = new Editing('fields', field, blank);
    editing.draft.label = 'Mine';
    mocks.change
      .mockRejectedValueOnce(refusal('stale', {}, { ...field, help: 'Theirs', lock_version: 4 }))
      .mockResolvedValueOnce({ code: 'grade' });
    await editing.save();
    expect(mocks.change).toHaveBeenLastCalledWith('fields', 'grade', { code: 'grade', label: 'Mine', help: 'Theirs', lock_version: 4 });
    expect(mocks.say.mock.calls[0]![0]).toContain('somebody else');
  });

  it('asks where both changed the same in different ways', async () => {
    const editing = new Editing('fields', field, blank);
    editing.draft.label = 'Mine';
    mocks.change.mockRejectedValueOnce(refusal('stale', {}, { ...field, label: 'Theirs', lock_version: 4 }));
    await editing.save();
    expect(mocks.change).toHaveBeenCalledOnce();
    expect(editing.conflicts.map((c) => [c.mine, c.theirs])).toEqual([['“Mine”', '“Theirs”']]);
    editing.decide(editing.conflicts[0]!, true);
    expect([editing.draft.label, editing.draft.lock_version, editing.conflicts.length]).toEqual(['Theirs', 4, 0]);
  });

  it('is taken out, and comes back when that is undone', async () => {
    const editing = new Editing('fields', field, blank);
    await editing.remove();
    expect(mocks.went).toEqual(['push /design/fields']);
    mocks.act.mockImplementation((what: () => unknown) => what());
    mocks.say.mock.calls[0]![1].undo();
    await vi.waitFor(() => expect(mocks.create).toHaveBeenCalledWith('fields', field));
    mocks.remove.mockRejectedValueOnce(refusal('refused'));
    await editing.remove();
    expect(mocks.fail).toHaveBeenCalledOnce();
  });
});

describe('a code made of a name', () => {
  it('is one that a design takes, or empty', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme', maxLength: 60 }), (name) => {
        expect(codeOf(name)).toMatch(/^([a-z][a-z0-9_]{0,39})?$/);
      }),
    );
    expect(['Document date', '  Écluse Nº 7! ', '2nd  reach', '___', 'Straße'].map(codeOf)).toEqual([
      'document_date',
      'ecluse_no_7',
      'nd_reach',
      '',
      'stra_e',
    ]);
  });
});
