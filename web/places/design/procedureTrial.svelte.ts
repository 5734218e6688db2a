import { api, ApiError } from '@/api/client';
import type { ProcedurePart, ProcedureTrial } from '@/api/types';

/** A procedure run on the documents of a search, as if they arrived now. */
export class ProcedureTrying {
  /** What it is run on, in CQL; empty for all that the person may see. */
  criterion = $state('');
  result = $state.raw<ProcedureTrial | null>(null);
  busy = $state(false);
  fault = $state('');

  async run(procedure: ProcedurePart): Promise<void> {
    this.busy = true;
    this.fault = '';
    try {
      this.result = await api.tryProcedure(procedure, this.criterion.trim());
    } catch (error) {
      this.result = null;
      if (!(error instanceof ApiError)) throw error;
      this.fault = Object.values(error.fields)[0] ?? error.message;
    } finally {
      this.busy = false;
    }
  }

  /** What was found of a step. */
  of(code: string) {
    return this.result?.steps.find((step) => step.code === code) ?? null;
  }

  /** How many a way takes, of those that come to its step. */
  taken(step: string, decision: string, index: number): number | null {
    return this.of(step)?.decisions.find((of) => of.decision === decision)?.ways[index]?.documents ?? null;
  }
}
