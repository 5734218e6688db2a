import { api, messageOf, type DueOnly } from '@/api/client';
import type { DueList, DuePeriod } from '@/api/types';
import { ACTIONS } from './due';

type Period = DueList['periods'][number];

/** What is due when, and what is due in the period that is looked at. */
export class Due {
  list = $state.raw<DueList | null>(null);
  period = $state.raw<DuePeriod | null>(null);
  fault = $state('');
  #asked = 0;

  async load(only: DueOnly): Promise<void> {
    try {
      this.list = await api.due(only);
      this.fault = '';
    } catch (error) {
      this.fault = messageOf(error, 'What falls due cannot be shown.');
    }
  }

  /** The latest that was asked for is shown, whichever answer comes last. */
  async open(period: Period, action: string, only: DueOnly): Promise<void> {
    const asked = ++this.#asked;
    this.period = null;
    try {
      const got = await api.duePeriod({ ...only, from: period.from, until: period.until, action });
      if (asked === this.#asked) this.period = got;
    } catch (error) {
      if (asked === this.#asked) this.fault = messageOf(error, 'This period cannot be shown.');
    }
  }

  /** The most documents of one cell, to draw the others against. */
  get most(): number {
    return Math.max(1, ...(this.list?.periods ?? []).flatMap((p) => ACTIONS.map(([action]) => p.counts[action])));
  }
}
