import fc from 'fast-check';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { writeAs } from '@/state/written.svelte';
import { bytes, count, moment, plural } from './format';

afterEach(() => {
  vi.useRealTimers();
  writeAs({});
});

describe('numbers', () => {
  it('have a narrow space that does not break between thousands, and nothing else changed', () => {
    fc.assert(
      fc.property(fc.nat({ max: 2_000_000_000 }), (n) => {
        const shown = count(n);
        expect(shown.replaceAll('\u202f', '')).toBe(String(n));
        expect(shown.split('\u202f').slice(1)).toSatisfy((groups: string[]) => groups.every((group) => group.length === 3));
      }),
    );
    expect(count(1_939)).toBe('1\u202f939');
    expect(count(999)).toBe('999');
  });

  it('have their word in one or many', () => {
    expect([0, 1, 2000].map((n) => plural(n, 'document', 'documents'))).toEqual(['0 documents', '1 document', '2\u202f000 documents']);
  });

  it('of bytes are told in the unit that fits', () => {
    expect([0, 999, 1000, 1499, 999_499, 1_000_000, 12_340_000].map(bytes)).toEqual([
      '0 bytes',
      '999 bytes',
      '1 kB',
      '1 kB',
      '999 kB',
      '1.0 MB',
      '12.3 MB',
    ]);
  });
});

describe('moments', () => {
  it('are told by their day, and today by the time', () => {
    vi.useFakeTimers({ now: new Date('2026-03-14T12:00:00Z') });
    expect(moment('2024-03-04T09:14:00Z')).toBe('4 Mar 2024');
    expect(moment('2024-03-04 09:14:00')).toBe('4 Mar 2024');
    expect(moment('2026-03-14T09:14:00Z')).toMatch(/^today \d\d:14$/);
    expect(moment(null)).toBe('');
    expect(moment('')).toBe('');
  });
});

describe('the form that a person has chosen', () => {
  it('holds for days, thousands and decimals', () => {
    const at = '2024-03-04T10:00:00Z';
    const seen = (['words', 'slashes', 'dots', 'iso'] as const).map((dates) => (writeAs({ dates }), moment(at)));
    expect(seen).toEqual(['4 Mar 2024', '04/03/2024', '04.03.2024', '2024-03-04']);
    const numbers = (['point', 'comma', 'commas_and_point'] as const).map(
      (n) => (writeAs({ numbers: n }), [count(12_345), bytes(1_500_000)]),
    );
    expect(numbers).toEqual([
      ['12\u202f345', '1.5 MB'],
      ['12\u202f345', '1,5 MB'],
      ['12,345', '1.5 MB'],
    ]);
  });

  it('is kept for today', () => {
    vi.useFakeTimers({ now: new Date(2024, 2, 4, 12, 0) });
    writeAs({ dates: 'iso' });
    expect(moment(new Date(2024, 2, 4, 9, 5).toISOString())).toBe('today 09:05');
  });
});
