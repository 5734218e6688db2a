import { api, ApiError, type Sheet } from '@/api/client';
import type { DocumentType, IntakeAnswer, WaitingDocument } from '@/api/types';
import { defaultsOf } from '@/parts/sheet';
import { app } from '@/state/app.svelte';
import { drafts } from '@/state/drafts';

/** An index sheet that is being filled in. */
export interface Filling {
  type: string;
  values: Sheet;
  /** One of the type's predefined names, for the title. */
  named: string;
  dossier: string;
  /** What the dossier is called, once it is known. */
  dossierTitle: string;
  section: number | null;
  /** Where values were lifted from, by field. */
  lifted: Record<string, { value: string; page: number; text: string }[]>;
}

const EMPTY: Filling = { type: '', values: {}, named: '', dossier: '', dossierTitle: '', section: null, lifted: {} };
/** The sheet of several documents at once. */
const SHARED = '';
/** The sheet of what has just been filed. */
const DONE = '  ';
/** The sheet while there is no document. */
const NONE = ' ';
const PINS = 'intake pins';
const LAST = 'intake last';
const isGiven = (list: string[] | undefined) => (list ?? []).some((text) => text !== '');
const read = <T>(name: string, otherwise: T): T => JSON.parse(drafts.getItem(name) ?? 'null') ?? otherwise;

/**
 * The sheets of what waits: each document has its own, which the server keeps while it waits. What is pinned stays for the
 * documents that follow; what was filed last can be given again.
 */
export class Sheets {
  now = $state<Filling>({ ...EMPTY });
  faults = $state<Record<string, string>>({});
  /** Fields, and `type` and `dossier`, whose values stay for the documents that follow. */
  pins = $state.raw<string[]>(read(PINS, []));
  last = $state.raw<Filling | null>(read(LAST, null));
  #of = NONE;
  #lock = 0;
  #opened = JSON.stringify(EMPTY);

  /** @param change tells the list what the server answered */
  constructor(private readonly change: (act: () => Promise<IntakeAnswer & { faults: Record<string, string> }>) => Promise<unknown>) {}

