import { expect, test, type Browser, type Page } from '@playwright/test';
import { accessible, session } from './people';

async function pageOf(browser: Browser, who: Parameters<typeof session>[0]): Promise<Page> {
  const context = await browser.newContext({ storageState: session(who), baseURL: test.info().project.use.baseURL });
  return context.newPage();
}

/** What an earlier try has left would keep its documents from being in another disposal. */
async function cancelled(page: Page, name: string): Promise<void> {
  const { disposals } = (await (await page.request.get('/api/oversight/disposals')).json()) as {
    disposals: { id: number; name: string; state: string }[];
  };
  const token = decodeURIComponent((await page.context().cookies()).find((c) => c.name === 'XSRF-TOKEN')!.value);
  for (const { id } of disposals.filter((d) => d.name.startsWith(name) && ['review', 'approval'].includes(d.state))) {
    const { lock_version } = (await (await page.request.get(`/api/oversight/disposals/${id}`)).json()) as { lock_version: number };
    const headers = { 'X-XSRF-TOKEN': token, Accept: 'application/json' };
    await page.request.post(`/api/oversight/disposals/${id}/cancel`, { headers, data: { lock_version } });
  }
}

test.describe.configure({ mode: 'serial' });

test('the manager sees what is due this quarter, has it prepared and reviewed by the librarian, approves it, and holds the certificate', async ({
  browser,
}) => {
  // By keyboard: the calendar, a number of it, and the disposal.
  const librarian = await pageOf(browser, 'librarian');
  await librarian.goto('/desk');
  await cancelled(librarian, 'Pilotage notes');
  await librarian.getByRole('link', { name: 'Oversight' }).press('Enter');
  await expect(librarian.getByRole('heading', { name: 'What falls due' })).toBeVisible();
  await accessible(librarian);
  const cell = librarian.getByRole('button', { name: /^Before this quarter, Review/ });
  await cell.press('Enter');
  const aside = librarian.getByRole('complementary', { name: 'Documents of the chosen number' });
  await expect(aside.getByRole('link', { name: /in Find$/ })).toBeVisible();
  await aside.getByRole('button', { name: 'Prepare a disposal…' }).press('Enter');
  const name = `Pilotage notes ${Date.now() % 10_000}`;
  await expect(aside.getByLabel('Name of the disposal')).toBeFocused();
  await librarian.keyboard.press('Control+a');
  await librarian.keyboard.type(name);
  await librarian.keyboard.press('Enter');
  await expect(librarian.getByRole('heading', { name })).toBeVisible();
  await expect(librarian.getByText('under review')).toBeVisible({ timeout: 30_000 });

  // One is kept, one is postponed, all the others are released.
  const boxes = librarian.getByRole('checkbox', { name: /^Select / });
  await expect(boxes.nth(2)).toBeVisible();
  await boxes.nth(0).press('Space');
  await librarian.keyboard.press('k');
  await expect(librarian.getByLabel(/^Reason to keep/)).toBeFocused();
  await librarian.keyboard.type('Shown in the exhibition');
  await librarian.keyboard.press('Enter');
  await expect(librarian.getByRole('button', { name: /^Kept 1/ })).toBeVisible();
  // What was decided has been sent.
  await expect(librarian.getByRole('button', { name: 'Postpone…' })).toBeEnabled();
  await boxes.nth(0).press('Space');
  await librarian.keyboard.press('p');
  await expect(librarian.getByLabel(/^Reason to postpone/)).toBeFocused();
  await librarian.keyboard.type('The solicitors asked');
  await librarian.getByLabel('Until').fill('2031-01-01');
  await librarian.getByLabel('Until').press('Enter');
  await expect(librarian.getByRole('button', { name: /^Postponed 1/ })).toBeVisible();
  await librarian.getByRole('button', { name: 'Release', exact: true }).press('Enter');
  await expect(librarian.getByRole('button', { name: /^Released \d+/ })).toBeVisible();
  await accessible(librarian);
  await librarian.getByRole('button', { name: 'Hand in for approval' }).press('Enter');
  await expect(librarian.getByText('waiting for approval')).toBeVisible();
  await expect(librarian.getByRole('button', { name: /^Approve/ })).toHaveCount(0);

  // The manager, by mouse.
  const manager = await pageOf(browser, 'manager');
  await manager.goto('/oversight/disposals');
  await manager.getByRole('link', { name }).click();
  await manager.getByRole('button', { name: /^Approve: destroy \d+ documents/ }).click();
  await expect(manager.getByText('carried out', { exact: true })).toBeVisible({ timeout: 60_000 });
  await manager.getByRole('button', { name: /^Destroyed \d+/ }).click();
  const [pdf] = await Promise.all([manager.waitForEvent('download'), manager.getByRole('link', { name: 'PDF' }).click()]);
  expect(pdf.suggestedFilename()).toMatch(/^disposal-\d+-certificate\.pdf$/);
  await manager
    .getByRole('link', { name: /^Pilotage note/ })
    .first()
    .click();
  await expect(manager.getByText(/The document was destroyed/)).toBeVisible();
  await expect(manager.getByRole('link', { name: 'Download' })).toHaveCount(0);
  await accessible(manager);
});

