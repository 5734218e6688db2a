import type {
  Advice,
  Annotation,
  AnnotationDraft,
  Answer,
  AuditEntry,
  Bringing,
  Away,
  Case,
  Change,
  CollectionHealth,
  CompletionAnswer,
  CriterionInput,
  Delivery,
  DeliveryForm,
  Design,
  Disposal,
  DisposalItem,
  DisposalRow,
  DueList,
  DuePeriod,
  Desk,
  DiffPiece,
  DocumentComment,
  DocumentCopy,
  DocumentRecord,
  DocumentVersion,
  DossierRecord,
  DossierRow,
  DraftAnswer,
  Edges,
  Effect,
  Found,
  GatheringDecision,
  Group,
  HealthAnswer,
  HeldDocument,
  HistoryEntry,
  Hits,
  Hold,
  HoldRow,
  IntakeAnswer,
  KeptSearch,
  LastAct,
  ListAgainst,
  ListCheck,
  Loan,
  LookUp,
  ManyDocuments,
  Notice,
  NoticeText,
  OfficeCalendar,
  ProcedureFigures,
  ProcedurePart,
  ProcedureTrial,
  RunningCases,
  OfficeAnswer,
  OutboxMail,
  PageText,
  PeopleAnswer,
  Person,
  PlaceOnPage,
  Proposal,
  ProposedDecision,
  ProposedSheet,
  PullList,
  Report,
  ReportsKept,
  Served,
  PullListRow,
  ReadingRule,
  ReadingTrial,
  Reasons,
  RecentSearch,
  KeptUntil,
  Stub,
  RedactionMark,
  RedactionPlace,
  RedactionsAnswer,
  ReferenceTable,
  RemoteAnswer,
  RemoteLook,
  RemovedDocument,
  Row,
  Scan,
  Search,
  SearchesAnswer,
  SecureLink,
  SheetRow,
  SheetsPlan,
  Sight,
  SignedIn,
  SignedInSession,
  SortableDocument,
  SortedDocument,
  StoppedCase,
  Task,
  TaskCounts,
  TaskRow,
  TermChoice,
  TermCounts,
  Themes,
  TokensAnswer,
  TransferPlan,
  ValueAct,
  ValuePlan,
  ValuesReport,
  Version,
  View,
  VocabularyPreview,
  Work,
  Webhook,
  WebhooksAnswer,
} from './types';

/** What the API says when it refuses: one shape for every error. */
export class ApiError extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    message: string,
    readonly fields: Record<string, string> = {},
    readonly suggestion: string | null = null,
    readonly current: unknown = null,
  ) {
    super(message);
  }
}

/** What went wrong, in words. */
export function messageOf(error: unknown, otherwise: string): string {
  return error instanceof Error ? error.message : otherwise;
}

export type Sheet = Record<string, string[]>;

/** Where values of a sheet were lifted from, by field. */
export type Lifted = Record<string, { value: string; page: number; text: string }[]>;

/** One field of many documents, and what is done to it. */
export interface ValueChange {
  field: string;
  how: ValueAct['how'];
  values: string[];
}

/** Documents to be copied or moved, and where to. */
export interface TransferInput {
  documents: string[];
  library: string;
  type: string | null;
  how: 'copy' | 'move';
  mapping: Record<string, string>;
}

/** Somebody, as those who may ask see them. */
export interface Seer {
  name: string;
  sign_in: string;
  role: string;
}

/** How a list is delivered. */
export interface DeliverySettings {
  format: string;
  form: DeliveryForm;
  /** In tables: what codes mean, in columns beside them. */
  labels?: boolean;
  names?: string;
  levels?: string[];
  to?: string;
  subject?: string;
  text?: string;
}

function token(): string {
  const found = document.cookie.split('; ').find((part) => part.startsWith('XSRF-TOKEN='));
  return found ? decodeURIComponent(found.slice('XSRF-TOKEN='.length)) : '';
}

function offline(fault: unknown): never {
  if (fault instanceof DOMException && fault.name === 'AbortError') throw fault;
  throw new ApiError(0, 'offline', 'Brenvic cannot be reached. What you typed is kept; try again in a moment.');
}

/** Has whoever was signed in sign in again; false when they do not. */
let signInAgain: (() => Promise<boolean>) | null = null;

/** Tells what is done when the session has ended: what was asked waits for it, so that nothing that was typed is lost. */
export function whenSessionEnds(again: (() => Promise<boolean>) | null): void {
  signInAgain = again;
}

async function send(method: string, path: string, body?: unknown, signal?: AbortSignal, accept = 'application/json'): Promise<Response> {
  const response = await sendOnce(method, path, body, signal, accept);
  if ((response.status !== 401 && response.status !== 419) || !signInAgain || path.startsWith('session')) return response;
  // A request of a page that was open for long may just have an old token: the session says so, and brings a new one.
  const session = response.status === 419 ? await sendOnce('GET', 'session') : null;
  const isSignedIn = session?.ok === true && ((await session.json()) as { user: unknown }).user !== null;
  return isSignedIn || (await signInAgain()) ? sendOnce(method, path, body, signal, accept) : response;
}

async function sendOnce(
  method: string,
  path: string,
  body?: unknown,
  signal?: AbortSignal,
  accept = 'application/json',
): Promise<Response> {
  // Forms and files go as they are, everything else as JSON.
  const isForm = body instanceof FormData || body instanceof Blob;
  try {
    return await fetch(`/api/${path}`, {
      method,
      signal,
      headers: {
        Accept: accept,
        'X-XSRF-TOKEN': token(),
        ...(body !== undefined && !isForm ? { 'Content-Type': 'application/json' } : {}),
      },
      body: body === undefined ? undefined : isForm ? body : JSON.stringify(body),
    });
  } catch (fault) {
    return offline(fault);
  }
}

async function refused(response: Response): Promise<ApiError> {
  const error = (await response.json().catch(() => null))?.error ?? {};
  return new ApiError(
    response.status,
    error.code ?? 'fault',
    error.message ?? 'Something went wrong. Try again.',
    error.fields ?? {},
    error.suggestion ?? null,
    error.current ?? null,
  );
}

async function call<T>(method: string, path: string, body?: unknown, signal?: AbortSignal): Promise<T> {
  const response = await send(method, path, body, signal);
  if (!response.ok) throw await refused(response);
  if (response.status === 204) return undefined as T;
  return (await response.json().catch(() => null)) as T;
}

