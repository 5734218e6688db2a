/** What stands together by a key, run by run in its order. */
export function runs<T>(all: readonly T[], keyOf: (one: T) => string): { key: string; of: T[] }[] {
  const found: { key: string; of: T[] }[] = [];
  for (const one of all) {
    const key = keyOf(one);
    const last = found.at(-1);
    if (last?.key === key) last.of.push(one);
    else found.push({ key, of: [one] });
  }
  return found;
}
