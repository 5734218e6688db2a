import { expect, test, type Page } from '@playwright/test';
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { accessible, session, total } from './people';

test.use({ storageState: session('librarian') });

// The draft is one for all librarians: what a test that failed left there is not for the next.
test.beforeEach(async ({ page, context }) => {
  const token = (await context.cookies()).find((c) => c.name === 'XSRF-TOKEN')!.value;
  const answer = await page.request.post('/api/design/draft/discard', {
    headers: { 'X-XSRF-TOKEN': decodeURIComponent(token), Accept: 'application/json' },
    data: {},
  });
  expect(answer.ok()).toBe(true);
  await page.request.delete('/api/design/proposal', { headers: { 'X-XSRF-TOKEN': decodeURIComponent(token), Accept: 'application/json' } });
});

test('a field is made, given to a type, shown in a view, and used', async ({ page }) => {
  await page.goto('/design/vocabularies/new');
  await page.getByLabel('Name').fill('Paddle makers');
  await page.getByRole('button', { name: 'Add a term' }).click();
  await page.keyboard.type('Eastwick Foundry');
  await page.keyboard.press('Enter');
  await page.keyboard.type('Second works');
  await page.keyboard.press('Alt+ArrowRight');
  await page.keyboard.press('Control+Enter');
  await expect(page).toHaveURL(/\/design\/vocabularies\/paddle_makers$/);

  await page.goto('/design/fields/new');
  await page.getByLabel('Label').fill('Paddle maker');
  await expect(page.getByLabel('Code')).toHaveValue('paddle_maker');
  await page.getByLabel('Kind').selectOption('Choice');
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('alert')).toContainText('needs the vocabulary');
  await page.getByRole('combobox', { name: 'Vocabulary' }).fill('paddle');
  await page.getByRole('option', { name: /^Paddle makers/ }).click();
  await page.getByRole('checkbox', { name: /^Facet/ }).check();
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page).toHaveURL(/\/design\/fields\/paddle_maker$/);
  await expect(page.getByText('No document type uses it yet.')).toBeVisible();
  await accessible(page);

  await page.goto('/design/types/site_diary');
  await page.getByRole('combobox', { name: 'Fields, in the order of the index sheet' }).fill('paddle');
  await page
    .getByRole('listbox')
    .getByRole('option', { name: /^Paddle maker/ })
    .click();
  await page.getByRole('checkbox', { name: 'required' }).last().check();
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText('Saved in the draft. Publish to bring it into use.')).toBeVisible();
  // The effect is counted on the documents that exist, and behind the count stands the list.
  const effect = page.getByRole('complementary', { name: 'Effect of the draft' });
  await effect.getByRole('button', { name: /without Paddle maker, which becomes required/ }).click();
  await expect(effect.getByRole('link', { name: /^Site diary/ }).first()).toBeVisible();
  await accessible(page);
  await effect.getByLabel('What changed and why').fill('Who made the paddles');
  await effect.getByRole('button', { name: 'Publish 3 changes' }).click();
  await expect(page.getByText(/^Published as version \d+\. It is in use from now on\.$/)).toBeVisible();
  await expect(effect.getByText('The draft is empty.', { exact: false })).toBeVisible();

  await page.goto('/find?c=type+%3D%3D+site_diary');
  await page.getByRole('row').nth(1).click();
  const pane = page.getByRole('region', { name: 'Reading pane' });
  await pane.getByRole('button', { name: 'Index sheet' }).click();
  await pane.getByRole('button', { name: 'Change', exact: true }).click();
  await pane.getByRole('combobox', { name: /^Paddle maker/ }).fill('second');
  await page.getByRole('option', { name: 'Second works' }).click();
  await pane.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(pane.getByRole('link', { name: 'Second works' })).toBeVisible();

  await page.goto('/design/views/new');
  await page.getByLabel('Name').fill('Diaries by maker');
  await page.getByRole('button', { name: 'As CQL' }).click();
  await page.getByLabel('Criterion').fill('paddle_maker == eastwick_foundry');
  await expect(page.getByText('1 of the documents you may see.', { exact: true })).toBeVisible();
  await page.getByRole('combobox', { name: 'Columns beside the title' }).fill('paddle');
  await page.getByRole('option', { name: 'Paddle maker' }).click();
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await page.getByRole('button', { name: 'Publish 1 change' }).click();
  await expect(page.getByText(/^Published as version/)).toBeVisible();
  await page.getByRole('link', { name: 'Open it in Find' }).click();
  await total(page, 1);
  await expect(page.getByRole('columnheader', { name: 'Paddle maker' })).toBeVisible();
});

