import { expect, test } from '@playwright/test';
import { accessible, session, total } from './people';

test.use({ storageState: session('reader') });

test('story 1 by mouse: the permits of the Marigold Ash in 2023', async ({ page }) => {
  await page.goto('/desk');
  await page.getByLabel(/^Query line/).fill('"marigold ash"');
  await page.getByLabel(/^Query line/).press('Enter');
  await page
    .getByRole('region', { name: 'Document type' })
    .getByRole('button', { name: /^Mooring permit/ })
    .click();
  await expect(page.getByRole('listitem').filter({ hasText: 'Document type is' })).toContainText('Mooring permit');
  await page.getByRole('region', { name: 'Document date' }).getByRole('button', { name: /^2023/ }).click();
  await total(page, 4);
  const row = page.getByRole('row').filter({ hasText: 'MP-2023-0007' });
  await row.click();
  const pane = page.getByRole('region', { name: 'Reading pane' });
  await expect(pane.getByRole('heading', { name: 'Mooring permit MP-2023-0007: Marigold Ash' })).toBeVisible();
  await expect(pane.getByTestId('hits')).toContainText('1 of 1');
  await expect(pane.locator('.hit').first()).toBeVisible();
  await pane.getByRole('button', { name: 'Index sheet' }).click();
  await expect(pane.getByText('Berth', { exact: true })).toBeVisible();
  // A reader does not see who holds the permit.
  await expect(pane.getByText('Holder')).toHaveCount(0);
  await accessible(page);
});

test('story 1 by keyboard alone', async ({ page }) => {
  await page.goto('/desk');
  await expect(page.getByRole('heading', { name: 'Libraries' })).toBeVisible();
  await page.keyboard.press('/');
  await page.keyboard.type('vessel == "Marigold Ash" and type == mooring_permit and document_date = 2023');
  await page.keyboard.press('Enter');
  await total(page, 4);
  await page.keyboard.press('m');
  await expect(page.locator('.facet button').first()).toBeFocused();
  await page.keyboard.press('l');
  await expect(page.locator('#ledger-line-0')).toBeFocused();
  await page.keyboard.press('r');
  await expect(page.getByRole('treegrid')).toBeFocused();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Space');
  await expect(page.getByRole('region', { name: 'Reading pane' }).getByRole('heading', { level: 2 })).toContainText('Marigold Ash');
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/\/documents\/D-/);
  await expect(page.getByRole('link', { name: 'Download' })).toBeVisible();
  await page.keyboard.press('Escape');
  await total(page, 4);
});

test('steps through the hits of a document', async ({ page }) => {
  await page.goto('/find?q=seepage+sill&as=digest');
  const first = page.getByRole('row').filter({ hasText: 'Lock inspection' }).first();
  await expect(first.locator('mark').first()).toBeVisible();
  await first.click();
  const hits = page.getByTestId('hits');
  await expect(hits).toContainText(/^1 of \d+/);
  await page.keyboard.press('n');
  await expect(hits).toContainText(/^2 of \d+/);
  await page.keyboard.press('p');
  await expect(hits).toContainText(/^1 of \d+/);
  await expect(page.locator('canvas').first()).toBeVisible();
});

