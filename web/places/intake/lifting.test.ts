import { afterEach, describe, expect, it, vi } from 'vitest';
import { api } from '@/api/client';
import { areaOf, Lifting, wordIn } from './lifting.svelte';

const place = (value: string) => ({ boxes: [] as [number, number, number, number][], page: 1, text: value, value, label: value });

afterEach(() => vi.restoreAllMocks());

describe('lifting', () => {
  it('asks what the pages say once for each document and field, and forgets what came too late', async () => {
    const asked = vi.spyOn(api, 'places');
    let first: (got: { places: ReturnType<typeof place>[] }) => void = () => {};
    asked.mockImplementationOnce(() => new Promise((resolve) => (first = resolve)));
    asked.mockResolvedValueOnce({ places: [place('Ash')] });
    const it = new Lifting(
      () => 'D-1',
      () => {},
    );
    const slow = it.enter('date');
    await it.enter('person');
    first({ places: [place('2024')] });
    await slow;
    expect(it.places.map((p) => p.value)).toEqual(['Ash']);
    await it.enter('person');
    expect(asked).toHaveBeenCalledTimes(2);
  });

  it('fills the field by the number of a place, and only by one that is there', async () => {
    vi.spyOn(api, 'places').mockResolvedValue({ places: [place('2024'), place('2023')] });
    const filled: string[][] = [];
    const it = new Lifting(
      () => 'D-1',
      (field, value, from) => filled.push([field, value, `${from.page}: ${from.text}`]),
    );
    await it.enter('date');
    expect([it.take(2), it.take(3), it.take(0)]).toEqual([true, false, false]);
    expect(filled).toEqual([['date', '2023', '1: 2023']]);
  });

  it('fills it with words that were pointed at, or says why not', async () => {
    vi.spyOn(api, 'places').mockResolvedValue({ places: [] });
    const lifted = vi.spyOn(api, 'lift').mockResolvedValue({ value: '2024-03-14', label: '14 Mar 2024', fault: '' });
    const filled: string[][] = [];
    const it = new Lifting(
      () => 'D-1',
      (field, value, from) => filled.push([field, value, `${from.page}: ${from.text}`]),
    );
    await it.lift('14 March', 2);
    expect(lifted).not.toHaveBeenCalled();
    await it.enter('date');
    await it.lift('  14th\n March 2024 ', 2);
    expect([lifted.mock.lastCall, filled]).toEqual([['date', '14th March 2024'], [['date', '2024-03-14', '2: 14th March 2024']]]);
    lifted.mockResolvedValue({ value: null, label: '', fault: '“gate” is not a date.' });
    await it.lift('gate', 2);
    expect([it.fault, filled.length]).toEqual(['“gate” is not a date.', 1]);
    lifted.mockRejectedValue(new TypeError('offline'));
    await it.lift('gate', 2);
    expect(it.fault).not.toBe('');
    await it.lift('   ', 2);
    expect(lifted).toHaveBeenCalledTimes(3);
  });

  it('lets one type when nothing can be asked', async () => {
    vi.spyOn(api, 'places').mockRejectedValue(new TypeError('offline'));
    const it = new Lifting(
      () => 'D-1',
      () => {},
    );
    await it.enter('date');
    expect(it.places).toEqual([]);
  });
});

describe('the word at a place', () => {
  it.each([
    ['the gate leaks', 5, 'gate'],
    ['the gate leaks', 4, 'gate'],
    ['the gate leaks', 8, 'gate'],
    ['14.03.2024, at', 3, '14.03.2024,'],
    ['', 0, ''],
    ['a  b', 2, ''],
  ])('%j at %i is %j', (text, offset, word) => expect(wordIn(text, offset)).toBe(word));
});

it('reads what was dragged over, or lies around a click, and never beyond the page', () => {
  const page = { left: 100, top: 50, width: 500, height: 1000 } as DOMRect;
  expect(areaOf(page, { x: 300, y: 250 }, { x: 150, y: 150 })).toEqual([0.1, 0.1, 0.4, 0.2]);
  expect(areaOf(page, { x: 110, y: 55 }, { x: 111, y: 55 }).map((n) => Math.round(n * 1000) / 1000)).toEqual([0, 0, 0.142, 0.019]);
  expect(areaOf(page, { x: 0, y: 0 }, { x: 9000, y: 9000 })).toEqual([0, 0, 1, 1]);
});

it('reads a part of a page that has no words, and fills the field with them', async () => {
  const filled: string[] = [];
  const it = new Lifting(
    () => 'A',
    (_, value) => filled.push(value),
  );
  vi.spyOn(api, 'places').mockResolvedValue({ places: [] });
  const read = vi.spyOn(api, 'readArea').mockResolvedValue({ text: '3 May 2024' });
  vi.spyOn(api, 'lift').mockResolvedValue({ value: '2024-05-03', label: '', fault: '' });
  await it.read(1, [0, 0, 1, 1]);
  expect(read).not.toHaveBeenCalled();
  await it.enter('date');
  await it.read(2, [0, 0, 1, 0.5]);
  expect([read.mock.lastCall, filled]).toEqual([['A', 2, [0, 0, 1, 0.5]], ['2024-05-03']]);
  read.mockResolvedValue({ text: '' });
  await it.read(2, [0, 0, 1, 0.5]);
  expect([it.fault, filled.length, it.reading]).toEqual(['There are no words to be read.', 1, false]);
});
