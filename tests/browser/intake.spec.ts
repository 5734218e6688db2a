import { expect, test } from '@playwright/test';
import { accessible, session, total } from './people';

test.use({ storageState: session('clerk') });

const text = (name: string, contents: string) => ({ name, mimeType: 'text/plain', buffer: Buffer.from(contents) });

// What a try that failed left waiting is no part of the next one.
test.beforeEach(async ({ page }) => {
  const cookies = await page.context().cookies();
  const headers = { 'X-XSRF-TOKEN': decodeURIComponent(cookies.find((c) => c.name === 'XSRF-TOKEN')!.value), Accept: 'application/json' };
  const { documents } = (await (await page.request.get('/api/intake', { headers })).json()) as { documents: { ref: string }[] };
  if (documents.length > 0) await page.request.post('/api/intake/discard', { headers, data: { documents: documents.map((d) => d.ref) } });
});

test('brings files in, indexes them by keyboard, files them, and they are found at once', async ({ page }, { retry }) => {
  // A word that no earlier try has filed.
  const word = `wobbling${'er'.repeat(retry)}`;
  await page.goto('/intake');
  await page.getByLabel('Library for new files').selectOption('Waterways');
  await page
    .getByLabel('Files', { exact: true })
    .setInputFiles([
      text('closure-a.txt', `The ${word} penstock at Cray Wharf`),
      text('closure-b.txt', `A second ${word} penstock`),
      text('empty.pdf', ''),
    ]);
  const waiting = page.getByRole('region', { name: 'Waiting' });
  await expect(waiting.getByRole('heading', { name: 'Waiting 3' })).toBeVisible();
  await expect(waiting.getByRole('listitem').filter({ hasText: 'empty.pdf' })).toContainText('no text');
  await accessible(page);

  await waiting.getByRole('button', { name: /^closure-a/ }).click();
  await expect(page.getByRole('article', { name: 'Page 1' })).toContainText(`${word} penstock at Cray Wharf`);
  await page.getByRole('checkbox', { name: 'Select closure-b.txt' }).check();

  await page.getByRole('combobox', { name: 'Document type' }).focus();
  await page.keyboard.type('stopp');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  await page.getByLabel(/^Document date/).fill('31 Feb 2024');
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('alert').filter({ hasText: 'that month has no day 31' })).toBeVisible();
  await expect(page.getByRole('alert').filter({ hasText: 'Waterway is required' })).toBeVisible();

  await page.getByLabel(/^Document date/).fill('1 Mar 2024');
  await page.getByRole('combobox', { name: /^Waterway/ }).fill('cray');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Control+Enter');
  await expect(page.getByText('2 documents filed.')).toBeVisible();
  await expect(waiting.getByRole('heading', { name: 'Waiting 1' })).toBeVisible();

  await page.goto(`/find?q=%22${word}+penstock%22`);
  await total(page, 2);
});

test('what arrives while the list is still being read stays in it', async ({ page }) => {
  let arrived = () => {};
  const upload = new Promise<void>((resolve) => (arrived = resolve));
  let read = 0;
  // The list as it was before the file came is answered after it.
  await page.route('**/api/intake', async (route) => {
    if (route.request().method() !== 'GET' || ++read > 1) return route.fallback();
    const before = await route.fetch();
    await upload;
    await route.fulfill({ response: before });
  });
  page.on('response', (response) => {
    if (response.url().endsWith('/api/intake') && response.request().method() === 'POST') arrived();
  });
  await page.goto('/intake');
  await page.getByLabel('Files', { exact: true }).setInputFiles([text('early.txt', 'early')]);
  const entry = page.getByRole('region', { name: 'Waiting' }).getByRole('button', { name: /^early/ });
  await expect.poll(() => read).toBeGreaterThan(1);
  await expect(entry).toBeVisible();
  await entry.click();
  await page.getByRole('button', { name: 'Remove from intake' }).click();
  await expect(entry).toHaveCount(0);
});

test('a discard is taken back, and a changed sheet is kept', async ({ page }) => {
  await page.goto('/intake');
  await page.getByLabel('Files', { exact: true }).setInputFiles([text('to-discard.txt', 'x')]);
  const entry = page.getByRole('region', { name: 'Waiting' }).getByRole('button', { name: /^to-discard/ });
  await entry.click();
  await page.getByRole('button', { name: 'Remove from intake' }).click();
  await expect(entry).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await expect(entry).toBeVisible();
  await page.getByRole('combobox', { name: 'Document type' }).fill('weed');
  await page.getByRole('option', { name: 'Weed and silt report' }).click();
  await page.getByLabel(/^Document date/).fill('2024-09');
  await page.reload();
  await expect(page.getByLabel(/^Document date/)).toHaveValue('2024-09');
});

test('changes the index sheet of a filed document', async ({ page }) => {
  await page.goto('/find?c=type+%3D%3D+dredging_survey&c=silt_depth+%3D%3D+%22%22');
  await page.getByRole('row').nth(1).click();
  const pane = page.getByRole('region', { name: 'Reading pane' });
  await pane.getByRole('button', { name: 'Index sheet' }).click();
  const before = Number(await page.getByTestId('total').textContent());
  await pane.getByRole('button', { name: 'Change', exact: true }).click();
  await pane.getByLabel(/^Silt depth/).fill('deep');
  await pane.getByRole('button', { name: 'Save' }).click();
  await expect(pane.getByRole('alert')).toContainText('“deep” is not a number');
  await pane.getByLabel(/^Silt depth/).fill('0.35');
  await pane.getByRole('button', { name: 'Save' }).click();
  await expect(pane.getByText('0.35 m')).toBeVisible();
  await page.reload();
  await total(page, before - 1);
});
