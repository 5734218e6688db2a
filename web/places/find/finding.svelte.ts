import { api, ApiError } from '@/api/client';
import type { Answer, CriterionInput, Found, LedgerLine, Row } from '@/api/types';
import { app } from '@/state/app.svelte';
import { router } from '@/state/router.svelte';
import { addressOf, searchFrom, type SearchState } from '@/state/search';
import { FacetAsks } from './facets.svelte';
import { columnsOf, withinCriterion } from './question';

const PAGE = 60;

/** A choice in the margins. */
export interface Toggle {
  field: string;
  value: string;
  exclude?: boolean;
}

/** The search that stands in the address: what it asks, what was found, and what is changed in it. */
export class Finding {
  /** Layouts that need room are not had in a narrow window. */
  readonly search: SearchState = $derived.by(() => {
    const found = searchFrom(router.params);
    return this.isSlim() ? { ...found, layout: 'digest' as const } : found;
  });
  readonly asks = new FacetAsks();
  readonly view = $derived(app.design!.views.find((v) => v.code === this.search.view) ?? null);
  readonly columns = $derived(columnsOf(app.person?.preferences.columns?.[this.search.view || 'none'], this.view));
  readonly sort = $derived(this.search.sort.length > 0 ? this.search.sort : this.search.words === '' ? (this.view?.sort ?? []) : []);
  /** What is asked besides words. Each says where it comes from, so that its line of the ledger can be changed there. */
  readonly criteria: CriterionInput[] = $derived([
    ...this.search.criteria.map((c, i) => ({ ...c, origin: `criterion/${i}` })),
    ...this.search.steps.map((s, i) => ({ cql: s.cql, negated: false, on: true, origin: `step/${i}` })),
    ...withinCriterion(this.search.within),
  ]);
  /** What a new search must be made for; opening a document or changing the layout is not among it. */
  readonly question = $derived(JSON.stringify(this.input()));

  answer = $state.raw<Found | null>(null);
  /** The same with its facets, which come a little later. */
  counted = $state.raw<Answer | null>(null);
  rows = $state.raw<Record<number, Row>>({});
  fault = $state.raw<ApiError | null>(null);
  busy = $state(false);

  #current: AbortController | null = null;
  #fetching: Record<number, boolean> = {};
  /** A question whose answer is here before it stands in the address. */
  #settled = '';

  constructor(private readonly isSlim: () => boolean) {}

  input() {
    return {
      words: this.search.words,
      any: this.search.any,
      reach: this.search.reach || undefined,
      criteria: this.criteria,
      sort: this.sort,
      columns: this.columns,
      where: this.search.where,
      facets: this.asks.list,
      formats: this.view?.formats,
      snippets: this.search.layout === 'digest',
      as: this.search.person || undefined,
      once: this.search.once || undefined,
    };
  }

