import { api, ApiError } from '@/api/client';
import type { Designed } from '@/api/types';
import { app } from '@/state/app.svelte';
import { router } from '@/state/router.svelte';
import { draft } from './draft.svelte';
import { merged, settled, type Conflict } from './merging';

export interface Versioned {
  code: string;
  lock_version: number;
}

/** One part of the design being changed: what was typed, what is wrong with it, and what somebody else made of it. */
export class Editing<T extends Versioned> {
  draft = $state() as T;
  faults = $state<Record<string, string>>({});
  /** Where somebody else changed the same thing meanwhile, in another way. */
  conflicts = $state.raw<Conflict[]>([]);
  busy = $state(false);
  private start = $state('');
  /** What the changes are made to: the part as it was opened, or as somebody else has saved it since. */
  private base: T;

  constructor(
    readonly kind: string,
    readonly original: T | null,
    blank: T,
  ) {
    this.draft = structuredClone($state.snapshot(original ?? blank)) as T;
    this.start = JSON.stringify(this.draft);
    this.base = structuredClone($state.snapshot(this.draft)) as T;
  }

  /** What is there now is what changes are counted from: for what arrives after the editor has opened. */
  settle(): void {
    this.start = JSON.stringify(this.draft);
    this.base = structuredClone($state.snapshot(this.draft)) as T;
  }

  /** Where it is edited: schemes are vocabularies with a place of their own. */
  get place(): string {
    return 'scheme' in this.draft && this.draft.scheme ? 'schemes' : this.kind;
  }

  /** The parts whose designers keep this one to themselves. */
  get keptBy(): string[] {
    return (this.original as Designed | null)?.kept_by ?? [];
  }

  get isNew(): boolean {
    return this.original === null;
  }

  get changed(): boolean {
    return this.isNew || JSON.stringify(this.draft) !== this.start;
  }

  async save(joined = false): Promise<void> {
    this.busy = true;
    try {
      const body = $state.snapshot(this.draft) as T;
      const saved = this.isNew ? await api.create<T>(this.kind, body) : await api.change<T>(this.kind, this.original!.code, body);
      this.faults = {};
      this.conflicts = [];
      await draft.load();
      app.say(
        joined
          ? 'Saved in the draft, with what somebody else changed in the meantime.'
          : 'Saved in the draft. Publish to bring it into use.',
      );
      router.go(`/design/${this.place}/${saved.code}`, this.isNew ? 'push' : 'replace');
    } catch (error) {
      if (!(error instanceof ApiError)) throw error;
      // `fields.0.code` belongs beside “fields”.
      this.faults = Object.fromEntries(Object.entries(error.fields).map(([name, text]) => [name.split('.')[0], text]));
      if (error.code === 'stale') await this.join(error.current as T);
      else if (Object.keys(error.fields).length === 0) app.say(error.message, { wrong: true });
    } finally {
      this.busy = false;
    }
  }

  /** Takes in what somebody else has saved since: all of it, but for what both changed in different ways. */
  private async join(theirs: T): Promise<void> {
    const { value, conflicts } = merged(this.base, $state.snapshot(this.draft) as T, theirs);
    this.draft = { ...value, lock_version: theirs.lock_version };
    this.base = theirs;
    this.conflicts = conflicts;
    if (conflicts.length === 0) await this.save(true);
  }

  /** Decides one of the conflicts. */
  decide(conflict: Conflict, takeTheirs: boolean): void {
    if (takeTheirs) settled(this.draft, conflict);
    this.conflicts = this.conflicts.filter((c) => c !== conflict);
  }

  async remove(): Promise<void> {
    const gone = this.original!;
    try {
      await api.remove(this.kind, gone.code);
      await draft.load();
      router.go(`/design/${this.place}`);
      app.say(`“${gone.code}” will be removed when you publish.`, {
        undo: () => void draft.act(async () => (await api.create(this.kind, $state.snapshot(gone)), await api.draft())),
      });
    } catch (error) {
      app.fail(error, 'It could not be removed.');
    }
  }
}