test('what was looked for is marked in the index sheet below the pages, which is as high as it is drawn', async ({ page }) => {
  await page.goto('/find?q=silt&c=waterway+%3D%3D+tarn-upper&c=document_date+within+%222010+2015%22&c=type+%3D%3D+weed_silt_report');
  await page.getByRole('row').nth(1).click();
  const pane = page.getByRole('region', { name: 'Reading pane' });
  const marked = (field: string) =>
    pane
      .locator('dl > div')
      .filter({ has: page.getByText(field, { exact: true }) })
      .locator('mark');
  await expect(marked('Document date')).toHaveText(/201[0-5]$/);
  // A concept is found by the one above it.
  await expect(marked('Waterway')).toHaveCount(1);
  await expect(marked('Silt depth')).toHaveCount(0);
  await expect(pane.getByRole('heading', { level: 2 }).locator('mark')).toHaveText('silt');
  await expect(pane.getByRole('article', { name: 'Page 1' })).toBeVisible();
  await accessible(page);

  const edge = pane.getByRole('separator', { name: 'Height of the index sheet' });
  const height = async () => Number(await edge.getAttribute('aria-valuenow'));
  const before = await height();
  await edge.focus();
  await page.keyboard.press('ArrowUp');
  await expect.poll(height).toBe(before + 24);
  await page.reload();
  await expect.poll(height).toBe(before + 24);
  await pane.getByRole('button', { name: 'Pages', exact: true }).click();
  await expect(edge).toHaveCount(0);
  await expect(pane.getByRole('heading', { name: 'Index sheet' })).toHaveCount(0);
});

test('a search that finds nothing says which line to drop', async ({ page }) => {
  await page.goto('/find?q=marigold+lagoon');
  await total(page, 0);
  await page.getByRole('button', { name: /^Drop “lagoon” to find \d+ documents/ }).click();
  await expect(page).toHaveURL(/q=marigold$/);
  await expect(page.getByTestId('total')).not.toHaveText('0');
});

test('lines can be switched off, negated and added from a form; back and forward and reload keep them', async ({ page }) => {
  await page.goto('/find?v=inspections&c=type+%3D%3D+lock_inspection');
  await total(page, 320);
  await page.getByRole('button', { name: 'Add a criterion' }).click();
  await page.getByLabel('Field', { exact: true }).fill('cond');
  await page.getByRole('option', { name: 'Condition grade' }).click();
  await page.getByLabel('Value', { exact: true }).fill('fail');
  await page.getByRole('option', { name: 'E: failing' }).click();
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  const line = page.getByRole('listitem').filter({ hasText: 'Condition grade is' });
  await expect(line).toBeVisible();
  const found = Number(await page.getByTestId('total').textContent());
  expect(found).toBeGreaterThan(0);
  await line.getByRole('button', { name: /^Change “Condition grade is/ }).click();
  await page.getByRole('radio', { name: 'must not match' }).check();
  await total(page, 320 - found);
  await page.keyboard.press('Escape');
  await expect(page.locator('#ledger-line-1')).toBeFocused();
  await expect(page.locator('#ledger-line-1')).toContainText('Condition grade is not E: failing');
  await page.reload();
  await total(page, 320 - found);
  await page.getByRole('checkbox', { name: /Condition grade is not/ }).uncheck();
  await total(page, 320);
  await page.goBack();
  await total(page, 320 - found);
  await page.goForward();
  await total(page, 320);
});

test('sorts by a column and reaches the last of many rows', async ({ page }) => {
  await page.goto('/find');
  await page.getByRole('columnheader', { name: 'Title' }).getByRole('button').click();
  await expect(page.getByRole('columnheader', { name: 'Title' })).toHaveAttribute('aria-sort', 'ascending');
  await expect(page.locator('#row-0')).toContainText('Brinmere');
  await page.getByRole('treegrid').focus();
  await page.keyboard.press('End');
  const all = Number((await page.getByTestId('total').textContent())!.replace(/\s/g, ''));
  await expect(page.locator(`#row-${all - 1}`)).toContainText(/\w{4}/);
  await expect(page.locator(`#row-${all - 1}`)).toHaveAttribute('aria-selected', 'true');
});

test('all of the margins follow the answer, also what is out of sight', async ({ page }) => {
  const line = page.getByLabel(/^Query line/);
  const margins = () => page.locator('.facet').allInnerTexts();
  await page.goto('/find?q=inspection');
  await expect(page.locator('.facet').last()).toContainText(/\d/);
  for (const words of ['lock', 'sluice']) {
    await line.fill(words);
    await line.press('Enter');
    await expect(page.getByRole('listitem').filter({ hasText: `contains ${words}` })).toBeVisible();
    // The same as of a page that knows no answer before.
    const fresh = await page.context().newPage();
    await fresh.goto(`/find?q=${words}`);
    await expect(fresh.locator('.facet').last()).toContainText(/\d/);
    const wanted = await fresh.locator('.facet').allInnerTexts();
    await fresh.close();
    expect(wanted.length).toBeGreaterThan(6);
    await expect.poll(margins).toEqual(wanted);
    await page.locator('.facet').last().scrollIntoViewIfNeeded();
  }
});

