/** Shapes of the HTTP API, as App\Http\Resources and App\Find give them. */

export interface Person {
  name: string;
  sign_in: string;
  role: 'librarian' | 'clerk' | 'reader' | 'manager';
  groups: string[];
  may: { administer: boolean; design: boolean; file: boolean; hold: boolean; remove: boolean; destroy: boolean; redact: boolean };
  preferences: Preferences;
  limits: { file_bytes: number };
}

export interface Preferences {
  default_view?: string | null;
  default_search?: number | null;
  /** By view: the columns a person shows, and how wide. */
  columns?: Record<string, { code: string; width: number | null }[]>;
  margins?: { order?: string[]; hidden?: string[] };
  desk?: { order?: string[]; hidden?: string[] };
}

/** A search as it is kept. */
export interface KeptSearch {
  words: string;
  any: boolean;
  criteria: CriterionInput[];
  view: string;
  where: string[];
  /** The remote repositories that are asked as well, where that was chosen. */
  outside?: string[];
}

export interface SavedSearch {
  id: number;
  name: string;
  search: KeptSearch;
  groups: string[];
  own: boolean;
  by: string | null;
  /** Null when it names a field that is gone. */
  total: number | null;
  watched: boolean;
  new: number | null;
  lock_version: number;
}

export interface RecentSearch {
  search: KeptSearch;
  words: string;
  total: number;
  at: string;
}

export interface SearchesAnswer {
  searches: SavedSearch[];
  recent: RecentSearch[];
}

export interface CompletionAnswer {
  /** Where what is completed begins. */
  from: number;
  fields: { code: string; label: string }[];
  values: { field: string; field_label: string; label: string; count: number; cql: string }[];
  searches: RecentSearch[];
}

/** A part of a group of criteria. */
export interface GroupPart {
  subject: string;
  relation: string;
  value: string;
  cql: string;
  negated: boolean;
  alone: number;
  how: 'any' | 'all' | null;
  parts: GroupPart[];
}

export interface DocumentComment {
  id: number;
  text: string;
  by: string;
  own: boolean;
  at: string;
}

export interface HistoryEntry {
  at: string;
  by: string | null;
  act: string;
  /** Where it came from, if from outside. */
  through: string | null;
  changes: { field: string; before: string; after: string }[];
}

export interface Term {
  code: string;
  label: string;
  parent: string | null;
  /** Further terms above it: the tree shows it below each. */
  also_below?: string[];
  /** Other names that it is found and filled in by. */
  synonyms?: string[];
  /** What a concept of a scheme is filed by. */
  notation?: string;
  note?: string;
  /** Labels in other languages, by tag. */
  labels?: Record<string, string>;
  related?: string[];
  matches?: string[];
  retention?: { after: string; years: number; action: 'review' | 'destroy' | 'keep' } | null;
  retired?: boolean;
  replaced_by?: string | null;
  /** Split off another term: what matches the criterion moves here. */
  from?: { code: string; criterion: string } | null;
  /** Of a dependent vocabulary: the values of the other field it may be chosen beside. */
  under?: string[];
}

export interface Field {
  code: string;
  label: string;
  kind: string;
  help: string;
  multiple: boolean;
  faceted: boolean;
  sensitive: boolean;
  vocabulary: string | null;
  unit: string;
  pattern: string;
  /** The element of Dublin Core it is exchanged and searched as. */
  dublin_core: string | null;
  minimum: number | null;
  maximum: number | null;
  max_length: number | null;
  default: string;
  refers_to: 'document' | 'dossier';
  /** Fields that were merged into this one. */
  formerly: string[];
  lock_version: number;
}

export interface SystemField {
  code: string;
  label: string;
  kind: string;
  faceted: boolean;
  terms: Term[];
}

