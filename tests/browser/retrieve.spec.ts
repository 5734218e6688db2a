import { expect, test } from '@playwright/test';
import { accessible, press, reach, session } from './people';

test.use({ storageState: session('librarian') });

test('story 2: the inspections of a lock are gathered, held, redacted, and delivered as a bag with a link', async ({ page, browser }) => {
  await page.goto('/find?c=type+%3D%3D+lock_inspection&q=seepage+sill');
  await expect(page.getByTestId('total')).not.toHaveText('0');
  const found = Number(await page.getByTestId('total').textContent());
  await page.getByRole('button', { name: /^With all/ }).click();
  await page.getByLabel('Name of a new list').fill('Seepage near the sill');
  await page.getByRole('button', { name: 'Create list', exact: true }).click();
  await page.getByRole('button', { name: `Add all ${found} found` }).click();
  await page.getByRole('link', { name: new RegExp(`^Seepage near the sill.*${found}$`) }).click();
  await expect(page.getByRole('heading', { name: 'Seepage near the sill' })).toBeVisible();
  await expect(page.getByRole('list', { name: 'Documents' }).getByRole('listitem')).toHaveCount(found);
  await accessible(page);

  await page.getByRole('button', { name: 'Put on hold' }).click();
  await page.getByLabel('Reason').fill('Claim of the insurer');
  await page.getByRole('button', { name: 'Put on hold' }).last().click();
  await expect(page.getByText('Claim of the insurer', { exact: false }).first()).toBeVisible();
  await expect(page.getByRole('button', { name: /^Remove .+ from the list$/ }).first()).toBeDisabled();

  // The names go before anything leaves.
  const list = page.url();
  await page.getByRole('list', { name: 'Documents' }).getByRole('link').first().click();
  await page.getByRole('button', { name: 'Redact' }).click();
  await page.getByLabel('Reason').selectOption({ label: 'Personal data' });
  await page.getByRole('checkbox', { name: /^people named in the index sheet/ }).check();
  await page.getByRole('button', { name: 'List them' }).click();
  await accessible(page);
  await page.getByRole('button', { name: /^Remove \d+ places?$/ }).click();
  await expect(page.getByText('The redacted copy is ready. View it or download it.')).toBeVisible({ timeout: 60_000 });
  await page.goto(list);

  await page.getByRole('button', { name: 'Deliver', exact: true }).click();
  await page.getByLabel('Form of the files', { exact: true }).selectOption({ label: 'redacted' });
  await page.getByRole('button', { name: 'Create delivery' }).click();
  // A bag waiting behind scans that are still being read.
  await expect(page.getByRole('link', { name: 'Download' })).toBeVisible({ timeout: 120_000 });
  const waiting = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Download' }).click();
  expect((await waiting).suggestedFilename()).toMatch(/\.zip$/);

  await page.getByRole('button', { name: 'Secure link' }).click();
  const form = page.getByRole('form', { name: 'A secure link' });
  await form.getByLabel('For whom').fill('The insurer');
  await form.getByLabel('Password, told by another way').fill('weir and sluice');
  await form.getByRole('button', { name: 'Create link' }).click();
  await expect(page.getByText('The address is shown only this once. Copy it now.')).toBeVisible();
  await accessible(page);
  const address = (await page.locator('p.mono.break-all').textContent())!.trim();
  const outside = await (await browser.newContext({ storageState: { cookies: [], origins: [] } })).newPage();
  await outside.goto(new URL(address).pathname);
  await accessible(outside);
  await outside.getByLabel('Password').fill('a guess');
  await outside.keyboard.press('Enter');
  await expect(outside.getByRole('alert')).toBeVisible();
  await outside.getByLabel('Password').fill('weir and sluice');
  const fetched = outside.waitForEvent('download');
  await outside.keyboard.press('Enter');
  expect((await fetched).suggestedFilename()).toMatch(/\.zip$/);
  await outside.close();

  await page.getByRole('button', { name: 'End the hold' }).click();
  await expect(page.getByText('The hold is ended.')).toBeVisible();
  await page.getByRole('button', { name: 'Remove the list' }).click();
  await expect(page.getByText('is removed.', { exact: false })).toBeVisible();
});

