import { beforeEach, describe, expect, it, vi } from 'vitest';

const api = vi.hoisted(() => ({ criterion: vi.fn() }));
vi.mock('@/api/client', () => {
  class ApiError extends Error {
    fields: Record<string, string> = {};
  }
  return { ApiError, api };
});
const { Judging } = await import('./judging.svelte');
const { ApiError } = await import('@/api/client');
const structure = { code: 'structure', pattern: 'AA-9999-?' };
const wrong = (text: string) => Object.assign(new (ApiError as unknown as new () => Error)(), { fields: { value: text } });

beforeEach(() => {
  vi.useFakeTimers();
  api.criterion.mockReset().mockResolvedValue({ cql: 'x' });
});

describe('an identifier while it is typed', () => {
  it('is judged once it is whole, and not before', async () => {
    const judging = new Judging();
    judging.judge(structure, 'LK-0407');
    await vi.advanceTimersByTimeAsync(1000);
    expect(api.criterion).not.toHaveBeenCalled();
    judging.judge(structure, 'LK-0407-5');
    await vi.advanceTimersByTimeAsync(1000);
    expect(api.criterion).toHaveBeenCalledExactlyOnceWith('structure', 'is', ['LK-0407-5']);
    expect([judging.isRight, judging.fault]).toEqual([true, '']);
  });

  it('is told what is wrong with it, until it is typed on', async () => {
    api.criterion.mockRejectedValue(wrong('The check character does not fit.'));
    const judging = new Judging();
    judging.judge(structure, 'LK-0407-6');
    await vi.advanceTimersByTimeAsync(1000);
    expect([judging.isRight, judging.fault]).toEqual([false, 'The check character does not fit.']);
    judging.judge(structure, 'LK-0407-');
    expect(judging.fault).toBe('');
  });

  it('is judged by the last that was typed, however late an answer comes', async () => {
    let first: (fault: unknown) => void = () => undefined;
    api.criterion.mockImplementationOnce(() => new Promise((_, reject) => (first = reject))).mockResolvedValueOnce({ cql: 'x' });
    const judging = new Judging();
    judging.judge(structure, 'LK-0407-6');
    await vi.advanceTimersByTimeAsync(400);
    judging.judge(structure, 'LK-0407-5');
    await vi.advanceTimersByTimeAsync(400);
    first(wrong('Late.'));
    await vi.advanceTimersByTimeAsync(0);
    expect([judging.isRight, judging.fault]).toEqual([true, '']);
  });

  it('is left alone where there is no check character, or nobody answers', async () => {
    const judging = new Judging();
    judging.judge({ code: 'permit', pattern: '' }, 'MP-2023-0007');
    await vi.advanceTimersByTimeAsync(1000);
    expect(api.criterion).not.toHaveBeenCalled();
    api.criterion.mockRejectedValue(new Error('offline'));
    judging.judge(structure, 'LK-0407-5');
    await vi.advanceTimersByTimeAsync(1000);
    expect([judging.isRight, judging.fault]).toEqual([false, '']);
  });
});
