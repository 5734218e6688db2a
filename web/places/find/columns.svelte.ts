import type { SortKey } from '@/api/types';

/** What the columns are told of from outside. */
interface About {
  /** Those of the view, or the person's own. */
  wanted: () => string[];
  /** Whether a column is told once for all rows, and has no place among them. */
  isFolded: (code: string) => boolean;
  /** How wide a column is by itself; null where it takes its part of the room. */
  width: (code: string) => number | null;
  /** How much room the list has. */
  room: () => number;
  /** Whether the values are short, as numbers and dates are. */
  isShort: (code: string) => boolean;
  /** Keeps columns as the person put them. */
  keep: (columns: { code: string; width: number | null }[]) => unknown;
}

const TITLE = 230;
const USUAL = 108;
const [LEAST, MOST, STEP] = [40, 800, 16];

/** The columns of a list of results: which have room, how wide they are, and how a person arranges them. */
export class Columns {
  /** Widths while they are being drawn. */
  #drawn = $state.raw<Record<string, number>>({});
  /** The column that is being dragged. */
  dragged = $state('');

  constructor(private readonly about: About) {}

  /** How many are passed over before the first that is shown. */
  #passed = $state(0);
  readonly #open = $derived.by(() => this.about.wanted().filter((code) => !this.about.isFolded(code)));
  /** How many stand before those shown: there is no need to pass any where all have room. */
  readonly before = $derived.by(() =>
    this.#fitting(this.#open).length === this.#open.length ? 0 : Math.min(this.#passed, this.#open.length - 1),
  );

  /** As many as there is room for, one at least. */
  readonly shown = $derived.by(() => this.#fitting(this.#open.slice(Math.max(0, this.before))));
  readonly behind = $derived.by(() => this.#open.length - Math.max(0, this.before) - this.shown.length);

  #fitting(codes: string[]): string[] {
    let left = this.about.room() - TITLE;
    const fit = codes.findIndex((code, i) => (left -= this.widthOf(code) ?? USUAL) < 0 && i > 0);
    return fit < 0 ? codes : codes.slice(0, fit);
  }

  /** Moves sideways to the columns that had no room. */
  turn(by: 1 | -1): void {
    this.#passed = by > 0 ? this.before + this.shown.length : Math.max(0, this.before - this.shown.length);
  }

  /** The tracks of the grid, the title first. */
  readonly template = $derived(['minmax(180px, 2.6fr)', ...this.shown.map((code) => this.#track(code))].join(' '));

  #track(code: string): string {
    const width = this.widthOf(code);
    if (width) return `${width}px`;
    return this.about.isShort(code) ? 'minmax(76px, 0.7fr)' : 'minmax(84px, 1fr)';
  }

  widthOf(code: string): number | null {
    return this.#drawn[code] ?? this.about.width(code);
  }

  draw(code: string, width: number): void {
    this.#drawn = { ...this.#drawn, [code]: Math.max(LEAST, Math.min(MOST, Math.round(width))) };
  }

  /** Forgets what was drawn, so that the widths from outside hold again. */
  forget(): void {
    this.#drawn = {};
  }

  widen(code: string, steps: 1 | -1): void {
    this.draw(code, (this.widthOf(code) ?? USUAL) + steps * STEP);
    this.keep();
  }

  keep(codes = this.about.wanted()): void {
    void this.about.keep(codes.map((code) => ({ code, width: this.widthOf(code) })));
  }

  /** Puts the dragged column where another is: behind it when it comes from before. */
  dropOn(code: string): void {
    const wanted = this.about.wanted();
    if (this.dragged && this.dragged !== code && wanted.includes(this.dragged)) {
      const rest = wanted.filter((c) => c !== this.dragged);
      rest.splice(rest.indexOf(code) + (wanted.indexOf(this.dragged) < wanted.indexOf(code) ? 1 : 0), 0, this.dragged);
      this.keep(rest);
    }
    this.dragged = '';
  }

  /** Moves a column by one place; nothing happens at the ends. */
  move(code: string, by: 1 | -1): void {
    const wanted = [...this.about.wanted()];
    const from = wanted.indexOf(code);
    const to = from + by;
    if (from < 0 || to < 0 || to >= wanted.length) return;
    [wanted[from], wanted[to]] = [wanted[to]!, wanted[from]!];
    this.keep(wanted);
  }
}

/** Sorts by one column alone, or by one more behind those that sort already: up, then down, then not. */
export function sortedBy(sort: SortKey[], code: string, more: boolean): SortKey[] {
  const now = sort.find((s) => s.field === code);
  const next: SortKey[] = !now ? [{ field: code, descending: false }] : now.descending ? [] : [{ field: code, descending: true }];
  if (!more) return next;
  return now ? sort.flatMap((s) => (s.field === code ? next : [s])) : [...sort, ...next];
}