test('a hold begins with a search, is acknowledged, stops what would remove its documents, and ends', async ({ browser }) => {
  const name = `Claim ${Date.now() % 10_000}`;
  const manager = await pageOf(browser, 'manager');
  await manager.goto(`/find?c=${encodeURIComponent('type == weed_silt_report and waterway = tarn-sea')}`);
  await manager.getByRole('button', { name: /^With all/ }).click();
  await manager.getByRole('button', { name: /^Hold all that is found/ }).click();
  const dialog = manager.getByRole('dialog');
  await dialog.getByLabel('Name', { exact: true }).fill(name);
  await dialog.getByLabel(/^Reason/).fill('The boatyard claims for silt.');
  await dialog.getByLabel('Fenwick Dale').check();
  await accessible(manager);
  await dialog.getByRole('button', { name: 'Put on hold' }).click();
  await expect(manager.getByText(new RegExp(`“${name}” covers`))).toBeVisible();

  // The custodian is told, and says so. By keyboard.
  const clerk = await pageOf(browser, 'clerk');
  await clerk.goto('/desk');
  await clerk.getByRole('link', { name: new RegExp(`The hold “${name}” wants you to keep`) }).press('Enter');
  await expect(clerk.getByRole('heading', { name })).toBeVisible();
  await clerk.getByRole('button', { name: 'I know of it' }).press('Enter');
  await expect(clerk.getByRole('button', { name: 'I know of it' })).toHaveCount(0);
  await expect(clerk.getByText(/^acknowledged/)).toBeVisible();
  await accessible(clerk);
  await clerk.goto('/oversight');
  await expect(clerk.getByRole('heading', { name: 'Page not found' })).toBeVisible();

  await manager.goto('/oversight/holds');
  await expect(manager.getByRole('row', { name: new RegExp(name) })).toContainText('1 of 1');
  await manager.getByRole('link', { name }).click();
  await expect(manager.getByText(/, all found by the search/)).toBeVisible();
  const held = manager.getByRole('listitem').getByRole('link', { name: /silt/i }).first();
  await held.click();
  await expect(manager.getByText('The boatyard claims for silt.').first()).toBeVisible();
  await manager.goBack();
  await manager.getByRole('button', { name: 'End the hold…' }).click();
  await manager.getByLabel('Why it ends').fill('The claim was withdrawn.');
  await manager.keyboard.press('Enter');
  await expect(manager.getByText(/^ended/).first()).toBeVisible();

  // All of it is in the history.
  await manager.goto('/oversight/history?act=hold_ended');
  await expect(manager.getByText(new RegExp(`name: ${name}`))).toBeVisible();
  await accessible(manager);
});

test('the history answers who did what, by address', async ({ browser }) => {
  const manager = await pageOf(browser, 'manager');
  await manager.goto('/oversight/history');
  await manager.getByRole('combobox', { name: 'Act' }).selectOption({ label: 'put on hold' });
  await expect(manager).toHaveURL(/act=held/);
  await expect(manager.getByRole('cell', { name: 'put on hold' }).first()).toBeVisible();
  const ref = manager.getByRole('button', { name: /^D-\d{5}-/ }).first();
  const reference = (await ref.textContent())!;
  await ref.click();
  await expect(manager.getByRole('textbox', { name: 'Document' })).toHaveValue(reference);
  await manager.goBack();
  const clerk = await pageOf(browser, 'clerk');
  await clerk.goto('/oversight/history');
  await expect(clerk.getByRole('heading', { name: 'Page not found' })).toBeVisible();
});

