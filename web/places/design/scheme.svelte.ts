import type { Term } from '@/api/types';
import { levelsOf, parentsOf } from '@/parts/terms';
import { codeOf } from './codes';
import { below, branch, freeCode, merge, place, reparent } from './terms';

/** What the tree is told of from outside. */
interface About {
  /** The concepts; the acts change this list. */
  terms: () => Term[];
  /** Concepts that documents may have: their codes stay. */
  known: Set<string>;
  /** Puts the focus on the row at hand, or on the name of its concept. */
  focus: (what: 'row' | 'label') => void;
}

/** One place of a concept in sight. */
export interface ConceptRow {
  term: Term;
  depth: number;
  parents: boolean;
  /** The concept below which it stands here. */
  under: string | null;
  /** Unique among the rows: the codes from the top. */
  key: string;
}

export interface Asked {
  act: 'move' | 'merge' | 'split' | 'retire';
  to: string;
  criterion: string;
}

/** A tree of more concepts than this begins closed. */
const OPENED = 500;

/** The tree of a classification scheme: what of it is in sight, which concept is at hand, and what is done to it. */
export class SchemeTree {
  at = $state('');
  /** Below which concept the one at hand is looked at, where it has several places. */
  spot = $state<string | null>(null);
  open = $state<Record<string, boolean>>({});
  /** What is dragged, and below which concept it was taken up. */
  dragged = $state.raw<{ code: string; from: string | null } | null>(null);
  over = $state.raw<{ key: string; how: 'into' | 'after' } | null>(null);
  /** What a move, merge, split or retirement would touch, to be looked at before it is done. */
  asked = $state<Asked | null>(null);

  constructor(private readonly about: About) {
    this.at = this.terms[0]?.code ?? '';
    const tops = this.terms.length <= OPENED ? this.terms.filter((t) => t.parent === null) : [];
    this.open = Object.fromEntries(tops.map((t) => [t.code, true]));
  }

  get terms(): Term[] {
    return this.about.terms();
  }

  readonly rows = $derived.by(() => {
    const found: ConceptRow[] = [];
    const levels = levelsOf(this.terms);
    const walk = (under: string | null, path: string[]) => {
      for (const term of levels.get(under ?? '') ?? []) {
        if (path.includes(term.code)) continue;
        const to = [...path, term.code];
        found.push({ term, depth: path.length, parents: levels.has(term.code), under, key: to.join('/') });
        if (this.open[term.code]) walk(term.code, to);
      }
    };
    walk(null, []);
    return found;
  });

  readonly concept = $derived(this.terms.find((t) => t.code === this.at));

  /** The row that is looked at: of several places of a concept the one that was gone to. */
  readonly row = $derived(
    this.rows.find((r) => r.term.code === this.at && r.under === this.spot) ?? this.rows.find((r) => r.term.code === this.at),
  );

  /** The concept at hand and all below it. */
  readonly within = $derived(branch(this.terms, this.at));

  choose(code: string, under: string | null): void {
    this.at = code;
    this.spot = under;
    this.asked = null;
  }

  /** Goes to a concept at one of its places, which is opened as far as needed. */
  go(code: string, under = this.terms.find((t) => t.code === code)?.parent ?? null): void {
    this.at = code;
    this.spot = under;
    const way: string[] = [];
    for (let above = under; above && !way.includes(above); above = this.terms.find((t) => t.code === above)?.parent ?? null)
      way.push(above);
    if (!this.row) for (const opened of way) this.open[opened] = true;
    this.about.focus('row');
  }

  /** Takes in other concepts in place of all these. */
  begin(terms: Term[]): void {
    this.at = terms[0]?.code ?? '';
    for (const t of terms) if (t.parent === null) this.open[t.code] = true;
  }

  /** The code of the last concept directly below another, apart from one. */
  private lastBelow(parent: string | null, but: string): string | null {
    return (
      below(this.terms, parent)
        .filter((t) => t.code !== but)
        .at(-1)?.code ?? null
    );
  }

  /** A new concept below another, behind one of its siblings or behind all of them. */
  add(parent: string | null, after: string | null): void {
    const code = this.put('', 'concept', { parent });
    place(this.terms, code, parent, after ?? this.lastBelow(parent, code));
    if (parent) this.open[parent] = true;
    this.choose(code, parent);
    this.about.focus('label');
  }

  private put(label: string, wish: string, more: Partial<Term>): string {
    const code = freeCode(this.terms, wish);
    this.terms.push({
      code,
      label,
      parent: null,
      synonyms: [],
      notation: '',
      note: '',
      related: [],
      matches: [],
      labels: {},
      retention: null,
      retired: false,
      replaced_by: null,
      from: null,
      under: [],
      ...more,
    });
    return code;
  }

  /** The code of a new concept follows its name; one that documents may have stays. */
  rename(term: Term, label: string): void {
    if (!this.about.known.has(term.code)) {
      const others = this.terms.filter((t) => t !== term);
      const code = freeCode(others, codeOf(label) || 'concept');
      for (const t of this.terms) if (parentsOf(t).includes(term.code)) reparent(t, term.code, code);
      this.open[code] = this.open[term.code] ?? false;
      term.code = code;
      this.at = code;
    }
    term.label = label;
  }

