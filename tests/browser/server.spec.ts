import { expect, test, type Page } from '@playwright/test';
import { readdirSync } from 'node:fs';
import { session } from './people';

test.use({ storageState: session('librarian') });

async function firstFile(page: Page) {
  const token = (await page.context().cookies()).find((c) => c.name === 'XSRF-TOKEN')!.value;
  const found = await page.request.post('/api/search', {
    data: { words: 'lock', limit: 1, rows_only: true },
    headers: { Accept: 'application/json', 'X-XSRF-TOKEN': decodeURIComponent(token) },
  });
  const { rows } = (await found.json()) as { rows: { ref: string }[] };
  return `/api/documents/${rows[0]!.ref}/file`;
}

test('files of documents are sent in parts, and with all that the application says of them', async ({ page }) => {
  const file = await firstFile(page);
  const whole = await page.request.get(file);
  expect(whole.headers()).toMatchObject({
    'content-security-policy': 'sandbox',
    'x-content-type-options': 'nosniff',
    'cache-control': 'no-store, private',
  });
  const part = await page.request.get(file, { headers: { Range: 'bytes=2-11' } });
  expect(part.status()).toBe(206);
  expect(await part.body()).toEqual((await whole.body()).subarray(2, 12));
});

test('nobody is sent what they name themselves', async ({ page }) => {
  const file = await firstFile(page);
  const whole = await (await page.request.get(file)).body();
  const misled = await page.request.get(file, { headers: { 'X-Sendfile-Type': 'X-Sendfile', 'X-Accel-Mapping': '/etc/=/stored-file/' } });
  expect(await misled.body()).toEqual(whole);
  for (const path of ['/stored-file/brenvic.sqlite', '/build/.brenvic', '/build/nothing.js']) {
    expect((await page.request.get(path)).status(), path).toBeGreaterThanOrEqual(400);
  }
  for (const path of ['/.env', '/build/%2e%2e/%2e%2e/.env', '/storage/data/brenvic.sqlite']) {
    expect(await (await page.request.get(path)).text(), path).toContain('<div id="app">');
  }
});

test('what is built is kept by its name and comes compressed; answers do too', async ({ page }) => {
  const script = readdirSync('public/build/assets').find((name) => /^main-.*\.js$/.test(name))!;
  const built = await page.request.get(`/build/assets/${script}`, { headers: { 'Accept-Encoding': 'gzip' } });
  expect(built.headers()).toMatchObject({
    'cache-control': 'public, max-age=31536000, immutable',
    'content-encoding': 'gzip',
    'content-type': 'text/javascript',
  });
  const design = await page.request.get('/api/design', { headers: { Accept: 'application/json', 'Accept-Encoding': 'gzip' } });
  expect(design.headers()['content-encoding']).toBe('gzip');
  // By this name a request is found in the logs; the route is told to the server alone.
  expect(design.headers()['x-request-id']).toMatch(/^[0-9a-f]{32}$/);
  expect(design.headers()['x-route']).toBeUndefined();
});
