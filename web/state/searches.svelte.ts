import { api } from '@/api/client';
import type { KeptSearch, RecentSearch, SavedSearch, SearchesAnswer } from '@/api/types';
import { app } from '@/state/app.svelte';
import type { SearchState } from '@/state/search';

/** The searches a person keeps, watches and made lately. */
class Searches {
  saved = $state.raw<SavedSearch[]>([]);
  recent = $state.raw<RecentSearch[]>([]);
  known = $state(false);

  /** What is new in the watched ones. */
  get fresh(): number {
    return this.saved.reduce((sum, s) => sum + (s.new ?? 0), 0);
  }

  async load(): Promise<void> {
    this.take(await api.searches());
  }

  take(answer: SearchesAnswer): void {
    this.saved = answer.searches;
    this.recent = answer.recent;
    this.known = true;
  }
}

export const searches = new Searches();

export function keptOf(search: SearchState): KeptSearch {
  return {
    words: search.words,
    any: search.any,
    criteria: search.criteria,
    view: search.view,
    where: search.where,
    ...(search.outside ? { outside: search.outside } : {}),
    reach: search.reach || app.reach,
    ...(search.once ? { once: true } : {}),
  };
}

/** Whether two searches ask the same, in whatever order their parts were written. */
export function asksTheSame(a: KeptSearch, b: KeptSearch): boolean {
  const key = (s: KeptSearch) =>
    JSON.stringify([
      s.words,
      s.any,
      s.words === '' ? null : (s.reach ?? 'as_written'),
      s.view,
      s.where,
      s.once ?? false,
      s.outside ?? null,
      s.criteria.map((c) => [c.cql, c.negated, c.on]),
    ]);
  return key(a) === key(b);
}
