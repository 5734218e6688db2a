import type { TermSource } from '@/state/choices.svelte';
import { searched, type Choice } from './terms';

/** Rows that are drawn at most. */
const SHOWN = 200;
const PAUSE = 120;

/** What a list of choices shows: of a list at hand what fits the typed words, of a large tree what has been opened of it. */
export class Browsing {
  busy = $state(false);
  private levels = $state.raw<Record<string, Choice[]>>({});
  private opened = $state.raw<Record<string, boolean>>({});
  private hits = $state.raw<Choice[]>([]);
  private key = '';
  private timer: ReturnType<typeof setTimeout> | undefined;
  private current: AbortController | null = null;

  constructor(
    private readonly items: () => Choice[],
    private readonly source: () => TermSource | undefined,
  ) {}

  rows(typed: string): Choice[] {
    if (this.source()) return typed.trim() !== '' ? this.hits : this.open('', [], '').slice(0, SHOWN);
    return searched(this.items(), typed).slice(0, SHOWN);
  }

  /** Fetches the first level when the list opens. */
  start(): void {
    const source = this.source();
    if (!source) return;
    if (this.key !== source.key) {
      this.key = source.key;
      this.levels = {};
      this.opened = {};
    }
    if (!this.levels['']) void this.fetch('');
  }

  type(typed: string): void {
    const source = this.source();
    if (!source) return;
    clearTimeout(this.timer);
    this.current?.abort();
    if (typed.trim() === '') return;
    this.busy = true;
    this.timer = setTimeout(async () => {
      const mine = (this.current = new AbortController());
      try {
        this.hits = await source.matching(typed, mine.signal);
      } catch {
        if (mine === this.current) this.hits = [];
      } finally {
        if (mine === this.current) this.busy = false;
      }
    }, PAUSE);
  }

  isOpen(item: Choice): boolean {
    return this.opened[item.key ?? item.value] ?? false;
  }

  toggle(item: Choice, open = !this.isOpen(item)): void {
    this.opened = { ...this.opened, [item.key ?? item.value]: open };
    if (open && !this.levels[item.value]) void this.fetch(item.value);
  }

  private async fetch(code: string): Promise<void> {
    this.busy = true;
    try {
      const level = (await this.source()?.below(code)) ?? [];
      this.levels = { ...this.levels, [code]: level };
    } catch {
      // It stays closed; opening it again asks again.
      this.opened = Object.fromEntries(Object.entries(this.opened).filter(([key]) => key.split('/').at(-1) !== code));
    } finally {
      this.busy = false;
    }
  }

  private open(code: string, path: string[], key: string): Choice[] {
    return (this.levels[code] ?? []).flatMap((item) => {
      const place = key === '' ? item.value : `${key}/${item.value}`;
      const row = { ...item, depth: path.length, key: place };
      return path.includes(item.value) || !this.opened[place] ? [row] : [row, ...this.open(item.value, [...path, item.value], place)];
    });
  }
}