/** An answer that comes line by line: its parts, each as soon as it is there. */
async function* parts(path: string, body: unknown, signal: AbortSignal): AsyncGenerator<unknown> {
  const response = await send('POST', path, body, signal, 'application/x-ndjson');
  if (!response.ok) throw await refused(response);
  const reader = response.body!.pipeThrough(new TextDecoderStream()).getReader();
  let rest = '';
  for (;;) {
    const { done, value } = await reader.read().catch(offline);
    if (done) return;
    const lines = (rest + value).split('\n');
    rest = lines.pop()!;
    for (const line of lines) yield JSON.parse(line);
  }
}

/** What the pages of a document mark. */
export interface Sought {
  words: string;
  criteria: CriterionInput[];
  /** How far the words reach; as the person has it where it is not said. */
  reach?: Search['reach'];
}

/** What was decided on the sheet of a proposal. */
export interface TakenProposal {
  name: string;
  types: boolean;
  columns: ProposedDecision[];
  gatherings: GatheringDecision[];
  /** That takes documents of the types too. */
  library: string | null;
  new_library: boolean;
}

/** A search as part of an address. */
function marks({ words, criteria, reach }: Sought, version = 0): string {
  const params = new URLSearchParams();
  if (version > 0) params.set('version', String(version));
  if (words !== '') params.set('words', words);
  if (words !== '' && reach) params.set('reach', reach);
  criteria.forEach((c, i) => {
    params.set(`criteria[${i}][cql]`, c.cql);
    params.set(`criteria[${i}][negated]`, c.negated ? '1' : '0');
    params.set(`criteria[${i}][on]`, c.on ? '1' : '0');
  });
  return params.size > 0 ? `?${params}` : '';
}

/** Files and words as a form. */
function form(parts: Record<string, string | File>): FormData {
  const made = new FormData();
  for (const [name, value] of Object.entries(parts)) made.set(name, value);
  return made;
}

const ref = encodeURIComponent;

/** Where a document stands, and the procedures that may begin with it. */
export type CasesAnswer = { cases: Case[]; procedures: { code: string; name: string }[] };
/** Who stands in for somebody, and from when until when; nobody for null, and without an end where none is said. */
export type AwayDays = Pick<Away, 'stand_in' | 'away_from' | 'away_until'>;
export type TaskPart = 'mine' | 'groups' | 'others';

export type AuditRules = { readers: { record: boolean; months: number }; head_mail: string[] };
export type AuditChoices = AuditRules & { acts: { code: string; says: string }[]; people: { sign_in: string; name: string }[] };
export type HoldWords = { name: string; reason: string; until?: string | null; custodians: string[] };
export type DueOnly = { library?: string | null; rule?: string | null };
export type DisposalAct = 'submit' | 'approve' | 'return' | 'cancel' | 'receipt' | 'go-on';

/** What is not given is left out. */
const queryOf = (params: Record<string, string | null | undefined>) =>
  new URLSearchParams(Object.entries(params).filter((p): p is [string, string] => !!p[1]));

