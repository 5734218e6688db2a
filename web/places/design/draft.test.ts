import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { Change, DraftAnswer, Effect, Work } from '@/api/types';

const api = vi.hoisted(() => ({ draft: vi.fn(), effects: vi.fn(), work: vi.fn() }));
const app = vi.hoisted(() => ({ takeDesign: vi.fn(), say: vi.fn(), fail: vi.fn() }));
vi.mock('@/api/client', () => ({ api }));
vi.mock('@/state/app.svelte', () => ({ app }));
const { draft } = await import('./draft.svelte');

const change = (code: string) => ({ kind: 'field', code }) as Change;
const answer = (changes: Change[], work: Work[] = []) =>
  ({ design: { of: 'draft' }, changes, groups: [], designing: [], restores: null, work }) as unknown as DraftAnswer;
const effect = (code: string, stops = false) => ({ kind: 'field', code, stops }) as Effect;
const running = { state: 'running' } as Work;
const done = { state: 'done' } as Work;

beforeEach(() => {
  vi.resetAllMocks();
  vi.useFakeTimers();
  api.effects.mockResolvedValue({ effects: [] });
});
afterEach(() => {
  draft.stop();
  vi.useRealTimers();
});

describe('the draft of the design', () => {
  it('is taken with what it would do, and may be published once that is counted and stops nothing', async () => {
    api.draft.mockResolvedValue(answer([change('vessel'), change('reach')]));
    api.effects.mockResolvedValue({ effects: [effect('vessel'), effect('reach', true)] });
    const loading = draft.load();
    await loading;
    expect(app.takeDesign).toHaveBeenCalledWith({ of: 'draft' }, true);
    expect(draft.stopped).toBe(true);
    await vi.advanceTimersByTimeAsync(0);
    expect(draft.of(change('vessel'))).toEqual([effect('vessel')]);
    expect(draft.stopped).toBe(true);
    api.effects.mockResolvedValue({ effects: [effect('vessel')] });
    draft.take(answer([change('vessel')]));
    expect(draft.effects).toBeNull();
    await vi.advanceTimersByTimeAsync(0);
    expect(draft.stopped).toBe(false);
    // Nothing changed has no effect, and nobody need be asked.
    api.effects.mockClear();
    draft.take(answer([]));
    expect([draft.effects, api.effects.mock.calls.length]).toEqual([[], 0]);
  });

  it('drops what an older count brings, its fault too', async () => {
    const older: { give: (of: { effects: Effect[] }) => void; fail: (why: Error) => void }[] = [];
    api.effects.mockImplementation(() => new Promise((give, fail) => older.push({ give, fail })));
    for (const code of ['a', 'b', 'c']) draft.take(answer([change(code)]));
    older[2]!.give({ effects: [effect('c')] });
    older[0]!.give({ effects: [effect('a')] });
    older[1]!.fail(new Error('The line is dead.'));
    await vi.advanceTimersByTimeAsync(0);
    expect(draft.effects).toEqual([effect('c')]);
    expect(app.fail).not.toHaveBeenCalled();
  });

  it('says when its effect cannot be counted, and stays unpublished', async () => {
    api.effects.mockRejectedValue(new Error('The line is dead.'));
    draft.take(answer([change('a')]));
    await vi.advanceTimersByTimeAsync(0);
    expect(app.fail).toHaveBeenCalledOnce();
    expect(draft.stopped).toBe(true);
  });

  it('follows work on the index until it is done, also when it cannot be asked for once', async () => {
    api.work
      .mockResolvedValueOnce({ work: [running] })
      .mockRejectedValueOnce(new Error('The line is dead.'))
      .mockResolvedValueOnce({ work: [done] });
    draft.follow([running]);
    await vi.advanceTimersByTimeAsync(10_000);
    expect(api.work).toHaveBeenCalledTimes(3);
    expect(draft.work).toEqual([done]);
    draft.follow([running]);
    draft.stop();
    await vi.advanceTimersByTimeAsync(10_000);
    expect(api.work).toHaveBeenCalledTimes(3);
  });

  it('takes what an act on it answers, and keeps what it has when the act is refused', async () => {
    expect(await draft.act(() => Promise.resolve(answer([change('x')])), 'It is kept.')).toBe(true);
    expect(app.say).toHaveBeenCalledWith('It is kept.');
    expect(await draft.act(() => Promise.reject(new Error('No.')))).toBe(false);
    expect(draft.changes).toEqual([change('x')]);
  });
});
