import { api } from '@/api/client';
import type { Piece, SheetProposal } from '@/api/types';

/** So many signs before a value leave it in sight on one line. */
const BEFORE = 22;

/** What a page says around the first value that is proposed. */
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

/** What the reading rules propose for the sheet of the document at hand. Nothing of it is stored that nobody takes. */
export class Proposing {
  /** Those whose fields stand on the sheet and are empty. */
  readonly open: SheetProposal[] = $derived.by(() => this.all.filter((p) => this.about.isEmpty(p.field)));
  all = $state.raw<SheetProposal[]>([]);

  #asked = '';

  /**
   * @param about  what is asked of the sheet: whether a field stands on it and is empty, and how one is filled in
   */
  constructor(private readonly about: { isEmpty: (field: string) => boolean; take: Take }) {}

  /** Asks for another document, or another type. */
  async ask(document: string, type: string): Promise<void> {
    const asked = `${document} ${type}`;
    if (asked === this.#asked) return;
    if (!this.#asked.startsWith(`${document} `)) this.all = [];
    this.#asked = asked;
    // Whether there are any is nothing to wait for: what cannot be told is not said.
    const got = document === '' ? null : await api.proposals(document, type).catch(() => null);
    if (asked === this.#asked) this.all = got?.proposals ?? [];
  }

  of(field: string): SheetProposal | undefined {
    return this.open.find((p) => p.field === field);
  }

  take(field: string): boolean {
    const proposal = this.of(field);
    if (!proposal) return false;
    this.about.take(field, proposal.places);
    return true;
  }

  takeAll(): void {
    for (const { field, places } of [...this.open]) this.about.take(field, places);
  }
}
