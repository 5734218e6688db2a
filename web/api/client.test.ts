import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { api, ApiError, messageOf } from './client';

const fetched = vi.fn();
beforeEach(() => {
  vi.stubGlobal('fetch', fetched);
  vi.stubGlobal('document', { cookie: 'other=1; XSRF-TOKEN=a%3Db' });
});
afterEach(() => {
  vi.unstubAllGlobals();
  fetched.mockReset();
});

const json = (body: unknown, status = 200) => new Response(JSON.stringify(body), { status });

/** An answer that comes in pieces, cut wherever the network cuts. */
function streamed(...pieces: string[]) {
  const bytes = new TextEncoder();
  return new Response(
    new ReadableStream({
      start(controller) {
        for (const piece of pieces) controller.enqueue(bytes.encode(piece));
        controller.close();
      },
    }),
  );
}

describe('a call', () => {
  it('goes with its body as JSON and the token from the cookie', async () => {
    fetched.mockResolvedValue(json({ cql: 'x' }));
    await expect(api.criterion('grade', 'is', ['a'])).resolves.toEqual({ cql: 'x' });
    const [url, init] = fetched.mock.calls[0]!;
    expect(url).toBe('/api/search/criterion');
    expect(init).toMatchObject({ method: 'POST', body: '{"field":"grade","relation":"is","values":["a"]}' });
    expect(init.headers).toMatchObject({ 'X-XSRF-TOKEN': 'a=b', 'Content-Type': 'application/json' });
  });

  it('sends files as a form, whose type the browser sets', async () => {
    fetched.mockResolvedValue(json({}));
    await api.upload(new File(['x'], 'a.txt'), 'works');
    const [, init] = fetched.mock.calls[0]!;
    expect(init.body.get('library')).toBe('works');
    expect(init.headers).not.toHaveProperty('Content-Type');
  });

  it('writes names into addresses so that they stay one part', async () => {
    fetched.mockImplementation(async () => json({}));
    await api.document('D/1?x');
    await api.document('D-1', 3);
    await api.terms('a b', true, { q: 'x', codes: [], beside: null, retired: true });
    expect(fetched.mock.calls.map(([url]) => url)).toEqual([
      '/api/documents/D%2F1%3Fx',
      '/api/documents/D-1?version=3',
      '/api/design/vocabularies/a%20b/terms?q=x&codes%5B%5D=&retired=1',
    ]);
    expect(api.fileUrl('D-1', 2, true, 'redacted')).toBe('/api/documents/D-1/file?version=2&download=1&form=redacted');
    expect(api.fileUrl('D-1', 2)).toBe('/api/documents/D-1/file?version=2');
  });

  it('has nothing where nothing comes back', async () => {
    fetched.mockResolvedValue(new Response(null, { status: 204 }));
    await expect(api.signOut()).resolves.toBeUndefined();
  });
});

describe('a call that fails', () => {
  it('tells what the server says', async () => {
    fetched.mockResolvedValue(
      json({ error: { code: 'stale', message: 'Somebody was first.', fields: { a: 'x' }, current: { b: 1 } } }, 409),
    );
    const fault = await api.desk().catch((error: unknown) => error);
    expect(fault).toBeInstanceOf(ApiError);
    expect(fault).toMatchObject({ status: 409, code: 'stale', message: 'Somebody was first.', fields: { a: 'x' }, current: { b: 1 } });
  });

  it('says something of answers that are none of ours', async () => {
    fetched.mockResolvedValue(new Response('<html>', { status: 502 }));
    await expect(api.desk()).rejects.toMatchObject({ status: 502, code: 'fault', fields: {}, suggestion: null });
  });

  it('says that the server cannot be reached, but not of what was broken off', async () => {
    fetched.mockRejectedValueOnce(new TypeError('Failed to fetch'));
    await expect(api.desk()).rejects.toMatchObject({ code: 'offline' });
    fetched.mockRejectedValueOnce(new DOMException('x', 'AbortError'));
    await expect(api.desk()).rejects.toBeInstanceOf(DOMException);
  });

  it('is put into words', () => {
    expect(messageOf(new ApiError(422, 'refused', 'Not so.'), 'otherwise')).toBe('Not so.');
    expect(messageOf('odd', 'otherwise')).toBe('otherwise');
  });
});

describe('an answer in parts', () => {
  const found = { total: 1, rows: [] };

  it('gives what was found before the facets, wherever the lines are cut', async () => {
    const whole = `${JSON.stringify(found)}\n${JSON.stringify({ facets: [], took_ms: 2 })}\n`;
    for (let cut = 1; cut < whole.length; cut += 3) {
      fetched.mockResolvedValue(streamed(whole.slice(0, cut), whole.slice(cut)));
      const take = vi.fn();
      const answer = await api.searchInParts({} as never, new AbortController().signal, take);
      expect(take).toHaveBeenCalledExactlyOnceWith(found);
      expect(answer).toMatchObject({ ...found, facets: [] });
    }
  });

  it('is a fault when the second part never comes, and what was found stays', async () => {
    fetched.mockResolvedValue(streamed(`${JSON.stringify(found)}\n`));
    const take = vi.fn();
    await expect(api.searchInParts({} as never, new AbortController().signal, take)).rejects.toMatchObject({ code: 'fault' });
    expect(take).toHaveBeenCalledOnce();
  });

  it('is refused like any other', async () => {
    fetched.mockResolvedValue(json({ error: { code: 'query', message: 'Not read.', suggestion: 'gate' } }, 422));
    await expect(api.searchInParts({} as never, new AbortController().signal, vi.fn())).rejects.toMatchObject({ suggestion: 'gate' });
  });
});
