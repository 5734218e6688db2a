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

/** Patterns that many offices need, to begin with. */
export const PATTERNS = [
  { label: 'E-mail address', pattern: '[\\w.+-]+@[\\w-]+(?:\\.[\\w-]+)+' },
  { label: 'Telephone number', pattern: '\\+?\\d[\\d ()\\/-]{6,}\\d' },
  { label: 'Reference like AB-1234-5', pattern: '\\b[A-Z]{2}-\\d{4}-[A-Z\\d]\\b' },
  { label: 'Whatever follows on its line', pattern: '^Re: (?<value>.+)$' },
];
