import type { Row } from '@/api/types';
import { Lines } from './lines.svelte';

/** What the list is told of from outside. */
interface About {
  total: () => number;
  /** Those that have come, by their place in the result. */
  rows: () => Record<number, Row>;
  /** Of a line, in pixels. */
  height: () => number;
}

/** So many lines are kept in the document above and below those in sight. */
const BEYOND = 5;

/** A list of results: which of its lines are in sight, which is at hand, and which rows are selected. */
export class ResultList {
  readonly lines = new Lines();
  /** The line at hand. */
  at = $state(0);
  /** References of the rows that are selected. */
  selected = $state.raw<string[]>([]);
  /** How far it is scrolled, and how much is in sight, in pixels. */
  top = $state(0);
  seen = $state(600);

  constructor(private readonly about: About) {}

  readonly length = $derived.by(() => this.about.total() + this.lines.more);
  readonly from = $derived.by(() => Math.max(0, Math.floor(this.top / this.about.height()) - BEYOND));
  readonly to = $derived.by(() => Math.min(this.length - 1, Math.ceil((this.top + this.seen) / this.about.height()) + BEYOND));
  /** Only the lines in sight are in the document, however many there are. */
  readonly inSight = $derived.by(() => Array.from({ length: Math.max(0, this.to - this.from + 1) }, (_, i) => this.from + i));

  rowAt(line: number): Row | undefined {
    const { index, attached } = this.lines.at(line);
    return attached ?? this.about.rows()[index];
  }

  /** Where a key leads from the line at hand; undefined for keys that do not move. */
  target(key: string): number | undefined {
    const page = Math.max(1, Math.floor(this.seen / this.about.height()) - 1);
    const to = {
      ArrowDown: this.at + 1,
      ArrowUp: this.at - 1,
      PageDown: this.at + page,
      PageUp: this.at - page,
      Home: 0,
      End: this.length - 1,
    }[key];
    return to === undefined || this.length === 0 ? undefined : Math.min(this.length - 1, Math.max(0, to));
  }

  /** How far the list must be scrolled so that a line is in sight below a head of some height. */
  scrollFor(line: number, head: number): number {
    const height = this.about.height();
    if (line * height < this.top) return line * height;
    return Math.max(this.top, head + (line + 1) * height - this.seen);
  }

  isSelected(row: Row | undefined): boolean {
    return row !== undefined && this.selected.includes(row.ref);
  }

  select(ref: string): void {
    this.selected = this.selected.includes(ref) ? this.selected.filter((r) => r !== ref) : [...this.selected, ref];
  }

  /** Selects the rows from the line at hand to another, those that have come. */
  selectTo(line: number): void {
    const [a, b] = [Math.min(this.at, line), Math.max(this.at, line)];
    const between = Array.from({ length: b - a + 1 }, (_, i) => this.rowAt(a + i)?.ref).filter((ref) => ref !== undefined);
    this.selected = [...this.selected, ...between.filter((ref) => !this.selected.includes(ref))];
    this.at = line;
  }

  clear(): void {
    this.selected = [];
  }
}

/** Where a list stood, by what it answered. */
interface Place {
  question: string;
  top: number;
  at: number;
}

const KEY = 'brenvic.places';
const KEPT = 20;

const placesKept = (): Place[] => {
  try {
    const kept: unknown = JSON.parse(sessionStorage.getItem(KEY) ?? '[]');
    return Array.isArray(kept) ? (kept as Place[]) : [];
  } catch {
    return [];
  }
};

/** Keeps where a list stands, so that whoever comes back, or loads the page again, finds it so. */
export function keepPlace(place: Place): void {
  const others = placesKept().filter((p) => p.question !== place.question);
  sessionStorage.setItem(KEY, JSON.stringify([place, ...others].slice(0, KEPT)));
}

export function placeKept(question: string): Place | undefined {
  return placesKept().find((p) => p.question === question);
}
