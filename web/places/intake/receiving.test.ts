import { api, ApiError } from '@/api/client';
import type { IntakeAnswer, Person, WaitingDocument } from '@/api/types';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';

const store: Record<string, string> = {};
vi.stubGlobal('localStorage', {
  getItem: (key: string) => store[key] ?? null,
  setItem: (key: string, text: string) => (store[key] = text),
  removeItem: (key: string) => delete store[key],
});
const { app } = await import('@/state/app.svelte');
const { Waiting } = await import('./waiting.svelte');

/** What the server has taken in, and what is on its way to it. */
let there: string[] = [];
let coming: Record<string, { arrives: () => void; fails: (fault: unknown) => void }> = {};
const brought = (...names: string[]) => names.map((name) => ({ file: new File(['x'], name), path: '' }));
const names = (waiting: { documents: WaitingDocument[] }) => waiting.documents.map((d) => d.file_name);

beforeEach(() => {
  vi.useFakeTimers({ toFake: ['performance'] });
  vi.advanceTimersByTime(5_000);
  there = [];
  coming = {};
  app.person = { limits: { file_bytes: 100 } } as unknown as Person;
  vi.spyOn(api, 'upload').mockImplementation(
    (file) =>
      new Promise((done, fail) => {
        coming[file.name] = {
          arrives: () => {
            there.push(file.name);
            done({ ref: file.name } as never);
          },
          fails: fail,
        };
      }),
  );
  vi.spyOn(api, 'intake').mockImplementation(async () => {
    const documents = there.map((name) => ({ ref: name, file_name: name, values: {}, lacks: [], type: null }));
    return { stamp: `${there.length}`, total: there.length, documents, sources: [] } as unknown as IntakeAnswer;
  });
});
afterEach(() => {
  vi.useRealTimers();
  vi.restoreAllMocks();
});

it('shows what has come in while the rest is still on its way', async () => {
  const waiting = new Waiting();
  const all = waiting.receive(brought('a', 'b', 'c', 'd', 'e'), 'waterways');
  expect(Object.keys(coming)).toEqual(['a', 'b', 'c']);
  coming.a!.arrives();
  await vi.waitFor(() => expect(names(waiting)).toEqual(['a']));
  expect(waiting.coming.map((c) => c.name)).toEqual(['b', 'c', 'd', 'e']);
  for (const name of ['b', 'c', 'd', 'e']) {
    await vi.waitFor(() => expect(coming[name]).toBeDefined());
    coming[name]!.arrives();
  }
  expect(await all).toEqual(['a', 'b', 'c', 'd', 'e']);
  expect(names(waiting)).toEqual(['a', 'b', 'c', 'd', 'e']);
  expect(waiting.coming).toEqual([]);
});

it('says which did not come in, and why, and gives back only what did', async () => {
  const waiting = new Waiting();
  const large = { file: new File(['x'.repeat(101)], 'large'), path: '' };
  const all = waiting.receive([...brought('a', 'b'), large], 'waterways');
  coming.a!.fails(new ApiError(422, 'refused', 'No room on the disk.'));
  coming.b!.arrives();
  expect(await all).toEqual(['b']);
  expect(waiting.coming.map((c) => c.fault)).toEqual(['No room on the disk.', expect.stringContaining('larger than')]);
});