test('story 2 by keyboard alone', async ({ page }) => {
  await page.goto('/find');
  await expect(page.getByTestId('ledger-total')).toBeVisible();
  await page.keyboard.press('/');
  await page.keyboard.type('type == lock_inspection and text all "seepage sill"');
  await page.keyboard.press('Enter');
  await expect(page.locator('#ledger-line-1')).toBeVisible();
  const found = Number(await page.getByTestId('ledger-total').textContent());
  await page.keyboard.press('g');
  // The hands are in the box at once.
  await expect(page.getByRole('dialog', { name: 'With these documents' }).locator(':focus')).toHaveCount(1);
  await reach(page.getByLabel('Name of a new list'));
  await page.keyboard.type('By keyboard');
  await page.keyboard.press('Enter');
  await press(page.getByRole('button', { name: `Add all ${found} found` }));
  await press(page.getByRole('link', { name: new RegExp(`^By keyboard.*${found}$`) }), true);
  await expect(page.getByRole('list', { name: 'Documents' }).getByRole('listitem')).toHaveCount(found);

  await page.keyboard.press('h');
  await reach(page.getByLabel('Reason'));
  await page.keyboard.type('Claim of the insurer');
  await page.keyboard.press('Enter');
  await expect(page.getByText('Claim of the insurer', { exact: false }).first()).toBeVisible();

  // Another document than the one that the mouse redacts, and another again when this is tried again.
  await page.keyboard.press('l');
  for (let i = 0; i < 2 + test.info().retry; i++)
    await reach(page.getByRole('list', { name: 'Documents' }).getByRole('listitem').nth(i).getByRole('link'));
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'Index sheet' })).toBeVisible();
  await page.keyboard.press('x');
  await reach(page.getByRole('checkbox', { name: /^people named in the index sheet/ }));
  await page.keyboard.press('Space');
  await press(page.getByRole('button', { name: 'List them' }));
  await press(page.getByRole('button', { name: /^Remove \d+ places?$/ }));
  await expect(page.getByText('The redacted copy is ready. View it or download it.')).toBeVisible({ timeout: 60_000 });
  // Alt and ← is the browser’s own.
  await page.goBack();

  await expect(page.getByRole('list', { name: 'Documents' })).toBeVisible();
  await page.keyboard.press('d');
  await reach(page.getByLabel('Form of the files', { exact: true }));
  await page.keyboard.type('redacted');
  await press(page.getByRole('button', { name: 'Create delivery' }));
  const fetch = page.getByRole('link', { name: 'Download' });
  await expect(fetch).toBeVisible({ timeout: 120_000 });
  const waiting = page.waitForEvent('download');
  await press(fetch);
  expect((await waiting).suggestedFilename()).toMatch(/\.zip$/);
  await page.keyboard.press('h');
  await expect(page.getByText('The hold is ended.')).toBeVisible();
  await press(page.getByRole('button', { name: 'Remove the list' }));
  await expect(page.getByText('is removed.', { exact: false })).toBeVisible();
});

test('a document is gathered by keyboard, and taken out again', async ({ page }) => {
  await page.goto('/lists');
  await page.getByLabel('A new list').fill('For the desk');
  await page.getByRole('button', { name: 'Create list' }).click();
  await expect(page.getByText('The list is empty.', { exact: false })).toBeVisible();
  await page.goto('/find?c=type+%3D%3D+stoppage_notice');
  await expect(page.getByTestId('total')).not.toHaveText('0');
  await page.getByRole('treegrid').focus();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('a');
  await page.getByRole('link', { name: /^For the desk.*1$/ }).click();
  const documents = page.getByRole('list', { name: 'Documents' }).getByRole('listitem');
  await expect(documents).toHaveCount(1);
  await documents.getByRole('button', { name: /^Remove .+ from the list$/ }).click();
  await expect(page.getByText('Removed from the list.')).toBeVisible();
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await expect(page.getByRole('button', { name: /^Remove .+ from the list$/ })).toHaveCount(1);
  await page.getByRole('button', { name: 'Remove the list' }).click();
});

