import { beforeEach, describe, expect, it, vi } from 'vitest';

const store = new Map<string, string>();
const root = { dataset: {} as Record<string, string> };
vi.stubGlobal('localStorage', {
  getItem: (k: string) => store.get(k) ?? null,
  setItem: (k: string, v: string) => void store.set(k, v),
  removeItem: (k: string) => void store.delete(k),
});
vi.stubGlobal('document', { documentElement: root });
const fresh = async () => {
  vi.resetModules();
  return (await import('./theme.svelte')).theme;
};
beforeEach(() => store.clear());

describe('the theme', () => {
  it('is that of the computer until another is chosen, and is kept', async () => {
    const theme = await fresh();
    expect([theme.choice, root.dataset.theme]).toEqual(['auto', 'auto']);
    theme.choose('dark');
    expect(root.dataset.theme).toBe('dark');
    expect((await fresh()).choice).toBe('dark');
    (await fresh()).choose('auto');
    expect(store.has('theme')).toBe(false);
  });

  it('goes round by one button', async () => {
    const theme = await fresh();
    const seen = Array.from({ length: 4 }, () => (theme.next(), root.dataset.theme));
    expect(seen).toEqual(['light', 'dark', 'auto', 'light']);
  });
});
