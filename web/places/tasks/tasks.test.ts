import { beforeEach, describe, expect, it, vi } from 'vitest';
import { ApiError } from '@/api/client';
import type { DocumentRecord, Task, TaskRow } from '@/api/types';
import { counts } from '@/state/counts.svelte';
import { TaskLists, TaskWork } from './tasks.svelte';

const api = vi.hoisted(() => ({ tasks: vi.fn(), task: vi.fn(), decide: vi.fn(), counts: vi.fn() }));
vi.mock('@/api/client', async (original) => ({ ...(await original<typeof import('@/api/client')>()), api }));

const row = (id: number, together: string | null = null) => ({ id, together }) as TaskRow;
const COUNTS = { mine: 2, groups: 1, others: 0, overdue: 0, stopped: 0 };
const answer = (...tasks: TaskRow[]) => ({ total: tasks.length, tasks, counts: COUNTS, stopped: [] });
const TASK = {
  id: 7,
  sheet: [{ code: 'amount', required: true }],
  decisions: [
    { code: 'complete', label: 'Complete', comment: false, fields: [], leads: ['Decided by the manager'] },
    { code: 'return', label: 'Return', comment: true, fields: ['reason', 'amount'], leads: [] },
  ],
} as unknown as Task;
const RECORD = {
  values: {
    amount: [{ value: '48000.00', label: '48 000 GBP' }],
    reason: [{ value: 'From the dossier', label: 'From the dossier', inherited: true }],
    holder: [{ value: '', label: '█', covered: true }],
  },
  lock_version: 3,
} as unknown as DocumentRecord;

describe('the lists of tasks', () => {
  beforeEach(() => {
    Object.values(api).forEach((call) => call.mockReset());
  });

  it('goes from one to the next, and stays at the ends', async () => {
    api.tasks.mockResolvedValue(answer(row(1), row(2), row(3)));
    const lists = new TaskLists();
    await lists.load();
    expect([lists.beside(null, 1), lists.beside(1, 1), lists.beside(3, 1), lists.beside(1, -1), lists.beside(3, -1)]).toEqual([
      1, 2, 3, 1, 2,
    ]);
    // Once one is decided the next is looked at; after the last the one before it.
    expect([lists.next(1), lists.next(3)]).toEqual([2, 2]);
    expect([counts.mine, counts.groups]).toEqual([2, 1]);
  });

  it('decides together only what is of one step', async () => {
    api.tasks.mockResolvedValue(answer(row(1, '4/order'), row(2, '4/order'), row(3, '4/check'), row(4)));
    const lists = new TaskLists();
    await lists.load();
    expect(lists.rows.map((r) => lists.fits(r))).toEqual([true, true, true, false]);
    lists.pick(1);
    expect(lists.rows.map((r) => lists.fits(r))).toEqual([true, true, false, false]);
    lists.pick(2);
    lists.pick(1);
    expect(lists.picked).toEqual([2]);
    // What was decided by others meanwhile is not picked any more.
    api.tasks.mockResolvedValue(answer(row(1, '4/order')));
    await lists.load();
    expect(lists.picked).toEqual([]);
  });

  it('shows the part that was asked for last, whichever answer comes first', async () => {
    let late: (of: ReturnType<typeof answer>) => void = () => undefined;
    api.tasks.mockReturnValueOnce(new Promise((resolve) => (late = resolve))).mockResolvedValueOnce(answer(row(9)));
    const lists = new TaskLists();
    const first = lists.load('mine');
    await lists.load('groups');
    late(answer(row(1)));
    await first;
    expect(lists.part).toBe('groups');
    expect(lists.rows.map((r) => r.id)).toEqual([9]);
  });

  it('shows more without showing anything twice', async () => {
    api.tasks.mockResolvedValueOnce({ ...answer(row(1), row(2)), total: 3 }).mockResolvedValueOnce({ ...answer(row(2), row(3)), total: 3 });
    const lists = new TaskLists();
    await lists.load();
    await lists.more();
    expect(lists.rows.map((r) => r.id)).toEqual([1, 2, 3]);
  });

  it('says when it cannot be shown', async () => {
    api.tasks.mockRejectedValue(new ApiError(500, 'fault', 'No.'));
    const lists = new TaskLists();
    await lists.load();
    expect([lists.known, lists.fault]).toEqual([true, 'No.']);
  });
});

describe('a task that is looked at', () => {
  beforeEach(() => {
    Object.values(api).forEach((call) => call.mockReset());
    api.task.mockResolvedValue(TASK);
  });
  const begun = async () => {
    const work = new TaskWork(7);
    await work.load();
    work.fill(RECORD);
    return work;
  };

  it('asks for the fields of the step, and for those that the decision needs', async () => {
    const work = await begun();
    expect(work.entries).toEqual([{ code: 'amount', required: true }]);
    work.choose('return');
    expect(work.entries).toEqual([
      { code: 'amount', required: true },
      { code: 'reason', required: true },
    ]);
  });

  it('sends what was changed, and nothing else', async () => {
    api.decide.mockResolvedValue({ case: {} });
    const work = await begun();
    work.choose('complete');
    expect(await work.decide(3)).toBe(true);
    expect(api.decide).toHaveBeenLastCalledWith(7, { decision: 'complete', comment: '', values: {}, lock_version: 3 });
    work.values['amount'] = ['52000'];
    await work.decide(3);
    expect(api.decide).toHaveBeenLastCalledWith(7, { decision: 'complete', comment: '', values: { amount: ['52000'] }, lock_version: 3 });
  });

  it('decides nothing while nothing is chosen', async () => {
    const work = await begun();
    expect(await work.decide(3)).toBe(false);
    expect(api.decide).not.toHaveBeenCalled();
  });

  it('says what is wrong at its field, and what somebody else did above all', async () => {
    const work = await begun();
    work.choose('complete');
    api.decide.mockRejectedValueOnce(new ApiError(422, 'invalid', 'x', { amount: 'Amount needs a value.' }));
    expect(await work.decide(3)).toBe(false);
    expect([work.faults['amount'], work.fault]).toEqual(['Amount needs a value.', '']);
    api.decide.mockRejectedValueOnce(new ApiError(422, 'refused', 'Ruan Tolley decided “Complete” in the meantime.'));
    expect(await work.decide(3)).toBe(false);
    expect(work.fault).toContain('in the meantime');
    expect(work.busy).toBe(false);
    work.choose('return');
    expect(work.fault).toBe('');
  });
});
