import { expect, test } from '@playwright/test';
import { execFile } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { accessible, session } from './people';

/** What other programs are served, asked for by programs that we did not write. */
const run = promisify(execFile);
const isThere = async (program: string) =>
  run('which', [program]).then(
    () => true,
    () => false,
  );

test.describe.configure({ mode: 'serial' });
test.use({ storageState: session('admin') });

test('the administrator says whom programs ask as without a token', async ({ page, baseURL }) => {
  await page.goto('/office/served');
  await page.getByLabel('Without a token they see what this group sees').selectOption('');
  const save = page.getByRole('button', { name: 'Save' });
  if (await save.isEnabled()) await save.click();
  await expect(save).toBeDisabled();
  expect((await page.request.get('/sru?query=lock')).status()).toBe(401);
  expect((await page.request.get('/oai?verb=Identify')).status()).toBe(401);
  await page.getByLabel('Without a token they see what this group sees').selectOption('Everyone');
  await accessible(page);
  await save.press('Enter');
  await expect(page.getByText('Saved. It is in force at once.')).toBeVisible();
  expect((await page.request.get('/sru?query=lock')).status()).toBe(200);
  await expect(page.getByText(`${baseURL}/sru`)).toBeVisible();
});

test('YAZ searches, sorts, pages and scans by SRU', async ({ baseURL, page }) => {
  test.skip(!(await isThere('zoomsh')), 'yaz is not there');
  const sru = `${baseURL}/sru`;
  const total = /<numberOfRecords>(\d+)</.exec(await (await page.request.get('/sru?query=dredging&maximumRecords=0')).text())![1]!;
  const { stdout } = await run('zoomsh', [
    'set preferredRecordSyntax xml',
    'set schema dc',
    'set sru get',
    `connect ${sru}`,
    'search cql:dredging',
    'show 0 2',
    'quit',
  ]);
  expect(stdout).toContain(`${total} hits`);
  expect(stdout.match(/<dc:title>/g)).toHaveLength(2);

  const commands = join(mkdtempSync(join(tmpdir(), 'yaz-')), 'commands');
  writeFileSync(commands, `sru get 1.1\nopen ${sru}\nquerytype cql\nschema mods\nfind dredging\nshow 1+1\nscan dc.title=lock\nquit\n`);
  const asked = await run('yaz-client', ['-f', commands]);
  expect(asked.stdout).toContain(`Number of hits: ${total}`);
  expect(asked.stdout).toContain('<titleInfo>');
  expect(asked.stdout).toMatch(/^lock: \d+$/m);
});

test('HTTP::OAI of Perl harvests everything that the group sees, and xmllint finds it in order', async ({ baseURL, page }) => {
  test.skip(!(await isThere('oai_pmh')) || !(await isThere('xmllint')), 'libhttp-oai-perl or xmllint is not there');
  const all = Number(
    /<numberOfRecords>(\d+)</.exec(await (await page.request.get('/sru?query=cql.allRecords%3D1&maximumRecords=0')).text())![1],
  );
  const { stdout } = await run('perl', ['tests/harvest.pl', `${baseURL}/oai`, 'oai_dc'], { maxBuffer: 50_000_000 });
  const records = stdout.split('\n').filter((line) => line.startsWith('record '));
  expect(new Set(records).size).toBe(records.length);
  const there = records.filter((line) => line.endsWith(' there')).length;
  // Documents come and go while the other tests run.
  expect(Math.abs(there - all)).toBeLessThan(100);
  expect(there).toBeGreaterThan(1000);
  const file = join(mkdtempSync(join(tmpdir(), 'oai-')), 'answer.xml');
  for (const asked of ['Identify', 'ListSets', 'ListRecords&metadataPrefix=oai_dc', 'ListIdentifiers&metadataPrefix=mods', 'Nothing']) {
    writeFileSync(file, await (await page.request.get(`/oai?verb=${asked}`)).text());
    await run('xmllint', ['--nonet', '--noout', '--schema', 'tests/fixtures/oai/all.xsd', file]);
  }
});

