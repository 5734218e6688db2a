import { api, ApiError } from '@/api/client';
import type { IntakeAnswer, TroubledSource, ValuesReport, WaitingDocument } from '@/api/types';
import { bytes, plural } from '@/parts/format';
import { undoAct } from '@/parts/undoing';
import { app } from '@/state/app.svelte';
import { inbox } from '@/state/inbox.svelte';
import { Whole } from '@/state/whole';
import { grouped, type Brought, type Grouping, type Order } from './waiting';

interface Coming {
  key: number;
  name: string;
  fault: string;
}

/** How the list is shown: names beside the page, first pages, or a table. */
export type Shape = 'names' | 'pictures' | 'table';

const AT_ONCE = 3;
/** So often the list is read anew while files come in, in milliseconds. */
const OFTEN = 700;
const kept = <T extends string>(name: string, usual: T): T => (localStorage.getItem(`intake:${name}`) as T | null) ?? usual;

/** What waits in intake, what of it is chosen, and what is done to it. */
export class Waiting {
  documents = $state.raw<WaitingDocument[]>([]);
  troubled = $state.raw<TroubledSource[]>([]);
  total = $state(0);
  coming = $state<Coming[]>([]);
  chosen = $state.raw<string[]>([]);
  looking = $state('');
  shape = $state<Shape>(kept('shape', 'names'));
  by = $state<Grouping>(kept('by', 'source'));
  order = $state<Order>(kept('order', 'arrival'));
  /** Whether the list has been told once. */
  known = $state(false);
  #stamp = '';
  #told = 0;
  #sent = 0;
  #list: Whole<IntakeAnswer>;

  readonly groups = $derived(grouped(this.documents, this.by, this.order, Date.now()));
  readonly inOrder = $derived(this.groups.flatMap((g) => g.documents));
  readonly looked = $derived(this.documents.find((d) => d.ref === this.looking) ?? null);
  readonly targets = $derived(this.documents.filter((d) => this.chosen.includes(d.ref)));
  readonly complete = $derived(this.documents.filter((d) => d.lacks.length === 0));

  constructor() {
    this.#list = new Whole(
      () => api.intake(this.#stamp, this.looking),
      (got) => this.#show(got),
    );
  }

  keepLook(): void {
    localStorage.setItem('intake:shape', this.shape);
    localStorage.setItem('intake:by', this.by);
    localStorage.setItem('intake:order', this.order);
  }

  async load(): Promise<void> {
    await this.#list.read().catch((error: unknown) => app.fail(error, 'The waiting documents cannot be shown. Reload the page.'));
  }

