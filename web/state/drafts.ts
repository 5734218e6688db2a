import { app } from './app.svelte';

type Store = Pick<Storage, 'getItem' | 'setItem' | 'removeItem' | 'length' | 'key'>;

/** What is typed and not saved yet, kept in this browser: each person's own, so that the next one here sees none of it. */
export class Drafts {
  #store: Store;
  #who: () => string;

  constructor(who: () => string, store: Store) {
    this.#who = who;
    this.#store = store;
  }

  getItem(name: string): string | null {
    return this.#store.getItem(this.#key(name));
  }

  setItem(name: string, text: string): void {
    this.#store.setItem(this.#key(name), text);
  }

  removeItem(name: string): void {
    this.#store.removeItem(this.#key(name));
  }

  /** The names that begin so. */
  names(beginning: string): string[] {
    const from = this.#key(beginning);
    const found: string[] = [];
    for (let i = 0; i < this.#store.length; i++) {
      const key = this.#store.key(i)!;
      if (key.startsWith(from)) found.push(key.slice(this.#key('').length));
    }
    return found.sort();
  }

  #key(name: string): string {
    return `draft:${this.#who()}:${name}`;
  }
}

export const drafts = new Drafts(() => app.person?.sign_in ?? '', localStorage);

/** Keeps what is typed into a box until it is saved: through leaving, Esc and reload. */
export function keptWhile(name: string, saved: string, save: (text: string) => Promise<boolean>) {
  return (box: HTMLTextAreaElement | HTMLInputElement) => {
    const keep = () => drafts.setItem(name, box.value);
    const put = async () => {
      const text = box.value;
      if (text === saved) drafts.removeItem(name);
      else if (await save(text)) drafts.removeItem(name);
    };
    const before = drafts.getItem(name);
    if (before !== null) {
      box.value = before;
      void put();
    }
    box.addEventListener('input', keep);
    box.addEventListener('change', put);
    return () => {
      box.removeEventListener('input', keep);
      box.removeEventListener('change', put);
      if (drafts.getItem(name) !== null) void put();
    };
  };
}