test('a step is taken once, however late its groups come', async ({ page }) => {
  await page.goto('/find?v=surveys&as=steps');
  const ways = page.getByRole('list', { name: 'Choose: Waterway' });
  await ways.getByRole('button', { name: /^Basins/ }).click();
  await expect(ways.getByRole('button', { name: /^Lower basin/ })).toBeVisible();
  let answer = () => {};
  const held = new Promise<void>((done) => (answer = done));
  await page.route('**/api/search/groups', async (route) => {
    await held;
    await route.continue();
  });
  await ways.getByRole('button', { name: /^Lower basin/ }).click();
  // What lies there still is no choice within the step that was taken.
  await expect(ways).toHaveAttribute('aria-busy', 'true');
  await ways.getByRole('button', { name: /^Upper basin/ }).click();
  answer();
  await expect(page.getByRole('list', { name: 'Choose: Document date' }).getByRole('button').first()).toBeVisible();
  const taken = page.getByRole('navigation', { name: 'Steps taken' });
  await expect(taken).toContainText('Lower basin');
  await expect(taken).not.toContainText('Upper basin');
});

test('a wrong field is named with the nearest one', async ({ page }) => {
  await page.goto('/find?q=vesel+%3D+tern');
  await expect(page.getByRole('alert')).toContainText('There is no field “vesel”. The nearest name is “vessel”.');
});

test('a reader sees no trace of the board’s library', async ({ page }) => {
  await page.goto('/desk');
  await expect(page.getByRole('heading', { name: 'Libraries' })).toBeVisible();
  await expect(page.getByText('Board')).toHaveCount(0);
  await expect(page.getByRole('navigation', { name: 'Places' }).getByRole('link')).toHaveText(['Desk', 'Find', 'Tasks']);
  await page.goto('/design/fields');
  await expect(page.getByRole('heading', { name: 'Page not found' })).toBeVisible();
  await page.goto('/find?q=byelaw');
  await total(page, 0);
  await accessible(page);
});

test('an empty query line offers earlier searches, and one that is emptied no longer what it offered', async ({ page }) => {
  const kept = page.waitForResponse(/searches\/recent$/);
  await page.goto('/find?q=towpath');
  await kept;
  await page.goto('/desk');
  const line = page.getByLabel(/^Query line/);
  await line.fill('upper ba');
  await expect(page.getByRole('option').filter({ hasText: 'Upper basin' })).toBeVisible();
  await line.fill('');
  await expect(page.getByRole('option').filter({ hasText: 'Upper basin' })).toHaveCount(0);
  await page.keyboard.press('ArrowDown');
  await expect(page.getByRole('option').filter({ hasText: 'towpath' })).toBeVisible();
});

test('the query line offers values with counts, and a chosen one becomes a line', async ({ page }) => {
  await page.goto('/desk');
  await page.getByLabel(/^Query line/).click();
  await page.keyboard.type('upper ba');
  const choice = page.getByRole('option', { name: /Upper basin/ });
  await expect(choice).toContainText(/\d+/);
  const count = (await choice.locator('.num').textContent())!;
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('listitem').filter({ hasText: 'Waterway is' })).toContainText('Upper basin');
  await expect(page.getByTestId('total')).toHaveText(count);
});

