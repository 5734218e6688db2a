import { expect, test, type Page } from '@playwright/test';
import { accessible, session } from './people';

test.use({ storageState: session('librarian') });

/** Opens the first document that a search finds, in the reader; another one when the test is tried again. */
async function openFirst(page: Page, cql: string) {
  await page.goto(`/find?c=${encodeURIComponent(cql)}`);
  await expect(page.getByTestId('total')).not.toHaveText('0');
  await page.getByRole('treegrid').focus();
  for (let i = 0; i < test.info().retry; i++) await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'Index sheet' })).toBeVisible();
}

/** Finds a word in the document, highlights its first hit and opens the tools, all by keyboard. */
async function highlightFirst(page: Page, word: string) {
  await page.keyboard.press('f');
  await page.keyboard.type(word);
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('hits')).toContainText('1 of');
  await page.getByRole('region', { name: 'Pages' }).focus();
  await page.keyboard.press('h');
  await expect(page.getByText('Highlighted.')).toBeVisible();
  await page.keyboard.press('k');
}

test('pages are marked and redacted by keyboard, and all of it taken back', async ({ page }) => {
  await openFirst(page, 'type == lock_inspection and file_type == pdf and text = paddle');
  const address = page.url();
  await highlightFirst(page, 'paddle');
  const tools = page.getByRole('toolbar', { name: 'Marking' });
  await expect(tools).toBeVisible();
  const mark = page.getByRole('button', { name: /^Highlight: on “paddle/i });
  await expect(mark).toHaveCount(1);
  await accessible(page);
  await page.keyboard.press('Control+z');
  await expect(mark).toHaveCount(0);
  await page.keyboard.press('Control+Shift+z');
  await expect(mark).toHaveCount(1);
  await mark.focus();
  await page.keyboard.press('Delete');
  await expect(mark).toHaveCount(0);

  await page.getByRole('region', { name: 'Pages' }).focus();
  await page.keyboard.press('x');
  await page.getByLabel('Every occurrence of').focus();
  await page.keyboard.type('paddle*');
  await page.keyboard.press('Enter');
  const remove = page.getByRole('button', { name: /^Remove \d+ places?$/ });
  await remove.focus();
  await page.keyboard.press('Enter');
  await expect(page.getByText('The redacted copy is ready. View it or download it.')).toBeVisible({ timeout: 60_000 });

  // Whoever may see the redacted copy only does not find what was removed, and reads a bar in its place.
  const reader = await (
    await page
      .context()
      .browser()!
      .newContext({ storageState: session('reader') })
  ).newPage();
  await reader.goto(address.split('?')[0]!);
  await expect(reader.getByText('This is the redacted copy.')).toBeVisible();
  await expect(reader.getByLabel('Page 1', { exact: true })).toContainText('████');
  await expect(reader.getByLabel('Page 1', { exact: true })).not.toContainText(/paddle/i);
  await accessible(reader);
  await reader.close();

  for (const box of await page
    .getByRole('list')
    .filter({ has: page.getByRole('button', { name: /^page \d/ }) })
    .getByRole('checkbox')
    .all())
    await box.check();
  await page.getByRole('button', { name: /^Undo \d+ places?$/ }).click();
  await expect(page.getByText('Nothing yet.')).toBeVisible();
});

test('a text is marked at a hit, and said why', async ({ page }) => {
  await openFirst(page, 'type == site_diary and file_type == markdown and text = weekdays');
  await highlightFirst(page, 'weekdays');
  const marks = page.getByRole('list', { name: 'Marks in this text' });
  await marks.getByRole('textbox').fill('Ask who wrote this');
  await page.keyboard.press('Tab');
  await accessible(page);
  await page.reload();
  await expect(page.getByRole('heading', { name: 'Index sheet' })).toBeVisible();
  await page.keyboard.press('k');
  await expect(marks.getByRole('textbox')).toHaveValue('Ask who wrote this');
  await marks.getByRole('button', { name: 'remove' }).click();
  await expect(marks).toHaveCount(0);
});

