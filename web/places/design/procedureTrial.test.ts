import { beforeEach, describe, expect, it, vi } from 'vitest';
import { ApiError } from '@/api/client';
import type { ProcedurePart } from '@/api/types';
import { took } from '@/parts/took';
import { ProcedureTrying } from './procedureTrial.svelte';

const api = vi.hoisted(() => ({ tryProcedure: vi.fn() }));
vi.mock('@/api/client', async (original) => ({ ...(await original<typeof import('@/api/client')>()), api }));

const procedure = { code: 'tender', name: 'Tender' } as ProcedurePart;
const step = {
  code: 'check',
  documents: 282,
  examples: [],
  decisions: [
    {
      decision: 'yes',
      ways: [
        { to: 'manager', documents: 41 },
        { to: 'done', documents: 241 },
      ],
      lost: 0,
    },
  ],
  nobody: 0,
  nobody_examples: [],
  hours: 30,
};

describe('a procedure that is tried', () => {
  beforeEach(() => {
    api.tryProcedure.mockReset();
  });

  it('says how many each way takes', async () => {
    api.tryProcedure.mockResolvedValue({ faults: [], documents: 282, steps: [step] });
    const trying = new ProcedureTrying();
    trying.criterion = '  document_date = 2025 ';
    await trying.run(procedure);
    expect(api.tryProcedure).toHaveBeenCalledWith(procedure, 'document_date = 2025');
    expect(trying.taken('check', 'yes', 0)).toBe(41);
    expect(trying.taken('check', 'no', 0)).toBeNull();
    expect(trying.taken('sign', 'yes', 0)).toBeNull();
  });

  it('says what is wrong, and forgets what it said before', async () => {
    api.tryProcedure.mockResolvedValueOnce({ faults: [], documents: 1, steps: [step] });
    const trying = new ProcedureTrying();
    await trying.run(procedure);
    api.tryProcedure.mockRejectedValueOnce(new ApiError(422, 'query', 'There is no field “x”.'));
    await trying.run(procedure);
    expect(trying.result).toBeNull();
    expect(trying.fault).toBe('There is no field “x”.');
    expect(trying.busy).toBe(false);
  });

  it('writes how long a step took', () => {
    expect([took(0.4), took(5.2), took(47), took(72)]).toEqual(['under an hour', '5 h', '47 h', '3 days']);
  });
});
