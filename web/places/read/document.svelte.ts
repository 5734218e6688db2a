import { api, messageOf, type Sought } from '@/api/client';
import type { DocumentRecord, Edges, Hits } from '@/api/types';

const noHits = (): Hits => ({ total: 0, pages: [], title: null, path: null, values: {}, comments: {} });

/** Words of a page that are marked with a number, to be chosen by it. */
export interface NumberedPlace {
  page: number;
  number: number;
  boxes: Edges[];
}

/** A document being read, with the hits of the search that led to it and which of them is looked at. */
export class Reading {
  record = $state.raw<DocumentRecord | null>(null);
  hits = $state.raw<Hits>(noHits());
  fault = $state('');
  /** Which hit of all is looked at, from 0; −1 before the first step. */
  at = $state(-1);
  /** The page that the reader is asked to show. */
  asked = $state.raw<{ page: number; hit: number } | null>(null);

  /** Words that are marked with numbers, beside the hits. */
  numbered = $state.raw<NumberedPlace[]>([]);

  /** What the pages mark: the search that led here, or words looked for in this document alone. */
  marks = $state.raw<Sought>({ words: '', criteria: [] });

  #timer: ReturnType<typeof setTimeout> | undefined;
  #closed = false;

  constructor(
    readonly ref: string,
    private readonly sought: Sought,
    /** The page to begin with. */
    private readonly page = 0,
    /** Which version; the present one for 0. */
    readonly version = 0,
  ) {
    this.marks = sought;
  }

  async load(): Promise<void> {
    try {
      const [record, hits] = await Promise.all([
        api.document(this.ref, this.version),
        api.hits(this.ref, this.sought, this.version).catch(() => noHits()),
      ]);
      this.take(record);
      this.hits = hits;
      if (this.page > 0) this.goToPage(this.page);
      else if (hits.total > 0) this.go(0);
    } catch (error) {
      this.fault = messageOf(error, 'The document cannot be shown.');
    }
  }

  /** Looks for other words here; none means those of the search again. */
  async find(words: string): Promise<void> {
    const marks = words === '' ? this.sought : { words: /[=<>()"]/.test(words) ? words : `"${words}"`, criteria: [] };
    const hits = await api.hits(this.ref, marks, this.version).catch(() => noHits());
    this.marks = marks;
    this.hits = hits;
    this.at = -1;
    if (hits.total > 0) this.go(0);
  }

  /** Shows a record; while its text is being read, looks again until it is. */
  take(record: DocumentRecord): void {
    this.record = record;
    clearTimeout(this.#timer);
    if (record.text_state === 'pending') this.#timer = setTimeout(() => void this.reload().catch(() => {}), 1500);
  }

  /** Ends what goes on when nobody reads any more. */
  close(): void {
    clearTimeout(this.#timer);
    this.#closed = true;
  }

  /** The record anew, after something around it changed. */
  async reload(): Promise<void> {
    const record = await api.document(this.ref, this.version);
    if (!this.#closed) this.take(record);
  }

  step(by: 1 | -1): void {
    if (this.hits.total > 0) this.go((this.at + by + this.hits.total) % this.hits.total);
  }

  go(index: number): void {
    this.at = index;
    let before = 0;
    for (const { page, hits } of this.hits.pages) {
      if (index < before + hits) {
        this.asked = { page, hit: index - before };
        return;
      }
      before += hits;
    }
  }

  goToPage(page: number): void {
    this.asked = { page, hit: -1 };
    let before = 0;
    for (const found of this.hits.pages) {
      if (found.page === page) this.at = before;
      before += found.hits;
    }
  }
}