export interface Vocabulary {
  code: string;
  name: string;
  scheme: boolean;
  depends_on: string | null;
  order: 'hand' | 'name';
  numbering: 'given' | 'position';
  base: string;
  /** None of a large one, which is asked for them a piece at a time. */
  terms: Term[];
  term_count?: number;
  is_tree?: boolean;
  lock_version: number;
}

/** A term of a large vocabulary, to choose. */
export interface TermChoice {
  code: string;
  label: string;
  notation: string;
  synonyms: string[];
  retired: boolean;
  /** Whether others stand below it. */
  more: boolean;
  /** Whether it may be chosen itself. */
  fits: boolean;
  /** What is above it, the highest first. */
  path: string[];
}

export interface SheetEntry {
  code: string;
  required: boolean;
  section?: string;
  default?: string;
  read_only?: boolean;
  below?: string | null;
  handed_down?: boolean;
}

export interface DocumentType {
  code: string;
  name: string;
  title_pattern: string;
  /** Titles to choose from where the pattern makes none. */
  names: string[];
  fields: SheetEntry[];
  filers: string[];
  designers?: string[];
  lock_version: number;
}

export interface DossierKind {
  code: string;
  name: string;
  title_pattern: string;
  fields: SheetEntry[];
  sections: { code: string; name: string }[];
  types: string[];
  view: string | null;
  list_view: string | null;
  lock_version: number;
}

export interface ReferenceTable {
  code: string;
  name: string;
  key: string;
  fills: string[];
  source: 'rows' | 'outside';
  rows: string[][];
  row_count?: number;
  connection: string;
  outside: string;
  columns: string[];
  lock_version: number;
}

export interface SearchForm {
  code: string;
  name: string;
  libraries: string[];
  types: string[];
  fields: { code: string; relation: string }[];
  lock_version: number;
}

export interface AccessRule {
  code: string;
  name: string;
  criterion: string;
  acts: ('see' | 'file' | 'change' | 'original')[];
  groups: string[];
  lock_version: number;
}

export interface Repository extends Designed {
  code: string;
  name: string;
  /** Of a remote one: where its SRU server is asked; told only to those who design. */
  address?: string;
  groups?: string[];
  designers?: string[];
  lock_version: number;
}

/** A part of the design, in the draft. */
export interface Designed {
  /** The parts whose designers keep it to themselves; none when it may be changed. */
  kept_by?: string[];
}

export interface Library extends Designed {
  code: string;
  name: string;
  note: string;
  repository: string;
  types: string[];
  view: string | null;
  groups?: { group: string; change: boolean }[];
  designers?: string[];
  may_change?: boolean;
  lock_version: number;
}

export interface SortKey {
  field: string;
  descending: boolean;
}

export interface ColumnFormat {
  width: number | null;
  align: 'auto' | 'left' | 'right';
  format: string;
  mask: 'none' | 'all' | 'last4';
}

export interface Level {
  field: string;
  /** A number, amount or date that each group sums up. */
  total: string | null;
  total_as: 'sum' | 'range';
}

export interface View {
  code: string;
  name: string;
  criterion: string;
  columns: string[];
  formats: Record<string, ColumnFormat>;
  sort: SortKey[];
  /** The fields by which it groups documents, outermost first. */
  levels: Level[];
  opens: 'table' | 'outline' | 'steps';
  groups: string[];
  position: number;
  /** Made by a person for themselves. */
  own?: boolean;
  lock_version: number;
}

/** A group of a level, with the criterion that finds it. */
export interface Group {
  label: string;
  cql: string;
  count: number;
  /** The value that the same field divides further. */
  deeper: string | null;
  total: { sum: string; range: string } | null;
}

/** How fields lie in the documents of a view. */
export interface Advice {
  documents: number;
  fields: { field: string; filled: number; distinct: number; bits: number; only: string | null; mostly_empty: boolean }[];
  dividing: string[];
}