for (const [what, cql] of [
  ['page', 'type == dredging_survey and file_type == pdf'],
  ['text', 'type == weed_silt_report and file_type == text'],
] as const)
  test(`a note is drawn on a ${what}, written, moved and folded with the mouse`, async ({ page }) => {
    await openFirst(page, cql);
    await page.getByRole('button', { name: 'Mark the pages' }).click();
    await page.getByRole('button', { name: 'Note', exact: true }).click();
    // What is drawn on comes with the words of the page.
    const surface = page.locator('.surface.drawing').first();
    await expect(surface).toBeVisible();
    const sheet = (await surface.boundingBox())!;
    await page.mouse.click(sheet.x + 120, sheet.y + Math.min(90, sheet.height / 2));
    await page.getByRole('textbox', { name: 'The note' }).fill('Ask for the soundings');
    await page.keyboard.press('Tab');
    const note = page.getByRole('group', { name: /^Note: Ask for the soundings/ });
    await expect(note).toBeVisible();
    const before = (await note.boundingBox())!;
    await page.mouse.move(before.x + 30, before.y + 10);
    await page.mouse.down();
    await page.mouse.move(before.x + 130, before.y + 70, { steps: 4 });
    await page.mouse.up();
    await expect.poll(async () => Math.round((await note.boundingBox())!.x - before.x)).toBe(100);
    await page.getByRole('button', { name: 'Fold the note' }).click();
    await page.getByRole('button', { name: /^Unfold: Note/ }).click();
    await page.getByRole('button', { name: 'Take the note back' }).click();
    await expect(note).toHaveCount(0);
  });

test('a note on a text stands by the word it is put on', async ({ page }) => {
  await openFirst(page, 'type == weed_silt_report and file_type == text');
  await page.keyboard.press('k');
  await page.keyboard.press('m');
  await expect(page.locator('.surface.drawing').first()).toBeVisible();
  // The middle of the last word of the page.
  const target = await page
    .locator('.prose')
    .first()
    .evaluate((box) => {
      const walker = document.createTreeWalker(box, NodeFilter.SHOW_TEXT);
      let last: Text | null = null;
      for (let node = walker.nextNode(); node; node = walker.nextNode()) if (node.textContent!.trim() !== '') last = node as Text;
      const at = /\S+\s*$/.exec(last!.textContent!)!.index;
      const range = document.createRange();
      range.setStart(last!, at);
      range.setEnd(last!, at + last!.textContent!.slice(at).trimEnd().length);
      box.lastElementChild?.scrollIntoView();
      range.startContainer.parentElement!.scrollIntoView({ block: 'end' });
      const r = range.getBoundingClientRect();
      return { word: range.toString(), x: r.left + r.width / 2, y: r.top + r.height / 2 };
    });
  const answer = page.waitForResponse((r) => r.url().endsWith('/annotations') && r.request().method() === 'POST');
  await page.mouse.click(target.x, target.y);
  expect((await (await answer).json()).exact).toBe(target.word);
  await page.getByRole('button', { name: 'Take the note back' }).click();
});

test('a document is checked out, put by, checked in, compared, and brought back', async ({ page }) => {
  await openFirst(page, 'type == weed_silt_report and file_type == text');
  // A word that no other text has.
  const word = `shoal${Date.now()}`;
  const of = (name: string, text: string) => ({ name, mimeType: 'text/plain', buffer: Buffer.from(text) });
  await page.getByRole('button', { name: 'Check out to change the file' }).click();
  await page.getByLabel('Reason').fill('New soundings');
  await page.keyboard.press('Enter');
  await page.getByLabel('The changed file').setInputFiles(of('report.txt', `The ${word} is gone.`));
  await page.getByRole('button', { name: 'Save without checking in' }).click();
  await expect(page.getByText('Only you see it.', { exact: false })).toBeVisible();
  await page.goto('/desk');
  await expect(page.getByRole('region', { name: 'Checked out' })).toContainText('New soundings');
  await page.getByRole('region', { name: 'Checked out' }).getByRole('link').first().click();
  await page.getByLabel('What changed').fill('Surveyed again');
  await page.getByRole('button', { name: 'Check in' }).click();
  await expect(page.getByText(`The ${word} is gone.`)).toBeVisible({ timeout: 30_000 });
  await accessible(page);
  await page.getByRole('link', { name: 'Compare with the current version' }).first().click();
  await expect(page.getByRole('region', { name: 'Comparison' })).toContainText('added');
  await accessible(page);
  await page.getByRole('link', { name: 'Back to the document' }).click();
  await page.getByRole('button', { name: 'Make it current again' }).first().click();
  await expect(page.getByText(/^Version \d+ again/).first()).toBeVisible();
  await expect(page.getByText(`The ${word} is gone.`)).toHaveCount(0);
  // The text of the replaced version is found on demand.
  await page.goto(`/find?q=${word}`);
  await expect(page.getByTestId('total')).toHaveText('0');
  await page.getByRole('button', { name: /^Look for words in/ }).click();
  await page.getByRole('checkbox', { name: 'earlier versions' }).click();
  await expect(page.getByTestId('total')).toHaveText('1');
});

