import { expect, test } from '@playwright/test';
import { accessible, session, total } from './people';

test.use({ storageState: session('manager') });

/** Documents that no rule keeps: what one does may be destroyed once it is removed. */
const inspections = `/find?c=${encodeURIComponent('type == lock_inspection and document_date < 2013')}`;

test('the manager holds documents, sees that they cannot go, ends the hold, and destroys one for good', async ({ page, browser }) => {
  await page.goto(inspections);
  await expect(page.getByTestId('total')).not.toHaveText('0');
  const found = Number(await page.getByTestId('total').textContent());
  const title = (await page.locator('#row-0 [role=gridcell]').first().textContent())!.trim();
  await page.getByRole('treegrid').focus();
  await page.keyboard.press('x');
  await page.getByRole('button', { name: 'With 1 selected…' }).click();
  await page.getByLabel('Name of a new list').fill('Pilots in dispute');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('link', { name: 'Open “Pilots in dispute”' })).toBeVisible();
  await page.getByRole('button', { name: 'Add the 1 selected' }).click();
  await page.getByRole('link', { name: 'Pilots in dispute 1' }).click();
  await expect(page.getByRole('listitem').filter({ hasText: title })).toBeVisible();
  await page.keyboard.press('h');
  await page.getByLabel('Reason', { exact: true }).fill('Dispute over the pilotage of 2021');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('status').filter({ hasText: 'Dispute over the pilotage' })).toBeVisible();
  const list = page.url();
  const remove = async () => {
    await page.goto(inspections);
    await expect(page.locator('#row-0')).toContainText(title);
    await page.getByRole('treegrid').focus();
    await page.keyboard.press('x');
    await page.getByRole('button', { name: 'With 1 selected…' }).click();
    await page.getByRole('button', { name: 'Remove the 1 selected from view…' }).click();
    await page.getByLabel('Reason for removing from view').fill('Past its time');
    await page.keyboard.press('Enter');
  };
  // Whoever is stopped is told by what.
  await remove();
  await expect(page.getByText(/hold.*Dispute over the pilotage of 2021/).first()).toBeVisible();
  await total(page, found);
  await page.goto(list);
  await page.getByRole('button', { name: 'End the hold' }).click();
  await expect(page.getByText('The hold is ended.')).toBeVisible();
  await remove();
  await total(page, found - 1);
  // Removed by one decision, destroyed by another: and only the manager’s.
  const other = await browser.newContext({ storageState: session('librarian') });
  const librarian = await other.newPage();
  await librarian.goto('/lists/removed');
  await expect(librarian.getByText(title)).toBeVisible();
  await expect(librarian.getByRole('button', { name: /^Destroy/ })).toHaveCount(0);
  await other.close();
  await page.goto('/lists/removed');
  await page.getByRole('checkbox', { name: `Select ${title}` }).check();
  await page.getByRole('button', { name: 'Destroy…' }).click();
  await expect(page.getByRole('button', { name: 'Destroy them' })).toBeDisabled();
  await page.getByLabel('Reason, and who decided').fill('Schedule 4, signed by the board');
  await accessible(page);
  await page.keyboard.press('Enter');
  await expect(page.getByText('1 document is destroyed.')).toBeVisible();
  await expect(page.getByText(title)).toHaveCount(0);
  await page.goto(inspections);
  await total(page, found - 1);
});
