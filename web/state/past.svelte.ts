import type { LedgerLine } from '@/api/types';

interface PastSearch {
  /** What it asks. */
  question: string;
  address: string;
  name: string;
}

const KEPT = 50;

/** The searches made in this window, one after the other, to go back and forward among them. */
class Past {
  #all = $state.raw<PastSearch[]>([]);
  #at = $state(-1);

  get before(): PastSearch | undefined {
    return this.#all[this.#at - 1];
  }

  get after(): PastSearch | undefined {
    return this.#all[this.#at + 1];
  }

  /** Notes the search that is shown now. One that was gone back or forward to keeps its place. */
  note(shown: PastSearch): void {
    const near = [this.#at, this.#at - 1, this.#at + 1].find((i) => this.#all[i]?.question === shown.question);
    if (near !== undefined) {
      this.#all = this.#all.with(near, shown);
      this.#at = near;
      return;
    }
    this.#all = [...this.#all.slice(0, this.#at + 1), shown].slice(-KEPT);
    this.#at = this.#all.length - 1;
  }
}

export const past = new Past();

/** A search in a few words. */
export function nameOf(ledger: LedgerLine[]): string {
  const told = ledger
    .filter((l) => l.on)
    .map((l) => (l.how ? 'a group' : l.field === null && !l.negated ? l.value : `${l.subject} ${l.relation} ${l.value}`.trim()));
  return told.length > 0 ? told.join('; ') : 'Everything';
}