export interface Kind {
  value: string;
  label: string;
  may_be_faceted: boolean;
  may_be_multiple: boolean;
  is_ordered: boolean;
  /** Whether a search form asks for a value as it is. */
  is_exact: boolean;
  is_number: boolean;
  has_sum: boolean;
  /** What a librarian decides of a field. */
  options: string[];
  /** The part (in parts/kinds) that values are given with and shown by. */
  widget: string;
  hint: string;
  /** Ways in which a column may show values. */
  formats: { value: string; label: string }[];
  relations: { value: string; label: string }[];
  /** For choices from a tree. */
  tree_relations: { value: string; label: string }[];
}

export interface Design {
  repositories: Repository[];
  /** The remote repositories that this person may search. */
  remote: { code: string; name: string }[];
  libraries: Library[];
  fields: Field[];
  system_fields: SystemField[];
  vocabularies: Vocabulary[];
  tables: ReferenceTable[];
  types: DocumentType[];
  views: View[];
  dossier_kinds: DossierKind[];
  forms: SearchForm[];
  access: AccessRule[];
  default_view: string | null;
  kinds: Kind[];
  dublin_core: string[];
}

/** A part of the design that differs from what is published. */
export interface Change {
  kind: string;
  one: string;
  code: string;
  name: string;
  act: 'new' | 'changed' | 'taken out';
  properties: { property: string; before: string; after: string }[];
  kept_by?: string[];
  /** Another librarian who made the change; null for one's own. */
  by?: string | null;
  at?: string | null;
}

export interface DraftAnswer {
  design: Design;
  changes: Change[];
  groups: string[];
  /** Those of the groups with somebody in them who designs. */
  designing: string[];
  work: Work[];
  /** The version that publishing the draft brings back. */
  restores: number | null;
}

/** Work on the index that a publication left. */
export interface Work {
  id: number;
  name: string;
  done: number;
  total: number;
  state: 'running' | 'stopped' | 'done';
  /** Why it stopped by itself. */
  says: string;
}

export interface TermCounts {
  counts: Record<string, { own: number; all: number }>;
  fields: { code: string; label: string }[];
}

/** What a file would make of a vocabulary. */
export interface VocabularyPreview {
  vocabulary: Vocabulary;
  added: { code: string; label: string }[];
  changed: { code: string; label: string }[];
  lost: { code: string; label: string }[];
  faults: string[];
  /** Of a file with several schemes: which there are, and the one that is read; none of them is all as one. */
  schemes: { uri: string; name: string; concepts: number }[];
  chosen: string;
}

export interface LookUp {
  /** What the fields are given; empty to be emptied, since the key before had filled them in. */
  takes: Record<string, string>;
  /** What the table has for fields that somebody filled in otherwise. */
  asks: Record<string, string>;
  table: string | null;
  trouble: string | null;
}

/** Somebody, as an administrator sees them. */
export interface OfficePerson {
  id: number;
  name: string;
  sign_in: string;
  mail: string | null;
  role: string;
  groups: string[];
  out_of_use_at: string | null;
  last_sign_in_at: string | null;
  has_code: boolean;
  /** What somebody else would have to take over; null of who is out of use. */
  in_hand: { check_outs: number; waiting: number; lists: number; searches: number } | null;
}

export interface OfficeAnswer {
  people: OfficePerson[];
  groups: string[];
  roles: { value: string; label: string }[];
  /** A one-time code that was just made; it is in this answer only. */
  code?: { name: string; sign_in: string; code: string; address: string; mailed_to: string | null };
}

export interface PeopleAnswer {
  groups: { id: number; name: string; people: number }[];
  people: { id: number; name: string; sign_in: string; role: string; groups: string[] }[];
}

export interface Sight {
  person: { sign_in: string; name: string };
  sees: number;
  hidden: number;
  of: number;
  libraries: { code: string; name: string; documents: number }[];
  views: { code: string; name: string; documents: number }[];
}

export interface DossierRow {
  ref: string;
  title: string;
  kind: string;
  library?: string;
  documents?: number;
}