test('lines are joined to a group, taken apart, and edited as CQL', async ({ page }) => {
  await page.goto('/find?c=condition+%3D%3D+d&c=condition+%3D%3D+e');
  await total(page, 0);
  await page.getByRole('button', { name: 'Join lines' }).click();
  for (const box of await page.getByRole('checkbox', { name: /^Join “/ }).all()) await box.check();
  await page.getByRole('button', { name: 'Any of these' }).click();
  await expect(page.getByTestId('total')).not.toHaveText('0');
  const found = (await page.getByTestId('total').textContent())!;
  await page.getByRole('button', { name: 'As CQL' }).click();
  const cql = page.getByLabel('The search as CQL');
  await expect(cql).toHaveValue('condition == d or condition == e');
  await cql.fill('(condition == d or condition == e) and type == lock_inspection');
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('listitem').filter({ hasText: 'Document type is' })).toBeVisible();
  await expect(page.getByTestId('total')).not.toHaveText(found);
  await accessible(page);
});

test('a search is kept and watched, and its columns are one’s own', async ({ page }) => {
  await page.goto('/find?c=type+%3D%3D+stoppage_notice');
  await total(page, 120);
  await page.getByRole('button', { name: 'Saved searches' }).click();
  await page.getByLabel('Save this search as').fill('All stoppages');
  await page.getByRole('checkbox', { name: /^watch it/ }).check();
  await page.getByRole('button', { name: 'Save search' }).click();
  await expect(page.getByRole('button', { name: '“All stoppages”' })).toBeVisible();
  await page.getByRole('button', { name: 'Columns' }).click();
  await page.getByRole('combobox', { name: 'Add a column' }).fill('urg');
  await page.getByRole('option', { name: 'Urgent' }).click();
  await expect(page.getByRole('columnheader', { name: 'Urgent' })).toBeVisible();
  await page.reload();
  await expect(page.getByRole('columnheader', { name: 'Urgent' })).toBeVisible();
  await page.getByRole('button', { name: 'Columns' }).click();
  await page.getByRole('button', { name: 'Reset to the view’s columns' }).click();
  await expect(page.getByRole('columnheader', { name: 'Urgent' })).toHaveCount(0);
  await page.goto('/desk');
  await expect(page.getByRole('region', { name: 'Saved searches', exact: true })).toContainText('nothing new');
  await accessible(page);
  await page.getByRole('link', { name: 'All stoppages' }).click();
  await total(page, 120);
  await page.getByRole('button', { name: '“All stoppages”' }).click();
  await page.getByRole('button', { name: 'Remove the search All stoppages' }).click();
  await expect(page.getByText('“All stoppages” is removed.')).toBeVisible();
});

test('the scope narrows to libraries with counts, and what was found is filtered within', async ({ page }) => {
  await page.goto('/find?q=lock');
  await expect(page.getByTestId('total')).toBeVisible();
  await page.getByRole('button', { name: /^Operations \+ Heritage.*, 5 libraries$/ }).click();
  const box = page.getByRole('group', { name: 'Where to search' });
  const number = box.locator('label').filter({ hasText: 'Works' }).locator('.num');
  await expect(number).toHaveText(/\d/);
  const count = (await number.textContent())!;
  await box.getByRole('checkbox', { name: /^Works/ }).check();
  await expect(page.getByTestId('total')).toHaveText(count);
  await page.keyboard.press('Escape');
  await page.getByLabel('Filter these results').fill('holm');
  await expect(page.getByTestId('total')).not.toHaveText(count);
  await expect(page).toHaveURL(/within=holm/);
});

