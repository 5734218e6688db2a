import { beforeEach, describe, expect, it, vi } from 'vitest';

const api = vi.hoisted(() => ({ tryRule: vi.fn() }));
class ApiError extends Error {
  constructor(
    message: string,
    readonly fields: Record<string, string> = {},
  ) {
    super(message);
  }
}
vi.mock('@/api/client', () => ({ api, ApiError }));

const { RuleTrial } = await import('./readingTrial.svelte');
const rule = { code: 'x' } as never;
const result = (counts: Record<string, number>) => ({
  outcomes: ['agrees', 'differs', 'nothing', 'new', 'empty'].map((outcome) => ({ outcome, count: counts[outcome] ?? 0, documents: [] })),
});

describe('the trial of a rule', () => {
  beforeEach(() => {
    api.tryRule.mockReset();
  });

  it('lists first what needs to be looked at', async () => {
    const trial = new RuleTrial();
    for (const [counts, outcome] of [
      [{ agrees: 3, differs: 1, nothing: 2 }, 'differs'],
      [{ agrees: 3, nothing: 2 }, 'nothing'],
      [{ agrees: 3, new: 2 }, 'new'],
      [{ agrees: 3, empty: 2 }, 'agrees'],
      [{}, 'agrees'],
    ] as const) {
      api.tryRule.mockResolvedValueOnce(result(counts));
      await trial.run(rule);
      expect(trial.outcome).toBe(outcome);
      expect(trial.listed?.outcome).toBe(outcome);
    }
  });

  it('says what is wrong with the rule beside its property, or with the search', async () => {
    const trial = new RuleTrial();
    trial.criterion = '  gate ';
    api.tryRule.mockRejectedValueOnce(new ApiError('No', { pattern: 'It fits everywhere.' }));
    await trial.run(rule);
    expect([trial.faults.pattern, trial.fault, trial.result]).toEqual(['It fits everywhere.', '', null]);
    api.tryRule.mockRejectedValueOnce(new ApiError('There is no field “x”.'));
    await trial.run(rule);
    expect([trial.faults, trial.fault, trial.busy]).toEqual([{}, 'There is no field “x”.', false]);
    expect(api.tryRule).toHaveBeenLastCalledWith(rule, 'gate');
  });
});
