import { expect, test, type Browser } from '@playwright/test';
import { createHmac } from 'node:crypto';
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
  await expect(theirs.getByRole('alert')).toContainText('at least 15 characters');
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

/** The code of RFC 6238 for a secret in base 32, as a program on a telephone makes it. */
function codeOf(secret: string, steps = 0): string {
  const bits = [...secret].map((sign) => 'ABCDEFGHIJKLMNOPQRSTUVWXYZ234567'.indexOf(sign).toString(2).padStart(5, '0')).join('');
  const key = Buffer.from(bits.match(/.{8}/g)!.map((byte) => Number.parseInt(byte, 2)));
  const counter = Buffer.alloc(8);
  counter.writeBigUInt64BE(BigInt(Math.floor(Date.now() / 30_000) + steps));
  const hash = createHmac('sha1', key).update(counter).digest();
  const number = hash.readUInt32BE(hash[19]! & 0xf) & 0x7fffffff;
  return String(number % 1_000_000).padStart(6, '0');
}

/** Somebody new, signed in with a browser of their own. */
async function begun(browser: Browser, baseURL: string, signIn: string, code: string) {
  const context = await browser.newContext({ baseURL, storageState: { cookies: [], origins: [] } });
  const page = await context.newPage();
  await page.goto(`/?code=1&sign_in=${signIn}`);
  await page.getByLabel('One-time code').fill(code);
  await page.getByLabel('New password').fill('seven quiet locks');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('navigation', { name: 'Places' })).toBeVisible();
  return { context, page };
}

test('a role of the office’s own, a group in a group, and a second factor', async ({ page, browser }, { retry }) => {
  const origin = new URL((await page.goto('/office/roles'))!.url()).origin;
  await page.getByRole('button', { name: 'New role' }).click();
  await expect(page.getByLabel('Name')).toBeFocused();
  await page.keyboard.type(`Counter${retry || ''}`);
  await page.getByRole('checkbox', { name: /^Put on hold/ }).check();
  await accessible(page);
  await page.getByRole('button', { name: 'Create role' }).click();
  await expect(page.getByRole('row', { name: `Counter${retry || ''} 0 find and read, put on hold` })).toBeVisible();

  await page.getByRole('navigation', { name: 'Office' }).getByRole('link', { name: 'People' }).click();
  await page.getByRole('button', { name: 'New person' }).click();
  const signIn = `d.counter${retry || ''}`;
  await page.getByLabel('Name', { exact: true }).fill(`Dora Counter${retry || ''}`);
  await page.getByLabel('Sign-in name').fill(signIn);
  await page.getByLabel('Role').selectOption(`Counter${retry || ''}`);
  await page.getByRole('button', { name: 'Create person' }).click();
  const said = page.getByRole('status').filter({ hasText: 'one-time code' });
  const code = (await said.textContent())!.match(/[a-z0-9]{4}(?:-[a-z0-9]{4}){3}/)![0];
  const { context, page: theirs } = await begun(browser, origin, signIn, code);

  // Dora finds and reads, and takes nothing away.
  await theirs.goto('/find?words=lock');
  await theirs.getByRole('row').nth(1).click();
  await theirs.keyboard.press('Enter');
  await expect(theirs.getByRole('region', { name: 'Pages' })).toBeVisible();
  await expect(theirs.getByRole('link', { name: 'Download' })).toHaveCount(0);

  // The second factor, turned on and asked for.
  await theirs.goto('/me');
  await theirs.getByRole('button', { name: 'Turn on…' }).click();
  const key = theirs.getByText(/^(?:[A-Z2-7]{4} ){7}[A-Z2-7]{4}$/);
  const secret = (await key.textContent())!.replaceAll(' ', '');
  await expect(theirs.getByAltText('QR code of the key below')).toBeVisible();
  await accessible(theirs);
  await theirs.getByLabel('Code that it shows').fill(codeOf(secret));
  await theirs.locator('#factor-on-password').fill('seven quiet locks');
  await theirs.keyboard.press('Enter');
  await expect(theirs.getByText(/Print these recovery codes/)).toBeVisible();
  const recovery = (await theirs
    .getByText(/^[a-z2-7]{5}-[a-z2-7]{5}-[a-z2-7]{5}$/)
    .first()
    .textContent())!;
  await accessible(theirs);
  await theirs.getByRole('button', { name: 'Sign out' }).click();
  await theirs.getByLabel('Sign-in name').fill(signIn);
  await theirs.getByLabel('Password').fill('seven quiet locks');
  await theirs.keyboard.press('Enter');
  await expect(theirs.getByLabel('Code of your second factor')).toBeFocused();
  await accessible(theirs);
  await theirs.keyboard.type(codeOf(secret));
  await theirs.keyboard.press('Enter');
  // It was taken when the factor was turned on, unless half a minute has passed since.
  await expect(theirs.getByRole('alert').or(theirs.getByRole('navigation', { name: 'Places' }))).toBeVisible();
  if (await theirs.getByRole('alert').isVisible()) {
    await theirs.getByLabel('Code of your second factor').fill(recovery);
    await theirs.keyboard.press('Enter');
  }
  await expect(theirs.getByRole('navigation', { name: 'Places' })).toBeVisible();

  // A token for a program: it is told once, and used without a session.
  await theirs.goto('/me');
  await theirs.getByRole('button', { name: 'New token…' }).click();
  await expect(theirs.getByLabel('What it is for')).toBeFocused();
  await theirs.keyboard.type('Nightly list');
  await accessible(theirs);
  await theirs.keyboard.press('Enter');
  const token = (await theirs.getByText(/^brenvic_\w{40}$/).textContent())!;
  const program = await browser.newContext({ baseURL: origin, storageState: { cookies: [], origins: [] } });
  const asked = { headers: { Authorization: `Bearer ${token}`, Accept: 'application/json' } };
  const found = await program.request.post('/api/search', { ...asked, data: { words: 'lock', limit: 1 } });
  expect(((await found.json()) as { total: number }).total).toBeGreaterThan(10);
  expect((await program.request.post('/api/search/export', { ...asked, data: { words: 'lock' } })).status()).toBe(403);
  expect(await program.cookies()).toEqual([]);
  await theirs.getByRole('button', { name: 'Revoke Nightly list' }).click();
  await expect(theirs.getByText('not used yet')).toHaveCount(0);
  expect((await program.request.get('/api/desk', asked)).status()).toBe(401);
  await program.close();

  // The administrator sees the session, and ends it.
  await page.reload();
  await page.getByRole('button', { name: /Dora Counter/ }).click();
  await expect(page.getByText('Has a second factor')).toBeVisible();
  await page.getByRole('button', { name: 'End all sessions' }).click();
  await expect(page.getByRole('button', { name: 'End all sessions' })).toHaveCount(0);
  await theirs.goto('/desk');
  await expect(theirs.getByLabel('Sign-in name')).toBeVisible();
  await context.close();

  // A group in a group, and out again.
  await page.getByRole('navigation', { name: 'Office' }).getByRole('link', { name: 'Groups' }).click();
  await page.getByRole('listitem').filter({ hasText: 'Board office' }).getByRole('button', { name: 'Groups in it…' }).click();
  await page.getByRole('checkbox', { name: 'Harbour office' }).check();
  await accessible(page);
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText('Everybody in Harbour office')).toBeVisible();
  await page.getByRole('listitem').filter({ hasText: 'Board office' }).getByRole('button', { name: 'Groups in it…' }).click();
  await page.getByRole('checkbox', { name: 'Harbour office' }).uncheck();
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText('Everybody in Harbour office')).toHaveCount(0);
});

