import { expect, test } from '@playwright/test';
import { accessible, people, session } from './people';

for (const who of people) {
  test(`the ${who} signs in`, async ({ page }) => {
    await page.goto('/');
    await page.getByLabel('Sign-in name').fill(who);
    await page.getByLabel('Password').fill('tarnwick');
    await page.keyboard.press('Enter');
    await expect(page.getByRole('navigation', { name: 'Places' })).toBeVisible();
    await page.context().storageState({ path: session(who) });
  });
}

test('a wrong password is said beside the form, which is accessible', async ({ page }) => {
  await page.goto('/find?q=gate');
  await page.getByLabel('Sign-in name').fill('nobody');
  await page.getByLabel('Password').fill('wrong');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByRole('alert')).toHaveText('The sign-in name or the password is wrong. Try again.');
  await accessible(page);
});

test('most PDFs have been read; scans are read while the other tests run', async ({ page }) => {
  test.setTimeout(420_000);
  await page.goto('/');
  await page.getByLabel('Sign-in name').fill('manager');
  await page.getByLabel('Password').fill('tarnwick');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('navigation', { name: 'Places' })).toBeVisible();
  const cookies = await page.context().cookies();
  const token = decodeURIComponent(cookies.find((c) => c.name === 'XSRF-TOKEN')!.value);
  const waiting = async () => {
    const answer = await page.request.post('/api/search', {
      headers: { 'X-XSRF-TOKEN': token, Accept: 'application/json' },
      data: { words: 'file_type == pdf and text_state == pending', limit: 0 },
    });
    return ((await answer.json()) as { total: number }).total;
  };
  // Those that wait behind scans are no matter for the tests.
  await expect.poll(waiting, { timeout: 400_000, intervals: [2_000] }).toBeLessThan(120);
});