export interface DossierRecord {
  ref: string;
  title: string;
  kind: { code: string; name: string };
  library: { code: string; name: string };
  values: Record<string, { value: string; label: string }[]>;
  sections: { id: number; name: string }[];
  /** The documents inside and their sections. */
  inside: Record<string, number | null>;
  cql: string;
  lock_version: number;
  may_change: boolean;
}

/** What a change would do to documents that exist. */
export interface Effect {
  effect: string;
  stops: boolean;
  kind: string;
  code: string;
  name: string;
  documents: number;
  what: string;
  cql: string | null;
  examples: { value: string; documents: number; reason: string }[];
  /** The first documents, where no search finds them. */
  rows: { ref: string; title: string }[];
}

export interface Version {
  number: number;
  note: string;
  by: string | null;
  at: string;
  effects: { part: string; documents: number; what: string }[];
}

/** Text, and whether it was searched for. */
export type Piece = [string, boolean];

export interface CriterionInput {
  cql: string;
  negated: boolean;
  on: boolean;
}

export interface LedgerLine extends CriterionInput {
  subject: string;
  relation: string;
  value: string;
  field: string | null;
  alone: number;
  running: number;
  without: number;
  typed: boolean;
  words_without: string | null;
  /** How far the words reach; null for criteria that are not words. */
  reach: string | null;
  reaches: { value: string; label: string; cql: string }[];
  /** How the parts of a group go together; null when it is no group. */
  how: 'any' | 'all' | null;
  parts: GroupPart[];
  variants: { of: string; suggested: boolean; all: number; words: { word: string; count: number; on: boolean; cql: string }[] }[];
}

export type FacetOrder = 'count' | 'name' | 'standing_out';

export interface FacetValue {
  value: string;
  label: string;
  /** The values directly above it. */
  parents: string[];
  /** Whether there are values below it; those of a large tree come when it is opened. */
  more: boolean;
  count: number;
  chosen: boolean;
  excluded: boolean;
  /** How much more frequent it is here than in all, when values are ordered by that. */
  standing_out: { ratio: number; all: number } | null;
}

export interface Facet {
  field: string;
  label: string;
  kind: string;
  distinct: number;
  values: FacetValue[];
  /** Of a number: the lowest and the highest. */
  ends: [string, string] | null;
  /** Of a number: stretches with natural breaks. */
  ranges: { label: string; from: string; to: string; cql: string; count: number }[];
}

export interface Row {
  ref: string;
  title: string;
  title_pieces: Piece[];
  library: string;
  repository: string;
  type: string;
  file_name: string;
  file_kind: string;
  text_state: string;
  text_reason: string;
  attachments: number;
  parent: { ref: string; title: string } | null;
  /** Where beside title and text the words stand. */
  found: string[];
  score: number | null;
  cells: Record<string, string>;
  snippet: Piece[] | null;
  snippet_page: number | null;
  /** It stands in a comment. */
  snippet_comment: boolean;
  /** Of an earlier version; null for the present one. */
  snippet_version: number | null;
  /** Of what is shown below its mail: whether the search finds it too. */
  is_found?: boolean;
}

/** What a search found, without its facets. */
export interface Found {
  total: number;
  visible: number;
  took_ms: number;
  cql: string;
  words: string;
  criteria: CriterionInput[];
  ledger: LedgerLine[];
  /** When nothing is found: the smallest sets of lines to drop. */
  rescues: { lines: number[]; count: number }[];
  /** When nothing is found: one line changed a little. */
  near_misses: {
    kind: 'wider_range' | 'variant' | 'other_place';
    line: number;
    cql: string;
    count: number;
    subject: string;
    relation: string;
    value: string;
    reach: string | null;
  }[];
  offset: number;
  rows: Row[];
}

