import fc from 'fast-check';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { Annotation, AnnotationDraft, RedactionsAnswer } from '@/api/types';
import type { Reading } from './document.svelte';

/** A server that keeps annotations, those taken away too. */
class Server {
  kept = new Map<number, Annotation & { away?: boolean }>();
  fails = false;

  #reach(): void {
    if (this.fails) throw new Error('The line is dead.');
  }

  async annotate(_: string, draft: AnnotationDraft): Promise<Annotation> {
    this.#reach();
    const made = { ...draft, id: this.kept.size + 1, own: true, lost: false, lock_version: 1, text: '' } as unknown as Annotation;
    this.kept.set(made.id, made);
    return made;
  }

  async changeAnnotation(_: string, id: number, change: Partial<Annotation> & { lock_version: number }): Promise<Annotation> {
    this.#reach();
    const had = this.kept.get(id)!;
    if (had.lock_version !== change.lock_version) throw new Error('It was changed meanwhile.');
    const now = { ...had, ...change, lock_version: had.lock_version + 1 };
    this.kept.set(id, now);
    return now;
  }

  async removeAnnotation(_: string, id: number): Promise<void> {
    this.#reach();
    this.kept.set(id, { ...this.kept.get(id)!, away: true });
  }

  async restoreAnnotation(_: string, id: number): Promise<Annotation> {
    this.#reach();
    const back = { ...this.kept.get(id)!, away: false };
    this.kept.set(id, back);
    return back;
  }

  get there(): [number, string][] {
    return [...this.kept.values()].filter((a) => !a.away).map((a) => [a.id, a.text ?? '']);
  }
}

const place = vi.hoisted(() => ({ redactions: vi.fn(), redact: vi.fn(), fail: vi.fn(), say: vi.fn() }));
vi.mock('@/api/client', () => ({
  api: {
    annotate: (...of: Parameters<Server['annotate']>) => server.annotate(...of),
    changeAnnotation: (...of: Parameters<Server['changeAnnotation']>) => server.changeAnnotation(...of),
    removeAnnotation: (...of: Parameters<Server['removeAnnotation']>) => server.removeAnnotation(...of),
    restoreAnnotation: (...of: Parameters<Server['restoreAnnotation']>) => server.restoreAnnotation(...of),
    redactions: place.redactions,
    redact: place.redact,
  },
}));
vi.mock('@/state/app.svelte', () => ({ app: { fail: place.fail, say: place.say } }));
vi.mock('@/state/drafts', () => ({ drafts: { removeItem: vi.fn() } }));
const { Marking } = await import('./marking.svelte');

const reading = { ref: 'D-1', record: { state: 'filed', version: 2, shown_version: 2 } } as unknown as Reading;
const draft: AnnotationDraft = { page: 1, kind: 'highlight', boxes: [[0, 0, 10, 10]] } as AnnotationDraft;
let server: Server;
const shown = (marking: InstanceType<typeof Marking>): [number, string][] => marking.annotations.map((a) => [a.id, a.text ?? '']);

beforeEach(() => {
  vi.clearAllMocks();
  server = new Server();
});

