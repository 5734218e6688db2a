/**
 * Shapes of the HTTP API. `schema.ts` is made of docs/openapi.json and docs/design.schema.json (`npm run types`) and is not
 * kept. Here stands only what these do not say: which properties of the parts of a design may be left out, since a design
 * file fills them with defaults, and since some are told only to those who design.
 */
import type * as served from './schema';

export type * from './schema';

/** With some properties there, and the others perhaps. */
type With<T, K extends keyof T> = Pick<T, K> & Partial<Omit<T, K>>;

type WholeRule = NonNullable<served.DocumentType['retention']>;
export type RetentionRule = With<Omit<WholeRule, 'lifted_by'>, 'after' | 'years' | 'action'> & {
  lifted_by?: { field: string; values?: string[] } | null;
};

export type Term = Omit<With<served.Vocabulary['terms'][number], 'code' | 'label' | 'parent'>, 'retention'> & {
  retention?: RetentionRule | null;
};
export type Vocabulary = Omit<
  With<served.Vocabulary, 'code' | 'name' | 'scheme' | 'depends_on' | 'order' | 'numbering' | 'base' | 'lock_version'>,
  'terms'
> & { terms: Term[] };
export type SheetEntry = With<served.DocumentType['fields'][number] & served.DossierKind['fields'][number], 'code' | 'required'>;
export type DocumentType = Omit<served.DocumentType, 'fields' | 'designers' | 'retention'> & {
  fields: SheetEntry[];
  designers?: string[];
  retention?: RetentionRule | null;
};
export type DossierKind = Omit<served.DossierKind, 'fields' | 'retention'> & { fields: SheetEntry[]; retention?: RetentionRule | null };
export type Library = Omit<served.Library, 'groups' | 'designers'> & Partial<Pick<served.Library, 'groups' | 'designers'>>;
export type Repository = With<served.Repository, 'code' | 'name' | 'lock_version'>;
export type ColumnFormat = served.ColumnFormat & served.View['formats'][string];

export type Design = Omit<served.Design, 'vocabularies' | 'types' | 'dossier_kinds' | 'libraries' | 'repositories'> & {
  vocabularies: Vocabulary[];
  types: DocumentType[];
  dossier_kinds: DossierKind[];
  libraries: Library[];
  repositories: Repository[];
};
export type DraftAnswer = Omit<served.DraftAnswer, 'design'> & { design: Design };
export type VocabularyPreview = Omit<served.VocabularyPreview, 'vocabulary'> & { vocabulary: Vocabulary };
