import { api, ApiError } from '@/api/client';
import type { ReadingRule, ReadingTrial } from '@/api/types';

type Outcome = ReadingTrial['outcomes'][number]['outcome'];

/** A reading rule tried on the documents of a search. */
export class RuleTrial {
  /** What is tried on, in CQL; empty for all documents. */
  criterion = $state('');
  result = $state.raw<ReadingTrial | null>(null);
  /** Whose documents are listed. */
  outcome = $state<Outcome>('differs');
  busy = $state(false);
  fault = $state('');
  faults = $state.raw<Record<string, string>>({});

  readonly listed = $derived(this.result?.outcomes.find((o) => o.outcome === this.outcome) ?? null);

  async run(rule: ReadingRule): Promise<void> {
    this.busy = true;
    this.fault = '';
    this.faults = {};
    try {
      this.result = await api.tryRule(rule, this.criterion.trim());
      // What needs to be looked at first: where they differ, else where something is missing.
      const filled = (o: Outcome) => (this.result!.outcomes.find((of) => of.outcome === o)?.count ?? 0) > 0;
      this.outcome = (['differs', 'nothing', 'new', 'agrees', 'empty'] as const).find(filled) ?? 'agrees';
    } catch (error) {
      this.result = null;
      if (!(error instanceof ApiError)) throw error;
      this.faults = error.fields;
      if (Object.keys(error.fields).length === 0) this.fault = error.message;
    } finally {
      this.busy = false;
    }
  }
}
