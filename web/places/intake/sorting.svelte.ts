import { api, messageOf } from '@/api/client';
import type { SortableDocument } from '@/api/types';
import { app } from '@/state/app.svelte';
import { drafts } from '@/state/drafts';
import * as sorting from './sorting';

/** Documents that wait, as stacks of pages that are put in order. Nothing is done to them until it is kept. */
export class Sorting {
  documents = $state.raw<SortableDocument[]>([]);
  stacks = $state.raw<sorting.Stack[]>([]);
  chosen = $state.raw<string[]>([]);
  /** The page that the keys are for. */
  at = $state('');
  fault = $state('');
  busy = $state(false);
  #before = $state.raw<sorting.Stack[][]>([]);
  #start = '';
  #timer: ReturnType<typeof setTimeout> | undefined;

  readonly signs = $derived(sorting.signsOf(this.documents));
  readonly pages = $derived(this.stacks.flatMap((s) => s.tiles));
  readonly separators = $derived(this.#count((t) => this.signs[t.key]?.separator && !t.left_out));
  readonly blanks = $derived(this.#count((t) => this.signs[t.key]?.blank && !t.left_out));
  readonly askew = $derived(this.#count((t) => this.signs[t.key]?.skew && !t.straightened && !t.left_out));
  readonly lying = $derived(this.#count((t) => this.#wrong(t) && !t.left_out));
  /** Pages that have not been looked at yet. */
  readonly unseen = $derived(this.documents.reduce((sum, d) => sum + (d.fault === '' ? Math.max(0, d.page_count - d.signs.length) : 0), 0));
  readonly canUndo = $derived(this.#before.length > 0);

  constructor(readonly refs: string[]) {}

  #count(is: (tile: sorting.Tile) => unknown): number {
    return this.pages.filter(is).length;
  }

  /** Whether a page is not turned as it should be. */
  #wrong(tile: sorting.Tile): boolean {
    const turn = this.signs[tile.key]?.turn ?? 0;
    return turn !== 0 && tile.turn !== turn;
  }

  async load(): Promise<void> {
    try {
      const { documents } = await api.sortable(this.refs);
      this.documents = documents;
      if (this.stacks.length === 0) {
        this.stacks = sorting.stacksOf(documents.filter((d) => d.page_count > 0));
        this.#start = JSON.stringify(this.stacks);
        this.#goOn();
        this.at = this.pages[0]?.key ?? '';
      }
      const isRead = documents.every((d) => d.page_count > 0);
      this.fault =
        isRead || documents.some((d) => d.text_state === 'pending') ? '' : 'One of these documents has no pages that can be shown.';
      if (this.unseen > 0 || !isRead) this.#timer = setTimeout(() => void this.load(), 700);
    } catch (error) {
      this.fault = messageOf(error, 'The pages cannot be shown.');
    }
  }

  close(): void {
    clearTimeout(this.#timer);
  }

  get #draft(): string {
    return `sort ${this.documents.map((d) => d.ref).join(' ')}`;
  }

  #goOn(): void {
    const kept = drafts.getItem(this.#draft);
    if (kept) this.stacks = JSON.parse(kept) as sorting.Stack[];
  }

  #note(): void {
    if (this.changed) drafts.setItem(this.#draft, JSON.stringify(this.stacks));
    else drafts.removeItem(this.#draft);
  }

  get changed(): boolean {
    return JSON.stringify(this.stacks) !== this.#start;
  }

  /** What an act is done to: the chosen pages, or the one that the cursor is on. */
  get meant(): string[] {
    return this.chosen.length > 0 ? this.chosen : this.at === '' ? [] : [this.at];
  }

  do(change: (stacks: sorting.Stack[]) => sorting.Stack[]): void {
    const after = change(this.stacks);
    if (JSON.stringify(after) === JSON.stringify(this.stacks)) return;
    this.#before = [...this.#before, this.stacks];
    this.stacks = after;
    this.#note();
  }

  undo(): void {
    const last = this.#before.at(-1);
    if (!last) return;
    this.#before = this.#before.slice(0, -1);
    this.stacks = last;
    this.#note();
  }

  choose(key: string): void {
    this.chosen = this.chosen.includes(key) ? this.chosen.filter((k) => k !== key) : [...this.chosen, key];
  }

  /** Whether a page begins its document. */
  begins(key: string): boolean {
    return sorting.placeOf(this.stacks, key).tile === 0;
  }

  split(): void {
    this.do((s) => sorting.splitAt(s, (tile) => tile.key === this.at));
  }

  join(): void {
    this.do((s) => sorting.joinWithPrevious(s, sorting.placeOf(s, this.at).stack));
  }

  turn(): void {
    this.do((s) => sorting.change(s, this.meant, (t) => ({ ...t, turn: (t.turn + 90) % 360 })));
  }

  leaveOut(): void {
    const isOut = this.pages.filter((t) => this.meant.includes(t.key)).every((t) => t.left_out);
    this.do((s) => sorting.change(s, this.meant, (t) => ({ ...t, left_out: !isOut })));
  }

  straighten(): void {
    const keys = this.meant.filter((key) => this.signs[key]?.skew);
    const isDone = this.pages.filter((t) => keys.includes(t.key)).every((t) => t.straightened);
    this.do((s) => sorting.change(s, keys, (t) => ({ ...t, straightened: !isDone })));
  }

  move(by: 1 | -1): void {
    this.do((s) => sorting.moveBy(s, this.at, by));
  }

  dropBefore(dragged: string, to: sorting.Place): void {
    this.do((s) => sorting.moveTo(s, this.chosen.includes(dragged) ? this.chosen : [dragged], to));
    this.at = dragged;
  }

  atSeparators(): void {
    this.do((s) => sorting.atSeparators(s, this.signs));
  }

  atBlanks(): void {
    this.do((s) => sorting.atBlanks(s, this.signs));
  }

  every(count: number): void {
    this.do((s) => sorting.everyPages(s, count));
  }

  leaveOutBlanks(): void {
    this.do((s) => sorting.leaveOutBlanks(s, this.signs));
  }

  straightenAll(): void {
    this.do((s) =>
      sorting.change(
        s,
        this.pages.filter((t) => this.signs[t.key]?.skew && !t.left_out).map((t) => t.key),
        (t) => ({ ...t, straightened: true }),
      ),
    );
  }

  turnUpright(): void {
    this.do((s) =>
      sorting.change(
        s,
        this.pages.filter((t) => this.#wrong(t)).map((t) => t.key),
        (t) => ({ ...t, turn: this.signs[t.key]!.turn }),
      ),
    );
  }

  /** Makes the documents; says how many, and gives what takes it back. Null when that failed. */
  async keep(): Promise<{ count: number; undo: (() => Promise<void>) | null } | null> {
    this.busy = true;
    try {
      const count = this.stacks.length;
      const { work } = await api.sortPages({
        sources: this.documents.map((d) => d.ref),
        documents: this.stacks.map((stack) => ({
          pages: stack.tiles.map(({ source, page, turn, straightened, left_out }) => ({ source, page, turn, straightened, left_out })),
          ...stack.known,
        })),
      });
      drafts.removeItem(this.#draft);
      return { count, undo: work === null ? null : () => api.undoSorting(work) };
    } catch (error) {
      app.fail(error, 'The pages could not be put in order. Nothing was changed.');
      return null;
    } finally {
      this.busy = false;
    }
  }
}