test('what is in use cannot be removed, and what is not comes back', async ({ page }) => {
  await page.goto('/design/fields/vessel');
  await page.getByRole('button', { name: 'Remove', exact: true }).click();
  await expect(page.getByText(/still use it/)).toBeVisible();
  await page.goto('/design/views/unread');
  await page.getByRole('button', { name: 'Remove', exact: true }).click();
  await expect(page).toHaveURL(/\/design\/views$/);
  const effect = page.getByRole('complementary', { name: 'Effect of the draft' });
  await expect(effect.getByText('were in the view')).toBeVisible();
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await expect(page.getByRole('link', { name: /^Files without text/ })).toBeVisible();
  await expect(effect.getByText('The draft is empty.', { exact: false })).toBeVisible();
});

test('two people at once overwrite nothing', async ({ page, context }) => {
  const other = await context.newPage();
  await page.goto('/design/views/drawings');
  await other.goto('/design/views/drawings');
  await page.getByLabel('Name').fill('Drawings of the Trust');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText('Saved in the draft. Publish to bring it into use.')).toBeVisible();
  await other.getByLabel('Name').fill('Plans');
  await other.getByRole('button', { name: 'Save', exact: true }).click();
  // Both changed the name: that is asked, in words.
  await expect(other.getByRole('alert')).toContainText('name: you have “Plans”, they have “Drawings of the Trust”');
  await accessible(other);
  await other.getByRole('button', { name: 'Use their version' }).click();
  await expect(other.getByLabel('Name')).toHaveValue('Drawings of the Trust');
  await other.getByRole('button', { name: 'Save', exact: true }).click();
  // What only one of them changes afterwards is joined without a question.
  await expect(other.getByText('Saved in the draft', { exact: false })).toBeVisible();
  await other.getByRole('button', { name: 'Undo the change of Drawings of the Trust' }).click();
  await expect(other.getByText('The draft is empty.', { exact: false })).toBeVisible();
});

test('two people at one scheme keep each other’s concepts, and retiring one says first what it does', async ({ page, context }) => {
  const other = await context.newPage();
  for (const one of [page, other]) {
    await one.goto('/design/schemes/asset_class');
    await expect(one.getByRole('tree', { name: 'Concepts' })).toBeVisible();
  }
  const row = (one: Page, name: RegExp) => one.getByRole('tree', { name: 'Concepts' }).getByRole('treeitem', { name }).first();
  await row(page, /^A1 /).click();
  await page.getByLabel('Scope note').fill('What holds water back.');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText('Saved in the draft', { exact: false })).toBeVisible();
  await row(other, /^A2 /).click();
  await other.getByRole('button', { name: 'Retire…' }).click();
  await expect(other.getByRole('group', { name: 'Effect' })).toContainText('keep this concept');
  await accessible(other);
  await other.getByRole('button', { name: 'Retire concept' }).click();
  await other.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(other.getByText('with what somebody else changed in the meantime')).toBeVisible();
  await row(other, /^A1 /).click();
  await expect(other.getByLabel('Scope note')).toHaveValue('What holds water back.');
  await other.getByRole('button', { name: /^Undo the change of Asset classes/ }).click();
  await expect(other.getByText('The draft is empty.', { exact: false })).toBeVisible();
});

test('a scheme is edited by keyboard, and the effect says what a merge would move', async ({ page }) => {
  await page.goto('/design/schemes/subject');
  const tree = page.getByRole('tree', { name: 'Concepts' });
  await expect(tree.getByRole('treeitem', { name: /^HER Heritage, \d+ documents/ })).toBeVisible();
  await tree.getByRole('treeitem', { name: /^HER Heritage/ }).click();
  await page.keyboard.press('Insert');
  await page.keyboard.type('Postcards');
  await page.keyboard.press('Enter');
  await expect(tree.getByRole('treeitem', { name: /^Postcards/ })).toBeFocused();
  await page.keyboard.press('Alt+ArrowDown');
  await page.keyboard.press('Alt+ArrowRight');
  await expect(tree.getByRole('treeitem', { name: /^Postcards/ })).toHaveAttribute('aria-level', '3');
  const memories = tree.getByRole('treeitem', { name: /^HER.02 Memories/ });
  const [, count] = /, (\d+) documents/.exec((await memories.getAttribute('aria-label'))!)!;
  await memories.click();
  await page.getByRole('button', { name: 'Merge into…' }).click();
  await page.getByRole('combobox', { name: 'Into' }).fill('drawings');
  await page.getByRole('option', { name: /HER.01 Drawings/ }).click();
  await expect(page.getByRole('group', { name: 'Effect' })).toContainText(`${count} documents would be given the other concept`);
  await page.getByRole('button', { name: 'Merge concept' }).click();
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  const effect = page.getByRole('complementary', { name: 'Effect of the draft' });
  await expect(effect.getByText('with the Subject “HER.02 Memories”, given “Drawings” instead')).toBeVisible();
  await accessible(page);
  await effect.getByRole('button', { name: /^Undo the change of Functions/ }).click();
  await expect(effect.getByText('The draft is empty.', { exact: false })).toBeVisible();
});

