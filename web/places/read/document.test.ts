import { beforeEach, describe, expect, it, vi } from 'vitest';

const api = vi.hoisted(() => ({ document: vi.fn(), hits: vi.fn() }));
vi.mock('@/api/client', () => ({ api, messageOf: (_: unknown, otherwise: string) => otherwise }));
const { Reading } = await import('./document.svelte');

const record = (more = {}) => ({ ref: 'D-1', text_state: 'read', ...more }) as never;
const hits = (...pages: [number, number][]) => ({
  total: pages.reduce((sum, [, n]) => sum + n, 0),
  pages: pages.map(([page, n]) => ({ page, hits: n })),
  title: null,
  path: null,
  values: {},
  comments: {},
});
const sought = { words: 'gate', criteria: [], reach: 'same_stem' as const };

beforeEach(() => {
  vi.useFakeTimers();
  api.document.mockReset().mockResolvedValue(record());
  api.hits.mockReset().mockResolvedValue(hits([2, 2], [5, 1]));
});

describe('a document being read', () => {
  it('begins with the first hit of the search that led to it', async () => {
    const reading = new Reading('D-1', sought);
    await reading.load();
    expect(api.hits).toHaveBeenCalledWith('D-1', sought, 0);
    expect([reading.at, reading.asked]).toEqual([0, { page: 2, hit: 0 }]);
  });

  it('goes from hit to hit, and round', async () => {
    const reading = new Reading('D-1', sought);
    await reading.load();
    const seen = [1, 1, 1, -1].map((by) => (reading.step(by as 1), reading.asked));
    expect(seen).toEqual([
      { page: 2, hit: 1 },
      { page: 5, hit: 0 },
      { page: 2, hit: 0 },
      { page: 5, hit: 0 },
    ]);
  });

  it('begins with a page that was asked for, and knows which hit is there', async () => {
    const reading = new Reading('D-1', sought, 5, 3);
    await reading.load();
    expect(api.document).toHaveBeenCalledWith('D-1', 3);
    expect([reading.asked, reading.at]).toEqual([{ page: 5, hit: -1 }, 2]);
  });

  it('looks for other words here alone, and goes back to those of the search', async () => {
    const reading = new Reading('D-1', sought);
    await reading.load();
    await reading.find('lower sill');
    expect(reading.marks).toEqual({ words: '"lower sill"', criteria: [] });
    await reading.find('text = sill');
    expect(reading.marks.words).toBe('text = sill');
    api.hits.mockResolvedValue(hits());
    await reading.find('heron');
    expect(reading.at).toBe(-1);
    await reading.find('');
    expect(reading.marks).toBe(sought);
  });

  it('looks again while its text is being read, and no more when it is closed', async () => {
    api.document.mockResolvedValueOnce(record({ text_state: 'pending' })).mockResolvedValueOnce(record({ text_state: 'pending' }));
    const reading = new Reading('D-1', sought);
    await reading.load();
    await vi.advanceTimersByTimeAsync(1500);
    expect(api.document).toHaveBeenCalledTimes(2);
    reading.close();
    await vi.advanceTimersByTimeAsync(10_000);
    expect(api.document).toHaveBeenCalledTimes(2);
  });

  it('says why it cannot be shown, and is shown without hits when these fail', async () => {
    api.hits.mockRejectedValue(new Error('x'));
    const reading = new Reading('D-1', sought);
    await reading.load();
    expect([reading.record, reading.hits.total, reading.fault]).toEqual([record(), 0, '']);
    api.document.mockRejectedValue(new Error('x'));
    const other = new Reading('D-1', sought);
    await other.load();
    expect(other.fault).toBe('The document cannot be shown.');
  });
});
