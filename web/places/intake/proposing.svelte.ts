import { api } from '@/api/client';
import type { Piece, ProposedSheet, SheetProposal } from '@/api/types';

/** So many signs before a value leave it in sight on one line. */
const BEFORE = 22;

/** What a page says around the first value that is proposed; empty where no page says it. */
export const evidence = ({ places }: SheetProposal): string => places[0]!.pieces.map(([text]) => text).join('');

/** The same, cut so that the value itself is in sight on one line. */
export function oneLine({ places }: SheetProposal): Piece[] {
  const [first, ...rest] = places[0]!.pieces;
  if (!first || first[1] || first[0].length <= BEFORE) return places[0]!.pieces;
  const near = first[0].slice(-BEFORE);
  return [[`… ${near.slice(near.indexOf(' ') + 1)}`, false], ...rest];
}

/** Puts values into a field, with where the page says them. */
export type Take = (field: string, places: SheetProposal['places']) => void;

interface Sheet {
  /** Whether a field stands on the sheet and is to be filled in: it is empty, or nobody touched another value that it begins with. */
  lacks: (field: string, values: string[]) => boolean;
  type: () => string;
  dossier: () => string;
  take: Take;
  takeType: (code: string) => void;
  takeDossier: (ref: string) => void;
}

const NOTHING: ProposedSheet = { type: null, dossier: null, proposals: [] };

/** What the document at hand is proposed to be filed as. Nothing of it is stored that nobody takes. */
export class Proposing {
  #all = $state.raw<ProposedSheet>(NOTHING);
  #asked = '';
  /** Whether all is to be taken of what is proposed for a type that was just taken. */
  #takesAll = false;

  /** Those whose fields are to be filled in. */
  readonly open: SheetProposal[] = $derived.by(() =>
    this.#all.proposals.filter((p) =>
      this.sheet.lacks(
        p.field,
        p.places.map((place) => place.value),
      ),
    ),
  );
  readonly type = $derived.by(() => (this.sheet.type() === '' ? this.#all.type : null));
  readonly dossier = $derived.by(() => (this.sheet.type() !== '' && this.sheet.dossier() === '' ? this.#all.dossier : null));
  readonly count = $derived.by(() => this.open.length + (this.dossier ? 1 : 0));

  constructor(private readonly sheet: Sheet) {}

  /** Asks for another document, or another type. */
  async ask(document: string, type: string): Promise<void> {
    const asked = `${document} ${type}`;
    if (asked === this.#asked) return;
    if (!this.#asked.startsWith(`${document} `)) {
      this.#all = NOTHING;
      this.#takesAll = false;
    }
    this.#asked = asked;
    // Whether there are any is nothing to wait for: what cannot be told is not said.
    const got = document === '' ? null : await api.proposals(document, type).catch(() => null);
    if (asked !== this.#asked) return;
    this.#all = got ?? NOTHING;
    // What the librarian lets be stored is taken by itself.
    for (const { field, places, is_stored } of [...this.open]) if (is_stored) this.sheet.take(field, places);
    if (this.#takesAll && type !== '') this.takeAll();
  }

  of(field: string): SheetProposal | undefined {
    return this.open.find((p) => p.field === field);
  }

  take(field: string): boolean {
    const proposal = this.of(field);
    if (!proposal) return false;
    this.sheet.take(field, proposal.places);
    return true;
  }

  takeType(): boolean {
    if (!this.type) return false;
    this.sheet.takeType(this.type.code);
    return true;
  }

  takeDossier(): boolean {
    if (!this.dossier) return false;
    this.sheet.takeDossier(this.dossier.ref);
    return true;
  }

  /** Takes the type first, where none is chosen; the rest follows once it is known what is proposed for that. */
  takeAll(): void {
    this.#takesAll = this.takeType();
    if (this.#takesAll) return;
    for (const { field, places } of [...this.open]) this.sheet.take(field, places);
    this.takeDossier();
  }
}