test('story 3: silt depth is asked for, the surveys without it are listed, and a view goes by waterway, year and condition', async ({
  page,
}) => {
  await page.goto('/design/types/dredging_survey');
  const entry = page.getByRole('listitem').filter({ hasText: 'silt_depth' });
  await entry.getByRole('checkbox', { name: 'required' }).check();
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  const effect = page.getByRole('complementary', { name: 'Effect of the draft' });
  await effect.getByRole('button', { name: /without Silt depth, which becomes required/ }).click();
  await expect(effect.getByRole('link', { name: /dredging survey/ }).first()).toBeVisible();
  await effect.getByRole('button', { name: /^Undo the change of Dredging survey/ }).click();
  await page.goto('/design/views/surveys');
  await page.getByRole('link', { name: 'Open it in Find' }).click();
  const ways = page.getByRole('list', { name: 'Choose: Waterway' });
  await ways.getByRole('button', { name: /^Basins/ }).click();
  await ways.getByRole('button', { name: /^Lower basin/ }).click();
  const years = page.getByRole('list', { name: 'Choose: Document date' });
  await years.getByRole('button').first().click();
  await expect(page.getByRole('navigation', { name: 'Steps taken' })).toContainText('Lower basin');
  await page.getByRole('navigation', { name: 'Steps taken' }).getByRole('button', { name: 'Basins' }).click();
  await expect(ways.getByRole('button', { name: /^Upper basin/ })).toBeVisible();
  await accessible(page);
});

test('who would lose sight of what is counted, and a librarian looks as a reader', async ({ page }) => {
  await page.goto('/design/access/new');
  await page.getByLabel('Name', { exact: true }).fill('Critical incidents');
  await page.getByRole('button', { name: 'As CQL' }).click();
  await page.getByLabel('The documents it covers').fill('severity == critical');
  await page.getByRole('checkbox', { name: 'Harbour office' }).check();
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  const effect = page.getByRole('complementary', { name: 'Effect of the draft' });
  await effect.getByRole('button', { name: /no longer visible to Isla Thorne/ }).click();
  await expect(effect.getByRole('link', { name: /^Incident at/ }).first()).toBeVisible();
  await effect.getByRole('button', { name: /^Undo the change of Critical/ }).click();
  await page.goto('/design/people');
  await page.getByRole('row').filter({ hasText: 'Isla Thorne' }).getByRole('button', { name: 'What they see' }).click();
  await expect(page.getByText(/\d+ are hidden from them/)).toBeVisible();
  await accessible(page);
  await page.getByRole('link', { name: 'View Find as Isla Thorne' }).click();
  await expect(page.getByText(/You are viewing Find as reader/)).toBeVisible();
  await expect(page.getByText('Board and byelaws')).toHaveCount(0);
});

test('every part of the design is accessible, light and dark', async ({ page }) => {
  for (const colorScheme of ['light', 'dark'] as const) {
    await page.emulateMedia({ colorScheme });
    for (const part of [
      'fields/structure',
      'types/tender',
      'vocabularies/stretch',
      'schemes/subject',
      'tables/suppliers',
      'dossier_kinds/asset_file',
      'forms/permit_desk',
      'access/confidential',
      'views/surveys',
      'libraries/works',
      'repositories/heritage',
    ]) {
      // The colours of the dark are the same in all of them.
      if (colorScheme === 'dark' && !['fields/structure', 'schemes/subject', 'views/surveys'].includes(part)) continue;
      await page.goto(`/design/${part}`);
      await expect(page.getByRole('button', { name: 'Save', exact: true })).toBeVisible();
      await accessible(page);
    }
  }
});