export const api = {
  session: () => call<{ user: Person | null }>('GET', 'session'),
  signIn: (sign_in: string, password: string, stay: boolean) => call<SignedIn>('POST', 'session', { sign_in, password, stay }),
  signInFactor: (code: string) => call<SignedIn>('POST', 'session/factor', { code }),
  forgotten: (sign_in: string) => call<void>('POST', 'session/forgotten', { sign_in }),
  signOut: () => call<void>('DELETE', 'session'),

  desk: () => call<Desk>('GET', 'desk'),
  design: () => call<Design>('GET', 'design'),
  create: <T>(kind: string, body: unknown) => call<T>('POST', `design/${kind}`, body),
  change: <T>(kind: string, code: string, body: unknown) => call<T>('PUT', `design/${kind}/${ref(code)}`, body),
  remove: (kind: string, code: string) => call<void>('DELETE', `design/${kind}/${ref(code)}`),

  draft: () => call<DraftAnswer>('GET', 'design/draft'),
  effects: (signal?: AbortSignal) => call<{ effects: Effect[]; took_ms: number }>('GET', 'design/draft/effects', undefined, signal),
  takeBack: (kind?: string, code?: string) => call<DraftAnswer>('POST', 'design/draft/discard', kind ? { kind, code } : {}),
  publish: (note: string) => call<Version>('POST', 'design/draft/publish', { note }),
  versions: () => call<{ versions: Version[] }>('GET', 'design/versions'),
  compare: (number: number, against = 0) => call<{ changes: Change[] }>('GET', `design/versions/${number}?against=${against}`),
  bringBack: (number: number) => call<DraftAnswer>('POST', `design/versions/${number}/restore`),
  designFile: '/api/design/file',
  importDesign: (file: unknown, merge = false) => call<DraftAnswer>('POST', `design/file${merge ? '?how=merge' : ''}`, file),
  mergeFields: (from: string, into: string) => call<DraftAnswer>('POST', 'design/merge-fields', { from, into }),
  work: () => call<{ work: Work[] }>('GET', 'design/work'),
  stopWork: (id: number) => call<{ work: Work[] }>('POST', `design/work/${id}/stop`),
  goOnWork: (id: number) => call<{ work: Work[] }>('POST', `design/work/${id}/go-on`),
  /** Terms of a large vocabulary: below a term, by what is typed, or of some codes; of the draft while it is worked on. */
  terms: (
    code: string,
    ofDraft: boolean,
    asked: { q?: string; below?: string; from?: string | null; codes?: string[]; beside?: string[] | null; retired?: boolean },
    signal?: AbortSignal,
  ) => {
    const query = new URLSearchParams();
    for (const [name, value] of Object.entries(asked)) {
      if (Array.isArray(value)) for (const one of value.length > 0 ? value : ['']) query.append(`${name}[]`, one);
      else if (value !== null && value !== undefined && value !== false) query.set(name, value === true ? '1' : value);
    }
    return call<{ terms: TermChoice[] }>('GET', `${ofDraft ? 'design/' : ''}vocabularies/${ref(code)}/terms?${query}`, undefined, signal);
  },
  termCounts: (code: string) => call<TermCounts>('GET', `design/vocabularies/${ref(code)}/counts`),
  doubles: (code: string) => call<{ doubles: { a: string; b: string; why: string }[] }>('GET', `design/vocabularies/${ref(code)}/doubles`),
  vocabularyFile: (code: string, format: string) => `/api/design/vocabularies/${ref(code)}/file?format=${format}`,
  previewVocabulary: (code: string, file: File, scheme = '') =>
    call<VocabularyPreview>('POST', `design/vocabularies/${ref(code)}/file?name=${ref(file.name)}&scheme=${ref(scheme)}`, file),
  part: <T>(kind: string, code: string) => call<T>('GET', `design/${kind}/${ref(code)}`),
  tableState: (code: string) => call<{ works: boolean; says: string }>('GET', `design/tables/${ref(code)}/state`),
  proposal: () => call<{ proposal: Proposal | null }>('GET', 'design/proposal'),
  propose: (file: File, what: Proposal['what']) => call<{ proposal: Proposal }>('POST', 'design/proposal', form({ file, what })),
  takeProposal: (what: TakenProposal) => call<{ parts: number; left: string[]; draft: DraftAnswer }>('POST', 'design/proposal/take', what),
  dropProposal: () => call<void>('DELETE', 'design/proposal'),
  bringing: () => call<{ bringing: Bringing | null }>('GET', 'design/bringing'),
  lookAtBringing: (library: string, paths: string[]) =>
    call<{ bringing: Bringing }>(
      'POST',
      'design/bringing',
      form({ library, file: new File([paths.join('\n')], 'paths', { type: 'text/plain' }) }),
    ),
  openBringing: (rest: boolean) => call<{ bringing: Bringing }>('POST', 'design/bringing/open', { rest }),
  wantedFiles: (after: string) => call<{ sources: string[] }>('GET', `design/bringing/wanted?${new URLSearchParams({ after })}`),
  bringFiles: (files: { source: string; file: File }[]) => {
    const body = new FormData();
    for (const { source, file } of files) {
      body.append('sources[]', source);
      body.append('files[]', file);
    }
    return call<{ bringing: Bringing }>('POST', 'design/bringing/files', body);
  },
  finishBringing: () => call<{ bringing: Bringing }>('POST', 'design/bringing/finish'),
  undoBringing: () => call<{ undone: number; left: number }>('POST', 'design/bringing/undo'),
  dropBringing: () => call<void>('DELETE', 'design/bringing'),
  readTable: (file: File) => call<Pick<ReferenceTable, 'key' | 'fills' | 'rows'>>('POST', 'design/tables/read', file),
  lookUp: (field: string, value: string, was: string, now: Record<string, string>) =>
    call<LookUp>('POST', 'tables/look-up', { field, value, was, now }),
  office: () => call<OfficeAnswer>('GET', 'office/people'),
  addPerson: (person: { name: string; sign_in: string; mail: string | null; role: string; groups: string[]; known_by?: string }) =>
    call<OfficeAnswer>('POST', 'office/people', person),
  changePerson: (id: number, person: { name: string; mail: string | null; role: string; groups: string[]; known_by?: string }) =>
    call<OfficeAnswer>('PUT', `office/people/${id}`, person),
  newCode: (id: number) => call<OfficeAnswer>('POST', `office/people/${id}/code`),
  putOut: (id: number, to: number | null) => call<OfficeAnswer>('POST', `office/people/${id}/out`, { to }),
  bringPersonBack: (id: number) => call<OfficeAnswer>('POST', `office/people/${id}/back`),
  choosePassword: (sign_in: string, code: string, password: string) => call<SignedIn>('POST', 'session/code', { sign_in, code, password }),
  changeMe: (name: string, mail: string | null, current: string) => call<{ user: Person }>('PUT', 'me', { name, mail, current }),
  mySessions: () => call<{ sessions: SignedInSession[] }>('GET', 'me/sessions'),
  endMySession: (id: number) => call<{ sessions: SignedInSession[] }>('DELETE', `me/sessions/${id}`),
  endMySessions: () => call<{ sessions: SignedInSession[] }>('DELETE', 'me/sessions'),
  beginFactor: () => call<{ secret: string; address: string; qr: string }>('POST', 'me/factor'),
  turnOnFactor: (code: string, current: string) => call<{ recovery_codes: string[]; user: Person }>('PUT', 'me/factor', { code, current }),
  turnOffFactor: (current: string) => call<{ user: Person }>('DELETE', 'me/factor', { current }),
  myTokens: () => call<TokensAnswer>('GET', 'me/tokens'),
  makeToken: (name: string, rights: string[], days: number, libraries: string[] | null) =>
    call<TokensAnswer>('POST', 'me/tokens', { name, rights, days, libraries }),
  revokeToken: (id: number) => call<TokensAnswer>('DELETE', `me/tokens/${id}`),
  myWebhooks: () => call<WebhooksAnswer>('GET', 'me/webhooks'),
  makeWebhook: (webhook: Pick<Webhook, 'name' | 'address' | 'kinds'>) => call<WebhooksAnswer>('POST', 'me/webhooks', webhook),
  startWebhook: (id: number) => call<WebhooksAnswer>('POST', `me/webhooks/${id}/start`),
  tryWebhook: (id: number) => call<WebhooksAnswer>('POST', `me/webhooks/${id}/try`),
  removeWebhook: (id: number) => call<WebhooksAnswer>('DELETE', `me/webhooks/${id}`),
  health: () => call<HealthAnswer>('GET', 'office/health'),
  alarmDone: (id: number) => call<HealthAnswer>('POST', `office/health/${id}/done`),
  endSessionsOf: (id: number) => call<OfficeAnswer>('DELETE', `office/people/${id}/sessions`),
  turnOffFactorOf: (id: number) => call<OfficeAnswer>('DELETE', `office/people/${id}/factor`),
  addRole: (name: string, rights: string[]) => call<OfficeAnswer>('POST', 'office/roles', { name, rights }),
  changeRole: (code: string, name: string, rights: string[]) => call<OfficeAnswer>('PUT', `office/roles/${code}`, { name, rights }),
  removeRole: (code: string) => call<OfficeAnswer>('DELETE', `office/roles/${code}`),
  putGroups: (id: number, groups: string[]) => call<OfficeAnswer>('PUT', `office/groups/${id}`, { groups }),
  signInRules: (rules: OfficeAnswer['rules']) => call<OfficeAnswer>('PUT', 'office/rules', rules),
  peopleTable: (file: File, take: boolean) => {
    const body = new FormData();
    body.append('file', file);
    if (take) body.append('take', '1');
    return call<OfficeAnswer>('POST', 'office/people/table', body);
  },
  why: (document: string, person: string) => call<Reasons>('GET', `documents/${ref(document)}/why/${encodeURIComponent(person)}`),
  changePassword: (current: string, password: string) => call<void>('PUT', 'me/password', { current, password }),
  people: () => call<PeopleAnswer>('GET', 'design/people'),
  addGroup: (name: string) => call<PeopleAnswer>('POST', 'design/people/groups', { name }),
  removeGroup: (id: number) => call<PeopleAnswer>('DELETE', `design/people/groups/${id}`),
  setGroups: (person: number, groups: string[]) => call<PeopleAnswer>('PUT', `design/people/${person}`, { groups }),
  sight: (person: number) => call<Sight>('GET', `design/people/${person}/sight`),
  saveOwnView: (code: string, view: View) => call<{ code: string }>('PUT', `me/views/${ref(code)}`, view),
  removeOwnView: (code: string) => call<void>('DELETE', `me/views/${ref(code)}`),
  preferences: (given: Record<string, unknown>) => call<unknown>('PUT', 'me/preferences', given),

  complete: (typed: string, signal?: AbortSignal) => call<CompletionAnswer>('POST', 'search/complete', { typed }, signal),
  group: (how: 'any' | 'all' | 'none', criteria: CriterionInput[]) => call<CriterionInput>('POST', 'search/group', { how, criteria }),
  apart: (cql: string, negated: boolean) => call<{ criteria: CriterionInput[] }>('POST', 'search/apart', { cql, negated }),
  searches: () => call<SearchesAnswer>('GET', 'searches'),
  saveSearch: (name: string, search: KeptSearch, groups: string[]) => call<SearchesAnswer>('POST', 'searches', { name, search, groups }),
  changeSearch: (id: number, change: { name: string; search: KeptSearch; groups: string[]; lock_version: number }) =>
    call<SearchesAnswer>('PUT', `searches/${id}`, change),
  removeSearch: (id: number) => call<SearchesAnswer>('DELETE', `searches/${id}`),
  lookAtSearch: (id: number) => call<SearchesAnswer>('POST', `searches/${id}/look`),
  unwatch: (id: number) => call<SearchesAnswer>('DELETE', `searches/${id}/look`),
  keepRecent: (search: KeptSearch, total: number) => call<{ recent: RecentSearch[] }>('POST', 'searches/recent', { search, total }),
  exportResult: async (search: Search, format: 'csv' | 'ods'): Promise<Blob> => {
    const response = await fetch('/api/search/export', {
      method: 'POST',
      headers: { Accept: 'application/json', 'Content-Type': 'application/json', 'X-XSRF-TOKEN': token() },
      body: JSON.stringify({ ...search, format, spreadsheet: true }),
    });
    if (!response.ok)
      throw new ApiError(
        response.status,
        'fault',
        ((await response.json().catch(() => null)) as { error?: { message?: string } } | null)?.error?.message ??
          'The file could not be made.',
      );
    return response.blob();
  },

  reveal: (document: string, field: string | null) =>
    call<{ values: DocumentRecord['values'] }>('POST', `documents/${ref(document)}/reveal`, { field }),
  documentHistory: (document: string) => call<{ history: HistoryEntry[] }>('GET', `documents/${ref(document)}/history`),
  proposals: (document: string, type: string) =>
    call<ProposedSheet>('GET', `documents/${ref(document)}/proposals${type === '' ? '' : `?type=${encodeURIComponent(type)}`}`),
  setLanguage: (document: string, language: string | null) =>
    call<DocumentRecord>('PUT', `documents/${ref(document)}/language`, { language }),
  pin: (document: string, on: boolean) => call<{ pinned: boolean }>(on ? 'PUT' : 'DELETE', `documents/${ref(document)}/pin`),
  comments: (document: string) => call<{ comments: DocumentComment[] }>('GET', `documents/${ref(document)}/comments`),
  comment: (document: string, text: string) =>
    call<{ comments: DocumentComment[] }>('POST', `documents/${ref(document)}/comments`, { text }),
  removeComment: (document: string, id: number) =>
    call<{ comments: DocumentComment[] }>('DELETE', `documents/${ref(document)}/comments/${id}`),

  lists: () => call<{ lists: PullListRow[] }>('GET', 'lists'),
  list: (id: number) => call<PullList>('GET', `lists/${id}`),
  makeList: (name: string) => call<PullList>('POST', 'lists', { name }),
  changeList: (
    id: number,
    change: { name: string; note: string; lock_version: number; people?: { sign_in: string; may_change: boolean }[] },
  ) => call<PullList>('PUT', `lists/${id}`, change),
  removeList: (id: number) => call<void>('DELETE', `lists/${id}`),
  restoreList: (id: number) => call<PullList>('POST', `lists/${id}/restore`),
  addToList: (id: number, what: { documents?: string[]; list?: number; search?: KeptSearch; keep?: boolean }) =>
    call<{ added: number; new: string[]; list: PullListRow }>('POST', `lists/${id}/documents`, what),
  takeOutOfList: (id: number, documents: string[]) => call<PullList>('POST', `lists/${id}/take-out`, { documents }),
  listItem: (id: number, document: string, change: { note?: string; before?: string | null }) =>
    call<PullList>('PUT', `lists/${id}/documents/${ref(document)}`, change),
  freezeList: (id: number, on: boolean) => call<PullList>('POST', `lists/${id}/freeze`, { on }),
  unfollow: (id: number) => call<PullList>('DELETE', `lists/${id}/search`),
  holdList: (id: number, reason: string | null) => call<PullList>('POST', `lists/${id}/hold`, { reason }),
  listAgainst: (id: number, other: number) => call<ListAgainst>('GET', `lists/${id}/against/${other}`),
  checkList: (id: number) => call<ListCheck>('GET', `lists/${id}/check`),
  deliver: (id: number, settings: DeliverySettings) => call<Delivery>('POST', `lists/${id}/deliveries`, settings),
  delivery: (id: number, from = 0) =>
    call<Delivery & { contents: { ref: string; title: string; file: string; sha256: string; remark?: string }[]; links: SecureLink[] }>(
      'GET',
      `deliveries/${id}?from=${from}`,
    ),
  cancelDelivery: (id: number) => call<Delivery>('POST', `deliveries/${id}/cancel`),
  deliveryFile: (id: number) => `/api/deliveries/${id}/file`,
  mail: (message: { documents: string[]; how: 'copies' | 'links'; form: DeliveryForm; to: string; subject: string; text: string }) =>
    call<{ delivery: number | null }>('POST', 'documents/mail', message),
  documentSight: (document: string) => call<{ people: Seer[]; others: Seer[]; of: number }>('GET', `documents/${ref(document)}/sight`),
  outbox: () => call<{ mails: OutboxMail[]; connected: boolean }>('GET', 'outbox'),
  makeLink: (of: string, settings: { note: string; password: string; most_uses: number; days: number; form?: DeliveryForm }) =>
    call<{ address: string; link: SecureLink }>('POST', `${of}/links`, settings),
  links: () => call<{ links: SecureLink[] }>('GET', 'links'),
  revokeLink: (id: number) => call<SecureLink>('POST', `links/${id}/revoke`),

  removed: () => call<{ documents: RemovedDocument[] }>('GET', 'removed'),
  removeDocuments: (documents: string[], reason: string) =>
    call<{ act: number; removed: string[] }>('POST', 'removed', { documents, reason }),
  restoreDocuments: (documents: string[]) => call<{ restored: number }>('POST', 'removed/restore', { documents }),
  destroyDocuments: (documents: string[], reason: string) => call<{ destroyed: number }>('POST', 'removed/destroy', { documents, reason }),

  loans: (document: string) => call<{ loans: Loan[]; version: number }>('GET', `documents/${ref(document)}/loans`),
  lend: (document: string, loan: { borrower: string; form: DeliveryForm; due_on: string | null }) =>
    call<{ loans: Loan[]; version: number }>('POST', `documents/${ref(document)}/loans`, loan),
  returnLoan: (document: string, loan: number, anyway = false) =>
    call<{ loans: Loan[]; version: number }>('POST', `documents/${ref(document)}/loans/${loan}/return`, { anyway }),
  endLoan: (document: string, loan: number) =>
    call<{ loans: Loan[]; version: number }>('POST', `documents/${ref(document)}/loans/${loan}/end`),

  cases: (document: string) => call<CasesAnswer>('GET', `documents/${ref(document)}/cases`),
  beginCase: (document: string, procedure: string) => call<CasesAnswer>('POST', `documents/${ref(document)}/cases`, { procedure }),
  resumeCase: (id: number) => call<CasesAnswer>('POST', `cases/${id}/go-on`),
  moveCase: (id: number, step: string) => call<CasesAnswer>('POST', `cases/${id}/move`, { step }),
  cancelCase: (id: number, reason: string) => call<CasesAnswer>('POST', `cases/${id}/cancel`, { reason }),
  tasks: (part: TaskPart, offset = 0) =>
    call<{ total: number; tasks: TaskRow[]; counts: TaskCounts; stopped: StoppedCase[] }>(
      'GET',
      `tasks?${new URLSearchParams({ part, offset: String(offset) })}`,
    ),
  task: (id: number) => call<Task>('GET', `tasks/${id}`),
  taskPeople: (id: number) => call<{ people: { sign_in: string; name: string; may_decide: boolean }[] }>('GET', `tasks/${id}/people`),
  takeTask: (id: number) => call<Task>('POST', `tasks/${id}/take`),
  putBackTask: (id: number) => call<Task>('POST', `tasks/${id}/put-back`),
  giveTask: (id: number, to: string, note: string) => call<Task>('POST', `tasks/${id}/give`, { to, note }),
  askAboutTask: (id: number, to: string, text: string) => call<Task>('POST', `tasks/${id}/ask`, { to, text }),
  answerTask: (id: number, text: string) => call<Task>('POST', `tasks/${id}/answer`, { text }),
  decide: (id: number, what: { decision: string; comment: string; values?: Sheet; lock_version?: number }) =>
    call<{ case: Case }>('POST', `tasks/${id}/decide`, what),
  decideMany: (tasks: number[], decision: string, comment: string) =>
    call<{ done: number; left: { task: number; why: string }[] }>('POST', 'tasks/decide', { tasks, decision, comment }),
  figures: (from: string, until: string) =>
    call<{ from: string; until: string; procedures: ProcedureFigures[] }>('GET', `tasks/figures?${new URLSearchParams({ from, until })}`),
  figuresUrl: (from: string, until: string) => `/api/tasks/figures/csv?${new URLSearchParams({ from, until })}`,
  due: (only: DueOnly) => call<DueList>('GET', `oversight/due?${queryOf({ ...only })}`),
  duePeriod: (only: DueOnly & { from?: string | null; until?: string | null; action: string }) =>
    call<DuePeriod>('GET', `oversight/due/period?${queryOf({ ...only })}`),
  retention: (document: string) => call<KeptUntil>('GET', `documents/${ref(document)}/retention`),
  decideRetention: (document: string, what: { decision: string; day?: string | null; reason: string }) =>
    call<KeptUntil>('POST', `documents/${ref(document)}/retention`, what),
  closeDossier: (dossier: string, closed: boolean) => call<DossierRecord>('PUT', `dossiers/${ref(dossier)}/closed`, { closed }),
  stub: () => call<Stub>('GET', 'oversight/stub'),
  keepStub: (stub: Stub) => call<Stub>('PUT', 'oversight/stub', stub),
  holds: () => call<{ holds: HoldRow[] }>('GET', 'holds'),
  holdPeople: () => call<{ people: { sign_in: string; name: string }[] }>('GET', 'holds/people'),
  hold: (id: number) => call<Hold>('GET', `holds/${id}`),
  makeHold: (what: HoldWords & { from?: string | null; documents?: string[]; list?: number | null; search?: KeptSearch | null }) =>
    call<Hold>('POST', 'holds', what),
  changeHold: (id: number, what: HoldWords & { owner: string; lock_version: number }) => call<Hold>('PUT', `holds/${id}`, what),
  heldDocuments: (id: number, offset = 0) =>
    call<{ total: number; items: HeldDocument[] }>('GET', `holds/${id}/documents?${queryOf({ offset: String(offset) })}`),
  coverByHold: (id: number, documents: string[]) => call<Hold>('POST', `holds/${id}/documents`, { documents }),
  releaseFromHold: (id: number, documents: string[]) => call<Hold>('POST', `holds/${id}/release`, { documents }),
  endHold: (id: number, reason: string) => call<Hold>('POST', `holds/${id}/end`, { reason }),
  remindOfHold: (id: number) => call<{ told: number }>('POST', `holds/${id}/remind`),
  acknowledgeHold: (id: number) => call<Hold>('POST', `holds/${id}/acknowledge`),
  audit: (asked: Record<string, string>) =>
    call<{ entries: AuditEntry[]; next: number | null }>('GET', `oversight/history?${queryOf(asked)}`),
  auditChoices: () => call<AuditChoices>('GET', 'oversight/history/choices'),
  keepAuditRules: (rules: AuditRules) => call<AuditRules>('PUT', 'oversight/history/rules', rules),
  auditUrl: (form: 'csv' | 'jsonl', days: Record<string, string>) => `/api/oversight/history/export.${form}?${queryOf(days)}`,
  collectionHealth: () => call<CollectionHealth>('GET', 'oversight/health'),
  readFilesAgain: () => call<CollectionHealth>('POST', 'oversight/health/files'),
  restoreFile: (sha256: string) => call<CollectionHealth>('POST', `oversight/health/files/${sha256}`),
  rebuildIndex: () => call<CollectionHealth>('POST', 'oversight/health/index'),
  makeFeed: (search: number) => call<{ atom: string; json: string }>('POST', `searches/${search}/feed`),
  stopFeed: (search: number) => call<SearchesAnswer>('DELETE', `searches/${search}/feed`),
  served: () => call<Served>('GET', 'office/served'),
  removeWebhookOfAnybody: (id: number) => call<Served>('DELETE', `office/webhooks/${id}`),
  revokeTokenOfAnybody: (id: number) => call<Served>('DELETE', `office/tokens/${id}`),
  keepServed: (group: string | null) => call<Served>('PUT', 'office/served', { group }),
  compareIndex: () => call<CollectionHealth>('POST', 'oversight/health/index/compare'),
  tryAgain: (what: string, document: string) => call<CollectionHealth>('POST', 'oversight/health/again', { what, document }),
  sendMailAgain: () => call<CollectionHealth>('POST', 'oversight/health/mail'),
  lookAtSource: (source: string) => call<CollectionHealth>('POST', `oversight/health/sources/${source}`),
  askRemote: (code: string) => call<CollectionHealth>('POST', `oversight/health/remotes/${code}`),
  reports: () => call<ReportsKept>('GET', 'oversight/reports'),
  report: (code: string, asked: Record<string, string>) => call<Report>('GET', `oversight/reports/${code}?${queryOf(asked)}`),
  reportUrl: (code: string, form: 'csv' | 'ods', asked: Record<string, string>) =>
    `/api/oversight/reports/${code}.${form}?${queryOf(asked)}`,
  keepReport: (what: { report: string; library: string | null; type: string | null; people: string[] }) =>
    call<ReportsKept>('POST', 'oversight/reports/kept', what),
  keepReportNoMore: (id: number) => call<ReportsKept>('DELETE', `oversight/reports/kept/${id}`),
  disposals: () => call<{ disposals: DisposalRow[] }>('GET', 'oversight/disposals'),
  disposal: (id: number) => call<Disposal>('GET', `oversight/disposals/${id}`),
  disposalItems: (id: number, which: string, offset = 0) =>
    call<{ total: number; items: DisposalItem[] }>('GET', `oversight/disposals/${id}/items?${queryOf({ which, offset: String(offset) })}`),
  prepareDisposal: (what: { name: string; action: string; until: string; criteria: string[] }) =>
    call<Disposal>('POST', 'oversight/disposals', what),
  reviewDisposal: (
    id: number,
    what: { documents?: string[]; decision: string; reason?: string; until?: string | null; lock_version: number },
  ) => call<Disposal>('POST', `oversight/disposals/${id}/review`, what),
  actOnDisposal: (id: number, act: DisposalAct, what: { lock_version: number; reason?: string; receipt?: string }) =>
    call<Disposal>('POST', `oversight/disposals/${id}/${act}`, what),
  certificateUrl: (id: number, form: 'pdf' | 'json') => `/api/oversight/disposals/${id}/certificate.${form}`,
  away: () => call<Away>('GET', 'me/away'),
  setAway: (away: AwayDays) => call<Away>('PUT', 'me/away', away),
  workOf: (person: number) => call<Away>('GET', `office/people/${person}/work`),
  setWork: (person: number, work: AwayDays & { manager: string | null }) => call<Away>('PUT', `office/people/${person}/work`, work),
  calendar: () => call<OfficeCalendar>('GET', 'office/calendar'),
  setCalendar: (calendar: OfficeCalendar) => call<OfficeCalendar>('PUT', 'office/calendar', calendar),
  noticeTexts: () => call<{ texts: NoticeText[]; names: string[] }>('GET', 'notices/texts'),
  setNoticeTexts: (texts: Record<string, string>) => call<{ texts: NoticeText[]; names: string[] }>('PUT', 'notices/texts', { texts }),
  counts: () => call<{ tasks: { mine: number; groups: number }; notices: number }>('GET', 'counts'),
  notices: () => call<{ notices: Notice[] }>('GET', 'notices'),
  noticesSeen: (up_to: number) => call<void>('POST', 'notices/seen', { up_to }),

  planTransfer: (what: TransferInput) => call<TransferPlan>('POST', 'document-acts/transfer/plan', what),
  transfer: (what: TransferInput & { expected: number }) =>
    call<{ act: number; documents: number }>('POST', 'document-acts/transfer', what),
  openSheets: (documents: string[]) => call<{ rows: SheetRow[] }>('POST', 'document-acts/sheets/open', { documents }),
  planSheets: (rows: Pick<SheetRow, 'ref' | 'lock_version' | 'values'>[]) =>
    call<SheetsPlan>('POST', 'document-acts/sheets/plan', { rows }),
  giveSheets: (rows: Pick<SheetRow, 'ref' | 'lock_version' | 'values'>[], expected: number) =>
    call<{ act: number; documents: number }>('POST', 'document-acts/sheets', { rows, expected }),
  lastActs: () => call<{ acts: LastAct[] }>('GET', 'acts'),
  undoDocumentAct: (act: number) => call<{ undone: number; left: number }>('POST', `document-acts/${act}/undo`),

  valueAct: (id: number) => call<ValueAct>('GET', `value-acts/${id}`),
  planValues: (what: ManyDocuments & ValueChange) => call<ValuePlan>('POST', 'value-acts/plan', what),
  changeValues: (what: ManyDocuments & ValueChange & { changes: number }) => call<ValueAct>('POST', 'value-acts', what),
  goOnValues: (id: number) => call<ValueAct>('POST', `value-acts/${id}/go-on`),
  undoValues: (id: number) => call<ValueAct>('POST', `value-acts/${id}/undo`),

  dossiers: (kind: string, q: string, offset = 0) =>
    call<{ total: number; dossiers: DossierRow[] }>('GET', `dossiers?${new URLSearchParams({ kind, q, offset: String(offset) })}`),
  dossier: (dossier: string) => call<DossierRecord>('GET', `dossiers/${ref(dossier)}`),
  dossierComments: (dossier: string) => call<{ comments: DocumentComment[] }>('GET', `dossiers/${ref(dossier)}/comments`),
  commentDossier: (dossier: string, text: string) =>
    call<{ comments: DocumentComment[] }>('POST', `dossiers/${ref(dossier)}/comments`, { text }),
  removeDossierComment: (dossier: string, id: number) =>
    call<{ comments: DocumentComment[] }>('DELETE', `dossiers/${ref(dossier)}/comments/${id}`),
  makeDossier: (kind: string, library: string, values: Sheet) => call<DossierRecord>('POST', 'dossiers', { kind, library, values }),
  saveDossier: (dossier: string, values: Sheet, lock_version: number) =>
    call<DossierRecord>('PUT', `dossiers/${ref(dossier)}`, { values, lock_version }),
  putInDossier: (dossier: string, documents: string[], section: number | null) =>
    call<DossierRecord>('POST', `dossiers/${ref(dossier)}/documents`, { documents, section }),
  takeOutOfDossier: (dossier: string, documents: string[]) =>
    call<DossierRecord>('POST', `dossiers/${ref(dossier)}/take-out`, { documents }),

  search: (search: Search, signal?: AbortSignal) => call<Answer>('POST', 'search', search, signal),
  /** The same, with what was found given away before the facets are counted. */
  searchInParts: async (search: Search, signal: AbortSignal, take: (found: Found) => void): Promise<Answer> => {
    let found: Found | null = null;
    for await (const part of parts('search', search, signal)) {
      if (found) return { ...(part as Pick<Answer, 'facets'>), ...found };
      found = part as Found;
      take(found);
    }
    throw new ApiError(500, 'fault', 'The margins could not be counted. Ask again.');
  },
  /** `again` asks also a repository that has just failed. */
  searchRemote: (code: string, search: Search & { again?: boolean }, signal?: AbortSignal) =>
    call<RemoteAnswer>('POST', `remote/${ref(code)}/search`, search, signal),
  remoteFileUrl: (code: string, address: string, seal: string, download = false) =>
    `/api/remote/${ref(code)}/file?${new URLSearchParams({ address, seal, ...(download ? { download: '1' } : {}) })}`,
  takeRemote: (code: string, address: string, seal: string, title: string, library: string) =>
    call<DocumentRecord>('POST', `remote/${ref(code)}/take`, { address, seal, title, library }),
  lookRemote: (address: string, name: string) => call<RemoteLook>('POST', 'design/remote/look', { address, name }),
  attached: (ref: string, search: Search) => call<{ rows: Row[] }>('POST', `search/attached/${ref}`, search),
  themes: (search: Search, signal?: AbortSignal) => call<Themes>('POST', 'search/themes', search, signal),
  groups: (search: Search & { level: string; below: string | null; total: string | null }) =>
    call<{ groups: Group[] }>('POST', 'search/groups', search),
  formAddress: (code: string) => call<{ address: string | null }>('GET', `design/work_forms/${ref(code)}/address`),
  makeFormAddress: (code: string) => call<{ address: string | null }>('POST', `design/work_forms/${ref(code)}/address`),
  revokeFormAddress: (code: string) => call<{ address: string | null }>('DELETE', `design/work_forms/${ref(code)}/address`),
  tryProcedure: (procedure: ProcedurePart, criterion: string) =>
    call<ProcedureTrial>('POST', 'design/procedures/trial', { procedure, criterion }),
  runningCases: (code: string) =>
    call<{ cases: RunningCases[]; steps: { code: string; name: string }[] }>('GET', `design/procedures/${ref(code)}/cases`),
  moveCases: (code: string, what: { version: number; from: string; to: string }) =>
    call<{ moved: number; left: number }>('POST', `design/procedures/${ref(code)}/cases/move`, what),
  tryRule: (rule: ReadingRule, criterion: string) => call<ReadingTrial>('POST', 'design/readings/trial', { rule, criterion }),
  advice: (criterion: string, signal?: AbortSignal) => call<Advice>('POST', 'design/advice', { criterion }, signal),
  criterion: (field: string, relation: string, values: string[], more: { reach?: Search['reach']; draft?: boolean } = {}) =>
    call<{ cql: string }>('POST', 'search/criterion', { field, relation, values, ...more }),
  officeSettings: (settings: { reach: Search['reach'] }) =>
    call<{ reach: NonNullable<Search['reach']> }>('PUT', 'design/settings', settings),

  document: (document: string, version = 0) =>
    call<DocumentRecord>('GET', `documents/${ref(document)}${version > 0 ? `?version=${version}` : ''}`),
  annotations: (document: string) => call<{ annotations: Annotation[]; stamps: string[] }>('GET', `documents/${ref(document)}/annotations`),
  annotate: (document: string, draft: AnnotationDraft) => call<Annotation>('POST', `documents/${ref(document)}/annotations`, draft),
  changeAnnotation: (document: string, id: number, change: Partial<Annotation> & { lock_version: number }) =>
    call<Annotation>('PUT', `documents/${ref(document)}/annotations/${id}`, change),
  removeAnnotation: (document: string, id: number) => call<void>('DELETE', `documents/${ref(document)}/annotations/${id}`),
  restoreAnnotation: (document: string, id: number) => call<Annotation>('POST', `documents/${ref(document)}/annotations/${id}/restore`),
  takeInAnnotations: (document: string) =>
    call<{ taken: number; annotations: Annotation[] }>('POST', `documents/${ref(document)}/annotations/take-in`),
  redactions: (document: string) => call<RedactionsAnswer>('GET', `documents/${ref(document)}/redactions`),
  findToRedact: (document: string, what: { words: string[]; forms: string[]; people: boolean }) =>
    call<{ places: RedactionPlace[] }>('POST', `documents/${ref(document)}/redactions/find`, what),
  redact: (document: string, version: number, marks: RedactionMark[], reason: string) =>
    call<RedactionsAnswer>('POST', `documents/${ref(document)}/redactions`, { version, marks, reason }),
  takeBackRedactions: (document: string, redactions: number[]) =>
    call<RedactionsAnswer>('POST', `documents/${ref(document)}/redactions/take-back`, { redactions }),
  redactAgain: (document: string) => call<RedactionsAnswer>('POST', `documents/${ref(document)}/redactions/again`),
  checkRedactions: (document: string) => call<RedactionsAnswer>('POST', `documents/${ref(document)}/redactions/check`),
  versionsOf: (document: string) => call<{ versions: DocumentVersion[] }>('GET', `documents/${ref(document)}/versions`),
  compareVersions: (document: string, from: number, to: number) =>
    call<{ pieces: DiffPiece[]; unread: number[] }>('GET', `documents/${ref(document)}/versions/compare?from=${from}&to=${to}`),
  checkOut: (document: string, note: string) => call<DocumentRecord>('POST', `documents/${ref(document)}/check-out`, { note }),
  giveUpCheckOut: (document: string) => call<DocumentRecord>('DELETE', `documents/${ref(document)}/check-out`),
  putBy: (document: string, file: File) => call<DocumentRecord>('POST', `documents/${ref(document)}/check-out/copy`, form({ file })),
  checkIn: (document: string, file: File | null, note: string) =>
    call<DocumentRecord>('POST', `documents/${ref(document)}/check-in`, form({ ...(file ? { file } : {}), note })),
  makeCurrent: (document: string, version: number) =>
    call<DocumentRecord>('POST', `documents/${ref(document)}/versions/${version}/make-current`, {}),
  arrangePages: (
    document: string,
    version: number,
    pages: { source: string; page: number; turn: number }[],
    files: File[],
    note: string,
  ) => {
    const made = form({ version: String(version), note, pages: JSON.stringify(pages) });
    for (const file of files) made.append('files[]', file);
    return call<DocumentRecord>('POST', `documents/${ref(document)}/pages`, made);
  },
  splitPages: (document: string, version: number, pages: number[]) =>
    call<{ ref: string }>('POST', `documents/${ref(document)}/split`, { version, pages }),
  keepAsTemplate: (document: string, on: boolean) => call<DocumentRecord>(on ? 'PUT' : 'DELETE', `documents/${ref(document)}/template`),
  newFromTemplate: (document: string) => call<{ ref: string }>('POST', `documents/${ref(document)}/template/new`, {}),
  saveDocument: (document: string, type: string | null, values: Sheet, lock_version: number) =>
    call<DocumentRecord>('PUT', `documents/${ref(document)}`, { type, values, lock_version }),
  hits: (document: string, sought: Sought, version = 0) => call<Hits>('GET', `documents/${ref(document)}/hits${marks(sought, version)}`),
  page: (document: string, number: number, sought: Sought, version = 0) =>
    call<PageText>('GET', `documents/${ref(document)}/pages/${number}${marks(sought, version)}`),
  /** The version is named, so that what a browser kept of the one before is not shown for it. */
  fileUrl: (document: string, version: number, download = false, form: DeliveryForm = 'plain') =>
    `/api/documents/${ref(document)}/file?version=${version}${download ? '&download=1' : ''}${form === 'plain' ? '' : `&form=${form}`}`,

  intake: (stamp = '', at = '') =>
    call<IntakeAnswer>('GET', `intake?${new URLSearchParams(Object.entries({ stamp, at }).filter(([, value]) => value !== ''))}`),
  waitingCount: () => call<{ waiting: number }>('GET', 'intake/count'),
  hands: () => call<{ people: { sign_in: string; name: string }[]; groups: string[] }>('GET', 'intake/hands'),
  handOver: (documents: string[], to: { person?: string; group?: string }) =>
    call<IntakeAnswer>('POST', 'intake/hand-over', { documents, ...to }),
  keepSheet: (document: string, type: string | null, values: Sheet, lock_version: number, lifted: Lifted) =>
    call<IntakeAnswer & { faults: Record<string, string> }>('PUT', `intake/sheets/${ref(document)}`, {
      type,
      values,
      lock_version,
      lifted,
    }),
  readArea: (document: string, page: number, [left, top, right, bottom]: Edges) =>
    call<{ text: string }>('POST', `documents/${ref(document)}/area`, { page, left, top, right, bottom }),
  lifted: (document: string) =>
    call<{ lifted: Record<string, { value: string; page: number; boxes: Edges[] }[]> }>('GET', `documents/${ref(document)}/lifted`),
  fileComplete: (documents: string[]) =>
    call<IntakeAnswer & { act: number | null; filed: number; left: { ref: string; why: string }[] }>('POST', 'intake/file-complete', {
      documents,
    }),
  templates: () =>
    call<{ templates: { ref: string; title: string; file_name: string; library: string; type: string | null; filled: boolean }[] }>(
      'GET',
      'intake/templates',
    ),
  fromTemplates: (templates: string[], values: Sheet) =>
    call<IntakeAnswer & { made: string[] }>('POST', 'intake/templates', { templates, values }),
  scanners: () => call<{ scanners: { code: string; name: string }[]; scans: Scan[] }>('GET', 'intake/scanners'),
  scanner: (code: string) =>
    call<{ model: string; resolutions: number[]; colour: boolean; feeder: boolean; glass: boolean; duplex: boolean }>(
      'GET',
      `intake/scanners/${ref(code)}`,
    ),
  scan: (how: { scanner: string; dots: number; colour: boolean; duplex: boolean; fed: boolean }) => call<Scan>('POST', 'intake/scans', how),
  scanState: (id: number) => call<Scan>('GET', `intake/scans/${id}`),
  scanPageUrl: (id: number, page: number) => `/api/intake/scans/${id}/pages/${page}`,
  goOnScan: (id: number) => call<Scan>('POST', `intake/scans/${id}/go-on`),
  keepScan: (id: number) => call<Scan>('POST', `intake/scans/${id}/keep`),
  dropScan: (id: number) => call<void>('DELETE', `intake/scans/${id}`),
  thumbUrl: (document: string) => `/api/documents/${ref(document)}/thumb`,
  places: (document: string, field: string) =>
    call<{ places: PlaceOnPage[] }>('GET', `documents/${ref(document)}/places?${new URLSearchParams({ field })}`),
  lift: (field: string, text: string) =>
    call<{ value: string | null; label: string; fault: string }>('POST', 'intake/lift', { field, text }),
  sortable: (refs: string[]) =>
    call<{ documents: SortableDocument[] }>('GET', `intake/pages?${refs.map((ref) => `of[]=${encodeURIComponent(ref)}`).join('&')}`),
  sortPages: (work: { sources: string[]; documents: SortedDocument[] }) => call<{ work: number | null }>('POST', 'intake/pages', work),
  undoSorting: (work: number) => call<void>('POST', `intake/pages/${work}/undo`),
  moveWaiting: (documents: string[], library: string) => call<IntakeAnswer>('POST', 'intake/library', { documents, library }),
  upload: (file: File, library: string, path = '') => call<DocumentRecord>('POST', 'intake', form({ library, path, file })),
  copies: (document: string) => call<{ copies: DocumentCopy[] }>('GET', `documents/${ref(document)}/copies`),
  compareCopies: (document: string, other: string) =>
    call<{ title: string; pieces: DiffPiece[] }>('GET', `documents/${ref(document)}/copies/${ref(other)}`),
  fileAsVersion: (document: string, of: string) => call<IntakeAnswer & { version: number }>('POST', 'intake/versions', { document, of }),
  putValues: (file: File, documents: string[]) =>
    call<IntakeAnswer & { report: ValuesReport }>('POST', 'intake/values', form({ file, documents: documents.join('\n') })),
  fileDocuments: (filing: { documents: string[]; type: string; values: Sheet; name: string; dossier: string; section: number | null }) =>
    call<IntakeAnswer & { act: number }>('POST', 'intake/file', filing),
  discard: (documents: string[]) => call<IntakeAnswer>('POST', 'intake/discard', { documents }),
  restore: (documents: string[]) => call<IntakeAnswer>('POST', 'intake/restore', { documents }),
};
