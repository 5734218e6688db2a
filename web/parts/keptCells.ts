import type { SheetRow } from '@/api/types';
import { drafts } from '@/state/drafts';

type Typed = Record<string, Record<string, string>>;

const KEY = 'table';

/** What is typed into a table of sheets and not saved yet, kept through a reload for the documents that nobody changed since. */
export class KeptCells {
  #store: Pick<Storage, 'getItem' | 'setItem' | 'removeItem'>;

  constructor(store: Pick<Storage, 'getItem' | 'setItem' | 'removeItem'> = drafts) {
    this.#store = store;
  }

  write(typed: Typed, rows: Pick<SheetRow, 'ref' | 'lock_version'>[]): void {
    const all = this.#all();
    for (const { ref, lock_version } of rows) {
      const cells = typed[ref];
      if (cells && Object.keys(cells).length > 0) all[ref] = { lock_version, cells };
      else delete all[ref];
    }
    if (Object.keys(all).length === 0) this.#store.removeItem(KEY);
    else this.#store.setItem(KEY, JSON.stringify(all));
  }

  read(rows: Pick<SheetRow, 'ref' | 'lock_version'>[]): Typed {
    const all = this.#all();
    const typed: Typed = {};
    for (const { ref, lock_version } of rows) if (all[ref]?.lock_version === lock_version) typed[ref] = all[ref].cells;
    return typed;
  }

  #all(): Record<string, { lock_version: number; cells: Record<string, string> }> {
    try {
      return JSON.parse(this.#store.getItem(KEY) ?? '{}') ?? {};
    } catch {
      return {};
    }
  }
}
