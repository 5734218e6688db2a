import type { Annotation, Redaction } from '@/api/types';

const encoder = new TextEncoder();
const kept = new Map<string, Map<string, Range[]>>();

/** How many bytes of UTF-8 stand before a place in a text. */
export function bytesBefore(text: string, index = text.length): number {
  return encoder.encode(text.slice(0, index)).length;
}

/** The index in a text that some bytes of UTF-8 reach to. */
function indexOf(text: string, bytes: number): number {
  let at = 0;
  let index = 0;
  for (const sign of text) {
    if (at >= bytes) break;
    at += encoder.encode(sign).length;
    index += sign.length;
  }
  return index;
}

function rangeOf(box: HTMLElement, from: number, to: number): Range | null {
  const walker = document.createTreeWalker(box, NodeFilter.SHOW_TEXT);
  const range = document.createRange();
  let before = 0;
  let started = false;
  for (let node = walker.nextNode(); node; node = walker.nextNode()) {
    const length = node.textContent?.length ?? 0;
    if (!started && from < before + length) {
      range.setStart(node, from - before);
      started = true;
    }
    if (started && to <= before + length) {
      range.setEnd(node, to - before);
      return range;
    }
    before += length;
  }
  return null;
}

/** Marks places of a page's text where it has no picture to lay anything over. */
export function showMarks(page: string, box: HTMLElement | undefined, annotations: Annotation[], redactions: Redaction[]): void {
  if (!('highlights' in CSS)) return;
  const text = box?.textContent ?? '';
  const ranges = (list: { start: number | null; length: number | null }[]) =>
    !box
      ? []
      : list
          .filter((m) => m.start !== null)
          .map((m) => rangeOf(box, indexOf(text, m.start!), indexOf(text, m.start! + m.length!)))
          .filter((r): r is Range => r !== null);
  for (const [name, list] of [
    ['annotation', ranges(annotations)],
    ['redaction', ranges(redactions)],
  ] as const) {
    const pages = kept.get(name) ?? new Map<string, Range[]>();
    kept.set(name, pages);
    if (list.length > 0) pages.set(page, list);
    else pages.delete(page);
    CSS.highlights.set(name, new Highlight(...[...pages.values()].flat()));
  }
}

/** How much of a box's text stands before a range. */
function lengthBefore(box: HTMLElement, range: Range): number {
  const before = document.createRange();
  before.selectNodeContents(box);
  before.setEnd(range.startContainer, range.startOffset);
  return before.toString().length;
}

/** What is chosen in a page's text, in bytes; null when nothing of it is. */
export function chosenBytes(box: HTMLElement): { start: number; length: number } | null {
  const selection = getSelection();
  if (!selection || selection.isCollapsed || selection.rangeCount === 0) return null;
  const range = selection.getRangeAt(0);
  if (!box.contains(range.startContainer) || !box.contains(range.endContainer)) return null;
  const text = box.textContent ?? '';
  const from = lengthBefore(box, range);
  const chosen = range.toString();
  const lead = chosen.length - chosen.trimStart().length;
  const start = bytesBefore(text, from + lead);
  const length = encoder.encode(chosen.trim()).length;
  return length > 0 ? { start, length } : null;
}

/** Where the word at some bytes of a text begins, from top left of the box. */
export function placeOf(box: HTMLElement, start: number): [number, number] | null {
  const from = indexOf(box.textContent ?? '', start);
  const first = rangeOf(box, from, from + 1)?.getClientRects()[0];
  const around = box.getBoundingClientRect();
  return first ? [first.left - around.left, first.top - around.top] : null;
}

/** The words of a box, with where each stands in its text and on the screen. */
function* wordsOf(box: HTMLElement): Generator<{ index: number; rects: DOMRectList }> {
  const walker = document.createTreeWalker(box, NodeFilter.SHOW_TEXT);
  const range = document.createRange();
  let before = 0;
  for (let node = walker.nextNode(); node; node = walker.nextNode()) {
    const text = node.textContent ?? '';
    for (const word of text.matchAll(/\S+/gu)) {
      range.setStart(node, word.index);
      range.setEnd(node, word.index + word[0].length);
      yield { index: before + word.index, rects: range.getClientRects() };
    }
    before += text.length;
  }
}

/**
 * The word nearest to a place in the box, in bytes of its text; null when the text has none. Told by where words are seen:
 * what lies over the text does not come between.
 */
export function wordAt(box: HTMLElement, x: number, y: number): { start: number; length: number } | null {
  const around = box.getBoundingClientRect();
  const [left, top] = [around.left + x, around.top + y];
  let nearest = -1;
  let least = Infinity;
  for (const { index, rects } of wordsOf(box)) {
    for (const rect of rects) {
      const far = Math.hypot(Math.max(rect.left - left, left - rect.right, 0), Math.max(rect.top - top, top - rect.bottom, 0));
      if (far < least) [nearest, least] = [index, far];
    }
    if (least === 0) break;
  }
  if (nearest < 0) return null;
  // A hit in the middle of a word cuts it in two for the screen; the word is whole.
  const text = box.textContent ?? '';
  const from = text.slice(0, nearest).search(/\S+$/u);
  const word = /^\S+/u.exec(text.slice(from < 0 ? nearest : from))![0];
  const start = from < 0 ? nearest : from;
  return { start: bytesBefore(text, start), length: encoder.encode(word).length };
}