test('what is missing is made from where it is missed, by keyboard, and published once', async ({ page }) => {
  const { keyboard } = page;
  /** Chooses from the box that has the focus. */
  const pick = async (text: string, name: string | RegExp = text) => {
    await keyboard.type(text);
    await expect(page.getByRole('option', { name })).toHaveAttribute('data-highlighted', '');
    await keyboard.press('Enter');
  };
  const add = page.getByRole('combobox', { name: 'Fields, in the order of the index sheet' });
  await page.goto('/design/types/new');
  await expect(page.getByRole('textbox', { name: 'Name' })).toBeFocused();
  await keyboard.type('Mooring licence');
  await add.focus();
  await pick('Waterway', /^Waterway/);
  await expect(add).toHaveValue('');
  await pick('Stage', 'Create the field “Stage”…');
  await expect(page.getByLabel('Name of the new field')).toBeFocused();
  await keyboard.press('Tab');
  await keyboard.type('choice');
  await keyboard.press('Tab');
  await pick('Stages', 'Create the vocabulary “Stages”…');
  await accessible(page);
  await keyboard.press('Tab');
  await keyboard.type('waterway');
  await keyboard.press('Tab');
  await keyboard.type('Swan stage: Summit pound\nFar stage: Nowhere');
  await keyboard.press('Control+Enter');
  await expect(page.getByRole('alert')).toHaveText('“Nowhere” is not a value of Waterway.');
  await page.getByLabel('Terms, one per line').fill('Swan stage: Summit pound\nFar stage: Sea lock pound, Summit pound');
  await keyboard.press('Control+Enter');
  await expect(page.getByRole('combobox', { name: 'Vocabulary' })).toBeFocused();
  await keyboard.press('Control+Enter');
  await expect(add).toBeFocused();
  await pick('Licence fee', 'Create the field “Licence fee”…');
  await keyboard.press('Tab');
  await keyboard.type('amount');
  await expect(page.getByLabel('Currency')).toHaveValue('GBP');
  await keyboard.press('Control+Enter');
  await expect(add).toBeFocused();
  await keyboard.press('Control+Enter');
  await expect(page).toHaveURL(/\/design\/types\/mooring_licence$/);

  // A rule asks for the type that is only in the draft.
  await page.goto('/design/access/new');
  await expect(page.getByRole('textbox', { name: 'Name' })).toBeFocused();
  await keyboard.type('Licences');
  await page.getByRole('button', { name: 'Add a criterion' }).press('Enter');
  await expect(page.getByRole('combobox', { name: /^Field/ })).toBeFocused();
  await pick('Document type');
  await expect(page.getByRole('combobox', { name: 'Value' })).toBeFocused();
  await pick('Mooring lic', 'Mooring licence');
  await keyboard.press('Control+Enter');
  await expect(page.getByText('0 of the documents you may see.')).toBeVisible();
  await page.getByRole('checkbox', { name: 'Records office' }).check();
  await keyboard.press('Control+Enter');
  await expect(page).toHaveURL(/\/design\/access\/licences$/);
  await page.getByRole('button', { name: 'Publish 5 changes' }).click();
  await expect(page.getByText(/^Published as version \d+\./)).toBeVisible();

  await page.goto('/design/vocabularies/stages');
  await expect(page.getByText('under Sea lock pound, Summit pound')).toBeVisible();
});