  /** Takes a concept out; what stood below it moves up. */
  remove(term: Term): void {
    for (const t of below(this.terms, term.code)) reparent(t, term.code, term.parent);
    const beside = below(this.terms, term.parent).find((t) => t.code !== term.code)?.code;
    const next = beside ?? term.parent ?? this.terms.find((t) => t.code !== term.code)?.code ?? '';
    this.terms.splice(this.terms.indexOf(term), 1);
    this.go(next);
  }

  /** Moves a concept among its neighbours. */
  private shift({ term, under }: ConceptRow, by: 1 | -1): void {
    const list = below(this.terms, under);
    const index = list.indexOf(term);
    if (by < 0 && index > 0) place(this.terms, term.code, under, list[index - 2]?.code ?? null, under);
    if (by > 0 && index < list.length - 1) place(this.terms, term.code, under, list[index + 1]!.code, under);
    this.go(term.code, under);
  }

  /** Puts a concept below the neighbour before it. */
  private moveIn({ term, under }: ConceptRow): void {
    const siblings = below(this.terms, under);
    const before = siblings[siblings.indexOf(term) - 1];
    if (!before) return;
    place(this.terms, term.code, before.code, this.lastBelow(before.code, term.code), under);
    this.open[before.code] = true;
    this.go(term.code, before.code);
  }

  /** Puts a concept behind the one that it is below. */
  private moveOut({ term, under }: ConceptRow): void {
    const parent = this.terms.find((t) => t.code === under);
    if (!parent) return;
    place(this.terms, term.code, parent.parent ?? null, parent.code, under);
    this.go(term.code, parent.parent ?? null);
  }

  /** What a key does on a row; whether it does anything. */
  press(key: string, row: ConceptRow, { alt = false, ctrl = false } = {}): boolean {
    const { rows } = this;
    const { term, under } = row;
    const index = rows.findIndex((r) => r.key === row.key);
    const step = (to: ConceptRow | undefined) => to && this.go(to.term.code, to.under);
    if (alt && key === 'ArrowUp') this.shift(row, -1);
    else if (alt && key === 'ArrowDown') this.shift(row, 1);
    else if (alt && key === 'ArrowRight') this.moveIn(row);
    else if (alt && key === 'ArrowLeft') this.moveOut(row);
    else if (key === 'ArrowDown') step(rows[index + 1]);
    else if (key === 'ArrowUp') step(rows[index - 1]);
    else if (key === 'ArrowRight') this.open[term.code] = true;
    else if (key === 'ArrowLeft' && this.open[term.code]) this.open[term.code] = false;
    else if (key === 'ArrowLeft') step(rows.slice(0, index).findLast((r) => r.term.code === under));
    else if (key === 'Home') step(rows[0]);
    else if (key === 'End') step(rows.at(-1));
    else if (key === 'Enter' && !ctrl) this.add(under, term.code);
    else if (key === 'Insert') this.add(term.code, null);
    else if (key === 'F2') this.about.focus('label');
    else if (key === 'Delete' && !this.about.known.has(term.code)) this.remove(term);
    else return false;
    return true;
  }

  /** Whether what is dragged may be put at a row: nothing goes below itself. */
  mayTake(term: Term): boolean {
    return this.dragged !== null && !branch(this.terms, this.dragged.code).has(term.code);
  }

  /** Puts down what is dragged, into or behind the row that it is over. */
  drop({ term, under }: ConceptRow): void {
    const { dragged, over } = this;
    this.dragged = null;
    this.over = null;
    if (!dragged || !over || dragged.code === term.code) return;
    if (over.how === 'into') {
      place(this.terms, dragged.code, term.code, this.lastBelow(term.code, dragged.code), dragged.from);
      this.open[term.code] = true;
    } else place(this.terms, dragged.code, under, term.code, dragged.from);
    this.go(dragged.code, over.how === 'into' ? term.code : under);
  }

  ask(act: Asked['act']): void {
    this.asked = { act, to: act === 'move' ? (this.row?.under ?? '') : '', criterion: '' };
  }

  /** Whether what is asked can be done: a merge needs the other concept, a split a name and a criterion. */
  readonly ready = $derived.by(() => {
    const { asked } = this;
    if (!asked) return false;
    if (asked.act === 'move' || asked.act === 'retire') return true;
    return asked.to.trim() !== '' && (asked.act === 'merge' || asked.criterion.trim() !== '');
  });

  /** Does what was asked. */
  act(): void {
    const { asked, concept } = this;
    if (!asked || !concept) return;
    const to = asked.to || null;
    if (asked.act === 'move') place(this.terms, concept.code, to, this.lastBelow(to, concept.code), this.row?.under);
    else if (asked.act === 'retire') {
      concept.retired = true;
      concept.replaced_by = to;
    } else if (asked.act === 'merge') merge(this.terms, concept.code, asked.to);
    else {
      const code = this.put(asked.to, codeOf(asked.to), {
        parent: concept.parent,
        also_below: [...(concept.also_below ?? [])],
        retention: concept.retention ?? null,
        from: { code: concept.code, criterion: asked.criterion },
      });
      place(this.terms, code, concept.parent ?? null, concept.code);
      this.at = code;
    }
    if (asked.act !== 'split' && to) this.open[to] = true;
    this.asked = null;
  }
}
