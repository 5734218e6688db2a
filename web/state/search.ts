import type { CriterionInput, KeptSearch, Search, SortKey, View } from '@/api/types';

/** One group of a level that was opened. */
export interface Step {
  cql: string;
  label: string;
  level: number;
  /** The value that the same field divides further. */
  below: string | null;
}

/** A search as its address holds it. */
export interface SearchState {
  words: string;
  any: boolean;
  /** How far plain words reach; empty as the person has it. */
  reach: NonNullable<Search['reach']> | '';
  criteria: CriterionInput[];
  view: string;
  sort: SortKey[];
  /** Parts that words are looked for in; none means all. */
  where: string[];
  layout: 'table' | 'digest' | 'outline' | 'steps';
  /** The groups of a view’s levels that were opened, one within the other. */
  steps: Step[];
  /** Words that what was found is filtered by. */
  within: string;
  /** Sign-in name of somebody whose place a librarian looks at. */
  person: string;
  /** Near copies are counted once. */
  once: boolean;
  /** The document in the reading pane. */
  open: string;
  /** The remote repositories that are asked as well; null for all of them, unless the search is one of libraries here. */
  outside: string[] | null;
  /** The remote repository whose records are listed; empty for the documents here. */
  from: string;
  /** The record of it in the reading pane, by its place from 0. */
  record: number | null;
}

export const emptySearch: SearchState = {
  words: '',
  any: false,
  reach: '',
  criteria: [],
  view: '',
  sort: [],
  where: [],
  layout: 'table',
  steps: [],
  within: '',
  person: '',
  once: false,
  open: '',
  outside: null,
  from: '',
  record: null,
};

const reaches = ['as_written', 'same_stem', 'sounds_alike', 'misspelt'] as const;
const layouts = ['table', 'digest', 'outline', 'steps'] as const;

/** In addresses a criterion is its CQL, with `-` before it when it must not hold and `~` when it is switched off. */
export function searchFrom(params: URLSearchParams): SearchState {
  return {
    words: params.get('q') ?? '',
    any: params.get('any') === '1',
    reach: reaches.find((r) => r === params.get('reach')) ?? '',
    criteria: params.getAll('c').map((text) => {
      const on = !text.startsWith('~');
      const rest = on ? text : text.slice(1);
      const negated = rest.startsWith('-');
      return { cql: negated ? rest.slice(1) : rest, negated, on };
    }),
    view: params.get('v') ?? '',
    sort: params.getAll('s').map((key) => ({ field: key.replace(/^-/, ''), descending: key.startsWith('-') })),
    where: params.getAll('in'),
    layout: layouts.find((l) => l === params.get('as')) ?? 'table',
    steps: params.getAll('step').map((text) => {
      const [cql = '', label = '', level = '0', below = ''] = text.split('\t');
      return { cql, label, level: Number(level), below: below || null };
    }),
    within: params.get('within') ?? '',
    person: params.get('as_person') ?? '',
    once: params.get('once') === '1',
    open: params.get('doc') ?? '',
    outside: params.has('ask') ? params.getAll('ask').filter((code) => code !== '') : null,
    from: params.get('from') ?? '',
    record: params.has('rec') ? Number(params.get('rec')) || 0 : null,
  };
}

export function addressOf(search: SearchState): string {
  const params = new URLSearchParams();
  if (search.words) params.set('q', search.words);
  if (search.any) params.set('any', '1');
  if (search.words && search.reach) params.set('reach', search.reach);
  for (const c of search.criteria) params.append('c', `${c.on ? '' : '~'}${c.negated ? '-' : ''}${c.cql}`);
  if (search.view) params.set('v', search.view);
  for (const key of search.sort) params.append('s', `${key.descending ? '-' : ''}${key.field}`);
  for (const part of search.where) params.append('in', part);
  if (search.layout !== 'table') params.set('as', search.layout);
  for (const step of search.steps) params.append('step', [step.cql, step.label, step.level, step.below ?? ''].join('\t'));
  if (search.within) params.set('within', search.within);
  if (search.person) params.set('as_person', search.person);
  if (search.once) params.set('once', '1');
  if (search.open) params.set('doc', search.open);
  if (search.outside) for (const code of search.outside.length > 0 ? search.outside : ['']) params.append('ask', code);
  if (search.from) params.set('from', search.from);
  if (search.from && search.record !== null) params.set('rec', String(search.record));
  return params.size > 0 ? `/find?${params}` : '/find';
}

/** Which remote repositories a search asks. */
export function askedOutside(search: SearchState, remote: { code: string }[]): string[] {
  const codes = remote.map((r) => r.code);
  if (search.outside) return codes.filter((code) => search.outside!.includes(code));
  return search.criteria.some((c) => c.on && !c.negated && /^(library|repository|dossier) == /.test(c.cql)) ? [] : codes;
}

/** The address of a kept search: it finds what it found, however far words reach otherwise. */
export function keptAddress(kept: KeptSearch, more: Partial<SearchState> = {}): string {
  return addressOf({ ...emptySearch, ...kept, reach: kept.reach ?? 'as_written', ...more });
}

/** The address of a view as it opens. */
export function viewAddress(view: View, more: CriterionInput[] = []): string {
  const own = view.criterion ? [{ cql: view.criterion, negated: false, on: true }] : [];
  return addressOf({ ...emptySearch, view: view.code, layout: view.opens, criteria: [...own, ...more] });
}