test('what is attached is shown below its mail by keyboard, and opening a document asks for no new answer', async ({ page }) => {
  await page.goto('/find?q=file_type+%3D+mail');
  const list = page.getByRole('treegrid');
  const mail = page
    .getByRole('row')
    .filter({ has: page.getByRole('button', { name: 'Show the 1 attached' }) })
    .first();
  await expect(mail).toHaveAttribute('aria-expanded', 'false');
  const at = Number((await mail.getAttribute('id'))!.replace('row-', ''));
  await list.focus();
  await expect(page.locator('#row-0')).toHaveAttribute('aria-selected', 'true');
  for (let i = 0; i < at; i++) await page.keyboard.press('ArrowDown');
  await page.keyboard.press('ArrowRight');
  const below = page.locator(`#row-${at + 1}`);
  await expect(below).toHaveAttribute('aria-level', '2');
  await expect(page.locator(`#row-${at}`)).toHaveAttribute('aria-expanded', 'true');
  const asked: string[] = [];
  page.on('request', (request) => {
    if (request.url().endsWith('/api/search')) asked.push(request.url());
  });
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press(' ');
  const pane = page.getByRole('region', { name: 'Reading pane' });
  await expect(pane.getByRole('heading', { name: /^closure-sketch/ })).toBeVisible();
  await expect(below).toHaveAttribute('aria-level', '2');
  await accessible(page);
  // The pane is as wide as the person draws it, and stays so.
  const edge = page.getByRole('separator', { name: 'Width of the reading pane' });
  const before = (await pane.boundingBox())!.width;
  await edge.focus();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('ArrowRight');
  await expect.poll(async () => (await pane.boundingBox())!.width).toBe(Math.round(before) - 48);
  await list.focus();
  await page.keyboard.press('ArrowLeft');
  await expect(page.locator(`#row-${at}`)).toHaveAttribute('aria-selected', 'true');
  await expect(page.locator('[role=row][aria-level="2"]')).toHaveCount(0);
  expect(asked).toEqual([]);
  await page.reload();
  await expect.poll(async () => (await pane.boundingBox())?.width).toBe(Math.round(before) - 48);
});

test('finds within a document, turns it and pins it', async ({ page }) => {
  await page.goto('/find?c=type+%3D%3D+tender');
  await page.getByRole('row').nth(1).click();
  await page.getByRole('link', { name: 'Open the reader' }).click();
  await page.getByRole('searchbox', { name: 'Find in this document' }).fill('works');
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('hits')).toContainText(/1 of \d+/);
  await page.getByRole('searchbox', { name: 'Find in this document' }).blur();
  await page.keyboard.press('t');
  await expect(page.getByRole('navigation', { name: 'Thumbnails' }).getByRole('button').first()).toBeVisible();
  await page.keyboard.press('r');
  await page.getByRole('button', { name: 'Pin to the desk' }).click();
  await expect(page.getByRole('button', { name: 'Unpin from the desk' })).toBeVisible();
  await accessible(page);
  await page.getByRole('button', { name: 'Unpin from the desk' }).click();
  await expect(page.getByRole('button', { name: 'Pin to the desk' })).toBeVisible();
});

for (const colorScheme of ['light', 'dark'] as const) {
  test(`desk, find and reader are accessible, ${colorScheme}`, async ({ page }) => {
    await page.emulateMedia({ colorScheme });
    await page.goto('/desk');
    await expect(page.getByRole('heading', { name: 'Recently filed' })).toBeVisible();
    await accessible(page);
    // A word that stands in titles and values: what scans hold is still being read in the background.
    await page.goto('/find?q=lock&as=digest');
    await expect(page.getByRole('row').nth(2)).toBeVisible();
    await accessible(page);
    await page.goto('/find?q=lock');
    await page.getByRole('row').nth(2).click();
    await expect(page.getByTestId('hits')).toBeVisible();
    await accessible(page);
    await page.getByRole('link', { name: 'Open the reader' }).click();
    await expect(page.getByRole('link', { name: 'Download' })).toBeVisible();
    await accessible(page);
  });
}

test('an address that names what is not there says so', async ({ page }) => {
  await page.goto('/find?v=vanished&c=library+%3D%3D+attic&c=type+%3D%3D+lock_inspection');
  await expect(page.getByText('There is no view “vanished”, or you may not see it.')).toBeVisible();
  await expect(page.getByText('There is no library “attic”, or you may not see it.')).toBeVisible();
  await accessible(page);
  await page.getByRole('button', { name: 'Go on without it' }).click();
  await expect(page).not.toHaveURL(/v=vanished/);
});

