import type { PageSign, Separator, SortableDocument } from '@/api/types';

/** A page in small: where it comes from, and how it is to lie. */
export interface Tile {
  key: string;
  source: string;
  page: number;
  turn: number;
  straightened: boolean;
  left_out: boolean;
}

/** Pages that are to be one document. */
export interface Stack {
  key: number;
  tiles: Tile[];
  /** What its separator sheet says of it. */
  known: Separator;
}

/** Where the cursor stands: which stack, and which page of it. */
export interface Place {
  stack: number;
  tile: number;
}

const NOTHING: Separator = { library: null, type: null, dossier: null };
let next = 0;

export const keyOf = (source: string, page: number): string => `${source}/${page}`;

/** Each document as it came. */
export function stacksOf(documents: SortableDocument[]): Stack[] {
  return documents.map((document) => ({
    key: ++next,
    known: NOTHING,
    tiles: Array.from({ length: document.page_count }, (_, i) => ({
      key: keyOf(document.ref, i + 1),
      source: document.ref,
      page: i + 1,
      turn: 0,
      straightened: false,
      left_out: false,
    })),
  }));
}

/** What was seen of pages, by their keys. */
export type Signs = Record<string, PageSign>;

export function signsOf(documents: SortableDocument[]): Signs {
  return Object.fromEntries(documents.flatMap((d) => d.signs.map((sign) => [keyOf(d.ref, sign.page), sign])));
}

const whole = (stacks: Stack[]) => stacks.filter((s) => s.tiles.length > 0);

/** A new document begins with each page that is said. */
export function splitAt(stacks: Stack[], begins: (tile: Tile, index: number) => boolean): Stack[] {
  return stacks.flatMap((stack) => {
    const parts: Stack[] = [];
    stack.tiles.forEach((tile, i) => {
      if (i === 0) parts.push({ ...stack, tiles: [tile] });
      else if (begins(tile, i)) parts.push({ key: ++next, known: NOTHING, tiles: [tile] });
      else parts.at(-1)!.tiles.push(tile);
    });
    return parts;
  });
}

const leftOut = (stacks: Stack[], out: (tile: Tile) => boolean) =>
  stacks.map((s) => ({ ...s, tiles: s.tiles.map((t) => (out(t) ? { ...t, left_out: true } : t)) }));

/** Behind each separator sheet a document begins, with what the sheet says of it; the sheets are left out. */
export function atSeparators(stacks: Stack[], signs: Signs): Stack[] {
  const sheet = (tile: Tile | undefined) => (tile ? (signs[tile.key]?.separator ?? null) : null);
  const parts = stacks.flatMap((stack) => splitAt([stack], (tile, i) => sheet(tile) !== null && sheet(stack.tiles[i - 1]) === null));
  // Of several sheets in a row the last is meant.
  const known = parts.map((stack) => ({ ...stack, known: stack.tiles.map(sheet).findLast((said) => said !== null) ?? stack.known }));
  return joinEmpty(leftOut(known, (t) => sheet(t) !== null));
}

/** A blank page ends a document, and is left out of it. */
export function atBlanks(stacks: Stack[], signs: Signs): Stack[] {
  const blank = (tile: Tile | undefined) => tile !== undefined && (signs[tile.key]?.blank ?? false);
  const parts = stacks.flatMap((stack) => splitAt([stack], (tile, i) => !blank(tile) && blank(stack.tiles[i - 1])));
  return joinEmpty(leaveOutBlanks(parts, signs));
}

export function leaveOutBlanks(stacks: Stack[], signs: Signs): Stack[] {
  return leftOut(stacks, (t) => signs[t.key]?.blank ?? false);
}

/** A document begins with every so many pages. */
export function everyPages(stacks: Stack[], count: number): Stack[] {
  return count < 1 ? stacks : splitAt(stacks, (_, i) => i % count === 0);
}

/** Pages of which none is kept go to the end of the document before them; at the beginning, to the one behind them. */
function joinEmpty(stacks: Stack[]): Stack[] {
  const done: Stack[] = [];
  for (const stack of stacks) {
    const last = done.at(-1);
    const isEmpty = stack.tiles.every((t) => t.left_out);
    if (last && (isEmpty || last.tiles.every((t) => t.left_out)))
      done[done.length - 1] = { ...(isEmpty ? last : stack), tiles: [...last.tiles, ...stack.tiles] };
    else done.push(stack);
  }
  return done;
}

/** The document at a place goes with the one before it. */
export function joinWithPrevious(stacks: Stack[], index: number): Stack[] {
  if (index < 1) return stacks;
  const joined = { ...stacks[index - 1]!, tiles: [...stacks[index - 1]!.tiles, ...stacks[index]!.tiles] };
  return stacks.toSpliced(index - 1, 2, joined);
}

export function change(stacks: Stack[], keys: string[], by: (tile: Tile) => Tile): Stack[] {
  return stacks.map((s) =>
    s.tiles.some((t) => keys.includes(t.key)) ? { ...s, tiles: s.tiles.map((t) => (keys.includes(t.key) ? by(t) : t)) } : s,
  );
}

/** Pages are put before the page at a place, in the order they have; behind all of a document where there is none. */
export function moveTo(stacks: Stack[], keys: string[], to: Place): Stack[] {
  const moved = stacks.flatMap((s) => s.tiles).filter((t) => keys.includes(t.key));
  const target = stacks[to.stack];
  if (!target || moved.length === 0) return stacks;
  // The first page from there on that stays.
  const before = target.tiles.slice(to.tile).find((t) => !keys.includes(t.key));
  return whole(
    stacks.map((s) => {
      const rest = s.tiles.filter((t) => !keys.includes(t.key));
      if (s !== target) return rest.length === s.tiles.length ? s : { ...s, tiles: rest };
      const at = before ? rest.indexOf(before) : rest.length;
      return { ...s, tiles: rest.toSpliced(at, 0, ...moved) };
    }),
  );
}

/** A page one place earlier or later; over the edge of a document it goes into the next. */
export function moveBy(stacks: Stack[], key: string, by: 1 | -1): Stack[] {
  const stack = stacks.findIndex((s) => s.tiles.some((t) => t.key === key));
  const tile = stacks[stack]!.tiles.findIndex((t) => t.key === key);
  if (by === -1) {
    if (tile > 0) return moveTo(stacks, [key], { stack, tile: tile - 1 });
    return stack > 0 ? moveTo(stacks, [key], { stack: stack - 1, tile: stacks[stack - 1]!.tiles.length }) : stacks;
  }
  if (tile < stacks[stack]!.tiles.length - 1) return moveTo(stacks, [key], { stack, tile: tile + 2 });
  return stack < stacks.length - 1 ? moveTo(stacks, [key], { stack: stack + 1, tile: 0 }) : stacks;
}

export function placeOf(stacks: Stack[], key: string): Place {
  const stack = stacks.findIndex((s) => s.tiles.some((t) => t.key === key));
  return stack < 0 ? { stack: 0, tile: 0 } : { stack, tile: stacks[stack]!.tiles.findIndex((t) => t.key === key) };
}
