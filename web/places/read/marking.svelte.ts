import { plural } from '@/parts/format';
import { api } from '@/api/client';
import type { Annotation, AnnotationDraft, Edges, Redaction, RedactionMark, RedactionPlace, RedactionsAnswer } from '@/api/types';
import { app } from '@/state/app.svelte';
import { drafts } from '@/state/drafts';
import type { Reading } from './document.svelte';

export type Tool = '' | 'words' | 'area' | 'note' | 'pen' | 'stamp' | 'redact-words' | 'redact-area';

/** What was done to the overlay, and how to take it back and do it again. */
interface Step {
  back: () => Promise<void>;
  again: () => Promise<void>;
}

/** What lies over the pages of a document being read, and the tool in hand. */
export class Marking {
  tool = $state<Tool>('');
  annotations = $state.raw<Annotation[]>([]);
  stamps = $state.raw<string[]>([]);
  stamp = $state('');
  shown = $state(true);
  others = $state(true);
  private = $state(false);
  /** The note that is being written. */
  open = $state(0);
  redactions = $state.raw<RedactionsAnswer | null>(null);
  /** Places found that may be removed, and which of them are chosen. */
  places = $state.raw<RedactionPlace[] | null>(null);
  chosen = $state<boolean[]>([]);
  reason = $state('');
  redacting = $state(false);
  #done = $state.raw<Step[]>([]);
  #undone = $state.raw<Step[]>([]);
  #timer: ReturnType<typeof setTimeout> | undefined;
  /** Rises with every act: what was asked before it says nothing any more. */
  #acts = 0;

  constructor(readonly reading: Reading) {}

  get ref(): string {
    return this.reading.ref;
  }

  get mayUndo(): boolean {
    return this.#done.length > 0;
  }

  get mayRedo(): boolean {
    return this.#undone.length > 0;
  }

  async load(): Promise<void> {
    if (this.reading.record?.state !== 'filed' || this.reading.record.shown_version !== this.reading.record.version) return;
    const got = await api.annotations(this.ref).catch(() => null);
    if (got) {
      this.annotations = got.annotations;
      this.stamps = got.stamps;
    }
  }

