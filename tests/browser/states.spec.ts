import { expect, test, type Page } from '@playwright/test';
import { accessible, session } from './people';

// Every place, and what can be opened in it, against WCAG 2.2. What other tests check on their way is not here again.
test.use({ storageState: session('librarian') });

async function found(page: Page, address: string): Promise<void> {
  await page.goto(address);
  await expect(page.getByTestId('total')).toHaveText(/^\d/);
}

test('what can be opened in Find is accessible', async ({ page }) => {
  await found(page, '/find?q=seepage+nowhere');
  await accessible(page);
  await found(page, '/find?v=surveys&as=outline');
  await accessible(page);
  await found(page, '/find?v=surveys&as=steps');
  await accessible(page);
  await found(page, '/find?q=seepage+sill&v=inspections');
  for (const name of [
    /^With all/,
    'Saved searches',
    'Columns',
    'Save as my view…',
    'Arrange the margins',
    /^Look for words in/,
    'As CQL',
  ]) {
    await page.getByRole('button', { name }).click();
    const isBox = (await page.getByRole('dialog').count()) > 0;
    await accessible(page, isBox ? '[role=dialog]' : undefined);
    await page.keyboard.press('Escape');
  }
  await found(page, '/find?q=seepage+sill');
  await page.getByLabel('Search form').selectOption({ index: 1 });
  await accessible(page);
  await page.getByRole('row').nth(1).focus();
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog')).toBeVisible();
  await accessible(page, '[role=dialog]');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Last acts' }).click();
  await accessible(page, '[role=dialog]');
});

test('what can be opened in the reader is accessible', async ({ page }) => {
  await found(page, '/find?q=seepage+sill&c=type+%3D%3D+lock_inspection&c=file_type+%3D%3D+pdf');
  await page.getByRole('row').nth(1).click();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('link', { name: 'Download' })).toBeVisible();
  for (const name of [
    'Send as a message',
    'Add to the pull list',
    'Download or link…',
    'Who can see this document',
    'Add to a dossier',
    'History',
    'Mark the pages',
    'Redact',
  ]) {
    await page.getByRole('button', { name, exact: true }).click();
    await accessible(page, (await page.getByRole('dialog').count()) > 0 ? '[role=dialog]' : undefined);
    // Esc with nothing open leads back to the results.
    if ((await page.getByRole('dialog').count()) > 0) await page.keyboard.press('Escape');
  }
  const { pathname } = new URL(page.url());
  await page.goto(`${pathname}/pages`);
  await expect(page.getByRole('list', { name: 'Pages' })).toBeVisible();
  await accessible(page);
});

test('the other places are accessible', async ({ page }) => {
  for (const [address, heading] of [
    ['/lists', 'Pull lists'],
    ['/lists/outbox', 'Outbox'],
    ['/dossiers', 'Dossiers'],
    ['/intake', 'Intake'],
    ['/me', 'Your settings'],
    ['/nowhere', null],
  ] as const) {
    await page.goto(address);
    if (heading) await expect(page.getByRole('heading', { name: heading, exact: true }).first()).toBeVisible();
    else await expect(page.getByRole('navigation').first()).toBeVisible();
    await accessible(page);
  }
});

interface AxNode {
  role?: { value: string };
  name?: { value: string };
  ignored?: boolean;
  properties?: { name: string; value: { value: unknown } }[];
}

test('a screen reader is told where it is in Find, how much was found, and which row and column it reads', async ({ page }) => {
  await found(page, '/find?q=seepage+sill&v=inspections');
  const cdp = await page.context().newCDPSession(page);
  const tree = async () => ((await cdp.send('Accessibility.getFullAXTree')) as { nodes: AxNode[] }).nodes.filter((n) => !n.ignored);
  const named = (nodes: AxNode[], role: string) => nodes.filter((n) => n.role?.value === role).map((n) => n.name?.value ?? '');
  const nodes = await tree();
  // Landmarks, each with a name that tells it from the others, in the order one comes to them.
  expect(named(nodes, 'main')).toHaveLength(1);
  expect(named(nodes, 'banner')).toHaveLength(1);
  const regions = [...named(nodes, 'region'), ...named(nodes, 'complementary'), ...named(nodes, 'navigation')];
  expect(regions.filter((n) => n === '')).toEqual([]);
  expect(new Set(regions).size).toBe(regions.length);
  // Headings lead through the place: one of the first level, and none is skipped.
  const levels = nodes
    .filter((n) => n.role?.value === 'heading')
    .map((n) => Number(n.properties?.find((p) => p.name === 'level')?.value.value));
  expect(levels.filter((level) => level === 1)).toHaveLength(1);
  levels.reduce((before, level) => {
    expect(level).toBeLessThanOrEqual(before + 1);
    return level;
  }, 0);
  // Everything that can be pressed says what it does.
  for (const role of ['button', 'link', 'checkbox', 'combobox', 'textbox', 'searchbox', 'radio'])
    expect(
      named(nodes, role).filter((n) => n.trim() === ''),
      role,
    ).toEqual([]);

  // The table tells how large it is, and each row and cell its place in all of it.
  const grid = page.getByRole('treegrid');
  const total = Number(await page.getByTestId('total').textContent());
  await expect(grid).toHaveAttribute('aria-rowcount', String(total + 1));
  const columns = await page.getByRole('columnheader').count();
  await expect(grid).toHaveAttribute('aria-colcount', String(columns));
  await grid.focus();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('ArrowDown');
  const row = page.locator(`[id="${await grid.getAttribute('aria-activedescendant')}"]`);
  await expect(row).toHaveAttribute('aria-rowindex', '4');
  await expect(row.getByRole('gridcell').first().or(row.getByRole('rowheader').first())).toHaveAttribute('aria-colindex', '1');

  // What was found is said without moving there, once it stands.
  const said = page.getByRole('status').filter({ hasText: /\d+ documents/ });
  await expect(said.first()).toHaveText(new RegExp(`${total} documents`));
  await page
    .getByRole('region', { name: 'Condition grade' })
    .getByRole('button', { name: /^D: poor/ })
    .click();
  await expect(said.first()).not.toHaveText(new RegExp(`^${total} documents`));
  await expect(said.first()).toHaveText(/\d+ documents?/);
});