test('somebody makes a feed of a search, which a program reads without signing in, and stops it', async ({
  browser,
  baseURL,
  playwright,
}) => {
  const context = await browser.newContext({ storageState: session('reader'), baseURL });
  const page = await context.newPage();
  const name = `Dredged ${Date.now() % 100_000}`;
  await page.goto('/find?q=dredging');
  await page.getByRole('button', { name: 'Saved searches' }).click();
  await page.getByLabel('Save this search as').fill(name);
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: `“${name}”` }).click();
  await page.getByRole('button', { name: `Feed of ${name}` }).press('Enter');
  const feed = page.getByRole('group', { name: `Feed of ${name}` });
  await feed.getByRole('button', { name: 'Make a feed' }).press('Enter');
  const address = await feed.getByLabel('Atom').inputValue();
  await accessible(page);
  const program = await playwright.request.newContext();
  const answer = await program.get(address);
  expect(answer.headers()['content-type']).toContain('application/atom+xml');
  expect((await answer.text()).match(/<entry>/g)!.length).toBeGreaterThan(10);
  expect((await program.get(address, { headers: { 'If-None-Match': answer.headers()['etag']! } })).status()).toBe(304);
  await feed.getByRole('button', { name: 'Stop the feed' }).click();
  await expect(feed.getByText('A feed reader is told what is new')).toBeVisible();
  expect((await program.get(address)).status()).toBe(404);
  await page.getByRole('button', { name: `Remove the search ${name}` }).click();
  await program.dispose();
  await context.close();
});

test('the examples of docs/api.md do what they say', async ({ browser, baseURL }) => {
  const context = await browser.newContext({ storageState: session('clerk'), baseURL });
  const page = await context.newPage();
  await page.goto('/desk');
  const token = decodeURIComponent((await context.cookies()).find((c) => c.name === 'XSRF-TOKEN')!.value);
  const made = await page.request.post('/api/me/tokens', {
    headers: { 'X-XSRF-TOKEN': token, Accept: 'application/json' },
    data: { name: `examples ${Date.now()}`, rights: ['read', 'download', 'file', 'change'], days: 1 },
  });
  const { token: secret } = (await made.json()) as { token: string };
  await context.close();
  const examples = [...readFileSync('docs/api.md', 'utf8').matchAll(/```sh\n([\s\S]*?)```/g)].map((m) => m[1]!);
  expect(examples).toHaveLength(21);
  const script = examples.map((of, i) => `echo "== ${i + 1}"\n${of}`).join('');
  const folder = mkdtempSync(join(tmpdir(), 'api-'));
  // One that says nothing, or fails, ends it: each is a pipe that finds what its words promise.
  const { stdout } = await run('bash', ['-e', '-o', 'pipefail', '-c', script], {
    cwd: folder,
    env: { ...process.env, B: baseURL!, T: secret },
  });
  const said = stdout.split(/== \d+\n/).slice(1);
  expect(said).toHaveLength(21);
  for (const [i, of] of said.entries()) expect(of.trim(), `example ${i + 1}`).not.toBe('');
  expect(said[8]!.trim()).toBe('304');
  expect(said[17]!.trim().split('\n')).toEqual(['412', 'urn:brenvic:problem:stale']);
  expect(said[13]!.trim()).toMatch(/^D-\d+-/);
});

test('somebody has a program told, by keyboard; the office sees it and removes it', async ({ browser, baseURL, page }) => {
  const context = await browser.newContext({ storageState: session('clerk'), baseURL });
  const mine = await context.newPage();
  const name = `Catalogue ${Date.now()}`;
  await mine.goto('/me');
  await mine.getByRole('button', { name: 'New webhook…' }).press('Enter');
  await expect(mine.getByLabel('What it is for')).toBeFocused();
  await mine.keyboard.type(name);
  await mine.keyboard.press('Tab');
  await mine.keyboard.type('http://127.0.0.1/told');
  await mine.keyboard.press('Enter');
  await expect(mine.getByText('Nothing is sent to this machine, or into a private network.')).toBeVisible();
  await mine.getByLabel('Address of the program').fill('https://catalogue.example/told');
  await accessible(mine);
  await mine.keyboard.press('Enter');
  await expect(mine.getByText('It is shown only now.')).toBeVisible();
  await mine.getByRole('button', { name: `Try ${name}` }).press('Enter');
  await expect(mine.getByText('It was not heard: it cannot be reached')).toBeVisible();

  await page.goto('/office/served');
  await page.getByRole('button', { name: new RegExp(`Remove ${name} of`) }).press('Enter');
  await expect(page.getByText('It is told nothing more.')).toBeVisible();
  await mine.reload();
  await expect(mine.getByRole('button', { name: 'New webhook…' })).toBeVisible();
  await expect(mine.getByText(name)).toHaveCount(0);
  await context.close();
});