test('a design is proposed from the register of an office, decided about column by column, and published', async ({ page }) => {
  const rows = [['Slip no.', 'Laid up', 'Hull', 'Yard', 'Charge', 'Berthing']];
  for (let i = 0; i < 120; i++)
    rows.push([
      `SL-${String(i).padStart(4, '0')}`,
      `${1 + (i % 28)}/${1 + (i % 12)}/${2010 + (i % 9)}`,
      ['Timber', 'Steel', 'Iron'][i % 3]!,
      `Yard ${1 + (i % 6)}`,
      `£${100 + i}.50`,
      i % 2 ? 'yes' : 'no',
    ]);
  await page.goto('/design/fields');
  await page.getByRole('link', { name: 'Propose a design…' }).click();
  await page.getByLabel('Choose a table…').setInputFiles({
    name: 'slipway_register.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(rows.map((r) => r.join(';')).join('\n')),
  });
  await expect(page.getByText('120 rows, 6 columns; 6 selected.')).toBeVisible({ timeout: 60_000 });
  await expect(page.getByLabel('Kind of Slip no.')).toHaveValue('identifier');
  await expect(page.getByLabel('Kind of Laid up')).toHaveValue('date');
  await expect(page.getByLabel('Kind of Charge')).toHaveValue('amount');
  await expect(page.getByLabel('Kind of Berthing')).toHaveValue('yes_no');
  await expect(page.getByText(/^The day is first: \d+ dates can be read only so\.$/)).toBeVisible();
  await accessible(page);
  await page.getByLabel('Take Berthing').uncheck();
  await page.getByLabel('Label of Laid up').fill('Laid up on');
  await page.getByLabel('Kind of Yard').selectOption('text');
  await expect(page.getByText('Rows with the same “Yard” have the same “Hull”, “Berthing”.')).toBeVisible();
  await expect(page.getByLabel('What Yard makes', { exact: true })).toHaveValue('table');
  await page.getByLabel('What Yard makes', { exact: true }).selectOption('Nothing');
  await page.getByRole('button', { name: 'Add to the draft' }).click();
  // Five fields, one vocabulary, a type, a view, and the library that takes documents of the type.
  await expect(page.getByText('9 parts are in the draft. Publish to bring them into use.')).toBeVisible();
  await expect(page.getByText('It is in the draft. Publish it; then the files can come in.')).toBeVisible();
  await page.getByRole('button', { name: 'Publish 9 changes' }).click();
  await expect(page.getByText(/^Published as version \d+\./)).toBeVisible();

  // The files come in by the rows of the register: looked at first, then sent, and undone as one.
  const folder = mkdtempSync(join(tmpdir(), 'slips-'));
  mkdirSync(join(folder, '2012'));
  for (const file of ['2012/SL-0007.txt', '2012/SL-0008.txt', 'readme.txt'])
    writeFileSync(join(folder, file), `The letter ${file} about a slipway`);
  const section = page.getByRole('region', { name: 'Bring the files in' });
  await section.getByLabel('Choose the folder with the files…').setInputFiles(folder);
  await expect(section.getByText('2 files come in')).toBeVisible({ timeout: 60_000 });
  await expect(section.getByText('1 file has no row')).toBeVisible();
  await expect(section.getByText('118 rows name no file here')).toBeVisible();
  await accessible(page);
  await section.getByRole('button', { name: 'Bring in 2 files' }).click();
  await expect(section.getByText('2 files are in', { exact: true })).toBeVisible({ timeout: 60_000 });
  await page.goto('/find?c=' + encodeURIComponent('slip_no == "SL-0007" and charge = 107.50'));
  await total(page, 1);
  await page.goto('/design/table');
  await section.getByRole('button', { name: 'Undo all of it' }).click();
  await expect(page.getByText('Undone for 2.')).toBeVisible();
  rmSync(folder, { recursive: true });
  await page.goto('/design/types/slipway_register');
  await expect(page.getByRole('listitem').filter({ hasText: 'Laid up on' })).toBeVisible();

  // What was decided about is there until the table is removed.
  await page.getByRole('link', { name: 'Propose a design…' }).click();
  await page.getByRole('button', { name: 'Remove the table' }).click();
  await expect(page.getByText('Choose a table…')).toBeVisible();
  await page.getByLabel('Choose a table…').setInputFiles({ name: 'x.csv', mimeType: 'text/csv', buffer: Buffer.from(' ') });
  await expect(page.getByRole('alert')).toContainText('The table is empty');
});