test('the manager reads reports, opens what a number is about, takes a table away, and has a report sent every month', async ({
  browser,
}) => {
  const manager = await pageOf(browser, 'manager');
  await manager.goto('/oversight');
  await manager.getByRole('link', { name: 'Reports' }).press('Enter');
  await expect(manager.getByRole('heading', { name: 'Indexing quality' })).toBeVisible();
  await expect(manager.getByRole('img', { name: /^Documents by finding, drawn/ })).toBeVisible();
  await accessible(manager);
  const finding = manager.getByRole('row', { name: /Stoppage notice without Waterway/ }).getByRole('link');
  const number = (await finding.textContent())!.trim();
  await finding.press('Enter');
  await expect(manager).toHaveURL(/\/find\?/);
  await expect(
    manager
      .getByRole('status')
      .filter({ hasText: new RegExp(`^${number} documents`) })
      .first(),
  ).toBeVisible();

  // Somebody looks for what is not there; by name of the report and period it is found again.
  const words = `zircon${Date.now() % 100_000}`;
  const reader = await pageOf(browser, 'reader');
  await reader.goto(`/find?q=${words}`);
  await expect(reader.getByText(/^Nothing found|finds nothing|No document/i).first()).toBeVisible();
  await manager.goto('/oversight/reports/searches');
  await manager.getByRole('button', { name: 'this month' }).click();
  await expect(manager.getByRole('button', { name: 'this month' })).toHaveAttribute('aria-pressed', 'true');
  await expect(manager).toHaveURL(/from=\d{4}-\d\d-01/);
  await manager.getByRole('button', { name: 'last 30 days' }).press('Enter');
  const nothing = manager.getByRole('region', { name: 'Found nothing' });
  await expect(nothing.getByRole('link', { name: new RegExp(words) })).toBeVisible();
  await accessible(manager);
  const [table] = await Promise.all([
    manager.waitForEvent('download'),
    nothing.getByRole('link', { name: 'Found nothing as CSV' }).click(),
  ]);
  expect(table.suggestedFilename()).toBe('searches-found-nothing.csv');
  const [sheets] = await Promise.all([manager.waitForEvent('download'), manager.getByRole('link', { name: 'Spreadsheet (ODS)' }).click()]);
  expect(sheets.suggestedFilename()).toBe('searches.ods');

  await manager.getByRole('button', { name: 'Send monthly…' }).press('Enter');
  const form = manager.getByRole('form', { name: 'Send monthly' });
  await expect(form.getByLabel('Corin Bexley')).toBeChecked();
  await accessible(manager);
  await form.getByRole('button', { name: 'Send monthly' }).press('Enter');
  const sent = manager.getByRole('region', { name: 'Sent monthly' });
  await expect(sent.getByText('To Corin Bexley').first()).toBeVisible();
  for (let i = await sent.getByRole('button', { name: 'Stop sending' }).count(); i > 0; i--) {
    await sent.getByRole('button', { name: 'Stop sending' }).first().click();
    await expect(sent.getByRole('button', { name: 'Stop sending' })).toHaveCount(i - 1);
  }

  for (const name of ['Use', 'Intake', 'Tasks', 'Storage']) {
    await manager.getByRole('navigation', { name: 'Reports' }).getByRole('link', { name }).click();
    await expect(manager.getByRole('heading', { name, exact: true })).toBeVisible();
    await expect(manager.getByRole('img', { name: /, drawn as bars/ }).first()).toBeVisible();
    await accessible(manager);
  }
});

test('the manager compares the index with the documents, and asks a repository elsewhere whether it is there', async ({ browser }) => {
  const manager = await pageOf(browser, 'manager');
  await manager.goto('/oversight/health');
  await manager.getByRole('button', { name: 'Compare with the documents' }).press('Enter');
  await expect(manager.getByText(/^It was compared with the documents today .* and they agree/)).toBeVisible({ timeout: 60_000 });
  await manager.getByRole('button', { name: 'Ask Survey Exchange now' }).press('Enter');
  await expect(manager.getByText(/^answered in \d+ ms, today/)).toBeVisible();
  await expect(manager.getByRole('heading', { name: 'Programs on the server' })).toBeVisible();
  await accessible(manager);
});