  #show(got: IntakeAnswer): void {
    this.troubled = got.sources;
    this.total = got.total;
    inbox.waiting = got.total;
    this.#stamp = got.stamp;
    this.known = true;
    if (got.documents === null) return;
    // What has not changed stays as it is, so that what one looks at is not drawn anew.
    const before = Object.fromEntries(this.documents.map((d) => [d.ref, d]));
    this.documents = got.documents.map((d) => (JSON.stringify(before[d.ref]) === JSON.stringify(d) ? before[d.ref]! : d));
    this.chosen = this.chosen.filter((ref) => got.documents!.some((d) => d.ref === ref));
    if (!this.documents.some((d) => d.ref === this.looking)) this.look(this.inOrder[0]?.ref ?? '');
  }

  look(ref: string): void {
    this.looking = ref;
    if (ref && this.chosen.length <= 1) this.chosen = [ref];
  }

  /** The document before or behind the one that is looked at. */
  step(by: number): void {
    const index = this.inOrder.findIndex((d) => d.ref === this.looking);
    const next = this.inOrder[Math.min(this.inOrder.length - 1, Math.max(0, index + by))];
    if (next) this.look(next.ref);
  }

  choose(ref: string, isChosen: boolean): void {
    this.chosen = isChosen ? [...this.chosen, ref] : this.chosen.filter((r) => r !== ref);
  }

  chooseTo(ref: string): void {
    const order = this.inOrder.map((d) => d.ref);
    const [from, to] = [order.indexOf(this.looking), order.indexOf(ref)].toSorted((a, b) => a - b);
    const between = order.slice(Math.max(0, from!), to! + 1);
    this.chosen = [...this.chosen, ...between.filter((r) => !this.chosen.includes(r))];
  }

  chooseAll(): void {
    this.chosen = this.chosen.length === this.documents.length ? [this.looking].filter(Boolean) : this.documents.map((d) => d.ref);
  }

  /** Does something whose answer is the list as it is then. */
  async change<A extends IntakeAnswer>(act: () => Promise<A>, gone: string[] = []): Promise<A> {
    return this.#list.change(act, (got) => {
      // Out of sight even if the list must be read again.
      this.documents = this.documents.filter((d) => !gone.includes(d.ref));
      return got;
    });
  }

  /** @returns what has come in, by reference */
  async receive(files: Brought[], library: string): Promise<string[]> {
    const limit = app.person!.limits.file_bytes;
    const all = files.map((brought) => ({
      ...brought,
      entry: {
        key: ++this.#sent,
        name: brought.path || brought.file.name,
        fault: brought.file.size > limit ? `“${brought.file.name}” is larger than ${bytes(limit)} and was not sent.` : '',
      },
    }));
    this.coming = [...this.coming, ...all.map((q) => q.entry)];
    const queue = all.filter((q) => q.entry.fault === '');
    const came: string[] = [];
    const worker = async () => {
      for (let next = queue.shift(); next; next = queue.shift()) {
        const ref = await this.#send(next, library);
        if (ref) came.push(ref);
      }
    };
    await Promise.all(Array.from({ length: AT_ONCE }, worker));
    await this.load();
    return came;
  }

  async #send({ file, path, entry }: Brought & { entry: Coming }, library: string): Promise<string | null> {
    try {
      // No change of the list: among hundreds of them no reading of it would ever count.
      const { ref } = await api.upload(file, library, path);
      this.coming = this.coming.filter((c) => c.key !== entry.key);
      if (performance.now() - this.#told > OFTEN) {
        this.#told = performance.now();
        void this.load();
      }
      return ref;
    } catch (error) {
      const message = error instanceof ApiError ? (error.fields.file ?? error.message) : 'It did not arrive.';
      this.coming = this.coming.map((c) => (c.key === entry.key ? { ...c, fault: message } : c));
      return null;
    }
  }

  dismiss(key: number): void {
    this.coming = this.coming.filter((c) => c.key !== key);
  }

  async move(to: string): Promise<void> {
    const moved = [...this.chosen];
    try {
      await this.change(() => api.moveWaiting(moved, to));
      app.say(`${plural(moved.length, 'document', 'documents')} for ${app.library(to)?.name ?? to}.`);
    } catch (error) {
      app.fail(error, 'The library was not changed.');
    }
  }

  async handOver(to: { person?: string; group?: string }, name: string): Promise<boolean> {
    const given = [...this.chosen];
    try {
      await this.change(() => api.handOver(given, to), to.person ? given : []);
      app.say(`${plural(given.length, 'document', 'documents')} handed over to ${name}.`);
      return true;
    } catch (error) {
      app.fail(error, 'Nothing was handed over.');
      return false;
    }
  }

  async discard(): Promise<void> {
    const gone = [...this.chosen];
    try {
      await this.change(() => api.discard(gone), gone);
      app.say(`${plural(gone.length, 'document', 'documents')} removed from intake.`, {
        undo: () => this.change(() => api.restore(gone)).catch((error: unknown) => app.fail(error, 'They could not be brought back.')),
      });
    } catch (error) {
      app.fail(error, 'Nothing was removed.');
    }
  }

  /** Files all whose own sheets are complete. */
  async fileComplete(): Promise<void> {
    const refs = this.complete.map((d) => d.ref);
    try {
      const { act, filed, left } = await this.change(() => api.fileComplete(refs));
      const why = left[0] ? ` ${plural(left.length, 'document is', 'documents are')} not complete: ${left[0].why}` : '';
      app.say(`${plural(filed, 'document', 'documents')} filed.${why}`, act === null ? { wrong: true } : { undo: () => this.unfile(act) });
    } catch (error) {
      app.fail(error, 'Nothing was filed.');
    }
  }

  /** Puts what a table says onto the sheets of what waits, or of some of it. */
  async values(table: File, documents: string[]): Promise<ValuesReport | null> {
    try {
      return (await this.change(() => api.putValues(table, documents))).report;
    } catch (error) {
      app.fail(error, 'The values were not taken.');
      return null;
    }
  }

  unfile(act: number): Promise<void> {
    return undoAct(act, () => void this.load());
  }
}
