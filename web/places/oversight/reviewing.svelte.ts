import { api, ApiError, messageOf, type DisposalAct } from '@/api/client';
import type { Disposal, DisposalItem } from '@/api/types';

/** How long until a disposal that something is done for in the background is looked at again, in milliseconds. */
const AGAIN = 1500;
const AT_WORK = ['preparing', 'packing', 'running'];

export const PILES = [
  ['undecided', 'Not decided'],
  ['released', 'Released'],
  ['postponed', 'Postponed'],
  ['kept', 'Kept'],
  ['left_out', 'Left out'],
  ['done', 'Destroyed'],
] as const;
export type Pile = (typeof PILES)[number][0];

/** One disposal, and the pile of its documents that is looked at. */
export class Reviewing {
  disposal = $state.raw<Disposal | null>(null);
  items = $state.raw<DisposalItem[]>([]);
  total = $state(0);
  pile = $state<Pile>('undecided');
  picked = $state<string[]>([]);
  fault = $state('');
  busy = $state(false);
  #again = 0;

  constructor(public readonly id: number) {}

  async load(): Promise<void> {
    try {
      await this.#take(await api.disposal(this.id));
      this.fault = '';
    } catch (error) {
      this.fault = messageOf(error, 'The disposal cannot be shown.');
    }
  }

  /** Stops looking again. */
  leave(): void {
    clearTimeout(this.#again);
  }

  async turn(pile: Pile): Promise<void> {
    this.pile = pile;
    this.picked = [];
    await this.#items();
  }

  async more(): Promise<void> {
    const got = await api.disposalItems(this.id, this.pile, this.items.length);
    this.items = [...this.items, ...got.items];
  }

  pick(ref: string): void {
    this.picked = this.picked.includes(ref) ? this.picked.filter((p) => p !== ref) : [...this.picked, ref];
  }

  /** Decides about the selected documents, or about all of which nothing is decided. */
  async decide(decision: string, reason = '', until: string | null = null): Promise<boolean> {
    return this.#act(() =>
      api.reviewDisposal(this.id, {
        ...(this.picked.length > 0 ? { documents: this.picked } : {}),
        decision,
        reason,
        until,
        lock_version: this.disposal!.lock_version,
      }),
    );
  }

  async act(act: DisposalAct, more: { reason?: string; receipt?: string } = {}): Promise<boolean> {
    return this.#act(() => api.actOnDisposal(this.id, act, { ...more, lock_version: this.disposal!.lock_version }));
  }

  /** What has something in it, or is where decisions are made. */
  get piles(): readonly (typeof PILES)[number][] {
    const counts = this.disposal?.counts;
    return counts ? PILES.filter(([pile]) => counts[pile] > 0 || (pile === 'undecided' && this.disposal!.state === 'review')) : [];
  }

  async #act(what: () => Promise<Disposal>): Promise<boolean> {
    this.busy = true;
    this.fault = '';
    try {
      const got = await what();
      this.picked = [];
      await this.#take(got);
      return true;
    } catch (error) {
      this.fault = messageOf(error, 'Nothing was changed. Try again.');
      // Somebody else was at it: what is shown is how it is now.
      if (error instanceof ApiError && error.status === 409) await this.#take(await api.disposal(this.id));
      return false;
    } finally {
      this.busy = false;
    }
  }

  async #take(disposal: Disposal): Promise<void> {
    this.disposal = disposal;
    if (!this.piles.some(([pile]) => pile === this.pile)) this.pile = this.piles[0]?.[0] ?? 'undecided';
    await this.#items();
    this.leave();
    if (AT_WORK.includes(disposal.state) && !disposal.says) this.#again = setTimeout(() => void this.load(), AGAIN) as unknown as number;
  }

  async #items(): Promise<void> {
    const got = await api.disposalItems(this.id, this.pile);
    this.items = got.items;
    this.total = got.total;
  }
}
