import { api, messageOf, type Sheet, type TaskPart } from '@/api/client';
import type { DocumentRecord, StoppedCase, Task, TaskCounts, TaskRow } from '@/api/types';
import { Attempt } from '@/parts/attempt.svelte';
import { counts } from '@/state/counts.svelte';

/** The lists of tasks, and which one is looked at. */
export class TaskLists {
  part = $state<TaskPart>('mine');
  rows = $state.raw<TaskRow[]>([]);
  stopped = $state.raw<StoppedCase[]>([]);
  total = $state(0);
  counts = $state.raw<TaskCounts>({ mine: 0, groups: 0, others: 0, overdue: 0, stopped: 0 });
  known = $state(false);
  fault = $state('');
  /** Those that are decided together. */
  picked = $state.raw<number[]>([]);
  #asked = 0;

  async load(part: TaskPart = this.part): Promise<void> {
    this.part = part;
    const asked = ++this.#asked;
    try {
      const got = await api.tasks(part);
      if (asked !== this.#asked) return;
      this.take(got.tasks, got.total);
      this.counts = got.counts;
      this.stopped = got.stopped;
      this.fault = '';
      counts.mine = got.counts.mine;
      counts.groups = got.counts.groups;
    } catch (error) {
      this.fault = messageOf(error, 'The tasks cannot be shown. Try again.');
    }
    this.known = true;
  }

  private take(rows: TaskRow[], total: number): void {
    this.rows = rows;
    this.total = total;
    this.picked = this.picked.filter((id) => rows.some((row) => row.id === id));
  }

  async more(): Promise<void> {
    const got = await api.tasks(this.part, this.rows.length);
    this.take([...this.rows, ...got.tasks.filter((row) => !this.rows.some((known) => known.id === row.id))], got.total);
  }

  /** The task that comes after one, or before it where it is the last. */
  beside(id: number | null, by: 1 | -1): number | null {
    const at = this.rows.findIndex((row) => row.id === id);
    return this.rows[at < 0 ? 0 : Math.max(0, Math.min(this.rows.length - 1, at + by))]?.id ?? null;
  }

  /** What is looked at once a task is decided: the next one, or the last there is. */
  next(id: number): number | null {
    const at = this.rows.findIndex((row) => row.id === id);
    return (this.rows[at + 1] ?? this.rows[at - 1])?.id ?? null;
  }

  pick(id: number): void {
    this.picked = this.picked.includes(id) ? this.picked.filter((other) => other !== id) : [...this.picked, id];
  }

  /** Whether a task may be decided together with those that are picked. */
  fits(row: TaskRow): boolean {
    const first = this.rows.find((other) => other.id === this.picked[0]);
    return row.together !== null && (!first || first.together === row.together);
  }
}

/** One task that is looked at: what is chosen, written and filled in, until it is decided. */
export class TaskWork extends Attempt {
  task = $state.raw<Task | null>(null);
  chosen = $state('');
  comment = $state('');
  values = $state<Sheet>({});
  #begun: Sheet = {};

  constructor(readonly id: number) {
    super();
  }

  /** What is wrong with the whole, and not with one field. */
  get fault(): string {
    return this.faults[''] ?? '';
  }

  async load(): Promise<void> {
    await this.act(() => api.task(this.id), 'The task cannot be shown. It may be decided, or not for you.');
  }

  /** What the document has in the fields that are asked for. */
  fill(record: DocumentRecord): void {
    const codes = this.task?.sheet.map((entry) => entry.code) ?? [];
    const more = this.decision?.fields.filter((code) => !codes.includes(code)) ?? [];
    const all = Object.fromEntries(
      [...codes, ...more].map((code): [string, string[]] => [
        code,
        (record.values[code] ?? []).filter((v) => !v.inherited && !v.covered).map((v) => v.value),
      ]),
    );
    this.#begun = all;
    this.values = structuredClone(all);
  }

  get decision() {
    return this.task?.decisions.find((decision) => decision.code === this.chosen);
  }

  /** The fields that are filled in: those of the step, and those that the decision needs. */
  get entries(): { code: string; required: boolean }[] {
    const sheet = this.task?.sheet ?? [];
    const needed = this.decision?.fields ?? [];
    return [
      ...sheet.map((entry) => ({ code: entry.code, required: entry.required || needed.includes(entry.code) })),
      ...needed.filter((code) => !sheet.some((entry) => entry.code === code)).map((code) => ({ code, required: true })),
    ];
  }

  /** What was changed of the values: what is as it was is not sent. */
  get changed(): Sheet {
    return Object.fromEntries(
      Object.entries(this.values).filter(([code, list]) => JSON.stringify(list) !== JSON.stringify(this.#begun[code] ?? [])),
    );
  }

  choose(code: string): void {
    this.chosen = code;
    this.faults = {};
  }

  /** @returns whether it was decided */
  async decide(lock_version: number): Promise<boolean> {
    if (!this.chosen || this.busy) return false;
    const what = { decision: this.chosen, comment: this.comment, values: this.changed, lock_version };
    return this.run(
      async () => {
        await api.decide(this.id, what);
      },
      '',
      'Nothing was decided. Try again.',
    );
  }

  async act(what: () => Promise<Task>, otherwise: string): Promise<boolean> {
    return this.run(
      async () => {
        this.task = await what();
      },
      '',
      otherwise,
    );
  }
}
