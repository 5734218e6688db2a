import { beforeEach, describe, expect, it, vi } from 'vitest';
import { keepRecipients, recipients } from './recipients';

const store = new Map<string, string>();
vi.stubGlobal('localStorage', { getItem: (k: string) => store.get(k) ?? null, setItem: (k: string, v: string) => void store.set(k, v) });
beforeEach(() => store.clear());

describe('recipients', () => {
  it('are kept for each person, the latest first and each once', () => {
    keepRecipients('clerk', 'a@example.org, b@example.org');
    keepRecipients('clerk', ' b@example.org ,, c@example.org');
    keepRecipients('reader', 'z@example.org');
    expect(recipients('clerk')).toEqual(['b@example.org', 'c@example.org', 'a@example.org']);
  });

  it('are the latest twelve, and none when what was kept cannot be read', () => {
    for (let i = 0; i < 20; i++) keepRecipients('clerk', `a${i}@example.org`);
    expect(recipients('clerk')).toHaveLength(12);
    expect(recipients('clerk')[0]).toBe('a19@example.org');
    store.set('brenvic.recipients.clerk', '{');
    expect(recipients('clerk')).toEqual([]);
    store.set('brenvic.recipients.clerk', '{"a":1}');
    expect(recipients('clerk')).toEqual([]);
  });
});