  close(): void {
    clearTimeout(this.#timer);
  }

  /** What is to be seen on a page. */
  on(page: number): Annotation[] {
    return this.shown ? this.annotations.filter((a) => a.page === page && !a.lost && (a.own || this.others)) : [];
  }

  redactedOn(page: number): Redaction[] {
    return this.redacting ? (this.redactions?.redactions.filter((r) => r.page === page) ?? []) : [];
  }

  async add(draft: AnnotationDraft): Promise<Annotation | null> {
    try {
      const made = await api.annotate(this.ref, { ...draft, private: this.private });
      this.#put(made);
      this.#step({ back: () => this.#remove(made.id), again: async () => this.#put(await api.restoreAnnotation(this.ref, made.id)) });
      if (made.kind === 'note') this.open = made.id;
      return made;
    } catch (error) {
      app.fail(error, 'It could not be marked.');
      return null;
    }
  }

  /** Changes an annotation. Says whether it is saved. */
  async change(annotation: Annotation, change: Partial<Annotation>): Promise<boolean> {
    const before = Object.fromEntries(Object.keys(change).map((k) => [k, annotation[k as keyof Annotation]])) as Partial<Annotation>;
    const apply = async (what: Partial<Annotation>) => {
      const now = this.annotations.find((a) => a.id === annotation.id) ?? annotation;
      this.#put(await api.changeAnnotation(this.ref, annotation.id, { ...what, lock_version: now.lock_version }));
    };
    try {
      await apply(change);
      this.#step({ back: () => apply(before), again: () => apply(change) });
      return true;
    } catch (error) {
      app.fail(error, 'It could not be changed.');
      void this.load();
      return false;
    }
  }

  async remove(annotation: Annotation): Promise<void> {
    try {
      drafts.removeItem(`note:${annotation.id}`);
      await this.#remove(annotation.id);
      this.#step({
        back: async () => this.#put(await api.restoreAnnotation(this.ref, annotation.id)),
        again: () => this.#remove(annotation.id),
      });
    } catch (error) {
      app.fail(error, 'The act could not be undone. Nothing was changed.');
    }
  }

  async undo(): Promise<void> {
    const step = this.#done.at(-1);
    if (!step) return;
    this.#done = this.#done.slice(0, -1);
    await step.back().then(
      () => (this.#undone = [...this.#undone, step]),
      (error) => {
        this.#done = [...this.#done, step];
        app.fail(error, 'It could not be undone.');
      },
    );
  }

  async redo(): Promise<void> {
    const step = this.#undone.at(-1);
    if (!step) return;
    this.#undone = this.#undone.slice(0, -1);
    await step.again().then(
      () => (this.#done = [...this.#done, step]),
      (error) => {
        this.#undone = [...this.#undone, step];
        app.fail(error, 'The act could not be repeated. Nothing was changed.');
      },
    );
  }

  /** What was drawn with the tool in hand. */
  async drawn(page: number, box: Edges): Promise<void> {
    const isSmall = Math.abs(box[2] - box[0]) < 3 && Math.abs(box[3] - box[1]) < 3;
    switch (this.tool) {
      case 'words':
        return isSmall ? undefined : void (await this.add({ page, kind: 'highlight', boxes: [box], words: true }));
      case 'area':
        return isSmall ? undefined : void (await this.add({ page, kind: 'highlight', boxes: [box] }));
      case 'redact-words':
        return isSmall ? undefined : this.redact([{ page, areas: [box], words: true }]);
      case 'redact-area':
        return isSmall ? undefined : this.redact([{ page, areas: [box] }]);
      default:
    }
  }

  async takeIn(): Promise<void> {
    try {
      const got = await api.takeInAnnotations(this.ref);
      this.annotations = got.annotations;
      app.say(
        got.taken === 0
          ? 'The file has no annotations that are not here already.'
          : `${plural(got.taken, 'annotation', 'annotations')} imported from the file.`,
      );
    } catch (error) {
      app.fail(error, 'They could not be taken in.');
    }
  }

  async startRedacting(): Promise<void> {
    try {
      this.#take(await api.redactions(this.ref));
      this.redacting = true;
    } catch (error) {
      app.fail(error, 'What is removed could not be fetched.');
    }
  }

  stopRedacting(): void {
    this.redacting = false;
    this.places = null;
    if (this.tool.startsWith('redact')) this.tool = '';
  }

  async find(what: { words: string[]; forms: string[]; people: boolean }): Promise<void> {
    try {
      this.places = (await api.findToRedact(this.ref, what)).places;
      this.chosen = this.places.map((p) => !p.removed);
    } catch (error) {
      app.fail(error, 'It could not be looked for.');
    }
  }

  async redact(marks: RedactionMark[]): Promise<void> {
    if (this.reason === '') {
      app.say('Choose the reason first, then mark what is removed.', { wrong: true });
      return;
    }
    await this.#act(() => api.redact(this.ref, this.reading.record!.version, marks, this.reason));
  }

  async redactChosen(): Promise<void> {
    await this.redact(this.places!.filter((_, i) => this.chosen[i]).map(({ page, start, length }) => ({ page, start, length })));
    this.places = null;
  }

  takeBack(ids: number[]): Promise<void> {
    return this.#act(() => api.takeBackRedactions(this.ref, ids));
  }

  /** Has the redacted copy made anew that could not be made. */
  copyAgain(): Promise<void> {
    return this.#act(() => api.redactAgain(this.ref));
  }

  check(): Promise<void> {
    return this.#act(() => api.checkRedactions(this.ref));
  }

  async #act(what: () => Promise<RedactionsAnswer>): Promise<void> {
    this.#acts++;
    try {
      const answer = await what();
      this.#acts++;
      this.#take(answer);
    } catch (error) {
      app.fail(error, 'The mark was not changed. Try again.');
      void this.#look();
    }
  }

  #take(answer: RedactionsAnswer): void {
    this.redactions = answer;
    if (this.reason === '' && answer.reasons.length > 0) this.reason = answer.reasons[0]!.code;
    clearTimeout(this.#timer);
    if (answer.copy?.state === 'making') this.#timer = setTimeout(() => void this.#look(), 1500);
  }

  /** Looks whether the redacted copy is there now. */
  async #look(): Promise<void> {
    const acts = this.#acts;
    const got = await api.redactions(this.ref).catch(() => null);
    if (got && acts === this.#acts) this.#take(got);
  }

  #put(annotation: Annotation): void {
    this.annotations = [...this.annotations.filter((a) => a.id !== annotation.id), annotation].toSorted(
      (a, b) => a.page - b.page || a.id - b.id,
    );
  }

  async #remove(id: number): Promise<void> {
    await api.removeAnnotation(this.ref, id);
    this.annotations = this.annotations.filter((a) => a.id !== id);
    if (this.open === id) this.open = 0;
  }

  #step(step: Step): void {
    this.#done = [...this.#done, step];
    this.#undone = [];
  }
}