/** One record of a remote repository, as Dublin Core. */
export interface RemoteRow {
  /** Its place in the whole result there, from 0. */
  position: number;
  /** The title; of a record that cannot be shown, why. */
  title: string;
  title_pieces: Piece[];
  is_faulty: boolean;
  cells: Record<string, string>;
  elements: { element: string; values: Piece[][] }[];
  address: string | null;
  /** The mark by which the address may be fetched. */
  seal: string;
  may_fetch: boolean;
}

/** What a remote repository answered to the present search. */
export interface RemoteAnswer {
  repository: string;
  name: string;
  state: 'found' | 'slow' | 'unreachable' | 'refused' | 'busy';
  says: string;
  total: number | null;
  cql: string;
  left_out: { subject: string; relation: string; value: string; field: string | null; reason: string }[];
  offset: number;
  rows: RemoteRow[];
  took_ms?: number;
}

/** What a remote repository says it can do, and what the fields here are called there. */
export interface RemoteLook {
  state: 'found' | 'slow' | 'unreachable' | 'busy';
  says: string;
  title: string;
  fields: { code: string; label: string; element: string | null; searched: boolean; sorted: boolean }[];
}

export interface Answer extends Found {
  facets: Facet[];
}

export interface Search {
  words: string;
  any?: boolean;
  criteria: CriterionInput[];
  toggle?: { field: string; value: string; exclude?: boolean };
  sort?: SortKey[];
  columns?: string[];
  where?: string[];
  facets?: { field: string; order?: FacetOrder; most?: number; search?: string; opened?: string[] }[];
  offset?: number;
  limit?: number;
  rows_only?: boolean;
  /** Answer with the fields of the draft, for those who design. */
  draft?: boolean;
  formats?: Record<string, { format?: string; mask?: string }>;
  /** With the sentence of the first hit; a table has no room for it. */
  snippets?: boolean;
  /** Of what is found only what somebody else may see too; for those who design. */
  as?: string;
}

export interface DocumentRecord {
  ref: string;
  title: string;
  state: 'waiting' | 'filed';
  library: { code: string; name: string };
  repository: { code: string; name: string };
  type: { code: string; name: string } | null;
  file_name: string;
  file_kind: string;
  path: string;
  bytes: number;
  page_count: number;
  text_state: 'pending' | 'read' | 'none';
  text_reason: string;
  brought_in_by: string | null;
  created_at: string;
  filed_at: string | null;
  values: Record<
    string,
    {
      value: string;
      label: string;
      inherited?: boolean;
      /** The dossier it comes from. */ from?: { ref: string; title: string };
      covered?: boolean;
    }[]
  >;
  pinned: boolean;
  loans: number;
  comments: number;
  /** Why it is on hold. */
  holds: string[];
  dossiers: { ref: string; title: string; kind: string }[];
  parent: { ref: string; title: string } | null;
  attachments: { ref: string; title: string; file_name: string; file_kind: string; text_state: string }[];
  /** The other mails of its exchange. */
  exchange: { ref: string; title: string }[];
  lock_version: number;
  /** The number of the present version, and of the one whose file and pages are shown. */
  version: number;
  shown_version: number;
  is_template: boolean;
  /** Shown as its redacted copy; `copy_reason` says why that is not there yet, if it is not. */
  redacted_only: boolean;
  copy_reason?: string;
  checked_out: CheckedOut | null;
  may_change: boolean;
  /** Why its values and its type may not be changed now. */
  why_not: string | null;
  /** Whether it is for this person to change, whatever it stands in at the moment. */
  is_theirs_to_change: boolean;
  may_see_history: boolean;
}

/** Left, top, right, bottom in the units of the page. */
export type Edges = [number, number, number, number];

export interface Annotation {
  id: number;
  page: number;
  kind: 'highlight' | 'note' | 'stamp' | 'pen';
  /** In the page's units from top left; of a text, in pixels from the beginning of its words. */
  boxes: Edges[];
  strokes: [number, number][][];
  /** Where its words stand in the text of the page, in bytes. */
  start: number | null;
  length: number | null;
  exact: string;
  text: string;
  folded: boolean;
  private: boolean;
  /** Its words were not found in the present version. */
  lost: boolean;
  by: string;
  own: boolean;
  at: string;
  lock_version: number;
}

