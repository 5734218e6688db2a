import { api } from '@/api/client';
import type { RemoteAnswer, RemoteRow, Search } from '@/api/types';
import { count } from '@/parts/format';

const PAGE = 50;
/** A question that is changed at once is not asked outside, in milliseconds. */
const PAUSE = 350;
/** Where others are being answered, it is asked again after so long. */
const BUSY = 1200;

/** What remote repositories say to the present search. Each answers in its own time, and nothing waits for it. */
class Remotes {
  /** By repository; null while it is asked. */
  answers = $state.raw<Record<string, RemoteAnswer | null>>({});
  #question = '';
  #current: AbortController | null = null;
  #timer: ReturnType<typeof setTimeout> | undefined;
  #fetching = false;

  ask(codes: string[], question: string, search: Search): void {
    if (question === this.#question) return;
    this.#question = question;
    this.#current?.abort();
    clearTimeout(this.#timer);
    this.#current = new AbortController();
    this.answers = Object.fromEntries(codes.map((code) => [code, null]));
    this.#timer = setTimeout(() => codes.forEach((code) => void this.#fetch(code, search, 0)), PAUSE);
  }

  /** The next rows of what was found. */
  async more(code: string, search: Search): Promise<void> {
    const had = this.answers[code];
    if (!had || had.total === null || had.rows.length >= had.total || this.#fetching) return;
    this.#fetching = true;
    await this.#fetch(code, search, had.rows.length);
    this.#fetching = false;
  }

  async again(code: string, search: Search): Promise<void> {
    this.answers = { ...this.answers, [code]: null };
    await this.#fetch(code, { ...search, again: true }, 0);
  }

  row(code: string, position: number): RemoteRow | null {
    return this.answers[code]?.rows.find((r) => r.position === position) ?? null;
  }

  count(code: string): string {
    const total = this.answers[code]?.total;
    return total === null || total === undefined ? '' : count(total);
  }

  async #fetch(code: string, search: Search & { again?: boolean }, offset: number, tries = 5): Promise<void> {
    const question = this.#question;
    let got: RemoteAnswer;
    try {
      got = await api.searchRemote(code, { ...search, facets: [], offset, limit: PAGE }, this.#current?.signal);
    } catch (error) {
      if (error instanceof DOMException) return;
      const says = error instanceof Error ? error.message : 'It cannot be asked now.';
      got = { repository: code, name: '', state: 'unreachable', says, total: null, cql: '', left_out: [], offset, rows: [] };
    }
    if (question !== this.#question) return;
    if (got.state === 'busy' && tries > 0) {
      await new Promise((done) => setTimeout(done, BUSY));
      if (question === this.#question) await this.#fetch(code, search, offset, tries - 1);
      return;
    }
    const had = this.answers[code];
    // What could not be fetched on top leaves what is there.
    if (offset > 0 && had)
      this.answers = {
        ...this.answers,
        [code]: got.total === null ? { ...had, says: got.says } : { ...got, offset: 0, rows: [...had.rows, ...got.rows] },
      };
    else this.answers = { ...this.answers, [code]: got };
  }
}

export const remotes = new Remotes();
