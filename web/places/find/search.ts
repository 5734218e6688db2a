import type { CriterionInput, SortKey } from '@/api/types';

/** A search as its address holds it. */
export interface SearchState {
  words: string;
  any: boolean;
  criteria: CriterionInput[];
  view: string;
  sort: SortKey[];
  /** Parts that words are looked for in; none means all. */
  where: string[];
  layout: 'table' | 'digest' | 'outline';
  /** The document in the reading pane. */
  open: string;
}

export const emptySearch: SearchState = { words: '', any: false, criteria: [], view: '', sort: [], where: [], layout: 'table', open: '' };

/** In addresses a criterion is its CQL, with `-` before it when it must not hold and `~` when it is switched off. */
export function searchFrom(params: URLSearchParams): SearchState {
  return {
    words: params.get('q') ?? '',
    any: params.get('any') === '1',
    criteria: params.getAll('c').map((text) => {
      const on = !text.startsWith('~');
      const rest = on ? text : text.slice(1);
      const negated = rest.startsWith('-');
      return { cql: negated ? rest.slice(1) : rest, negated, on };
    }),
    view: params.get('v') ?? '',
    sort: params.getAll('s').map((key) => ({ field: key.replace(/^-/, ''), descending: key.startsWith('-') })),
    where: params.getAll('in'),
    layout: params.get('as') === 'digest' ? 'digest' : params.get('as') === 'outline' ? 'outline' : 'table',
    open: params.get('doc') ?? '',
  };
}

export function addressOf(search: SearchState): string {
  const params = new URLSearchParams();
  if (search.words) params.set('q', search.words);
  if (search.any) params.set('any', '1');
  for (const c of search.criteria) params.append('c', `${c.on ? '' : '~'}${c.negated ? '-' : ''}${c.cql}`);
  if (search.view) params.set('v', search.view);
  for (const key of search.sort) params.append('s', `${key.descending ? '-' : ''}${key.field}`);
  for (const part of search.where) params.append('in', part);
  if (search.layout !== 'table') params.set('as', search.layout);
  if (search.open) params.set('doc', search.open);
  return params.size > 0 ? `/find?${params}` : '/find';
}