describe('marking', () => {
  it('is taken back and done again step by step, and shows what the server has', async () => {
    const act = fc.oneof(
      fc.constant({ what: 'add' as const, which: 0 }),
      fc.record({ what: fc.constantFrom('change' as const, 'remove' as const), which: fc.nat(9) }),
      fc.record({ what: fc.constantFrom('undo' as const, 'redo' as const), which: fc.constant(0) }),
    );
    await fc.assert(
      fc.asyncProperty(fc.array(act, { maxLength: 25 }), async (acts) => {
        server = new Server();
        const marking = new Marking(reading);
        // What there was after each step: undoing goes back in it, redoing forth, and a new step cuts off what is ahead.
        let states: [number, string][][] = [[]];
        let at = 0;
        for (const [i, { what, which }] of acts.entries()) {
          const one = marking.annotations[which % Math.max(1, marking.annotations.length)];
          if (what === 'undo') {
            await marking.undo();
            at = Math.max(0, at - 1);
          } else if (what === 'redo') {
            await marking.redo();
            at = Math.min(states.length - 1, at + 1);
          } else if (what === 'add' || one) {
            if (what === 'add') await marking.add(draft);
            else if (what === 'change') await marking.change(one!, { text: `words ${i}` });
            else await marking.remove(one!);
            states = [...states.slice(0, ++at), server.there];
          }
          expect(server.there.toSorted()).toEqual(states[at]!.toSorted());
          expect(shown(marking).toSorted()).toEqual(states[at]!.toSorted());
          expect([marking.mayUndo, marking.mayRedo]).toEqual([at > 0, at < states.length - 1]);
        }
        expect(place.fail).not.toHaveBeenCalled();
      }),
    );
  });

  it('keeps a step that could not be taken back, to try again', async () => {
    const marking = new Marking(reading);
    await marking.add(draft);
    server.fails = true;
    await marking.undo();
    expect(place.fail).toHaveBeenCalledOnce();
    expect([marking.mayUndo, marking.mayRedo]).toEqual([true, false]);
    server.fails = false;
    await marking.undo();
    expect(shown(marking)).toEqual([]);
    server.fails = true;
    await marking.redo();
    expect([marking.mayUndo, marking.mayRedo]).toEqual([false, true]);
    server.fails = false;
    await marking.redo();
    expect(shown(marking)).toHaveLength(1);
  });

  it('shows of a page what is not lost, of others when they are wanted', async () => {
    const marking = new Marking(reading);
    const of = (id: number, more: Partial<Annotation>) => ({ id, page: 1, own: false, lost: false, ...more }) as Annotation;
    marking.annotations = [of(1, { own: true }), of(2, {}), of(3, { lost: true }), of(4, { page: 2 })];
    expect(marking.on(1).map((a) => a.id)).toEqual([1, 2]);
    marking.others = false;
    expect(marking.on(1).map((a) => a.id)).toEqual([1]);
    marking.shown = false;
    expect(marking.on(1)).toEqual([]);
  });

  it('takes a slip of the hand for nothing drawn', async () => {
    const marking = new Marking(reading);
    marking.tool = 'area';
    await marking.drawn(1, [10, 10, 12, 12]);
    expect(marking.annotations).toEqual([]);
    await marking.drawn(1, [10, 10, 40, 12]);
    expect(marking.annotations).toHaveLength(1);
  });
});

describe('redacting', () => {
  const answer = (state: string, removed = 0) =>
    ({ redactions: Array(removed).fill({ page: 1 }), reasons: [{ code: 'person' }], copy: { state } }) as unknown as RedactionsAnswer;

  it('asks for a reason first', async () => {
    const marking = new Marking(reading);
    await marking.redact([{ page: 1, areas: [[0, 0, 9, 9]] }]);
    expect(place.redact).not.toHaveBeenCalled();
    expect(place.say).toHaveBeenCalledWith(expect.stringContaining('reason'), { wrong: true });
  });

  it('looks for the copy while it is made, and no longer once it is there or the reader is closed', async () => {
    vi.useFakeTimers();
    const marking = new Marking(reading);
    place.redactions.mockResolvedValue(answer('making'));
    await marking.startRedacting();
    await vi.advanceTimersByTimeAsync(1600);
    expect(place.redactions).toHaveBeenCalledTimes(2);
    place.redactions.mockResolvedValue(answer('made'));
    await vi.advanceTimersByTimeAsync(10_000);
    expect(place.redactions).toHaveBeenCalledTimes(3);
    place.redact.mockResolvedValue(answer('making', 1));
    await marking.redact([{ page: 1, areas: [[0, 0, 9, 9]] }]);
    expect(marking.redactedOn(1)).toHaveLength(1);
    marking.close();
    await vi.advanceTimersByTimeAsync(10_000);
    expect(place.redactions).toHaveBeenCalledTimes(3);
    vi.useRealTimers();
  });

  it('takes no older answer over what was removed meanwhile', async () => {
    vi.useFakeTimers();
    const marking = new Marking(reading);
    place.redactions.mockResolvedValueOnce(answer('making'));
    await marking.startRedacting();
    let late: (of: RedactionsAnswer) => void = () => undefined;
    place.redactions.mockReturnValueOnce(new Promise((done) => (late = done)));
    await vi.advanceTimersByTimeAsync(1600);
    place.redact.mockResolvedValue(answer('made', 2));
    await marking.redact([{ page: 1, areas: [[0, 0, 9, 9]] }]);
    late(answer('made', 0));
    await vi.advanceTimersByTimeAsync(0);
    expect(marking.redactedOn(1)).toHaveLength(2);
    vi.useRealTimers();
  });
});