test('pages are turned and moved by keyboard, as a new version', async ({ page }) => {
  await openFirst(page, 'type == dredging_survey and file_type == pdf and pages > 2');
  await page.getByRole('link', { name: 'Rearrange the pages' }).click();
  const second = page.getByRole('button', { name: /^Page 2/ });
  await second.focus();
  await page.keyboard.press('r');
  await expect(page.getByRole('button', { name: 'Page 2, rotated by 90°' })).toBeVisible();
  await page.keyboard.press('Alt+ArrowLeft');
  await expect(page.getByRole('button', { name: 'Page 1, was 2, rotated by 90°' })).toBeVisible();
  await accessible(page);
  // Pages of another document: found by words, chosen one by one.
  const tiles = await page.getByRole('list', { name: 'Pages' }).getByRole('listitem').count();
  await page.getByRole('button', { name: 'Insert pages…' }).press('Enter');
  const picker = page.getByRole('dialog', { name: 'Insert pages of another document' });
  await page.keyboard.type('dredging survey');
  await expect(picker.getByRole('list', { name: 'Documents found' }).getByRole('button').first()).toBeVisible();
  await page.keyboard.press('Enter');
  await picker.getByRole('button', { name: 'Page 2', exact: true }).click();
  await picker.getByRole('button', { name: 'Page 1', exact: true }).click();
  await accessible(page);
  await picker.getByRole('button', { name: 'Insert 2 pages' }).click();
  await expect(page.getByRole('button', { name: 'Insert pages…' })).toBeFocused();
  await expect(page.getByRole('list', { name: 'Pages' }).getByRole('listitem')).toHaveCount(tiles + 2);
  await expect(page.getByRole('button', { name: /^Page 2, page 2 of / })).toBeVisible();
  await expect(page.getByRole('button', { name: /^Page 3, page 1 of / })).toBeVisible();
  await page.getByLabel('What changed').fill('The plan first');
  await page.getByRole('button', { name: 'Save as a new version' }).click();
  await expect(page.getByText('The plan first', { exact: false }).first()).toBeVisible();
});

/** Chooses the first two documents of a list by keyboard, and opens what can be done with them. */
async function gatherTwo(page: Page): Promise<void> {
  await expect(page.getByTestId('total')).not.toHaveText('0');
  await page.getByRole('treegrid').focus();
  // After a reload the list stands where it stood.
  await page.keyboard.press('Home');
  await page.keyboard.press('x');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('x');
  await page.getByRole('button', { name: 'With 2 selected…' }).click();
}

