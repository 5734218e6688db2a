import { api, messageOf } from '@/api/client';
import type { LastAct } from '@/api/types';

/** An act of this window that can be undone here: a pin, a line taken from a list, a search that was removed. */
export interface OwnAct {
  key: number;
  text: string;
  at: string;
  undo: () => unknown;
  undone: boolean;
}

/** What was done lately, as long as it can be undone: acts that the server keeps, and those of this window. */
class LastActs {
  open = $state(false);
  kept = $state.raw<LastAct[] | null>(null);
  own = $state<OwnAct[]>([]);
  fault = $state('');
  busy = $state(false);
  /** How often something was undone here: lists that show it read themselves again. */
  undone = $state(0);
  #next = 0;

  /** Takes up an act of this window. Returns what undoes it, once. */
  add(text: string, undo: () => unknown): () => void {
    const key = ++this.#next;
    this.own = [{ key, text, at: new Date().toISOString(), undo, undone: false }, ...this.own].slice(0, 20);
    return () => void this.undoOwn(key);
  }

  async show(): Promise<void> {
    // Loaded first, so that the newest Undo has the focus.
    await this.#run(() => this.load(), 'The last acts could not be loaded.');
    this.open = true;
  }

  async load(): Promise<void> {
    this.kept = (await api.lastActs()).acts;
  }

  async undoOwn(key: number): Promise<void> {
    const act = this.own.find((a) => a.key === key);
    if (!act || act.undone) return;
    act.undone = true;
    await this.#run(async () => void (await act.undo()), 'It could not be undone.');
    if (this.fault) act.undone = false;
  }

  async undo(act: LastAct): Promise<void> {
    await this.#run(async () => {
      await (act.of === 'documents' ? api.undoDocumentAct(act.id) : api.undoValues(act.id));
      await this.load();
      this.undone++;
    }, 'It could not be undone.');
  }

  async goOn(act: LastAct): Promise<void> {
    await this.#run(async () => {
      await api.goOnValues(act.id);
      await this.load();
    }, 'It could not be tried again.');
  }

  async #run(what: () => Promise<void>, otherwise: string): Promise<void> {
    this.busy = true;
    this.fault = '';
    try {
      await what();
    } catch (error) {
      this.fault = messageOf(error, otherwise);
    } finally {
      this.busy = false;
    }
  }
}

export const lastActs = new LastActs();