test('health says what is well, and signing in and the table of people can be reached', async ({ page }) => {
  await page.goto('/office/health');
  await expect(page.getByRole('row', { name: /^database well/ })).toBeVisible();
  await expect(page.getByRole('row', { name: /^first worker well/ })).toBeVisible();
  await accessible(page);
  await page.getByRole('link', { name: 'Signing in' }).click();
  await expect(page.getByLabel('Signed out in any case after')).toHaveValue('72');
  await accessible(page);
  await page.getByRole('link', { name: 'Import and export' }).click();
  await page.getByLabel('Import people from CSV…').setInputFiles({
    name: 'people.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from('sign_in,name,role\nreader,Isla Thorne,reader\nx,Nobody,emperor\n'),
  });
  await expect(page.getByText('There is no role “emperor”.')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Import', exact: true })).toHaveCount(0);
  await accessible(page);
});

test('why somebody may read a document is said, condition by condition', async ({ browser, baseURL }) => {
  const context = await browser.newContext({ baseURL, storageState: session('librarian') });
  const page = await context.newPage();
  await page.goto('/find?c=type%20%3D%3D%20%22minute%22');
  // Rows of what was shown before stand there until the answer comes.
  const first = page.getByRole('row').nth(1);
  await expect(first).toContainText(/board minute|legal advice/i);
  await first.click();
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Who can see this document' }).click();
  await expect(page.getByText('Not seen by')).toBeVisible();
  await page.getByRole('button', { name: 'Why, of Isla Thorne' }).click();
  await expect(page.getByText('May not read it')).toBeVisible();
  await expect(page.getByText(/is open to .*; they are in none of these\./)).toBeVisible();
  await accessible(page);
  await context.close();
});