test('cells are pasted into a table of values, and documents are copied to another library', async ({ page }) => {
  await page.goto('/find?c=type+%3D%3D+weed_silt_report&c=file_type+%3D%3D+docx');
  await gatherTwo(page);
  await page.getByRole('button', { name: 'Edit index values in a table…' }).click();
  const table = page.getByRole('dialog', { name: 'Values in a table' });
  await table
    .getByLabel(/^Silt depth of/)
    .first()
    .focus();
  await page.evaluate(() => {
    const data = new DataTransfer();
    data.setData('text/plain', '1.5 m\tSerious\n2.25\tno such grade\n');
    document.activeElement!.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }));
  });
  await expect(table.getByRole('status')).toContainText(/[34] cells typed/);
  await accessible(page);
  await table.getByRole('button', { name: 'Show the effect' }).click();
  await expect(table.getByText('no such grade', { exact: false })).toBeVisible();
  // What can be saved is saved; what cannot stays typed, through a reload too.
  await table.getByRole('button', { name: 'Change 1 document' }).click();
  await expect(page.getByText('1 document is changed.')).toBeVisible();
  await expect(table.getByLabel(/^Severity of/).nth(1)).toHaveValue('no such grade');
  await page.reload();
  await gatherTwo(page);
  await page.getByRole('button', { name: 'Edit index values in a table…' }).click();
  await expect(table.getByLabel(/^Severity of/).nth(1)).toHaveValue('no such grade');
  await table
    .getByLabel(/^Severity of/)
    .nth(1)
    .fill('Minor');
  await table.getByRole('button', { name: 'Show the effect' }).click();
  await table.getByRole('button', { name: 'Change 1 document' }).click();
  await expect(table).toBeHidden();
  // Both are undone by keyboard, long after their notices are gone.
  await page.getByRole('treegrid').focus();
  await page.keyboard.press('u');
  const acts = page.getByRole('dialog', { name: 'Last acts' });
  await expect(acts.getByRole('button', { name: /^Undo: Values typed into a table, 1 document/ })).toHaveCount(2);
  await accessible(page);
  for (const left of [1, 0]) {
    await acts
      .getByRole('button', { name: /^Undo: Values typed into a table/ })
      .first()
      .press('Enter');
    await expect(acts.getByRole('button', { name: /^Undo: Values typed into a table/ })).toHaveCount(left);
  }
  await page.keyboard.press('Escape');

  await page.reload();
  await gatherTwo(page);
  await page.getByRole('button', { name: 'Copy or move the 2 selected…' }).click();
  const dialog = page.getByRole('dialog', { name: 'Copy or move 2 documents' });
  await dialog.getByLabel('Library').selectOption({ label: 'Harbour' });
  await dialog.getByLabel('Document type there').selectOption({ label: 'Incident report' });
  await dialog.getByRole('button', { name: 'Show the effect' }).click();
  // Where a field goes is chosen, and corrected after another look.
  const goes = dialog.getByLabel('Silt depth goes to');
  await goes.selectOption({ label: 'goes to Remarks' });
  await dialog.getByRole('button', { name: 'Show the effect' }).click();
  await expect(dialog.getByRole('button', { name: 'Copy 2 documents' })).toBeVisible();
  await goes.selectOption({ label: 'is not carried over' });
  await dialog.getByRole('button', { name: 'Show the effect' }).click();
  await accessible(page);
  await dialog.getByRole('button', { name: 'Copy 2 documents' }).click();
  await expect(page.getByText('2 documents are copied.')).toBeVisible();
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
});

test('a copy is lent, changed outside, and taken back', async ({ page, browser }) => {
  const words = `Changed by the masons at ${Date.now()}.`;
  await openFirst(page, 'type == stoppage_notice');
  await page.getByRole('button', { name: 'Lend a copy to an outside team' }).click();
  await page.getByLabel('Borrower').fill('Holm Masonry');
  await page.getByRole('button', { name: 'Lend a copy', exact: true }).click();
  const place = page.getByRole('link', { name: 'open the team space' });
  await expect(place).toBeVisible();
  const outside = await (await browser.newContext({ storageState: { cookies: [], origins: [] } })).newPage();
  await outside.goto(new URL((await place.getAttribute('href'))!).pathname);
  await accessible(outside);
  await outside.getByLabel('The changed file').setInputFiles({ name: 'changed.txt', mimeType: 'text/plain', buffer: Buffer.from(words) });
  await outside.getByRole('button', { name: 'Upload the changed file' }).click();
  await expect(outside.getByRole('status')).toBeVisible();
  await outside.close();
  await page.reload();
  await expect(page.getByText('changed outside')).toBeVisible();
  await page.getByRole('button', { name: 'Bring back as a version' }).click();
  await expect(page.getByText(words)).toBeVisible({ timeout: 30_000 });
});
