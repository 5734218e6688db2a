import type { Term } from '@/api/types';
import { levelsOf, parentsOf } from '@/parts/terms';

/** Acts on the terms of a vocabulary or scheme; each changes the list it is given. */

/** What is directly below a term, or at the top. */
export function below(terms: Term[], code: string | null): Term[] {
  return terms.filter((t) => (code === null ? (t.parent ?? null) === null : parentsOf(t).includes(code)));
}

/** The term and all that stands below it. */
export function branch(terms: Term[], code: string): Set<string> {
  const levels = levelsOf(terms);
  const found = new Set([code]);
  // A set is walked on while it grows.
  for (const at of found) for (const term of levels.get(at) ?? []) found.add(term.code);
  return found;
}

/** Puts a term below another in the place of one that it was below; nothing is put twice. */
export function reparent(term: Term, from: string | null, to: string | null): void {
  const now = parentsOf(term);
  const next = now.length === 0 || from === null ? [to, ...now] : now.map((p) => (p === from ? to : p));
  const [parent = null, ...others] = [...new Set(next.filter((p) => p !== null && p !== term.code))] as string[];
  term.parent = parent;
  if (others.length > 0 || term.also_below) term.also_below = others;
}

/** Retires a term in favour of another, which takes over its names and what stood below it. */
export function merge(terms: Term[], from: string, into: string): void {
  const gone = terms.find((t) => t.code === from);
  const heir = terms.find((t) => t.code === into);
  if (!gone || !heir || branch(terms, from).has(into)) return;
  heir.synonyms = [...new Set([...(heir.synonyms ?? []), gone.label, ...(gone.synonyms ?? [])])].filter((s) => s !== heir.label);
  for (const t of terms) {
    if (parentsOf(t).includes(from)) reparent(t, from, into);
    if (t.replaced_by === from) t.replaced_by = into;
  }
  gone.retired = true;
  gone.replaced_by = into;
}

/** A code that none of the terms has yet. */
export function freeCode(terms: Term[], wish: string): string {
  let code = wish || 'term';
  for (let i = 2; terms.some((t) => t.code === code); i++) code = `${wish || 'term'}_${i}`;
  return code;
}

/**
 * Puts a term, with all below it, under another (or at the top), as its first child or behind one of its siblings. `from` is
 * the parent below which it was taken up; a term that is put at the top has no other place.
 */
export function place(terms: Term[], code: string, parent: string | null, after: string | null, from?: string | null): void {
  if (parent !== null && branch(terms, code).has(parent)) return;
  const at = terms.findIndex((t) => t.code === code);
  const [term] = terms.splice(at, 1);
  if (parent === null) {
    term!.parent = null;
    if (term!.also_below) term!.also_below = [];
  } else reparent(term!, from === undefined ? term!.parent : from, parent);
  const siblings = below(terms, parent);
  const next = after === null ? siblings[0] : siblings[siblings.findIndex((t) => t.code === after) + 1];
  const to = next ? terms.indexOf(next) : terms.length;
  terms.splice(to, 0, term!);
}
