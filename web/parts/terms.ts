import type { Term } from '@/api/types';

/** Something to choose from a list or tree. */
export interface Choice {
  value: string;
  label: string;
  /** How far below the top of a tree. */
  depth?: number;
  hint?: string;
  /** Its place: a concept may have several in a tree. */
  key?: string;
  /** Of a tree that is opened as it is read: whether others are below it. */
  more?: boolean;
}

/** A term as it is shown: its notation before its label. */
export function nameOf(term: Pick<Term, 'label' | 'notation'>): string {
  return term.notation && !term.label.startsWith(term.notation) ? `${term.notation} ${term.label}` : term.label;
}

/** The codes of all that a term is directly below, the first being where it has its place in lists. */
export function parentsOf(term: Term): string[] {
  return term.parent === null || term.parent === undefined ? [] : [term.parent, ...(term.also_below ?? [])];
}

/** The terms by the code they are directly below, those of the top under ''; a term whose parents are not there is at the top. */
export function levelsOf(terms: Term[]): Map<string, Term[]> {
  const codes = new Set(terms.map((t) => t.code));
  const levels = new Map<string, Term[]>();
  for (const term of terms) {
    const parents = parentsOf(term).filter((p) => codes.has(p));
    for (const parent of parents.length > 0 ? parents : ['']) {
      const level = levels.get(parent);
      if (level) level.push(term);
      else levels.set(parent, [term]);
    }
  }
  return levels;
}

/** Terms in tree order with how deep each stands, at each place it has. */
export function inTreeOrder(terms: Term[]): Choice[] {
  const levels = levelsOf(terms);
  const ordered: Choice[] = [];
  const walk = (level: string, path: string[]) => {
    for (const term of levels.get(level) ?? []) {
      // A circle is named where the terms are checked; here it just ends.
      if (path.includes(term.code)) continue;
      const place = [...path, term.code];
      ordered.push({
        value: term.code,
        label: nameOf(term),
        depth: path.length,
        hint: term.synonyms?.join(', ') || undefined,
        key: place.join('/'),
      });
      walk(term.code, place);
    }
  };
  walk('', []);
  return ordered;
}

/** What narrows the terms that may be chosen. */
export interface Narrowing {
  /** Only from this term down. */
  from?: string | null;
  /** Values of the field on which the choice depends; null when it depends on none. */
  beside?: string[] | null;
  /** Whether retired terms may be chosen. */
  retired?: boolean;
  /** Chosen already: these may stay. */
  present?: string[];
}

/** The terms that may be chosen. */
export function fitting(terms: Term[], { from, beside = null, retired = false, present = [] }: Narrowing): Term[] {
  const byCode = new Map(terms.map((t) => [t.code, t]));
  const isBelow = (code: string, seen: string[]): boolean => {
    const term = byCode.get(code);
    return code === from || (term !== undefined && parentsOf(term).some((p) => !seen.includes(p) && isBelow(p, [...seen, code])));
  };
  const suits = (term: Term) => !beside || !term.under?.length || term.under.some((u) => beside.includes(u));
  return terms.filter((t) => present.includes(t.code) || ((retired || !t.retired) && (!from || isBelow(t.code, [])) && suits(t)));
}

const fold = (text: string) => text.normalize('NFKD').replace(/\p{M}/gu, '').toLowerCase();

/** The choices that have what is typed in them, each once whatever places it has; all of them when nothing is typed. */
export function searched(items: Choice[], typed: string): Choice[] {
  const wanted = fold(typed.trim());
  if (wanted === '') return items;
  const seen = new Set<string>();
  return items.filter((i) => fold(`${i.label} ${i.hint ?? ''}`).includes(wanted) && !seen.has(i.value) && seen.add(i.value));
}
