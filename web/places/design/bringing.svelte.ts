import { api } from '@/api/client';
import type { Bringing } from '@/api/types';
import { app } from '@/state/app.svelte';
import { Trying } from '@/state/trying.svelte';

export type Outcome = Bringing['counts'][number]['outcome'];

/** Files, and bytes, that are sent together; a larger file goes alone. */
const TOGETHER = 20;
const BYTES = 16 * 1024 * 1024;

/** Batches under way at once: while one is stored, the next is on its way. */
const AT_ONCE = 2;

/** The path of a file within the folder that was chosen. */
export function pathIn(file: File): string {
  const path = file.webkitRelativePath || file.name;
  return path.includes('/') ? path.slice(path.indexOf('/') + 1) : path;
}

/** Divides files into what is sent together. */
export function batches(files: { source: string; file: File }[]): { source: string; file: File }[][] {
  const made: { source: string; file: File }[][] = [];
  let bytes = 0;
  for (const one of files) {
    const last = made.at(-1);
    if (last && last.length < TOGETHER && bytes + one.file.size <= BYTES) {
      last.push(one);
      bytes += one.file.size;
    } else {
      made.push([one]);
      bytes = one.file.size;
    }
  }
  return made;
}

/** The files that somebody brings in by what they accepted: looked at, sent in any number of sittings, and undone as one. */
export class BringingIn {
  now = $state.raw<Bringing | null>(null);
  known = $state(false);
  library = $state('');
  /** Whether files that no row names come in too. */
  rest = $state(false);
  /** Whether files are being sent. */
  sending = $state(false);
  /** Files that were wanted and are not in the folder that was chosen. */
  lacking = $state(0);
  readonly trying = new Trying();
  /** By path: what a browser gave, and forgets when the page is left. */
  #files = $state.raw<Record<string, File>>({});
  #timer: ReturnType<typeof setTimeout> | undefined;
  #stop: AbortController | null = null;

  async load(): Promise<void> {
    await this.trying.run(
      async () => this.take((await api.bringing()).bringing),
      'What was brought in could not be shown. Open this again.',
    );
    this.known = true;
  }

  /** Nothing is asked or sent any more; what is in stays in. */
  leave(): void {
    clearTimeout(this.#timer);
    this.#stop?.abort();
  }

  count(...outcomes: Outcome[]): number {
    return (this.now?.counts ?? []).filter((c) => outcomes.includes(c.outcome)).reduce((sum, c) => sum + c.count, 0);
  }

  /** How many files are to come, without those that are in. */
  get toCome(): number {
    return this.count('new', ...(this.withRest ? (['rest'] as const) : []));
  }

  get withRest(): boolean {
    return this.now?.state === 'ready' ? this.rest : (this.now?.with_rest ?? false);
  }

  /** Whether the files are at hand. */
  get isAtHand(): boolean {
    return Object.keys(this.#files).length > 0;
  }

  /** Takes the folder that was chosen: looks at it, or goes on with what was begun. */
  async choose(files: File[]): Promise<void> {
    this.#files = Object.fromEntries(files.map((file) => [pathIn(file), file]));
    if (this.now?.state === 'open') return this.send();
    return this.look(Object.keys(this.#files));
  }

  /** Looks at what the rows say of files that are in already. */
  async lookAtRows(): Promise<void> {
    this.#files = {};
    return this.look([]);
  }

  private look(paths: string[]): Promise<void> {
    this.lacking = 0;
    return this.trying.run(
      async () => this.take((await api.lookAtBringing(this.library, paths)).bringing),
      'The files were not looked at. Try again.',
    );
  }

  async begin(): Promise<void> {
    await this.trying.run(async () => this.take((await api.openBringing(this.rest)).bringing), 'Nothing was brought in. Try again.');
    if (this.trying.fault === '') await this.send();
  }

  pause(): void {
    this.#stop?.abort();
  }

  /** Sends what is wanted until nothing is, or it is paused. */
  async send(): Promise<void> {
    const stop = new AbortController();
    this.#stop = stop;
    this.sending = true;
    this.lacking = 0;
    await this.trying.run(async () => {
      for (let after = ''; !stop.signal.aborted;) {
        const { sources } = await api.wantedFiles(after);
        if (sources.length === 0) break;
        after = sources.at(-1)!;
        const there = sources.flatMap((source) => {
          const file = this.#files[source];
          return file ? [{ source, file }] : [];
        });
        this.lacking += sources.length - there.length;
        await this.sendAll(batches(there), stop.signal);
      }
      this.take((await api.finishBringing()).bringing);
    }, 'The connection was lost. What is in stays in; go on when it is back.');
    this.sending = false;
    const { now } = this;
    if (now?.state === 'done') app.say(`${this.count('in')} files are in.`);
  }

  private async sendAll(waiting: { source: string; file: File }[][], signal: AbortSignal): Promise<void> {
    const queue = [...waiting];
    const worker = async () => {
      for (let batch = queue.shift(); batch && !signal.aborted; batch = queue.shift()) {
        const { bringing } = await api.bringFiles(batch);
        this.take(bringing);
      }
    };
    await Promise.all(Array.from({ length: AT_ONCE }, worker));
  }

  undo(): Promise<void> {
    return this.trying.run(async () => {
      const { undone, left } = await api.undoBringing();
      this.take(null);
      app.say(left === 0 ? `Undone for ${undone}.` : `Undone for ${undone}. ${left} were changed in the meantime and stay.`);
    }, 'It was not undone. Try again.');
  }

  /** Puts it away; what is in stays in. */
  drop(): Promise<void> {
    return this.trying.run(async () => {
      await api.dropBringing();
      this.#files = {};
      this.take(null);
    }, 'It was not put away. Try again.');
  }

  private take(now: Bringing | null): void {
    clearTimeout(this.#timer);
    this.now = now;
    if (now) this.library = now.library;
    // Rows that a later table changed are worked on in the background.
    const isWaiting = now?.state === 'looking' || (now?.state === 'open' && !this.sending && this.count('changed') > 0);
    if (isWaiting) this.#timer = setTimeout(() => void this.load(), 700);
  }
}
