import { api, ApiError } from '@/api/client';
import type { Design, WaitingDocument } from '@/api/types';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { Sheets as Kept } from './sheets.svelte';

let store: Record<string, string> = {};
vi.stubGlobal('localStorage', {
  getItem: (key: string) => store[key] ?? null,
  setItem: (key: string, text: string) => (store[key] = text),
  removeItem: (key: string) => delete store[key],
});
const { app } = await import('@/state/app.svelte');
const { Sheets } = await import('./sheets.svelte');

const waits = (ref: string, more: Partial<WaitingDocument> = {}) =>
  ({ ref, type: null, values: {}, proposed_dossier: null, lock_version: 1, ...more }) as unknown as WaitingDocument;
const entry = (code: string) => ({ code, required: false });
const answer = { stamp: '', total: 0, documents: null, sources: [], faults: {} };
let sheets: Kept;

beforeEach(() => {
  store = {};
  app.design = {
    types: [
      { code: 'notice', fields: [entry('date'), entry('place')] },
      { code: 'letter', fields: [entry('date'), entry('from')] },
    ],
    fields: ['date', 'place', 'from'].map((code) => ({ code, default: '' })),
  } as unknown as Design;
  sheets = new Sheets((act) => act());
});
afterEach(() => vi.restoreAllMocks());

describe('the sheets of what waits', () => {
  it('begin with what is known of the document by the way it came', () => {
    // As when the place is opened: first there is no list yet.
    sheets.open(null);
    sheets.note();
    sheets.open(
      waits('A', {
        type: { code: 'notice', name: 'Notice' },
        values: { place: [{ value: 'weir', label: 'Weir' }] },
        proposed_dossier: 'DS-1',
      }),
    );
    expect(sheets.now).toMatchObject({ type: 'notice', values: { place: ['weir'] }, dossier: 'DS-1' });
  });

  it('are kept by the server when one goes on, and are as they were when one comes back', async () => {
    const keep = vi.spyOn(api, 'keepSheet').mockResolvedValue(answer);
    sheets.open(waits('A', { lock_version: 3 }));
    sheets.chooseType('notice');
    sheets.set('date', ['2024']);
    sheets.note();
    sheets.open(waits('B'));
    expect(keep).toHaveBeenCalledWith('A', 'notice', { date: ['2024'] }, 3, {});
    expect(sheets.now.values).toEqual({});
    // Nothing was typed here, so nothing is sent.
    sheets.open(waits('C'));
    expect(keep).toHaveBeenCalledTimes(1);
  });

  it('keep here what the server would not take', async () => {
    vi.spyOn(api, 'keepSheet').mockRejectedValue(new ApiError(409, 'stale', 'Somebody else.'));
    sheets.open(waits('A'));
    sheets.chooseType('notice');
    sheets.set('date', ['31 Feb']);
    sheets.note();
    await sheets.leave();
    sheets.open(waits('B'));
    sheets.open(waits('A'));
    expect(sheets.now).toMatchObject({ type: 'notice', values: { date: ['31 Feb'] } });
  });

  it('give what is pinned to the documents that follow, where they say nothing themselves', () => {
    sheets.open(waits('A'));
    sheets.chooseType('notice');
    sheets.set('date', ['2024']);
    sheets.set('place', ['weir']);
    sheets.togglePin('type');
    sheets.togglePin('place');
    sheets.done(['A']);
    sheets.open(waits('B'));
    expect(sheets.now).toMatchObject({ type: 'notice', values: { place: ['weir'] } });
    expect(sheets.now.values.date).toBeUndefined();
    expect(sheets.lastOf('date')).toEqual(['2024']);
    sheets.open(waits('C', { type: { code: 'letter', name: 'Letter' }, values: { from: [{ value: 'Vane', label: 'Vane' }] } }));
    expect(sheets.now).toMatchObject({ type: 'letter', values: { from: ['Vane'] } });
    // Pins are there the next time too.
    expect(new Sheets((act) => act()).pins).toEqual(['type', 'place']);
  });

  it('take what was filled in while the document was still on its way', () => {
    sheets.open(null);
    sheets.chooseType('notice');
    sheets.set('place', ['weir']);
    sheets.note();
    sheets.open(waits('A'));
    expect(sheets.now).toMatchObject({ type: 'notice', values: { place: ['weir'] } });
    sheets.open(waits('B'));
    expect(sheets.now).toMatchObject({ type: '', values: {} });
    // What was filled in for several is for these.
    sheets.open(null, true);
    sheets.chooseType('letter');
    sheets.open(waits('C'));
    expect(sheets.now.type).toBe('');
  });

  it('say where a value was lifted from, as long as it is the value', () => {
    sheets.open(waits('A'));
    sheets.chooseType('notice');
    sheets.set('date', ['2024']);
    sheets.lift('date', '2024', { page: 2, text: 'of 2024' });
    sheets.set('date', ['2023']);
    sheets.lift('date', '2023', { page: 1, text: '2023' });
    sheets.lift('place', 'weir', { page: 0, text: 'typed beside the pages' });
    expect(sheets.filing(['A']).lifted).toEqual({ date: [{ value: '2023', page: 1, text: '2023' }] });
  });

  it('send only what the type has', () => {
    sheets.open(waits('A'));
    sheets.chooseType('notice');
    sheets.set('place', ['weir']);
    sheets.chooseType('letter');
    sheets.set('from', ['Vane']);
    expect(sheets.filing(['A'])).toEqual({
      documents: ['A'],
      type: 'letter',
      values: { from: ['Vane'] },
      name: '',
      dossier: '',
      section: null,
      lifted: {},
    });
    sheets.chooseType('notice');
    expect(sheets.now.values.place).toEqual(['weir']);
  });
});
