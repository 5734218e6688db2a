import type { ReadingRule } from '@/api/types';

type Words = ReadingRule['words'];

/** A word list as it is written: a value a line, its other spellings behind an equals sign, parted by semicolons. */
export function wordsOf(text: string): Words {
  return text
    .split('\n')
    .map((line) => {
      const at = line.indexOf('=');
      const value = (at < 0 ? line : line.slice(0, at)).trim();
      const spellings = at < 0 ? [] : line.slice(at + 1).split(';');
      return { value, spellings: spellings.map((s) => s.trim()).filter((s) => s !== '') };
    })
    .filter((entry) => entry.value !== '');
}

export function textOf(words: Words): string {
  return words.map(({ value, spellings }) => (spellings.length > 0 ? `${value} = ${spellings.join('; ')}` : value)).join('\n');
}

/** A word list out of a table (RFC 4180, with commas, semicolons or tabs): in each row a value, and its other spellings behind it. */
export function wordsOfTable(text: string): Words {
  const plain = text.replace(/^\uFEFF/, '');
  const first = plain.split('\n', 1)[0]!;
  const between = ['\t', ';', ','].find((sign) => first.includes(sign)) ?? ',';
  const rows: string[][] = [[]];
  const cell = new RegExp(`("(?:[^"]|"")*"|[^${between}\\r\\n]*)(${between}|\\r?\\n|$)`, 'gy');
  for (const [, written, behind] of plain.matchAll(cell)) {
    rows.at(-1)!.push((written!.startsWith('"') ? written!.slice(1, -1).replaceAll('""', '"') : written!).trim());
    if (behind === '') break;
    if (behind !== between) rows.push([]);
  }
  return rows
    .map(([value = '', ...spellings]) => ({ value, spellings: [...new Set(spellings)].filter((s) => s !== '' && s !== value) }))
    .filter((entry) => entry.value !== '');
}

/** Patterns that many offices need, to begin with. */
export const PATTERNS = [
  { label: 'E-mail address', pattern: '[\\w.+-]+@[\\w-]+(?:\\.[\\w-]+)+' },
  { label: 'Telephone number', pattern: '\\+?\\d[\\d ()\\/-]{6,}\\d' },
  {
    label: 'Firm or body',
    pattern:
      '\\b\\p{Lu}[\\p{L}’-]*(?: (?:&|of|and|\\p{Lu}[\\p{L}’-]*)){0,4} (?:Ltd|Limited|Trust|Company|Council|Sons|Office|Board|Society)\\b',
  },
  { label: 'Reference like AB-1234-5', pattern: '\\b[A-Z]{2}-\\d{4}-[A-Z\\d]\\b' },
  { label: 'Whatever follows on its line', pattern: '^Re: (?<value>.+)$' },
];
