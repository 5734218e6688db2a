import { expect, test } from '@playwright/test';
import { accessible, session } from './people';

test.use({ storageState: session('clerk') });

test('a dossier is made with its sections, and hands its values down', async ({ page }) => {
  await page.goto('/dossiers');
  await page.getByLabel('New').selectOption('Stoppage');
  const form = page.getByRole('form', { name: 'New Stoppage' });
  await form.getByLabel(/^Structure/).fill('LK-0407-6');
  await form.getByRole('button', { name: 'Create dossier' }).click();
  await expect(form.getByRole('alert')).toContainText('The check character of “LK-0407-6” does not fit');
  await form.getByLabel(/^Structure/).fill('LK-0407-5');
  await form.getByLabel(/^Period of works/).fill('Jan 2025 to Mar 2025');
  await form.getByRole('button', { name: 'Create dossier' }).click();
  await expect(page.getByRole('heading', { name: 'Stoppage at LK-0407-5' })).toBeVisible();
  await expect(page.getByRole('button', { name: /^Notices/ })).toBeVisible();
  await accessible(page);
  const found = await page.request.post('/api/search', {
    data: { words: 'type == stoppage_notice not retention == destroyed', limit: 1, rows_only: true },
    headers: {
      Accept: 'application/json',
      'X-XSRF-TOKEN': decodeURIComponent((await page.context().cookies()).find((c) => c.name === 'XSRF-TOKEN')!.value),
    },
  });
  const { ref, title } = ((await found.json()) as { rows: { ref: string; title: string }[] }).rows[0]!;
  await page.getByRole('button', { name: /^Notices/ }).click();
  await page.getByLabel('Reference of a document to put in').fill(ref);
  await page.getByRole('button', { name: 'Add document' }).click();
  await page.getByRole('link', { name: title }).click();
  await expect(page.getByText('Jan 2025 to Mar 2025')).toBeVisible();
  await expect(page.getByRole('link', { name: 'Stoppage at LK-0407-5' }).first()).toBeVisible();
  await page.getByRole('link', { name: 'Stoppage at LK-0407-5' }).first().click();
  await page.getByRole('checkbox', { name: `Select ${title}` }).check();
  await page.getByRole('button', { name: 'Remove from the dossier' }).click();
  await expect(page.getByText('The dossier is empty.', { exact: false })).toBeVisible();
});

test('a reference table fills in the contractor while indexing', async ({ page }) => {
  await page.goto('/intake');
  await page.getByLabel('Library for new files').selectOption('Works');
  await page
    .getByLabel('Files', { exact: true })
    .setInputFiles({ name: 'offer.txt', mimeType: 'text/plain', buffer: Buffer.from('An offer.') });
  await page.getByRole('combobox', { name: 'Document type' }).fill('contr');
  await page.getByRole('option', { name: 'Contract', exact: true }).click();
  await page.getByLabel(/^Supplier number/).fill('S-108-9');
  await expect(page.getByLabel(/^Contractor/)).toHaveValue('Holm Masonry');
  await expect(page.getByText('filled in from “Approved suppliers”', { exact: false })).toBeVisible();
  await accessible(page);
  await page.getByRole('button', { name: 'Remove from intake' }).click();
});
