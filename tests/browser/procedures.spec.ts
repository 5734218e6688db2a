import { expect, test, type Browser, type Page } from '@playwright/test';
import { mkdirSync, renameSync, writeFileSync } from 'node:fs';
import { resolve } from 'node:path';
import { accessible, press, session } from './people';

/** Where the server that is tested keeps its data. */
const data = resolve(process.env.BRENVIC_TESTED_DATA ?? 'storage/browser');

/** A mail for the works office, as a mail program of the server delivers it. */
function deliver(subject: string, text: string): void {
  const box = `${data}/mail-works`;
  for (const folder of ['tmp', 'new', 'cur']) mkdirSync(`${box}/${folder}`, { recursive: true });
  const name = `${Date.now()}.${process.pid}.tarnwick`;
  const lines = [
    'From: Holm Masonry <tenders@holm-masonry.example>',
    'To: works@tarnwick.example',
    `Subject: ${subject}`,
    `Message-ID: <${name}@holm-masonry.example>`,
    'Date: Mon, 02 Nov 2026 09:00:00 +0000',
    'Content-Type: text/plain; charset=utf-8',
    '',
    text,
    '',
  ];
  writeFileSync(`${box}/tmp/${name}`, lines.join('\r\n'));
  renameSync(`${box}/tmp/${name}`, `${box}/new/${name}`);
}

async function discard(page: Page): Promise<void> {
  const cookies = await page.context().cookies();
  const token = decodeURIComponent(cookies.find((c) => c.name === 'XSRF-TOKEN')!.value);
  const answer = await page.request.post('/api/design/draft/discard', { headers: { 'X-XSRF-TOKEN': token, Accept: 'application/json' } });
  expect(answer.ok()).toBe(true);
}

async function pageOf(browser: Browser, who: Parameters<typeof session>[0]): Promise<Page> {
  const context = await browser.newContext({ storageState: session(who), baseURL: test.info().project.use.baseURL });
  return context.newPage();
}

test.describe.configure({ mode: 'serial' });

test('a tender arrives by mail, is filed, checked, decided by the manager for its amount, stamped, and lands in its dossier', async ({
  browser,
}) => {
  const number = Date.now() % 10_000;
  const subject = `Tender ${number} for the sill of lock 4`;
  const contractor = `Holm Masonry ${number}`;
  deliver(subject, 'We offer the works at the sill for 48,000 pounds, all as described.\nHolm Masonry');

  // The clerk files it: its type is proposed by the rule of the mailbox.
  const clerk = await pageOf(browser, 'clerk');
  await clerk.goto('/intake');
  const waiting = clerk.getByRole('region', { name: 'Waiting' });
  await waiting.getByRole('button', { name: new RegExp(`^${subject}`) }).click({ timeout: 60_000 });
  await expect(clerk.getByRole('combobox', { name: 'Document type' })).toHaveValue('Tender');
  await clerk.getByLabel(/^Contractor/).fill(contractor);
  await clerk.getByLabel(/^Document date/).fill('2 Nov 2026');
  await clerk.keyboard.press('Control+Enter');
  await expect(waiting.getByRole('button', { name: new RegExp(`^${subject}`) })).toHaveCount(0);

  // The works office has it among the tasks of the group. By mouse.
  const works = await pageOf(browser, 'works');
  await works.goto('/tasks?part=groups');
  const title = new RegExp(`^Tender by ${contractor}`);
  // It begins in the background: the list says that there is something new.
  await expect(async () => {
    await works.reload();
    await expect(works.getByRole('link', { name: title })).toBeVisible({ timeout: 3_000 });
  }).toPass({ timeout: 60_000 });
  await works.getByRole('link', { name: title }).click();
  const task = works.locator('#task');
  await expect(task.getByRole('heading', { name: 'Is the tender complete, and is the price explained?' })).toBeVisible();
  await expect(task.getByText('48,000 pounds')).toBeVisible();
  await accessible(works);
  // What the decision needs is asked for before anything is decided.
  await task.getByRole('button', { name: /^Complete/ }).click();
  await task.getByRole('button', { name: 'Decide: Complete' }).click();
  await expect(task.getByRole('alert').first()).toContainText('Amount needs a value');
  await task.getByLabel(/^Amount/).fill('48000');
  await task.getByRole('button', { name: 'Decide: Complete' }).click();
  await expect(works.getByText(/^“Complete” for Tender by/)).toBeVisible();
  await expect(works.getByRole('link', { name: title })).toHaveCount(0);

  // It waits for the manager: on the desk, and in a view. By keyboard alone.
  const manager = await pageOf(browser, 'manager');
  await manager.goto('/tasks');
  const mine = manager.getByRole('link', { name: title });
  await expect(mine).toBeVisible();
  await press(mine);
  const question = manager.getByRole('heading', { name: 'The tender is above the limit of the works office. Is it accepted?' });
  await expect(question).toBeVisible();
  await expect(manager.locator('#task').getByText('then Stamped and put into its dossier').first()).toBeVisible();
  await manager.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
  await manager.keyboard.press('1');
  await expect(manager.getByRole('button', { name: 'Decide: Accept' })).toBeFocused();
  await manager.keyboard.press('Enter');
  await expect(manager.getByText(/^“Accept” for Tender by/)).toBeVisible();

  // It is stamped and in its dossier, and cannot be changed any more; who sent it is written to.
  // That is done in the background: whoever looks too early looks again.
  await expect(async () => {
    await works.goto(`/find?q=${encodeURIComponent(`contractor == "${contractor}"`)}`);
    await works.getByRole('row', { name: title }).first().dblclick();
    await expect(works.getByText(/^Tender: Accepted/)).toBeVisible({ timeout: 5_000 });
  }).toPass({ timeout: 60_000 });
  await works.getByRole('button', { name: 'What happened' }).click();
  await expect(works.getByText('Stamped “Accepted”')).toBeVisible();
  await expect(works.getByText(/^Created DS-/)).toBeVisible();
  await expect(works.getByText(/^Wrote to tenders@holm-masonry.example/)).toBeVisible();
  await accessible(works);
  await manager.goto('/lists/outbox');
  await expect(manager.getByText(/^Your tender of 2 Nov 2026 is accepted/).first()).toBeVisible();
  for (const page of [clerk, works, manager]) await page.context().close();
});

