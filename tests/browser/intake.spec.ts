import { expect, test } from '@playwright/test';
import { existsSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
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
  // While files go up they are listed above what waits.
  await expect(waiting.getByText('uploading…', { exact: false })).toHaveCount(0);
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
  await page.route(/\/api\/intake(\?.*)?$/, async (route) => {
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

test('a table that comes with files fills in their sheets, and says what it could not', async ({ page }) => {
  await page.goto('/intake');
  await page.getByLabel('Library for new files').selectOption('Waterways');
  const table =
    'file,type,waterway,document_date\nnote-1.txt,stoppage_notice,Sea lock pound,14 March 2024\n' +
    'note-2.txt,Stoppage notice,Nowhere,2024-03\nnote-9.txt,,,2024\n';
  await page
    .getByLabel('Files', { exact: true })
    .setInputFiles([text('note-1.txt', 'one'), text('note-2.txt', 'two'), text('values.csv', table)]);
  const waiting = page.getByRole('region', { name: 'Waiting' });
  await waiting.getByRole('button', { name: 'Fill in their sheets' }).click();
  const report = page.getByRole('dialog', { name: 'Values from “values.csv”' });
  await expect(report).toContainText('2 sheets were filled in.');
  await expect(report.getByRole('row', { name: /note-2/ })).toContainText('Without Waterway');
  await expect(report.getByRole('row', { name: /note-9/ })).toContainText('No waiting file is called so.');
  await accessible(page);
  await report.getByRole('button', { name: 'note-2.txt' }).click();
  await expect(page.getByLabel(/^Document date/)).toHaveValue('2024-03');
  await waiting.getByRole('button', { name: 'File 1 complete' }).click();
  await expect(page.getByText('1 document filed.')).toBeVisible();
  await expect(waiting.getByRole('heading', { name: 'Waiting 1' })).toBeVisible();
});

test('what is nearly like something that is filed is compared with it and filed as its next version', async ({ page }, { retry }) => {
  // Words that no earlier try has filed.
  const letter = (plank: string) =>
    `The ${plank} plank of gate ${retry + 1} was renewed in March. The keeper draws the paddles at night, a diver is asked for as ` +
    'soon as the level allows it, and until then boats of the trade pass the upper sill at their own risk and by daylight only.';
  await page.goto('/intake');
  await page.getByLabel('Library for new files').selectOption('Waterways');
  const waiting = page.getByRole('region', { name: 'Waiting' });
  await page.getByLabel('Files', { exact: true }).setInputFiles([text('plank.txt', letter('second'))]);
  await waiting.getByRole('button', { name: /^plank/ }).click();
  await page.getByRole('combobox', { name: 'Document type' }).fill('stopp');
  await page.getByRole('option', { name: 'Stoppage notice' }).click();
  await page.getByLabel(/^Document date/).fill('2 Mar 2024');
  await page.getByRole('combobox', { name: /^Waterway/ }).fill('cray');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Control+Enter');
  await expect(page.getByText('1 document filed.')).toBeVisible();

  await page.getByLabel('Files', { exact: true }).setInputFiles([text('plank-corrected.txt', letter('third'))]);
  const copies = page.getByRole('list', { name: 'Copies' });
  await expect(copies.getByRole('listitem').first()).toContainText('% of the words the same: Stoppage notice Cray');
  await accessible(page);
  await copies.getByRole('link', { name: 'Compare the two' }).first().click();
  await expect(page.getByText('1 word added, 1 removed, in 1 place.')).toBeVisible();
  await page.getByRole('link', { name: 'Back to Intake' }).click();
  await copies.getByRole('button', { name: 'File as its next version' }).first().click();
  await expect(page.getByText(/^Filed as version 2 of/)).toBeVisible();
  await expect(page.getByText('Nothing is waiting')).toBeVisible();
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

test('what arrives in a watched folder is filed with what its name and its page say', async ({ page, browser, baseURL }, { retry }) => {
  // Where the server that is tested keeps its data.
  const data = process.env.BRENVIC_TESTED_DATA ?? 'storage/browser';
  const code = `scans_${retry}_${Date.now() % 100_000}`;
  const librarian = await browser.newContext({ storageState: session('librarian'), baseURL });
  const token = (await librarian.cookies()).find((c) => c.name === 'XSRF-TOKEN')!.value;
  const headers = { 'X-XSRF-TOKEN': decodeURIComponent(token), Accept: 'application/json' };
  const design = await librarian.newPage();
  await design.goto('/design/sources/new');
  await design.getByLabel('Name', { exact: true }).fill('Scanner of the office');
  await design.getByLabel('Code', { exact: true }).fill(code);
  await design.getByLabel('Folder', { exact: true }).fill(code);
  await design.getByLabel('Document type, if always the same').selectOption({ label: 'Stoppage notice' });
  await design.getByLabel('Who sees what arrives').selectOption('Records office');
  await design.getByLabel('What the names of files say').fill('{waterway}_{structure}');
  await accessible(design);
  await design.getByRole('button', { name: 'Save' }).click();
  await design.getByRole('button', { name: 'Publish 1 change' }).click();
  await expect(design.getByText(/^Published as version \d+\./)).toBeVisible();

  const word = `quibbling${'er'.repeat(retry)}`;
  await page.goto('/intake');
  const folder = join(data, 'sources', code);
  await expect.poll(() => existsSync(folder), { timeout: 20_000 }).toBe(true);
  writeFileSync(
    join(folder, 'Sea lock pound_gate.txt'),
    `The ${word} gate was shut on 3rd May 2024, after our letter of 28.04.2024. Osric Vane`,
  );
  const waiting = page.getByRole('region', { name: 'Waiting' });
  await waiting.getByRole('button', { name: /^Sea lock pound_gate/ }).click({ timeout: 30_000 });
  await expect(page.getByRole('combobox', { name: /^Waterway/ })).toHaveValue('Sea lock pound');
  await expect(page.getByText(/^When it arrived: Structure:/)).toBeVisible();

  // A key takes what the page says; the next field has the cursor.
  const says = page.getByRole('group', { name: 'What the pages say' });
  await page.getByLabel(/^Document date/).focus();
  await expect(says.getByRole('button')).toHaveText(['1 3 May 2024', '2 28 Apr 2024']);
  await page.keyboard.press('Alt+2');
  await expect(page.getByLabel(/^Document date/)).toHaveValue('2024-04-28');
  await expect(page.getByRole('combobox', { name: /^Waterway/ })).toBeFocused();
  // So does pointing at it.
  await page.getByLabel(/^Received from/).focus();
  const words = page.getByRole('article', { name: 'Page 1' });
  await words.getByText('Osric Vane').evaluate((element) => {
    const range = document.createRange();
    const node = [...element.childNodes].find((n) => n.textContent!.includes('Osric Vane'))!;
    const at = node.textContent!.indexOf('Osric Vane');
    range.setStart(node, at);
    range.setEnd(node, at + 'Osric Vane'.length);
    getSelection()!.removeAllRanges();
    getSelection()!.addRange(range);
    element.dispatchEvent(new MouseEvent('mouseup', { bubbles: true }));
  });
  await expect(page.getByLabel(/^Received from/)).toHaveValue('Osric Vane');
  await accessible(page, '[aria-label="What the pages say"]');
  await page.keyboard.press('Control+Enter');
  await expect(page.getByText('1 document filed.')).toBeVisible();
  await page.goto(`/find?q=${word}&c=document_date+%3D+2024-04-28`);
  await total(page, 1);

  await librarian.request.delete(`/api/design/sources/${code}`, { headers });
  await librarian.request.post('/api/design/draft/publish', { headers, data: { note: '' } });
  await librarian.close();
});