  #draft(of: string): string {
    return `intake sheet ${of}`;
  }

  /**
   * Opens the sheet of a document, or of several together; null where there is none yet.
   *
   * @param isMany whether it is for several
   */
  open(document: WaitingDocument | null, isMany = false): void {
    const of = document?.ref ?? (isMany ? SHARED : NONE);
    if (of === this.#of) return;
    void this.leave();
    // What was filled in while a document was still on its way is meant for it.
    const early =
      this.#of === NONE && this.changed && document !== null && document.type === null && Object.keys(document.values).length === 0
        ? $state.snapshot(this.now)
        : null;
    if (early) drafts.removeItem(this.#draft(NONE));
    this.#of = of;
    this.#lock = document?.lock_version ?? 0;
    this.faults = {};
    const begun = this.#begun(document);
    this.#opened = JSON.stringify(begun);
    const typed = drafts.getItem(this.#draft(of));
    const draft = typed ? (JSON.parse(typed) as Partial<Filling>) : (early ?? {});
    this.now = { ...begun, ...draft };
  }

  /** What is known of a document by the way it came and what was kept of its sheet, and what is pinned where that says nothing. */
  #begun(document: WaitingDocument | null): Filling {
    const pinned = (code: string) => this.last !== null && this.pins.includes(code);
    const type = document?.type?.code ?? (pinned('type') ? this.last!.type : '');
    const fields = app.design!.types.find((t) => t.code === type)?.fields ?? [];
    const stays = Object.fromEntries(
      fields.filter((f) => pinned(f.code) && isGiven(this.last!.values[f.code])).map((f) => [f.code, [...this.last!.values[f.code]!]]),
    );
    const isPinned = !document?.proposed_dossier && pinned('dossier');
    return {
      type,
      values: { ...defaultsOf(fields), ...stays, ...Sheets.#known(document) },
      named: '',
      dossier: document?.proposed_dossier ?? (isPinned ? this.last!.dossier : ''),
      dossierTitle: isPinned ? this.last!.dossierTitle : '',
      section: isPinned ? this.last!.section : null,
      lifted: {},
    };
  }

  get type(): DocumentType | undefined {
    return app.design!.types.find((t) => t.code === this.now.type);
  }

  get changed(): boolean {
    return JSON.stringify(this.now) !== this.#opened;
  }

  note(): void {
    if (this.changed) drafts.setItem(this.#draft(this.#of), JSON.stringify(this.now));
  }

  set(code: string, values: string[]): void {
    this.now.values[code] = values;
    delete this.faults[code];
  }

  /** Notes from where on the pages a value of a field was taken. */
  lift(code: string, value: string, { page, text }: { page: number; text: string }): void {
    if (page === 0) return;
    const still = (this.now.lifted[code] ?? []).filter((l) => l.value !== value && this.now.values[code]?.includes(l.value));
    this.now.lifted[code] = [...still, { value, page, text }];
  }

  /** Choosing another type keeps what fits, and begins what is new with its default, or with what is pinned. */
  chooseType(code: string): void {
    this.now.type = code;
    this.now.named = '';
    const fields = this.type?.fields ?? [];
    const stays = Object.fromEntries(
      fields
        .filter((f) => this.pins.includes(f.code) && isGiven(this.last?.values[f.code]))
        .map((f) => [f.code, this.last!.values[f.code]!]),
    );
    this.now.values = {
      ...defaultsOf(fields),
      ...stays,
      ...Object.fromEntries(Object.entries(this.now.values).filter(([, list]) => isGiven(list))),
    };
    delete this.faults.type;
  }

  togglePin(code: string): void {
    this.pins = this.pins.includes(code) ? this.pins.filter((p) => p !== code) : [...this.pins, code];
    drafts.setItem(PINS, JSON.stringify(this.pins));
  }

  /** What the field had in the document that was filed last. */
  lastOf(code: string): string[] {
    return this.last?.values[code]?.filter((text) => text !== '') ?? [];
  }

  /** Has the server keep what was typed for a document that one goes away from. What it does not take stays here. */
  async leave(): Promise<void> {
    const [of, lock, sheet] = [this.#of, this.#lock, $state.snapshot(this.now)];
    if ([SHARED, NONE, DONE].includes(of) || !this.changed || this.#isOther(sheet)) return;
    const fits = this.#fitting(sheet);
    try {
      await this.change(async () => {
        const got = await api.keepSheet(of, sheet.type || null, fits, lock, sheet.lifted);
        // A dossier, a name and what is wrong are kept here only.
        if (Object.keys(got.faults).length === 0 && sheet.dossier === '' && sheet.named === '') drafts.removeItem(this.#draft(of));
        return got;
      });
    } catch (error) {
      // Somebody else was at it: what was typed is still here, and is looked at when the document is opened again.
      if (!(error instanceof ApiError)) throw error;
    }
  }

  /** Others gave these documents values, which count for more than what was typed for the same fields. */
  given(documents: WaitingDocument[]): void {
    for (const document of documents) {
      const typed = drafts.getItem(this.#draft(document.ref));
      if (!typed) continue;
      const draft = JSON.parse(typed) as Filling;
      drafts.setItem(
        this.#draft(document.ref),
        JSON.stringify({ ...draft, type: document.type?.code ?? draft.type, values: { ...draft.values, ...Sheets.#known(document) } }),
      );
    }
    const open = documents.find((d) => d.ref === this.#of);
    if (!open) return;
    this.#of = DONE;
    this.open(open);
  }

  static #known(document: WaitingDocument | null): Sheet {
    return Object.fromEntries(Object.entries(document?.values ?? {}).map(([code, list]) => [code, list.map((v) => v.value)]));
  }

  /** Nothing was said at all. */
  #isOther(sheet: Filling): boolean {
    return sheet.type === '' && !Object.values(sheet.values).some(isGiven);
  }

  #fitting(sheet: Filling): Sheet {
    const codes = app.design!.types.find((t) => t.code === sheet.type)?.fields.map((f) => f.code) ?? [];
    return Object.fromEntries(Object.entries(sheet.values).filter(([code]) => codes.includes(code)));
  }

  /** What is sent to file documents with this sheet. */
  filing(documents: string[]) {
    const { type, named, dossier, section, lifted } = $state.snapshot(this.now);
    return { documents, type, values: this.#fitting($state.snapshot(this.now)), name: named, dossier: dossier.trim(), section, lifted };
  }

  /** The documents of this sheet were filed: it is remembered as the last. */
  done(documents: string[]): void {
    this.last = $state.snapshot(this.now);
    drafts.setItem(LAST, JSON.stringify(this.last));
    for (const of of [...documents, this.#of]) drafts.removeItem(this.#draft(of));
    // Nothing of it is meant for what comes next but what is pinned.
    this.#of = DONE;
    this.#opened = JSON.stringify(this.now);
  }
}