export type AnnotationDraft = Pick<Annotation, 'page' | 'kind'> &
  Partial<Pick<Annotation, 'boxes' | 'strokes' | 'text' | 'folded' | 'private'>> & { start?: number; length?: number; words?: boolean };

export interface Redaction {
  id: number;
  page: number;
  exact: string;
  start: number | null;
  length: number | null;
  boxes: Edges[];
  reason: string;
  reason_label: string;
  lost: boolean;
  by: string | null;
  at: string;
  checked_by: string | null;
}

export interface RedactionsAnswer {
  redactions: Redaction[];
  reasons: { code: string; label: string }[];
  forms: { name: string; label: string }[];
  people: string[];
  copy: { state: 'making' | 'ready' | 'failed'; says: string; open: string | null } | null;
}

export interface RedactionPlace {
  page: number;
  start: number;
  length: number;
  before: string;
  exact: string;
  after: string;
  /** Of what a page break cuts in two: which part this is. */
  part: '' | 'begins' | 'ends';
  removed: boolean;
}

export type RedactionMark = { page: number; start?: number; length?: number; areas?: Edges[]; words?: boolean };

export type DeliveryForm = 'plain' | 'annotated' | 'redacted' | 'both';

/** Who works on a document's next version. */
export interface CheckedOut {
  by: string;
  own: boolean;
  since: string;
  note: string;
  /** A copy put by, of which only its owner learns. */
  copy: { file_name: string; at: string } | null;
}

export interface DocumentVersion {
  number: number;
  file_name: string;
  file_kind: string;
  bytes: number;
  pages: number;
  how: string;
  note: string;
  by: string | null;
  at: string;
  current: boolean;
}

export interface InProgress extends CheckedOut {
  ref: string;
  title: string;
  version: number;
  /** Another version came meanwhile. */
  behind: boolean;
}

export type DiffPiece = ['same' | 'taken_out' | 'put_in', string];

export interface Hits {
  total: number;
  pages: { page: number; hits: number }[];
  /** What is marked around the text, cut into pieces; nothing of what has no hit. */
  title: Piece[] | null;
  path: Piece[] | null;
  /** By field, and by place among its values. */
  values: Record<string, Record<number, Piece[]>>;
  /** By number. */
  comments: Record<number, Piece[]>;
}

export interface PageText {
  number: number;
  width: number;
  height: number;
  pieces: Piece[];
  boxes: [number, number, number, number][][];
}

export interface DeskRow {
  ref: string;
  title: string;
  library: string;
  type: string;
  moment: string | null;
}

export interface Desk {
  libraries: { code: string; name: string; repository: string; note: string; documents: number }[];
  pinned: DeskRow[];
  searches: SavedSearch[];
  recent: RecentSearch[];
  /** Documents in each view, by its code. */
  views: Record<string, number>;
  read: DeskRow[];
  filed: DeskRow[];
  in_progress: InProgress[];
  waiting: number;
  reading: number;
}

export interface PullListRow {
  id: number;
  name: string;
  note: string;
  documents: number;
  own: boolean;
  by: string;
  may_change: boolean;
  hold: { reason: string; at: string } | null;
  frozen_at: string | null;
  search: KeptSearch | null;
  updated_at: string;
  lock_version: number;
}

export interface PullList extends PullListRow {
  items: { ref: string; title: string; type: string; library: string; file_kind: string; bytes: number; note: string }[];
  bytes: number;
  people: { sign_in: string; name: string; may_change: boolean }[];
  deliveries: Delivery[];
  formats: DeliveryFormat[];
}

/** As what a delivery leaves, and what is chosen for it. */
export interface DeliveryFormat {
  value: string;
  label: string;
  what: string;
  has_files: boolean;
  has_table: boolean;
  has_names: boolean;
  /** What the levels of a view make in it. */
  levels: string | null;
  is_sent: boolean;
  is_shown: boolean;
}

