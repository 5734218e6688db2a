import type { Row } from '@/api/types';

/** The lines of a list of results: its rows, and below those that are opened what is attached to them. */
export class Lines {
  /** In the order of the list. */
  #opened = $state.raw<{ index: number; rows: Row[] }[]>([]);

  readonly more = $derived(this.#opened.reduce((sum, o) => sum + o.rows.length, 0));

  /** Which row a line shows, and what of those attached to it. */
  at(line: number): { index: number; attached: Row | null } {
    let before = 0;
    for (const { index, rows } of this.#opened) {
      const place = line - before - index - 1;
      if (place < 0) break;
      if (place < rows.length) return { index, attached: rows[place]! };
      before += rows.length;
    }
    return { index: line - before, attached: null };
  }

  /** The line of a row. */
  of(row: number): number {
    return this.#opened.reduce((line, o) => line + (o.index < row ? o.rows.length : 0), row);
  }

  isOpen(row: number): boolean {
    return this.#opened.some((o) => o.index === row);
  }

  open(row: number, rows: Row[]) {
    this.#opened = [...this.#opened.filter((o) => o.index !== row), { index: row, rows }].sort((a, b) => a.index - b.index);
  }

  close(row: number) {
    this.#opened = this.#opened.filter((o) => o.index !== row);
  }

  clear() {
    if (this.#opened.length > 0) this.#opened = [];
  }
}