test('the librarian designs a procedure, tries it on the tenders of a year, and sees where they would go', async ({ browser }) => {
  const page = await pageOf(browser, 'librarian');
  await page.goto('/design/procedures/tender');
  await discard(page);
  await page.reload();
  await expect(page.getByRole('img', { name: /^Plan of Tender/ })).toBeVisible();
  await page.getByRole('button', { name: 'Try it' }).click();
  await expect(page.getByText(/^It would begin with \d+ documents/)).toBeVisible();
  await accessible(page);
  await page
    .getByRole('button', { name: /^Checked by the works office/ })
    .first()
    .click();
  await expect(page.getByLabel('What they are asked, in a sentence')).toHaveValue('Is the tender complete, and is the price explained?');
  await accessible(page);
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Export as SVG' }).click();
  expect((await download).suggestedFilename()).toBe('Tender.svg');

  // A procedure of one's own, by keyboard: what is wrong with it is said, and where.
  await page.goto('/design/procedures/new');
  await page.getByLabel('Name', { exact: true }).fill('Incident');
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByRole('alert').filter({ hasText: 'Say in a sentence what is asked' })).toBeVisible();
  await page
    .getByRole('button', { name: /^Check/ })
    .first()
    .click();
  await page.getByLabel('What they are asked, in a sentence').fill('Was the incident reported to the insurer?');
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText('Saved in the draft.', { exact: false })).toBeVisible();
  await expect(page).toHaveURL(/\/design\/procedures\/incident/);
  await accessible(page);
  // The draft is one for all librarians: nothing is left in it.
  await discard(page);
  await page.context().close();
});

test('whoever looks after procedures sees their figures; a task is taken, questioned and given on', async ({ browser }) => {
  const page = await pageOf(browser, 'librarian');
  await page.goto('/tasks/figures');
  await expect(page.getByRole('heading', { name: 'Mooring permit' })).toBeVisible();
  await page
    .getByRole('button', { name: /^By whom/ })
    .first()
    .click();
  await accessible(page);
  await page.context().close();

  const works = await pageOf(browser, 'works');
  await works.goto('/tasks?part=groups');
  await works.locator('[data-task] a').first().click();
  await expect(works.locator('#task').getByRole('group', { name: 'Decisions' })).toBeVisible();
  await works.keyboard.press('t');
  await expect(works.getByText('You have taken it.')).toBeVisible();
  await works.keyboard.press('g');
  await expect(works.getByLabel('Note')).toBeVisible();
  await accessible(works, '#task');
  await works.getByRole('button', { name: 'Cancel' }).click();
  await works.keyboard.press('t');
  await expect(works.getByText('Put back for the others.')).toBeVisible();
  await works.context().close();
});
