import type { Term } from '@/api/types';

/** Acts on the terms of a vocabulary or scheme; each changes the list it is given. */

export function below(terms: Term[], code: string | null): Term[] {
  return terms.filter((t) => (t.parent ?? null) === code);
}

/** The term and all that stands below it. */
export function branch(terms: Term[], code: string): Set<string> {
  const found = new Set([code]);
  for (let grown = true; grown; ) {
    grown = false;
    for (const t of terms) if (t.parent !== null && found.has(t.parent) && !found.has(t.code)) grown = !!found.add(t.code);
  }
  return found;
}

/** Retires a term in favour of another, which takes over its names and what stood below it. */
export function merge(terms: Term[], from: string, into: string): void {
  const gone = terms.find((t) => t.code === from);
  const heir = terms.find((t) => t.code === into);
  if (!gone || !heir || branch(terms, from).has(into)) return;
  heir.synonyms = [...new Set([...(heir.synonyms ?? []), gone.label, ...(gone.synonyms ?? [])])].filter((s) => s !== heir.label);
  for (const t of terms) {
    if (t.parent === from) t.parent = into;
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

/** Puts a term, with all below it, under another (or at the top), as its first child or behind one of its siblings. */
export function place(terms: Term[], code: string, parent: string | null, after: string | null): void {
  if (parent !== null && branch(terms, code).has(parent)) return;
  const at = terms.findIndex((t) => t.code === code);
  const [term] = terms.splice(at, 1);
  term!.parent = parent;
  const siblings = below(terms, parent);
  const next = after === null ? siblings[0] : siblings[siblings.findIndex((t) => t.code === after) + 1];
  const to = next ? terms.indexOf(next) : terms.length;
  terms.splice(to, 0, term!);
}
