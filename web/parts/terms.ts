import type { Term } from '@/api/types';

/** A term as it is shown: its notation before its label. */
export function nameOf(term: Term): string {
  return term.notation && !term.label.startsWith(term.notation) ? `${term.notation} ${term.label}` : term.label;
}

/** Terms in tree order with how deep each stands. */
export function inTreeOrder(terms: Term[]): { value: string; label: string; depth: number; hint?: string }[] {
  const codes = new Set(terms.map((t) => t.code));
  const below = Map.groupBy(terms, (term) => (term.parent !== null && codes.has(term.parent) ? term.parent : null));
  const ordered: { value: string; label: string; depth: number; hint?: string }[] = [];
  const walk = (parent: string | null, depth: number) => {
    for (const term of below.get(parent) ?? []) {
      ordered.push({ value: term.code, label: nameOf(term), depth, hint: term.synonyms?.join(', ') || undefined });
      walk(term.code, depth + 1);
    }
  };
  walk(null, 0);
  return ordered;
}
