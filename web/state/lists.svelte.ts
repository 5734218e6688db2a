import { api } from '@/api/client';
import type { KeptSearch, PullListRow } from '@/api/types';
import { plural } from '@/parts/format';
import { app } from './app.svelte';
import { Whole } from './whole';

/** The pull lists of a person, and the one that is gathered into at present. */
class Lists {
  all = $state.raw<PullListRow[]>([]);
  known = $state(false);
  #making: Promise<PullListRow> | null = null;
  #chosen = $state(Number(localStorage.getItem('pull-list') ?? 0));

  #whole = new Whole<PullListRow[]>(
    async () => (await api.lists()).lists,
    (all) => {
      this.all = all;
      this.known = true;
    },
  );

  load(): Promise<void> {
    return this.#whole.read();
  }

  get open(): PullListRow[] {
    return this.all.filter((l) => l.may_change);
  }

  get current(): PullListRow | undefined {
    return this.open.find((l) => l.id === this.#chosen) ?? this.open[0];
  }

  choose(id: number): void {
    this.#chosen = id;
    localStorage.setItem('pull-list', String(id));
  }

  /** Makes a list and gathers into it from now on; what is added before it is there waits for it. */
  make(name: string): Promise<PullListRow> {
    return (this.#making = this.#make(name));
  }

  async #make(name: string): Promise<PullListRow> {
    if (!this.known) await this.load();
    const made = await this.#whole.change(
      () => api.makeList(name),
      (row) => void (this.all = [row, ...this.all.filter((l) => l.id !== row.id)]),
    );
    this.choose(made.id);
    return made;
  }

  /** Adds to the present list; the first time makes one. */
  async gather(what: { documents?: string[]; search?: KeptSearch; keep?: boolean }): Promise<void> {
    try {
      await this.#making?.catch(() => undefined);
      if (!this.known) await this.load();
      const list = this.current ?? (await this.make('New pull list'));
      const { added, new: fresh } = await this.#whole.change(
        () => api.addToList(list.id, what),
        ({ list: row }) => void (this.all = this.all.map((l) => (l.id === row.id ? row : l))),
      );
      // What was in the list before stays there.
      const undo = fresh.length > 0 ? () => api.takeOutOfList(list.id, fresh).then(() => this.load()) : undefined;
      app.say(
        added === 0
          ? `Already in “${list.name}”.`
          : `${plural(added, 'document', 'documents')} added to “${list.name}”${what.keep ? ', and what matches from now on' : ''}.`,
        { undo },
      );
    } catch (error) {
      app.fail(error, 'Nothing was added.');
    }
  }
}

export const lists = new Lists();
