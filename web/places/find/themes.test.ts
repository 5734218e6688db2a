import { beforeEach, describe, expect, it, vi } from 'vitest';

const api = vi.hoisted(() => ({ themes: vi.fn() }));
vi.mock('@/api/client', () => ({ api, ApiError: class ApiError extends Error {} }));

const { ResultThemes } = await import('./themes.svelte');
const { ApiError } = (await import('@/api/client')) as unknown as { ApiError: new (message: string) => Error };

const search = { words: 'silt', criteria: [] };
const found = (documents: number) => ({ documents }) as never;

describe('the themes of a result', () => {
  beforeEach(() => {
    api.themes.mockReset();
  });

  it('are asked for only while somebody looks, once for each question', async () => {
    const themes = new ResultThemes();
    await themes.ask('one', search);
    expect(api.themes).not.toHaveBeenCalled();
    themes.open = true;
    api.themes.mockResolvedValue(found(3));
    await themes.ask('one', search);
    await themes.ask('one', search);
    expect(api.themes).toHaveBeenCalledTimes(1);
    expect(themes.found?.documents).toBe(3);
    expect(themes.busy).toBe(false);
  });

  it('are those of the newest question, whatever comes first', async () => {
    const themes = new ResultThemes();
    themes.open = true;
    const give: ((of: never) => void)[] = [];
    api.themes.mockImplementation(() => new Promise((done) => give.push(done)));
    const first = themes.ask('one', search);
    const second = themes.ask('two', search);
    give[1]!(found(2));
    give[0]!(found(1));
    await Promise.all([first, second]);
    expect(themes.found?.documents).toBe(2);
  });

  it('say what is wrong, and can be asked for again', async () => {
    const themes = new ResultThemes();
    themes.open = true;
    api.themes.mockRejectedValueOnce(new ApiError('There is no field “x”.'));
    await themes.ask('one', search);
    expect(themes.fault).toBe('There is no field “x”.');
    api.themes.mockRejectedValueOnce(new Error('away'));
    await themes.ask('one', search);
    expect(themes.fault).toBe('The themes cannot be told. Try again.');
    api.themes.mockResolvedValueOnce(found(4));
    await themes.ask('one', search);
    expect([themes.fault, themes.found?.documents]).toEqual(['', 4]);
  });
});
