import { api, ApiError } from '@/api/client';
import type { Facet, Kind, LedgerLine, Search } from '@/api/types';
import { count } from '@/parts/format';
import type { Choice } from '@/parts/terms';
import { app } from '@/state/app.svelte';
import { choicesOf, termLabel } from '@/state/choices.svelte';

/** A criterion as the server takes it back for a form. */
type Asked = NonNullable<LedgerLine['asked']>;

const BARE = ['is_empty', 'is_filled'];
const WHOLE = ['is', 'is_not', 'is_just'];
/** Relations of words that are near each other. */
const NEAR = 'near';

/** A criterion while it is being made or changed: of a field or a place of words, by a relation, with values. */
export class Asking {
  /** Code of a field, or of a place where words are looked for. */
  of = $state('');
  relation = $state('');
  /** Of a choice, where several are alternatives. */
  values = $state<string[]>([]);
  first = $state('');
  second = $state('');
  fault = $state('');
  busy = $state(false);

  /**
   * @param facets  those of the present result: they give the counts beside what may be chosen
   */
  constructor(
    private readonly facets: () => Facet[],
    asked: Asked | null = null,
  ) {
    if (asked) this.begin(asked);
  }

  readonly isWords = $derived(app.design!.words.places.some((p) => p.value === this.of));
  readonly field = $derived(this.isWords ? undefined : app.field(this.of));
  readonly kind: Kind | undefined = $derived(app.kind(this.field));
  readonly choices = $derived(this.field ? choicesOf(this.field, { retired: true }) : undefined);
  readonly relations = $derived(
    this.isWords ? app.design!.words.relations : ((this.choices?.isTree ? this.kind?.tree_relations : this.kind?.relations) ?? []),
  );
  readonly needsValue = $derived(!BARE.includes(this.relation));
  readonly isBetween = $derived(!this.isWords && this.relation === 'between');
  readonly isNear = $derived(this.isWords && this.relation === NEAR);
  readonly facet = $derived.by(() => this.facets().find((f) => f.field === this.of));
  readonly isChoice = $derived(
    (this.kind?.options.includes('vocabulary') === true || (this.facet !== undefined && this.facet.values.length > 0)) &&
      WHOLE.includes(this.relation) &&
      !this.kind?.is_ordered &&
      this.kind?.widget !== 'yes-no',
  );

  /** What may be chosen, with counts; fields without a vocabulary list what the documents have. */
  readonly items: Choice[] = $derived.by(() => {
    if (!this.field || !this.isChoice || this.choices?.source) return [];
    const terms = this.choices?.items ?? [];
    const counted = this.facet?.values;
    const all: Choice[] =
      terms.length > 0
        ? terms.map((t) => ({ ...t, hint: counted ? count(counted.find((v) => v.value === t.value)?.count ?? 0) : t.hint }))
        : (this.facet?.values ?? []).map((v) => ({ value: v.value, label: v.label, hint: count(v.count) }));
    return all.filter((i) => !this.values.includes(i.value));
  });

  labelOf(value: string): string {
    return this.facet?.values.find((v) => v.value === value)?.label ?? termLabel(this.field!, value);
  }

  /** Chooses what is asked of. */
  choose(of: string): void {
    this.of = of;
    this.fault = this.first = this.second = '';
    this.values = [];
    this.relation = this.relations[0]?.value ?? '';
  }

  begin({ of, relation, values }: Asked): void {
    this.choose(of);
    this.relation = relation;
    if (this.isChoice) this.values = [...values];
    else [this.first = '', this.second = ''] = values;
  }

  add(value: string): void {
    if (value !== '' && !this.values.includes(value)) this.values = [...this.values, value];
  }

  remove(value: string): void {
    this.values = this.values.filter((v) => v !== value);
  }

  /** What the server is given. */
  readonly given: string[] = $derived.by(() => {
    if (!this.needsValue) return [];
    if (this.isBetween || this.isNear) return [this.first, this.second];
    return this.isChoice && this.values.length > 0 ? this.values : [this.first];
  });

  /** Makes the criterion; null, with what is wrong, when it cannot be made. */
  async make(reach?: Search['reach']): Promise<string | null> {
    this.busy = true;
    this.fault = '';
    try {
      return (
        await api.criterion(this.of, this.relation, this.given, {
          ...(this.isWords && reach ? { reach } : {}),
          ...(app.isDraft ? { draft: true } : {}),
        })
      ).cql;
    } catch (error) {
      this.fault = error instanceof ApiError ? (error.fields.value ?? error.message) : 'The line could not be added. Try again.';
      return null;
    } finally {
      this.busy = false;
    }
  }

  /** Makes the criterion of a stretch, as it is drawn over bars. */
  async stretch(from: string, to: string): Promise<string | null> {
    this.relation = 'between';
    this.first = from;
    this.second = to;
    return this.make();
  }
}
