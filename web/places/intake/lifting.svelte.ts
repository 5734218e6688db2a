import { api, messageOf } from '@/api/client';
import type { Edges, PlaceOnPage } from '@/api/types';

/** Values of a sheet lifted from the pages of its document: by the places that fit the field one is in, or by words pointed at. */
export class Lifting {
  /** The code of the field that is being edited. */
  field = $state('');
  places = $state.raw<PlaceOnPage[]>([]);
  fault = $state('');
  /** Whether a part of a page is being read. */
  reading = $state(false);
  #asked = '';

  /**
   * @param document the reference of the document that is looked at; empty when there is none
   * @param fill puts a value into a field and goes to the next
   */
  constructor(
    private readonly document: () => string,
    private readonly fill: (field: string, value: string, from: { page: number; text: string }) => void,
  ) {}

  /** Somebody is in a field now. */
  async enter(field: string): Promise<void> {
    this.field = field;
    await this.look();
  }

  /** Asks what the pages say for the field, once for each document and field. */
  async look(): Promise<void> {
    const document = this.document();
    const asked = `${document} ${this.field}`;
    if (asked === this.#asked) return;
    this.#asked = asked;
    this.places = [];
    this.fault = '';
    if (document === '' || this.field === '') return;
    // Without them one types, as before.
    const got = await api.places(document, this.field).catch(() => ({ places: [] }));
    if (this.#asked === asked) this.places = got.places;
  }

  /** The pages were read meanwhile: they may say more. */
  again(): void {
    this.#asked = '';
    void this.look();
  }

  /** Takes the place with a number from 1 on; false when there is none. */
  take(number: number): boolean {
    const place = this.places[number - 1];
    if (!place) return false;
    this.fault = '';
    this.fill(this.field, place.value, { page: place.page, text: place.text });
    return true;
  }

  /** A part of a page without words: it is read there and then. */
  async read(page: number, area: Edges): Promise<void> {
    const { field } = this;
    if (field === '' || page === 0) return;
    this.fault = '';
    this.reading = true;
    try {
      const { text } = await api.readArea(this.document(), page, area);
      if (text === '') this.fault = 'There are no words to be read.';
      else if (field === this.field) await this.lift(text, page);
    } catch (error) {
      this.fault = messageOf(error, 'It was not read. Type it.');
    } finally {
      this.reading = false;
    }
  }

  /** Words that somebody pointed at on a page. */
  async lift(text: string, page: number): Promise<void> {
    const { field } = this;
    const words = text.replace(/\s+/g, ' ').trim();
    if (field === '' || words === '') return;
    try {
      const got = await api.lift(field, words);
      if (field !== this.field) return;
      this.fault = got.fault;
      if (got.value !== null) this.fill(field, got.value, { page, text: words });
    } catch (error) {
      this.fault = messageOf(error, 'It was not read. Type it.');
    }
  }
}

/** How far round a click is read where there are no words, as shares of a page. */
const AROUND: [number, number] = [0.12, 0.014];

/**
 * The part of a page that was dragged over, or lies around where it was clicked, as shares of its width and height.
 *
 * @param from where the mouse was pressed
 */
export function areaOf(page: DOMRect, from: { x: number; y: number }, to: { x: number; y: number }): Edges {
  const share = (value: number, start: number, size: number) => Math.min(1, Math.max(0, (value - start) / size));
  const [x1, x2] = [from.x, to.x].map((x) => share(x, page.left, page.width)).toSorted((a, b) => a - b) as [number, number];
  const [y1, y2] = [from.y, to.y].map((y) => share(y, page.top, page.height)).toSorted((a, b) => a - b) as [number, number];
  if (x2 - x1 > 0.01 && y2 - y1 > 0.004) return [x1, y1, x2, y2];
  const [w, h] = AROUND;
  return [Math.max(0, x1 - w), Math.max(0, y1 - h), Math.min(1, x2 + w), Math.min(1, y2 + h)];
}

/** The word of a text at an offset in it; empty between two words. */
export function wordIn(text: string, offset: number): string {
  const before = /\S*$/.exec(text.slice(0, offset))![0];
  const behind = /^\S*/.exec(text.slice(offset))![0];
  return before + behind;
}

/** What is pointed at on a page: the words that were dragged over, else the word that was clicked. */
export function pointedAt(event: MouseEvent): string {
  const selected = getSelection()?.toString() ?? '';
  if (selected.trim() !== '') return selected;
  const { clientX: x, clientY: y } = event;
  const caret = document.caretPositionFromPoint?.(x, y);
  const range = caret ? null : document.caretRangeFromPoint?.(x, y);
  const node = caret?.offsetNode ?? range?.startContainer;
  return node?.nodeType === Node.TEXT_NODE ? wordIn(node.textContent ?? '', caret?.offset ?? range?.startOffset ?? 0) : '';
}

/** The number of the page that was pointed at; 0 beside all. */
export function pageAt(event: MouseEvent): number {
  const label = (event.target as Element | null)?.closest('article')?.getAttribute('aria-label') ?? '';
  return Number(/\d+$/.exec(label)?.[0] ?? 0);
}
