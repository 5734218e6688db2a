import { expect, test } from '@playwright/test';
import { accessible, session } from './people';

test.use({ storageState: session('admin') });

test('the administrator makes a person, who chooses a password, and puts them out of use', async ({ page, browser }, { retry }) => {
  // A sign-in name is taken for good: another try makes somebody else.
  const name = `Wren Ashby${retry || ''}`;
  const signIn = `w.ashby${retry || ''}`;
  await page.goto('/office');
  await page.getByRole('button', { name: 'New person' }).click();
  await page.getByLabel('Name', { exact: true }).fill(name);
  // A sign-in name is proposed; the role is chosen by the first letters.
  await expect(page.getByLabel('Sign-in name')).toHaveValue(signIn);
  await page.getByLabel('Role').selectOption('Intake clerk');
  await page.getByLabel('Records office').check();
  await accessible(page);
  await page.getByRole('button', { name: 'Create person' }).click();
  const said = page.getByRole('status').filter({ hasText: 'one-time code' });
  await expect(said).toBeVisible();
  const code = (await said.textContent())!.match(/[a-z0-9]{4}(?:-[a-z0-9]{4}){3}/)![0];
  await accessible(page);

  const context = await browser.newContext({ baseURL: new URL(page.url()).origin, storageState: { cookies: [], origins: [] } });
  const theirs = await context.newPage();
  await theirs.goto(`/?code=1&sign_in=${signIn}`);
  await theirs.getByLabel('One-time code').fill(code);
  await theirs.getByLabel('New password').fill('short');
  await theirs.keyboard.press('Enter');
  await expect(theirs.getByRole('alert')).toHaveText('A password has at least ten characters.');
  await accessible(theirs);
  await theirs.getByLabel('New password').fill('seven quiet locks');
  await theirs.keyboard.press('Enter');
  await expect(theirs.getByRole('navigation', { name: 'Places' })).toContainText('Intake');
  await expect(theirs.getByRole('navigation', { name: 'Places' })).not.toContainText('Office');

  // They change the password themselves.
  await theirs.getByRole('link', { name }).click();
  await theirs.getByLabel('Current password').fill('seven quiet locks');
  await theirs.getByLabel('New password').fill('eight quiet locks');
  await accessible(theirs);
  await theirs.getByRole('button', { name: 'Change password' }).click();
  await expect(theirs.getByText('The password is changed.')).toBeVisible();

  await page.getByRole('button', { name: 'Put out of use…' }).click();
  await expect(page.getByText('Nothing is in hand')).toBeVisible();
  await page.getByRole('button', { name: 'Put out of use', exact: true }).click();
  await expect(page.getByText(`${name} is out of use.`)).toBeVisible();
  await theirs.goto('/find');
  await expect(theirs.getByLabel('Sign-in name')).toBeVisible();
  await context.close();
});