test('a reading rule is tried on the documents that exist, published, and proposes in Intake what it finds', async ({ page, browser }) => {
  await page.goto('/design/readings/new');
  await page.getByLabel('Name', { exact: true }).fill('Inspected on');
  await page.getByRole('combobox', { name: /^Field/ }).selectOption({ label: 'Document date' });
  await page.getByRole('textbox', { name: 'Printed words' }).fill('Inspected on');
  await page.getByRole('textbox', { name: 'On which documents, as a search' }).fill('type == lock_inspection');
  await page.keyboard.press('Enter');
  // Only the oldest of the five forms has these words.
  await expect(page.getByText(/^320 documents read, \d\d places found\.$/)).toBeVisible();
  const outcomes = page.getByRole('group', { name: 'What came of it' });
  await expect(outcomes.getByRole('button', { name: /nothing found/ })).toBeVisible();
  await outcomes.getByRole('button', { name: /agrees/ }).click();
  await expect(outcomes.getByRole('button', { name: /agrees/ })).toHaveAttribute('aria-pressed', 'true');
  await expect(page.getByRole('list', { name: 'Documents' }).locator('mark').first()).toBeVisible();
  await accessible(page);
  // A pattern that refers back is refused beside where it is written.
  await page.getByRole('combobox', { name: 'What it reads' }).selectOption({ label: 'text that matches a pattern' });
  await page.getByRole('textbox', { name: 'Pattern' }).fill(String.raw`(a)\1`);
  await page.getByRole('button', { name: 'Try it' }).click();
  await expect(page.getByText('is not supported. A backslash can precede', { exact: false })).toBeVisible();
  await page.getByRole('combobox', { name: 'What it reads' }).selectOption({ label: 'the value beside printed words' });
  await page.keyboard.press('Control+Enter');
  await expect(page).toHaveURL(/\/design\/readings\/inspected_on$/);
  await page.getByRole('button', { name: 'Publish 1 change' }).click();
  await expect(page.getByText(/^The draft is empty/)).toBeVisible();

  const clerk = await (await browser.newContext({ storageState: session('clerk') })).newPage();
  await clerk.goto('/intake');
  await clerk.getByLabel('Library for new files').selectOption('Waterways');
  const contents = 'Structure BR-0631-3. Inspected on 26 Jun 2019 by Osric Vane. Condition grade C, and nothing else was seen.';
  await clerk
    .getByLabel('Files', { exact: true })
    .setInputFiles([{ name: 'bridge.txt', mimeType: 'text/plain', buffer: Buffer.from(contents) }]);
  await clerk
    .getByRole('region', { name: 'Waiting' })
    .getByRole('button', { name: /^bridge/ })
    .click();
  await clerk.getByRole('combobox', { name: 'Document type' }).fill('lock insp');
  await clerk.getByRole('option', { name: 'Lock inspection' }).click();
  const proposed = clerk.getByText(/^\d+ values are proposed\.$/);
  await expect(proposed).toBeVisible();
  const before = parseInt(await proposed.innerText());
  await expect(clerk.getByLabel(/^Document date/)).toHaveValue('');
  await accessible(clerk);
  await clerk.getByLabel(/^Document date/).focus();
  await clerk.keyboard.press('Alt+t');
  await expect(clerk.getByLabel(/^Document date/)).toHaveValue('2019-06-26');
  await expect(proposed).toHaveText(`${before - 1} values are proposed.`);
  await clerk.keyboard.press('Alt+a');
  await expect(clerk.getByLabel(/^Structure/)).toHaveValue('BR-0631-3');
  await expect(clerk.getByText('are proposed', { exact: false })).toBeHidden();
  // Nothing is left waiting for those who come after.
  await clerk.getByRole('button', { name: 'Remove from intake' }).click();
  await expect(clerk.getByText('Nothing is waiting')).toBeVisible();
  await clerk.close();
});

test('a form that was filed before is known again: its type and its values are proposed and taken by one key', async ({ browser }) => {
  const clerk = await (await browser.newContext({ storageState: session('clerk') })).newPage();
  await clerk.goto('/intake');
  await clerk.getByLabel('Library for new files').selectOption('Waterways');
  const contents =
    'Weed and silt report\n\nLower basin, 11 Jun 2026\n\nA shoal has formed.\n\nSilt found: 0.45 m. The growth of weed is serious.\n\nSeen by Nell Bracken\n';
  await clerk
    .getByLabel('Files', { exact: true })
    .setInputFiles([{ name: 'weed of june.txt', mimeType: 'text/plain', buffer: Buffer.from(contents) }]);
  await clerk
    .getByRole('region', { name: 'Waiting' })
    .getByRole('button', { name: /^weed of june/ })
    .click();
  const type = clerk.getByRole('combobox', { name: 'Document type' });
  await expect(clerk.getByRole('button', { name: 'Take the proposed document type' })).toBeVisible();
  await clerk.getByText(/^It looks like \d+ others$/).click();
  await expect(clerk.getByRole('form', { name: 'Index sheet' }).getByRole('listitem').first()).toContainText('weed and silt report');
  await accessible(clerk);
  await type.focus();
  await clerk.keyboard.press('Alt+a');
  await expect(clerk.getByLabel(/^Document date/)).toHaveValue('2026-06-11');
  await expect(type).toHaveValue('Weed and silt report');
  await expect(clerk.getByLabel(/^Inspector/)).toHaveValue('Nell Bracken');
  await expect(clerk.getByRole('combobox', { name: /^Waterway/ })).toHaveValue('Lower basin');
  await clerk.getByRole('button', { name: 'Remove from intake' }).click();
  await expect(clerk.getByText('Nothing is waiting')).toBeVisible();
  await clerk.close();
});
