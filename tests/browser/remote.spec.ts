import { expect, test } from '@playwright/test';
import { accessible, session } from './people';

test.use({ storageState: session('reader') });

const survey = '/find?q=silt&c=waterway+%3D%3D+tarn-summit';

test('story 5: one search over what is here and the Survey Exchange', async ({ page }) => {
  await page.goto(survey);
  const repositories = page.getByRole('group', { name: 'Repositories' });
  await expect(repositories.getByRole('button', { name: /^Here \d+/ })).toBeVisible();
  const there = repositories.getByRole('button', { name: /^Survey Exchange \d+/ });
  await there.click();
  const found = Number(/\d+$/.exec((await there.textContent())!.trim())![0]);
  expect(found).toBeGreaterThan(0);
  await expect(page.getByTestId('remote-total')).toHaveText(String(found));
  const rows = page.getByRole('grid', { name: 'Records at Survey Exchange' }).getByRole('row');
  await expect(rows).toHaveCount(found + 1);
  await accessible(page);

  // Others may have the word only in their pages, which are not here.
  await rows.filter({ hasText: 'Silt and bed survey' }).first().click();
  const pane = page.getByRole('region', { name: 'Reading pane' });
  await expect(pane.getByText('A record of Survey Exchange')).toBeVisible();
  await expect(pane.locator('mark').first()).toHaveText(/silt/i);
  // The document itself is drawn.
  await expect
    .poll(() =>
      pane
        .locator('canvas')
        .first()
        .evaluate((canvas) => (canvas as HTMLCanvasElement).width),
    )
    .toBeGreaterThan(300);
  await expect(pane.getByRole('button', { name: 'Bring in a copy…' })).toHaveCount(0);
  await accessible(page);
  const address = page.url();
  await page.reload();
  await expect(pane.getByText('A record of Survey Exchange')).toBeVisible();
  expect(page.url()).toBe(address);

  await repositories.getByRole('button', { name: /^Here/ }).click();
  await expect(page.getByTestId('total')).toBeVisible();
  await expect(pane).toHaveCount(0);
});

test('story 5 by keyboard alone', async ({ page }) => {
  await page.goto(survey);
  await expect(page.getByRole('button', { name: /^Survey Exchange \d+/ })).toBeVisible();
  await page.keyboard.press('e');
  await page.keyboard.press('Enter');
  const grid = page.getByRole('grid', { name: 'Records at Survey Exchange' });
  await expect(grid).toBeVisible();
  await page.keyboard.press('r');
  await expect(grid).toBeFocused();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('ArrowDown');
  const pane = page.getByRole('region', { name: 'Reading pane' });
  const second = page.getByRole('row').nth(2);
  await expect(second).toHaveAttribute('aria-selected', 'true');
  await expect(pane.getByRole('heading')).toHaveText((await second.getByRole('gridcell').first().textContent())!.trim());
  await page.keyboard.press('Escape');
  await expect(pane).toHaveCount(0);
});

test('says which lines do not hold there, and asks nothing there when told so', async ({ page }) => {
  await page.goto(`${survey}&c=vessel+%3D%3D+Tern&from=survey_exchange`);
  const note = page.getByRole('note', { name: 'What was not asked there' });
  await expect(note).toContainText('Vessel is Tern');
  await expect(note).toContainText('not mapped to Dublin Core');
  await page.getByRole('button', { name: /Operations/ }).click();
  await page.getByRole('checkbox', { name: 'Survey Exchange' }).uncheck();
  await expect(page.getByRole('group', { name: 'Repositories' })).toHaveCount(0);
  await page.reload();
  await expect(page.getByTestId('total')).toBeVisible();
  await expect(page.getByRole('group', { name: 'Repositories' })).toHaveCount(0);
});

test('a repository that does not answer holds up nothing, is named, and is asked again', async ({ page }) => {
  let answer = () => {};
  const held = new Promise<void>((resolve) => (answer = resolve));
  let asked = 0;
  await page.route('**/api/remote/survey_exchange/search', async (route) => {
    if (++asked > 1) return route.fallback();
    await held;
    const says = 'Survey Exchange did not answer within 4 seconds.';
    await route.fulfill({
      json: {
        repository: 'survey_exchange',
        name: 'Survey Exchange',
        state: 'slow',
        says,
        total: null,
        cql: '',
        left_out: [],
        offset: 0,
        rows: [],
      },
    });
  });
  await page.goto(survey);
  const there = page.getByRole('button', { name: /^Survey Exchange/ });
  await expect(there).toContainText('asking…');
  await expect(page.getByTestId('total')).not.toHaveText('0');
  await page.getByRole('row').nth(1).click();
  await expect(page.getByRole('region', { name: 'Reading pane' }).getByRole('article', { name: 'Page 1' })).toBeVisible();
  answer();
  await expect(there).toContainText('too slow');
  await there.click();
  await expect(page.getByText('did not answer within 4 seconds')).toBeVisible();
  await page.getByRole('button', { name: 'Search again' }).click();
  await expect(page.getByTestId('remote-total')).not.toHaveText('0');
});

test.describe('who files', () => {
  test.use({ storageState: session('clerk') });

  test('brings a copy into intake', async ({ page }) => {
    await page.goto(`${survey}&from=survey_exchange&rec=0`);
    const pane = page.getByRole('region', { name: 'Reading pane' });
    const title = (await pane.getByRole('heading').textContent())!;
    await pane.getByRole('button', { name: 'Bring in a copy…' }).click();
    await pane.getByLabel('Into the library').selectOption('Waterways');
    await pane.getByRole('button', { name: 'Bring in a copy', exact: true }).click();
    await pane.getByRole('link', { name: 'Intake' }).click();
    const entry = page.getByRole('region', { name: 'Waiting' }).getByRole('button', { name: new RegExp(`^${title}`) });
    await entry.first().click();
    await page.getByRole('button', { name: 'Remove from intake' }).click();
  });
});

test.describe('who designs', () => {
  test.use({ storageState: session('librarian') });

  test('asks a server what it can do', async ({ page }) => {
    await page.goto('/design/repositories/survey_exchange');
    await page.getByRole('button', { name: 'Test the connection' }).click();
    await expect(page.getByText('Connected. The server calls itself “Survey Exchange”.')).toBeVisible();
    await expect(page.getByRole('row', { name: /^Document date dc\.date yes yes/ })).toBeVisible();
    await expect(page.getByRole('row', { name: /^Silt depth.*not mapped/ })).toBeVisible();
    await accessible(page);
  });
});