test('coming back from the reader, and reloading, finds the list as it was', async ({ page }) => {
  await page.goto(`/find?c=${encodeURIComponent('library == waterways not retention == destroyed')}`);
  const list = page.getByRole('treegrid');
  await list.focus();
  await expect(page.getByTestId('total')).not.toHaveText('0');
  await expect(page.locator('#row-0')).toContainText(/\w{4}/);
  for (let i = 0; i < 4; i++) await page.keyboard.press('PageDown');
  const at = (await list.getAttribute('aria-activedescendant'))!;
  const top = await list.evaluate((box) => box.scrollTop);
  expect(top).toBeGreaterThan(500);
  await expect(page.locator(`#${at}`)).toContainText(/\w{4}/);
  const title = await page.locator(`#${at} [role=gridcell]`).first().textContent();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { level: 2 }).first()).toHaveText(title!.trim());
  await page.keyboard.press('Escape');
  await expect(list).toBeFocused();
  await expect(list).toHaveAttribute('aria-activedescendant', at);
  await expect.poll(() => list.evaluate((box) => box.scrollTop)).toBe(top);
  await expect(page.getByRole('region', { name: 'Reading pane' })).toHaveCount(0);
  await page.reload();
  await expect(list).toHaveAttribute('aria-activedescendant', at);
  await expect.poll(() => list.evaluate((box) => box.scrollTop)).toBe(top);
});

test('nothing in the ledger or the list moves as the mouse comes near, or as a document opens', async ({ page }) => {
  await page.goto('/find?q=gate+seepage&c=library+%3D%3D+waterways');
  await expect(page.locator('#ledger-line-2')).toBeVisible();
  await expect(page.locator('.facet').first()).toBeVisible();
  const places = async () => {
    const found: (number | undefined)[] = [];
    for (const of of ['#ledger-line-1', '#ledger-line-2', '[data-testid=ledger-total]', '#row-3', '#row-9'])
      found.push((await page.locator(of).boundingBox())?.y);
    return found;
  };
  const before = await places();
  for (const of of ['#ledger-line-0', '#ledger-line-1', '#ledger-line-2', '#row-2']) {
    await page.locator(of).hover();
    expect(await places()).toEqual(before);
  }
  await page.locator('#row-3 [role=gridcell]').first().click();
  await expect(page.getByRole('region', { name: 'Reading pane' }).getByRole('heading', { level: 2 })).toBeVisible();
  expect(await places()).toEqual(before);
});

test('words near each other are asked for by mouse, and the line is changed where it stands', async ({ page }) => {
  await page.goto('/find?q=gate');
  await expect(page.getByTestId('total')).not.toHaveText('0');
  const all = Number((await page.getByTestId('ledger-total').textContent())!.replace(/\D/g, ''));
  await page.getByRole('button', { name: 'Add a criterion' }).click();
  await page.getByLabel('Field', { exact: true }).fill('full text');
  await page.getByRole('option', { name: 'Words in full text' }).click();
  await page.getByLabel('Relation').selectOption('contains in one sentence');
  await page.getByLabel('Words', { exact: true }).fill('gates silt');
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await expect(page.locator('#ledger-line-1')).toContainText('contains near each other');
  const near = Number((await page.getByTestId('ledger-total').textContent())!.replace(/\D/g, ''));
  expect(near).toBeGreaterThan(0);
  expect(near).toBeLessThanOrEqual(all);
  await page.locator('#ledger-line-1').click();
  await page.getByRole('dialog').getByLabel('Words', { exact: true }).fill('gates heronry');
  await page.getByRole('button', { name: 'Change the line' }).click();
  await total(page, 0);
  await expect(page.locator('#ledger-line-1')).toContainText('heronry');
  await accessible(page);
});