  /** Asks, unless the answer has come already. */
  ask(): void {
    if (this.question !== this.#settled) void this.run();
  }

  async run(toggle?: Toggle): Promise<void> {
    // The newest question wins; what an older one brings is dropped.
    this.#current?.abort();
    const mine = (this.#current = new AbortController());
    this.busy = true;
    try {
      const whole = await api.searchInParts({ ...this.input(), toggle, limit: PAGE }, mine.signal, (got) => {
        if (mine === this.#current) this.#take(got, toggle !== undefined);
      });
      if (mine === this.#current) this.counted = whole;
    } catch (error) {
      if (mine !== this.#current) return;
      if (error instanceof ApiError) this.fault = error;
      else if (!(error instanceof DOMException)) throw error;
    } finally {
      if (mine === this.#current) this.busy = false;
    }
  }

  #take(got: Found, isToggled: boolean): void {
    this.fault = null;
    this.#settled = '';
    if (isToggled) {
      this.#keep(got.criteria);
      this.#settled = this.question;
    }
    this.answer = got;
    this.#fetching = {};
    this.rows = Object.fromEntries(got.rows.map((row, i) => [i, row]));
    this.busy = false;
  }

  /** What is chosen in the margins belongs to the search, not to the steps into it. */
  #keep(criteria: CriterionInput[]): void {
    const origins = criteria.map((c) => c.origin);
    this.go({
      criteria: criteria.filter((c) => !/^(step|within)/.test(c.origin ?? '')).map(({ cql, negated, on }) => ({ cql, negated, on })),
      steps: this.search.steps.filter((_, i) => origins.includes(`step/${i}`)),
      within: this.search.within && !origins.includes('within') && withinCriterion(this.search.within).length > 0 ? '' : this.search.within,
    });
  }

  /** Fetches the rows of a stretch of the list that are not there yet. */
  async need(from: number, to: number): Promise<void> {
    const asked = this.question;
    for (let page = Math.floor(from / PAGE); page <= Math.floor(to / PAGE); page++) {
      if (this.#fetching[page] || this.rows[page * PAGE]) continue;
      this.#fetching[page] = true;
      const got = await api.search({ ...this.input(), offset: page * PAGE, limit: PAGE, rows_only: true });
      if (asked !== this.question) return;
      this.rows = { ...this.rows, ...Object.fromEntries(got.rows.map((row, i) => [page * PAGE + i, row])) };
    }
  }

  go(change: Partial<SearchState>, how: 'push' | 'replace' = 'push'): void {
    router.go(addressOf({ ...this.search, ...change }), how);
  }

  add(...cql: string[]): void {
    this.go({ criteria: [...this.search.criteria, ...cql.map((text) => ({ cql: text, negated: false, on: true }))] });
  }

  toggle(cql: string): void {
    const kept = this.search.criteria.filter((c) => c.cql !== cql);
    if (kept.length < this.search.criteria.length) this.go({ criteria: kept });
    else this.add(cql);
  }

  /** Changes a line of the ledger where it comes from, or takes it out. What is no criterion becomes one when it is changed. */
  change(line: LedgerLine, change: Partial<CriterionInput> | null): void {
    const { criteria, steps } = this.search;
    const changed = change ? [{ cql: line.cql, negated: line.negated, on: line.on, ...change }] : [];
    const [kind, place] = line.origin.split('/');
    const at = Number(place);
    if (kind === 'criterion') this.go({ criteria: criteria.flatMap((c, i) => (i === at ? changed : [c])) });
    // Taking a step back takes back those after it, too; one that is changed leaves the others.
    else if (kind === 'step') this.go({ steps: steps.slice(0, at), criteria: [...criteria, ...changed] });
    else if (kind === 'within') this.go({ within: '', criteria: [...criteria, ...changed] });
    else if (!change) this.go({ words: line.words_without ?? '' });
    else {
      // What was typed behind it leaves the query line too, so that the order of the lines stays.
      const typed = this.answer!.ledger.filter((l) => l.typed);
      const behind = typed.slice(typed.indexOf(line) + 1).map(({ cql, negated, on }) => ({ cql, negated, on }));
      this.go({ words: line.words_before ?? '', criteria: [...changed, ...behind, ...criteria] });
    }
  }

  /** Takes several lines out at once. */
  drop(indexes: number[]): void {
    const ledger = this.answer!.ledger;
    if (indexes.length === 1) return this.change(ledger[indexes[0]!]!, null);
    const kept = ledger.filter((_, i) => !indexes.includes(i)).map(({ cql, negated, on }) => ({ cql, negated, on }));
    this.go({ words: '', criteria: kept, steps: [], within: '' });
  }

  chooseView(code: string): void {
    const chosen = app.design!.views.find((v) => v.code === code);
    const kept = this.search.criteria.filter((c) => c.cql !== this.view?.criterion);
    const own = chosen?.criterion ? [{ cql: chosen.criterion, negated: false, on: true }] : [];
    const plain = this.search.layout === 'digest' ? 'digest' : 'table';
    this.go({
      view: code,
      criteria: [...own, ...kept],
      sort: [],
      steps: [],
      layout: chosen && chosen.levels.length > 0 ? chosen.opens : plain,
    });
  }
}
