import { expect, test, type Page } from '@playwright/test';
import { execFileSync } from 'node:child_process';
import { resolve } from 'node:path';
import { accessible, press, reach, session } from './people';

test.use({ storageState: session('clerk') });

/** Where the server that is tested keeps its data. */
const data = resolve(process.env.BRENVIC_TESTED_DATA ?? 'storage/browser');

const waitingOf = (page: Page) => page.getByRole('region', { name: 'Waiting' });

async function key(page: Page, name: string) {
  await page.keyboard.press(name);
}

/** Keys that are pressed within the page, however they are pressed. */
async function counting(page: Page) {
  await page.addInitScript(() => {
    const store = sessionStorage;
    addEventListener(
      'keydown',
      (event) => {
        if (!['Alt', 'Control', 'Shift', 'Tab'].includes(event.key)) store.setItem('keys', String(Number(store.getItem('keys') ?? 0) + 1));
      },
      true,
    );
  });
}
const pressed = (page: Page) => page.evaluate(() => Number(sessionStorage.getItem('keys') ?? 0));

/** Takes what the page says for a field, once it is there. */
async function take(page: Page, field: RegExp) {
  await expect(page.getByLabel(field).first()).toBeFocused();
  await expect(page.getByRole('group', { name: 'What the pages say' }).getByTitle(/Alt 1$/)).toBeVisible();
  await key(page, 'Alt+1');
}

test('thirty pieces by mail and scanner are filed without a mouse, and nothing is typed that the page says', async ({ page }) => {
  test.setTimeout(400_000);
  await counting(page);
  const cookies = await page.context().cookies();
  const headers = { 'X-XSRF-TOKEN': decodeURIComponent(cookies.find((c) => c.name === 'XSRF-TOKEN')!.value), Accept: 'application/json' };
  const list = async () =>
    (await (await page.request.get('/api/intake', { headers })).json()) as {
      total: number;
      documents: { ref: string; file_name: string; text_state: string; type: { code: string } | null }[];
    };
  const before = await list();
  if (before.total > 0)
    await page.request.post('/api/intake/discard', { headers, data: { documents: before.documents.map((d) => d.ref) } });

  // The post comes: mails by themselves, paper by the scanner, with a jam in the middle.
  execFileSync('php', ['artisan', 'brenvic:demo-mail', '24'], { env: { ...process.env, BRENVIC_DATA: data } });
  await page.goto('/intake');
  await press(page.getByRole('button', { name: 'Scan', exact: true }));
  await press(page.getByRole('button', { name: 'Scan the stack' }));
  await expect(page.getByRole('alert').filter({ hasText: 'Paper is jammed' })).toBeVisible({ timeout: 60_000 });
  await accessible(page, '[data-popover-content]');
  await press(page.getByRole('button', { name: 'Go on' }));
  await expect(page.getByText('The stack waits in Intake.')).toBeVisible({ timeout: 60_000 });

  // The stack becomes six documents.
  const stack = waitingOf(page).getByRole('button', { name: /^Scan of/ });
  await expect(stack).toHaveAttribute('aria-pressed', 'true');
  await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
  await key(page, 'p');
  await expect(page.getByRole('heading', { name: /^Pages of Scan of/ })).toBeVisible();
  await expect(page.getByRole('status').filter({ hasText: 'looked at' })).toHaveCount(0, { timeout: 150_000 });
  await press(page.getByRole('button', { name: /^At separator sheets/ }));
  await press(page.getByRole('button', { name: /^Rotate upright/ }));
  await press(page.getByRole('button', { name: /^Straighten/ }));
  await press(page.getByRole('button', { name: /^Leave blank ones out/ }));
  await accessible(page);
  // A letter that no sheet was laid before begins where its page is.
  await key(page, 'ArrowDown');
  const last = page.getByRole('region', { name: 'Document 5' }).getByRole('button', { name: /^Page/ }).nth(4);
  for (let i = 0; i < 40 && !(await last.evaluate((e) => e === document.activeElement)); i++) await key(page, 'ArrowRight');
  await expect(last).toBeFocused();
  await key(page, 'Enter');
  await expect(page.getByRole('button', { name: 'Create 6 documents' })).toBeVisible();
  await key(page, 'Control+Enter');
  await expect(page.getByText('6 documents wait in Intake.')).toBeVisible();
  await expect.poll(async () => (await list()).documents.filter((d) => d.text_state === 'read').length, { timeout: 150_000 }).toBe(30);
  await page.reload();
  await expect(page.getByRole('heading', { name: 'Waiting 30' })).toBeVisible();
  const begun = await pressed(page);
  const since = Date.now();

  // One after the other: the cursor stands in the first field that is empty.
  for (let left = 30; left > 0; left--) {
    const looked = waitingOf(page).locator('button[aria-pressed=true]');
    await expect(looked).toHaveCount(1);
    if (left === 30) {
      await expect(page.getByRole('combobox', { name: 'Document type' })).not.toHaveValue('');
      await key(page, 'i');
    }
    const type = await page.getByRole('combobox', { name: 'Document type' }).inputValue();
    const name = (await looked.textContent()) ?? '';
    if (type === '') {
      // The letter that no sheet was laid before: only what it is has to be said.
      await page.keyboard.type('stopp');
      await key(page, 'ArrowDown');
      await key(page, 'Enter');
      await reach(page.getByLabel(/^Document date/));
      await page.keyboard.type('2025');
      await reach(page.getByLabel(/^Waterway/));
      await page.keyboard.type('coal basin');
      await key(page, 'ArrowDown');
      await key(page, 'Enter');
      await key(page, 'Control+Enter');
      await expect(page.getByRole('heading', { name: 'Waiting 0' })).toBeVisible();
      break;
    }
    if (type === 'Lock inspection') {
      await take(page, /^Document date/);
      await take(page, /^Structure/);
    } else if (type === 'Mooring permit') {
      await take(page, /^Permit number/);
      await take(page, /^Vessel/);
    } else if (type === 'Quotation') {
      await take(page, /^Contractor/);
    } else {
      await take(page, /^Document date/);
      await take(page, /^Waterway/);
    }
    await key(page, 'Control+Enter');
    await expect(page.getByRole('heading', { name: left === 1 ? 'Waiting 0' : `Waiting ${left - 1}` }), name).toBeVisible();
  }
  // What is asked of a person: three keys a piece, and the letter’s own words.
  const keys = (await pressed(page)) - begun;
  expect(keys).toBeLessThanOrEqual(140);
  console.log(`      ${keys} keys and ${Math.round((Date.now() - since) / 1000)} s for the sheets of 30 pieces`);
});