export interface Delivery {
  id: number;
  list: number;
  name: string;
  format: string;
  /** In which form the files leave, in words. */
  form: string;
  state: 'waiting' | 'running' | 'done' | 'failed' | 'cancelled' | 'expired';
  done: number;
  total: number;
  message: string;
  bytes: number | null;
  sha256: string | null;
  by: string;
  at: string;
  expires_at: string | null;
  documents: number;
}

export interface Loan {
  id: number;
  version: number;
  borrower: string;
  form: string;
  by: string;
  lent_at: string;
  due_on: string | null;
  state: 'lent' | 'conflict' | 'returned' | 'ended';
  says: string;
  returned_version: number | null;
  ended_at: string | null;
  /** How it is out there, and where; null once it is over. */
  copy: 'unchanged' | 'changed' | 'gone' | null;
  address: string | null;
}

export interface TransferPlan {
  go: number;
  refused: { why: string; documents: { ref: string; title: string }[] }[];
  /** Fields that have no place there. */
  lost: { field: string; label: string; documents: number }[];
  titles: { documents: number; sample: { ref: string; before: string; after: string }[] };
}

/** A document's values as they are typed into a table. */
export interface SheetRow {
  ref: string;
  title: string;
  lock_version: number;
  type: string | null;
  values: Record<string, string>;
}

export interface SheetsPlan {
  changes: { ref: string; title: string; fields: { label: string; before: string; after: string }[] }[];
  same: number;
  /** By field code; what stands under the empty code is about the document. */
  faults: { ref: string; title: string; fields: Record<string, string> }[];
}

export interface OutboxMail {
  id: number;
  to: string;
  subject: string;
  text: string;
  at: string;
  /** Null of a message that is no delivery. */
  delivery: number | null;
  bytes: number;
  files: { ref: string; title: string; file: string }[];
  /** Whether it can still be fetched. */
  there: boolean;
}

export interface SecureLink {
  id: number;
  note: string;
  of: string;
  form: string;
  uses: number;
  most_uses: number;
  expires_at: string;
  has_password: boolean;
  revoked: boolean;
  open: boolean;
  log: { at: string; outcome: string; from: string }[];
}

export interface ListCheck {
  missing: { ref: string; title: string; why: string }[];
  compared: {
    new: number;
    gone: number;
    new_documents: { ref: string; title: string }[];
    gone_documents: { ref: string; title: string }[];
  } | null;
}

/** Which documents an act on many is about: some, those of a pull list, or all that a search finds. */
export type ManyDocuments = { documents: string[] } | { list: number } | { search: KeptSearch };

export interface ValuePlan {
  changes: number;
  same: number;
  refused: { why: string; count: number; documents: { ref: string; title: string }[] }[];
  /** Fields that the field fills in by a reference table, which stay as they are. */
  leaves: string[];
  sample: { ref: string; title: string; before: string; after: string }[];
}

/** An act on several documents, as the list of one's last acts has it. */
export interface LastAct {
  id: number;
  of: 'documents' | 'values';
  says: string;
  at: string;
  documents: number;
  state: 'running' | 'done' | 'undoing' | 'undone';
  undoable: boolean;
  /** Why it stopped by itself; empty while it did not. */
  stopped: string;
  why_not: string;
  left: number;
  left_alone: { ref: string; title: string; why: string }[];
}

export interface ValueAct {
  id: number;
  at: string;
  field: string;
  how: 'set' | 'add' | 'take' | 'clear';
  given: string;
  state: 'running' | 'done' | 'undoing' | 'undone';
  total: number;
  done: number;
  skipped: number;
  /** Why it stopped by itself; empty while it goes on. */
  stopped: string;
}

export interface RemovedDocument {
  ref: string;
  title: string;
  at: string;
  by: string | null;
  reason: string;
}
