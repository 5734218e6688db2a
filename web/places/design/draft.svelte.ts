import { api } from '@/api/client';
import type { Change, DraftAnswer, Effect, Work } from '@/api/types';
import { app } from '@/state/app.svelte';

/** The draft of the design and what it would do. While the Design place is open, `app.design` is the draft. */
class DraftState {
  changes = $state.raw<Change[]>([]);
  effects = $state.raw<Effect[] | null>(null);
  groups = $state.raw<string[]>([]);
  designing = $state.raw<string[]>([]);
  work = $state.raw<Work[]>([]);
  restores = $state.raw<number | null>(null);
  #current: AbortController | null = null;
  #timer: ReturnType<typeof setTimeout> | undefined;

  async load(): Promise<void> {
    this.take(await api.draft());
  }

  take(answer: DraftAnswer): void {
    app.takeDesign(answer.design, true);
    this.changes = answer.changes;
    this.groups = answer.groups;
    this.designing = answer.designing;
    this.restores = answer.restores;
    this.follow(answer.work);
    void this.count();
  }

  /** Shows work on the index, and asks how far it is while there is any. */
  follow(work: Work[]): void {
    clearTimeout(this.#timer);
    this.work = work;
    if (work.some((w) => w.state === 'running'))
      this.#timer = setTimeout(
        () =>
          void api.work().then(
            (got) => this.follow(got.work),
            // That it could not be asked says nothing about the work.
            () => this.follow(this.work),
          ),
        1000,
      );
  }

  stop(): void {
    clearTimeout(this.#timer);
  }

  /** Counts anew; a newer question drops what an older one brings. */
  async count(): Promise<void> {
    this.#current?.abort();
    const mine = (this.#current = new AbortController());
    if (this.changes.length === 0) {
      this.effects = [];
      return;
    }
    this.effects = null;
    try {
      const got = await api.effects(mine.signal);
      if (mine === this.#current) this.effects = got.effects;
    } catch (error) {
      if (mine === this.#current && !(error instanceof DOMException)) app.fail(error, 'The effect could not be counted.');
    }
  }

  of(change: Change): Effect[] {
    return this.effects?.filter((e) => e.kind === change.kind && e.code === change.code) ?? [];
  }

  get stopped(): boolean {
    return this.effects?.some((e) => e.stops) ?? true;
  }

  /** Runs an act on the draft and says what went wrong with it, if anything did. */
  async act(act: () => Promise<DraftAnswer>, done = ''): Promise<boolean> {
    try {
      this.take(await act());
      if (done) app.say(done);
      return true;
    } catch (error) {
      app.fail(error, 'The draft was not changed. Try again.');
      return false;
    }
  }
}

export const draft = new DraftState();
