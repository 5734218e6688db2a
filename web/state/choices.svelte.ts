import { api } from '@/api/client';
import type { Field, SystemField, TermChoice } from '@/api/types';
import { fitting, inTreeOrder, nameOf, type Choice, type Narrowing } from '@/parts/terms';
import { SvelteMap } from 'svelte/reactivity';
import { app } from './app.svelte';
import { Wishes } from './wishes';

/** What may be chosen in a field: all of it, or what gives it a piece at a time. */
export interface Choices {
  items: Choice[];
  source?: TermSource;
  isTree: boolean;
}

const BATCH = 100;

/** How terms of large vocabularies are called, as far as they have been met. */
const names = new SvelteMap<string, string>();
const nameKey = (vocabulary: string, code: string) => JSON.stringify([app.revision, vocabulary, code]);
const wishes = new Wishes(async (keys) => {
  const byVocabulary: Record<string, string[]> = {};
  for (const key of keys) {
    const [, vocabulary, code] = JSON.parse(key) as [number, string, string];
    (byVocabulary[vocabulary] ??= []).push(code);
  }
  for (const [vocabulary, codes] of Object.entries(byVocabulary)) {
    learn(vocabulary, (await api.terms(vocabulary, app.isDraft, { codes })).terms);
  }
}, BATCH);

function learn(vocabulary: string, terms: TermChoice[]): TermChoice[] {
  for (const term of terms) names.set(nameKey(vocabulary, term.code), nameOf(term));
  return terms;
}

/** Gives the terms of a large vocabulary: the level below one, or what fits what is typed. */
export class TermSource {
  constructor(
    readonly vocabulary: string,
    private readonly narrowing: Narrowing = {},
  ) {}

  /** Tells sources apart whose answers differ. */
  get key(): string {
    const { from, beside, retired } = this.narrowing;
    return JSON.stringify([app.revision, this.vocabulary, from, beside, retired]);
  }

  async below(code: string): Promise<Choice[]> {
    return (await this.ask({ below: code })).map((t) => ({
      value: t.code,
      label: nameOf(t),
      hint: t.synonyms.join(', ') || undefined,
      more: t.more,
    }));
  }

  async matching(typed: string, signal?: AbortSignal): Promise<Choice[]> {
    return (await this.ask({ q: typed }, signal)).map((t) => ({ value: t.code, label: nameOf(t), hint: t.path.join(' › ') || undefined }));
  }

  /** The name of a term; its code until it is known. */
  label(code: string): string {
    if (code === '') return '';
    const key = nameKey(this.vocabulary, code);
    const known = names.get(key);
    if (known === undefined) wishes.wish(key);
    return known ?? code;
  }

  private async ask(what: { below?: string; q?: string }, signal?: AbortSignal): Promise<TermChoice[]> {
    const { from, beside, retired } = this.narrowing;
    return learn(this.vocabulary, (await api.terms(this.vocabulary, app.isDraft, { ...what, from, beside, retired }, signal)).terms);
  }
}

/** What may be chosen in a field. */
export function choicesOf(field: Field | SystemField, narrowing: Narrowing = {}): Choices {
  const vocabulary = app.vocabulary(field);
  const within = { ...narrowing, beside: vocabulary?.depends_on ? narrowing.beside : null };
  if (vocabulary && vocabulary.terms.length < (vocabulary.term_count ?? 0)) {
    return { items: [], source: new TermSource(vocabulary.code, within), isTree: vocabulary.is_tree ?? false };
  }
  const terms = app.terms(field);
  return { items: inTreeOrder(fitting(terms, within)), isTree: terms.some((t) => t.parent !== null) };
}

/** How a value of a field is called. */
export function termLabel(field: Field | SystemField, code: string): string {
  const { items, source } = choicesOf(field, { retired: true });
  return source ? source.label(code) : (items.find((i) => i.value === code)?.label ?? code);
}
