/** A code made of a name: small letters, digits and `_`. */
export function codeOf(name: string): string {
  return name
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '_')
    .replace(/^[_0-9]+|_+$/g, '')
    .slice(0, 40);
}

/** A code that is not taken yet: the same, or with the first number behind it that is free. */
export function freeCode(code: string, taken: string[]): string {
  let free = code;
  for (let number = 2; taken.includes(free); number++) free = `${code}_${number}`;
  return free;
}

/** A term from a line of text, with the names of the values under which it may be chosen. */
export interface WrittenTerm {
  code: string;
  label: string;
  under: string[];
}

/**
 * Terms of a vocabulary from lines of text: a label each, what appears twice only once.
 *
 * @param isDependent whether a colon is followed by what the term may be chosen under, separated with commas
 */
export function termsOf(lines: string, isDependent = false): WrittenTerm[] {
  const terms: WrittenTerm[] = [];
  for (const line of lines.split('\n')) {
    const at = isDependent ? line.indexOf(':') : -1;
    const label = (at < 0 ? line : line.slice(0, at)).trim();
    if (label === '' || terms.some((t) => t.label === label)) continue;
    const code = freeCode(
      codeOf(label) || 'term',
      terms.map((t) => t.code),
    );
    const under = at < 0 ? [] : line.slice(at + 1).split(',');
    terms.push({ code, label, under: under.map((u) => u.trim()).filter(Boolean) });
  }
  return terms;
}
