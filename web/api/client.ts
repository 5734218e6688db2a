import type { Advice, Answer, Change, CriterionInput, Design, Desk, DocumentRecord, DraftAnswer, Effect, Group, Hits, PageText, Person, Search, Version } from './types';

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

export type Sheet = Record<string, string[]>;

function token(): string {
  const found = document.cookie.split('; ').find((part) => part.startsWith('XSRF-TOKEN='));
  return found ? decodeURIComponent(found.slice('XSRF-TOKEN='.length)) : '';
}

async function call<T>(method: string, path: string, body?: unknown, signal?: AbortSignal): Promise<T> {
  const isForm = body instanceof FormData;
  let response: Response;
  try {
    response = await fetch(`/api/${path}`, {
      method,
      signal,
      headers: {
        Accept: 'application/json',
        'X-XSRF-TOKEN': token(),
        ...(body !== undefined && !isForm ? { 'Content-Type': 'application/json' } : {}),
      },
      body: body === undefined ? undefined : isForm ? body : JSON.stringify(body),
    });
  } catch (fault) {
    if (fault instanceof DOMException && fault.name === 'AbortError') throw fault;
    throw new ApiError(0, 'offline', 'Brenvic cannot be reached. What you typed is kept; try again in a moment.');
  }
  if (response.status === 204) return undefined as T;
  const data = await response.json().catch(() => null);
  if (!response.ok) {
    const error = data?.error ?? {};
    throw new ApiError(
      response.status,
      error.code ?? 'fault',
      error.message ?? 'Something went wrong. Try again.',
      error.fields ?? {},
      error.suggestion ?? null,
      error.current ?? null,
    );
  }
  return data as T;
}

/** A search as part of an address: what a page marks. */
function marks(words: string, criteria: CriterionInput[]): string {
  const params = new URLSearchParams();
  if (words !== '') params.set('words', words);
  criteria.forEach((c, i) => {
    params.set(`criteria[${i}][cql]`, c.cql);
    params.set(`criteria[${i}][negated]`, c.negated ? '1' : '0');
    params.set(`criteria[${i}][on]`, c.on ? '1' : '0');
  });
  return params.size > 0 ? `?${params}` : '';
}

const ref = encodeURIComponent;

export const api = {
  session: () => call<{ user: Person | null }>('GET', 'session'),
  signIn: (sign_in: string, password: string) => call<{ user: Person }>('POST', 'session', { sign_in, password }),
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
  compare: (number: number) => call<{ changes: Change[] }>('GET', `design/versions/${number}`),
  bringBack: (number: number) => call<DraftAnswer>('POST', `design/versions/${number}/restore`),
  designFile: '/api/design/file',
  importDesign: (file: unknown) => call<DraftAnswer>('POST', 'design/file', file),

  search: (search: Search, signal?: AbortSignal) => call<Answer>('POST', 'search', search, signal),
  groups: (search: Search & { level: string; below: string | null; total: string | null }) => call<{ groups: Group[] }>('POST', 'search/groups', search),
  advice: (criterion: string, signal?: AbortSignal) => call<Advice>('POST', 'design/advice', { criterion }, signal),
  criterion: (field: string, relation: string, values: string[]) =>
    call<{ cql: string }>('POST', 'search/criterion', { field, relation, values }),

  document: (document: string) => call<DocumentRecord>('GET', `documents/${ref(document)}`),
  saveDocument: (document: string, type: string | null, values: Sheet, lock_version: number) =>
    call<DocumentRecord>('PUT', `documents/${ref(document)}`, { type, values, lock_version }),
  hits: (document: string, words: string, criteria: CriterionInput[]) =>
    call<Hits>('GET', `documents/${ref(document)}/hits${marks(words, criteria)}`),
  page: (document: string, number: number, words: string, criteria: CriterionInput[]) =>
    call<PageText>('GET', `documents/${ref(document)}/pages/${number}${marks(words, criteria)}`),
  fileUrl: (document: string, download = false) => `/api/documents/${ref(document)}/file${download ? '?download=1' : ''}`,

  intake: () => call<{ documents: DocumentRecord[] }>('GET', 'intake'),
  upload: (file: File, library: string) => {
    const form = new FormData();
    form.set('library', library);
    form.set('file', file);
    return call<DocumentRecord>('POST', 'intake', form);
  },
  fileDocuments: (documents: string[], type: string, values: Sheet) =>
    call<{ documents: DocumentRecord[] }>('POST', 'intake/file', { documents, type, values }),
  discard: (documents: string[]) => call<{ documents: DocumentRecord[] }>('POST', 'intake/discard', { documents }),
  restore: (documents: string[]) => call<{ documents: DocumentRecord[] }>('POST', 'intake/restore', { documents }),
};