test('when the session has ended, one signs in again and goes on with what stood there', async ({ page }) => {
  const kept = page.waitForResponse(/searches\/recent/);
  await page.goto('/find?q=gate&c=library+%3D%3D+waterways');
  await expect(page.getByTestId('total')).not.toHaveText('0');
  await page.locator('#row-0').click();
  await page.getByRole('button', { name: 'Send as a message' }).click();
  // An answer that comes late would bring the session back.
  await kept;
  await page.waitForLoadState('networkidle');
  const form = page.getByRole('form', { name: 'Send as a message' });
  await form.getByLabel('To', { exact: false }).fill('diver@example.org');
  await form.getByLabel('Message').fill('What I typed for long.');
  await page.context().clearCookies();
  await form.getByRole('button', { name: 'Send' }).click();
  const again = page.getByRole('dialog', { name: 'Sign in again' });
  await again.getByLabel('Password').fill('wrong');
  await again.getByRole('button', { name: 'Sign in' }).click();
  await expect(again.getByRole('alert')).toBeVisible();
  await expect(form.getByLabel('Message')).toHaveValue('What I typed for long.');
  await accessible(page);
  await again.getByLabel('Password').fill('tarnwick');
  await again.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByText('is in the outbox', { exact: false })).toBeVisible();
  await expect(again).toHaveCount(0);
});

test.describe('at 390 wide', () => {
  test.use({ viewport: { width: 390, height: 844 } });

  test('finds, narrows and reads in one column', async ({ page }) => {
    await page.goto('/find?q=marigold');
    await expect(page.getByTestId('total')).toBeVisible();
    await page.getByRole('button', { name: /^Narrow/ }).click();
    await page
      .getByRole('region', { name: 'Document type' })
      .getByRole('button', { name: /^Mooring permit/ })
      .click();
    await page.getByRole('button', { name: /^Show \d+ results/ }).click();
    // Until the narrowed rows are there, the first is that of the search before.
    await expect(page.getByRole('row').nth(1)).toContainText('Marigold Ash');
    await page.getByRole('row').nth(1).click();
    await expect(page.getByRole('region', { name: 'Reading pane' }).getByRole('heading', { level: 2 })).toContainText('Marigold Ash');
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
    await accessible(page);
  });
});

test('says what a result is about: a theme becomes a line that finds as many as it says', async ({ page }) => {
  await page.goto('/find?q=silt');
  await expect(page.getByTestId('total')).toBeVisible();
  await page.getByRole('button', { name: /^Themes/ }).click();
  const themes = page.getByRole('region', { name: /^Themes/ });
  const first = themes.getByRole('listitem').first().getByRole('button');
  await expect(first).toBeVisible();
  await expect(themes.getByRole('heading', { name: 'Words that stand out' })).toBeVisible();
  await accessible(page);
  const count = (await first.locator('.num').textContent())!;
  await first.click();
  await expect(page.getByTestId('total')).toHaveText(count);
  await expect(page.locator('#ledger-line-1')).toBeVisible();
});

test('counts near copies once, and shows them below the document that stands for them', async ({ page }) => {
  await page.goto('/find?c=type+%3D%3D+stoppage_notice');
  const total = page.getByTestId('total');
  await expect(total).toBeVisible();
  const each = (await total.textContent())!;
  await page.getByRole('button', { name: 'Count near copies once' }).click();
  await expect(page.getByTestId('ledger-with-copies')).toHaveText(each);
  await expect(total).not.toHaveText(each);
  await expect(total).toHaveText((await page.getByTestId('ledger-total').textContent())!);
  const copies = page.getByRole('button', { name: /^Show the near copies/ }).first();
  const row = page.getByRole('row').filter({ has: copies }).first();
  await row.click();
  await page.keyboard.press('Escape');
  await copies.click();
  await expect(page.getByText('near copy', { exact: true }).first()).toBeVisible();
  await accessible(page);
  await page.getByRole('button', { name: 'Count every near copy' }).click();
  await expect(total).toHaveText(each);
});
