/** Joins what two people made of one part of the design: what only one of them changed is taken from them. */

/** Where both changed the same thing in different ways. */
export interface Conflict {
  /** What it is, such as “Gates”, label. */
  what: string;
  mine: string;
  theirs: string;
  /** Where it stands: names of properties, and codes of entries of lists. */
  path: string[];
  value: unknown;
}

type Thing = Record<string, unknown>;
const isThing = (value: unknown): value is Thing => typeof value === 'object' && value !== null && !Array.isArray(value);
/** What people call it. */
const nameOf = (thing: Thing | undefined): string =>
  [thing?.label, thing?.name, thing?.code].find((name): name is string => typeof name === 'string' && name !== '') ?? '';
const isList = (value: unknown): value is Thing[] => Array.isArray(value) && value.every((v) => isThing(v) && typeof v.code === 'string');

/** Whether two values say the same; what is empty and what is not there do. */
export function same(a: unknown, b: unknown): boolean {
  if (a === b || (isEmpty(a) && isEmpty(b))) return true;
  if (Array.isArray(a) && Array.isArray(b)) return a.length === b.length && a.every((v, i) => same(v, b[i]));
  if (isThing(a) && isThing(b)) return [...new Set([...Object.keys(a), ...Object.keys(b)])].every((key) => same(a[key], b[key]));
  return false;
}
const isEmpty = (value: unknown) =>
  value === undefined ||
  value === null ||
  value === '' ||
  value === false ||
  (Array.isArray(value) && value.length === 0) ||
  (isThing(value) && Object.keys(value).length === 0);

function words(value: unknown): string {
  if (isEmpty(value)) return 'nothing';
  if (typeof value === 'boolean') return 'yes';
  if (typeof value === 'string' || typeof value === 'number') return `“${value}”`;
  if (Array.isArray(value)) return value.map((v) => (isThing(v) ? `“${nameOf(v) || '…'}”` : `“${String(v)}”`)).join(', ');
  return Object.entries(value as Thing)
    .filter(([, v]) => !isEmpty(v))
    .map(([key, v]) => `${key.replaceAll('_', ' ')} ${words(v)}`)
    .join(', ');
}

/** Locks and what is made of a part are nothing that people change. */
const PASSED = ['lock_version', 'kept_by', 'may_change', 'term_count', 'is_tree', 'statements', 'unsaid'];

/**
 * The part with the changes of both. Where both changed the same it has mine, and the conflict says what theirs was.
 *
 * @param base what both began from
 */
export function merged<T extends object>(base: T, mine: T, theirs: T): { value: T; conflicts: Conflict[] } {
  const conflicts: Conflict[] = [];
  const value = join(base, mine, theirs, [], '', conflicts) as T;
  return { value, conflicts };
}

function join(base: unknown, mine: unknown, theirs: unknown, path: string[], name: string, conflicts: Conflict[]): unknown {
  if (same(mine, theirs) || same(base, theirs)) return mine;
  if (same(base, mine)) return theirs;
  if (isList(mine) && isList(theirs) && (isList(base) || isEmpty(base)))
    return joinLists((base as Thing[] | undefined) ?? [], mine, theirs, path, conflicts);
  if (isThing(mine) && isThing(theirs)) {
    const from = isThing(base) ? base : {};
    const joined: Thing = {};
    for (const key of new Set([...Object.keys(theirs), ...Object.keys(mine)])) {
      joined[key] = PASSED.includes(key)
        ? (theirs[key] ?? mine[key])
        : join(from[key], mine[key], theirs[key], [...path, key], name, conflicts);
    }
    return joined;
  }
  const what = [name, (path.at(-1) ?? '').replaceAll('_', ' ')].filter(Boolean).join(', ');
  conflicts.push({ what, mine: words(mine), theirs: words(theirs), path, value: theirs });
  return mine;
}

function joinLists(base: Thing[], mine: Thing[], theirs: Thing[], path: string[], conflicts: Conflict[]): Thing[] {
  const by = (list: Thing[]) => new Map(list.map((v) => [v.code as string, v]));
  const [was, my, their] = [by(base), by(mine), by(theirs)];
  const joined = new Map<string, Thing>();
  for (const code of new Set([...my.keys(), ...their.keys()])) {
    const [b, m, t] = [was.get(code), my.get(code), their.get(code)];
    const name = `“${nameOf(m) || nameOf(t) || code}”`;
    if (m && t) joined.set(code, join(b ?? {}, m, t, [...path, code], name, conflicts) as Thing);
    else if (m && (!b || !same(b, m))) {
      joined.set(code, m);
      if (b) conflicts.push({ what: name, mine: words(m), theirs: 'removed', path: [...path, code], value: undefined });
    } else if (t && (!b || !same(b, t))) {
      // They changed what I removed: it stays, and I am told.
      joined.set(code, t);
      if (b) conflicts.push({ what: name, mine: 'removed', theirs: words(t), path: [...path, code], value: t });
    }
  }
  // The order of whoever changed it; what only the other has goes behind what it stood behind there.
  const order = (list: Thing[]) => list.map((v) => v.code as string);
  const iMoved = !same(
    order(base).filter((c) => my.has(c)),
    order(mine).filter((c) => was.has(c)),
  );
  const [first, second] = iMoved ? [order(mine), order(theirs)] : [order(theirs), order(mine)];
  const placed = first.filter((code) => joined.has(code));
  second.forEach((code, i) => {
    if (!joined.has(code) || placed.includes(code)) return;
    const before = second.slice(0, i).findLast((c) => placed.includes(c));
    placed.splice(before === undefined ? 0 : placed.indexOf(before) + 1, 0, code);
  });
  return placed.map((code) => joined.get(code)!);
}

/** Puts theirs in the place of mine, where a conflict was. */
export function settled(part: object, conflict: Conflict): void {
  let at: unknown = part;
  for (const step of conflict.path.slice(0, -1))
    at = Array.isArray(at) ? at.find((v: Thing) => v.code === step) : (at as Thing | undefined)?.[step];
  const last = conflict.path.at(-1)!;
  if (Array.isArray(at)) {
    const i = at.findIndex((v: Thing) => v.code === last);
    if (conflict.value === undefined) at.splice(i, 1);
    else if (i < 0) at.push(conflict.value);
    else at[i] = conflict.value;
  } else if (isThing(at)) at[last] = conflict.value;
}
