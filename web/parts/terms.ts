import type { Term } from '@/api/types';

/** Terms in tree order with how deep each stands. */
export function inTreeOrder(terms: Term[]): { value: string; label: string; depth: number; hint?: string }[] {
  const below = Map.groupBy(terms, (term) => (terms.some((t) => t.code === term.parent) ? term.parent : null));
  const ordered: { value: string; label: string; depth: number; hint?: string }[] = [];
  const walk = (parent: string | null, depth: number) => {
    for (const term of below.get(parent) ?? []) {
      ordered.push({ value: term.code, label: term.label, depth, hint: term.synonyms?.join(', ') || undefined });
      walk(term.code, depth + 1);
    }
  };
  walk(null, 0);
  return ordered;
}
