import { untrack } from 'svelte';

/** A key, what it does, and where it is shown. */
export interface Key {
  /** As `KeyboardEvent.key` has it; several do the same. None for a key that a part handles while it has the focus. */
  on?: string | string[];
  /** Held with Ctrl (or ⌘). */
  ctrl?: boolean;
  /** Works while something is typed, too. */
  typing?: boolean;
  /** As it is listed; the key itself unless that is said. */
  shown?: string;
  /** What it does, as it is listed; keys without it are not. */
  what?: string;
  run?: (event: KeyboardEvent) => unknown;
  /** Whether it does anything now. */
  when?: () => boolean;
  /** Everywhere the same, and so listed last. */
  common?: boolean;
}

const NAMES: Record<string, string> = { Escape: 'Esc', Delete: 'Del', ' ': 'Space' };
const TYPED = 'input:not([type=checkbox], [type=radio]), textarea, select, [contenteditable]';

/** The one table of keys: what is on the screen adds its own, and what the table lists is what it handles. */
export class Keys {
  #sets = $state.raw<(() => Key[])[]>([]);

  /** Adds keys as long as a component is there. Called while it is made. */
  use(keys: () => Key[]): void {
    $effect(() => this.add(keys));
  }

  /** Adds keys; returns what takes them away. */
  add(keys: () => Key[]): () => void {
    this.#sets = [...untrack(() => this.#sets), keys];
    return () => (this.#sets = untrack(() => this.#sets).filter((set) => set !== keys));
  }

  /** What is listed now: the place's own first, and each once. */
  get listed(): { key: string; what: string }[] {
    const all = this.#sets.toReversed().flatMap((set) => set());
    return all
      .filter((key) => key.what && (key.when?.() ?? true))
      .toSorted((a, b) => Number(a.common ?? false) - Number(b.common ?? false))
      .map((key) => ({ key: nameOf(key), what: key.what! }))
      .filter((key, i, list) => list.findIndex((other) => other.key === key.key && other.what === key.what) === i);
  }

  /** Does what the newest set that has the key says. */
  handle(event: KeyboardEvent): void {
    if (event.defaultPrevented || event.altKey) return;
    const ctrl = event.ctrlKey || event.metaKey;
    const target = event.target as Element | null;
    // In a dialog only its own keys hold.
    if (target?.closest('[role=dialog]')) return;
    const isTyping = Boolean(target?.closest(TYPED));
    for (const set of this.#sets.toReversed()) {
      const key = set().find(
        (k) => k.run && [k.on].flat().includes(event.key) && (k.ctrl ?? false) === ctrl && (!isTyping || k.typing) && (k.when?.() ?? true),
      );
      if (!key) continue;
      event.preventDefault();
      key.run!(event);
      return;
    }
  }
}

function nameOf(key: Key): string {
  if (key.shown) return key.shown;
  const name = [key.on].flat().map((on) => NAMES[on ?? ''] ?? on);
  return `${key.ctrl ? 'Ctrl+' : ''}${name.join('  ')}`;
}

/** Goes to the first part of a place that fits a selector, and presses it if that is wanted. */
export function lead(place: HTMLElement | undefined, selector: string, press = false): void {
  const part = place?.querySelector<HTMLElement>(selector);
  part?.focus();
  if (press) part?.click();
}

export const keys = new Keys();