test('values of many are changed as one act, after a look, and taken back', async ({ page }) => {
  await page.goto('/find?c=type+%3D%3D+dredging_survey&c=condition+%3D%3D+c');
  await expect(page.getByTestId('total')).not.toHaveText('0');
  const found = Number(await page.getByTestId('total').textContent());
  await page.getByRole('button', { name: /^With all/ }).click();
  await page.getByRole('button', { name: `Change index values of the ${found} found…` }).click();
  const dialog = page.getByRole('dialog', { name: 'Change values' });
  await dialog.getByRole('combobox', { name: 'Field to change' }).fill('condition');
  await page.getByRole('option', { name: 'Condition grade' }).click();
  await dialog.getByRole('combobox', { name: /^Condition grade/ }).fill('poor');
  await page.getByRole('option', { name: 'D: poor' }).click();
  await dialog.getByRole('button', { name: 'Show the effect' }).click();
  await expect(dialog.getByRole('region', { name: 'What it would do' })).toContainText(`${found} documents would change`);
  await accessible(page);
  // Somebody else has changed one of them meanwhile: it is refused, and looked at again from where one is.
  const other = await page.evaluate(async () => {
    const headers = {
      'Content-Type': 'application/json',
      Accept: 'application/json',
      'X-XSRF-TOKEN': decodeURIComponent(document.cookie.match(/XSRF-TOKEN=([^;]+)/)![1]!),
    };
    const post = async (path: string, body: object) =>
      (await fetch(`/api/${path}`, { method: 'POST', headers, body: JSON.stringify(body) })).json();
    const search = { words: '', criteria: [{ cql: 'type == dredging_survey and condition == c', negated: false, on: true }] };
    const { rows } = (await post('search', { ...search, limit: 1 })) as { rows: { ref: string }[] };
    const of = { documents: [rows[0]!.ref], field: 'condition', how: 'set', values: ['d'], changes: 1 };
    return ((await post('value-acts', of)) as { id: number }).id;
  });
  await expect(async () => {
    expect((await (await page.request.get(`/api/value-acts/${other}`)).json()).state).toBe('done');
  }).toPass();
  await dialog.getByRole('button', { name: `Change ${found} documents` }).click();
  await expect(dialog.getByRole('alert')).toContainText(`The number of documents has changed from ${found} to ${found - 1}.`);
  await dialog.getByRole('button', { name: 'Show the effect' }).click();
  await dialog.getByRole('button', { name: `Change ${found - 1} documents` }).click();
  await expect(dialog.getByRole('status')).toContainText(`Changed: ${found - 1} documents`, { timeout: 60_000 });
  await expect(page.getByTestId('total')).toHaveText('0');
  await dialog.getByRole('button', { name: 'Undo', exact: true }).click();
  await expect(dialog.getByRole('status')).toContainText(`Undone: ${found - 1} documents`, { timeout: 60_000 });
  await dialog.getByRole('button', { name: 'Close' }).click();
  await expect(page.getByRole('button', { name: /^With all/ })).toBeFocused();
  await expect(page.getByTestId('total')).toHaveText(String(found - 1));
});

test('a document is removed with a reason, and brought back', async ({ page }) => {
  await page.goto('/find?c=type+%3D%3D+weed_silt_report');
  await expect(page.getByTestId('total')).not.toHaveText('0');
  const found = Number(await page.getByTestId('total').textContent());
  await page.getByRole('treegrid').focus();
  await page.keyboard.press('x');
  await page.getByRole('button', { name: 'With 1 selected…' }).click();
  await page.getByRole('button', { name: 'Remove the 1 selected from view…' }).click();
  await page.getByLabel('Reason for removing from view').fill('Filed twice');
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('total')).toHaveText(String(found - 1));
  await page.goto('/lists');
  await page.getByRole('link', { name: 'Removed documents' }).click();
  // Others may have removed something too.
  const removed = page.getByRole('listitem').filter({ hasText: 'Filed twice' });
  await removed.getByRole('checkbox').check();
  await accessible(page);
  await page.getByRole('button', { name: 'Bring back' }).click();
  await expect(removed).toHaveCount(0);
  await page.goto('/find?c=type+%3D%3D+weed_silt_report');
  await expect(page.getByTestId('total')).toHaveText(String(found));
});

test('pull lists are labels: counted in the margins, compared with each other, and each number leads to Find', async ({ page }) => {
  await page.goto('/find');
  const token = decodeURIComponent((await page.context().cookies()).find((c) => c.name === 'XSRF-TOKEN')!.value);
  const headers = { 'X-XSRF-TOKEN': token, Accept: 'application/json' };
  const ids: number[] = [];
  for (const [name, words] of [
    ['Breach, all', 'breach oxbeck'],
    ['Breach, claims', 'breach insurer'],
  ]) {
    const list = (await (await page.request.post('/api/lists', { headers, data: { name } })).json()) as { id: number };
    ids.push(list.id);
    const data = { search: { words, criteria: [], where: [] } };
    expect((await page.request.post(`/api/lists/${list.id}/documents`, { headers, data })).ok()).toBe(true);
  }
  await page.goto(`/lists/${ids[0]}`);
  await page.getByLabel('Compare with').selectOption('Breach, claims');
  const compared = page.getByRole('list', { name: 'Compared with Breach, claims' });
  const both = parseInt(await compared.getByRole('listitem').filter({ hasText: 'in both' }).innerText());
  expect(both).toBeGreaterThan(0);
  await accessible(page);
  await compared.getByRole('link', { name: 'in both' }).click();
  await expect(page.getByTestId('total')).toHaveText(String(both));
  // They are counted in the margins, and one more click leaves those of the other list out.
  await expect(page.getByRole('button', { name: /^Breach, all/ }).first()).toBeVisible();
  await page.goto('/find?q=breach');
  await page
    .getByRole('button', { name: /^Breach, claims/ })
    .first()
    .click();
  await expect(page.getByRole('listitem').filter({ hasText: 'Pull list is' })).toContainText('Breach, claims');
  for (const id of ids) await page.request.delete(`/api/lists/${id}`, { headers });
});
