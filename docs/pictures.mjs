/**
 * Makes the pictures of the README from the demo data: `./brenvic pictures`. Each is taken anew, so that none is older than
 * its screen. What is shown is found by what the demo data says of itself, never by numbers that may change.
 */
import { chromium } from '@playwright/test';

const base = process.env.BRENVIC_AT ?? 'http://127.0.0.1:8080';
const folder = new URL('screenshots/', import.meta.url).pathname;
const only = process.argv.slice(2);
const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-gpu', '--font-render-hinting=none'],
});
const sessions = {};

async function windowOf(who, { width = 1280, height = 800, colorScheme = 'light' } = {}) {
  const context = await browser.newContext({
    viewport: { width, height },
    baseURL: base,
    colorScheme,
    storageState: who ? sessions[who] : undefined,
  });
  const page = await context.newPage();
  if (who && !sessions[who]) {
    await page.goto('/');
    await page.getByLabel('Sign-in name').fill(who);
    await page.getByLabel('Password').fill('tarnwick');
    await page.getByRole('button', { name: 'Sign in' }).click();
    await page.getByRole('link', { name: 'Desk' }).waitFor();
    sessions[who] = await context.storageState();
  }
  return page;
}

/** Waits until nothing is fetched and nothing is being read or counted. */
async function settled(page) {
  await page.waitForLoadState('networkidle');
  await page.evaluate(() => document.fonts.ready);
  await page.mouse.move(640, 790);
}

/** The first document that a search finds, in the reader. */
async function read(page, query) {
  await page.goto(`/find?q=${encodeURIComponent(query)}`);
  await page.locator('#row-0 [role=gridcell]').first().waitFor();
  await page.getByRole('treegrid').focus();
  await page.keyboard.press('Enter');
  await page.getByRole('link', { name: 'Download', exact: true }).first().waitFor();
  await page.locator('canvas, img.page, .prose').first().waitFor();
}

const pictures = {
  desk: ['clerk', {}, (page) => page.goto('/desk')],
  find: [
    'reader',
    {},
    async (page) => {
      await page.goto('/find?q=gate+seepage&once=1');
      await page.getByRole('button', { name: /^Themes/ }).click();
      await page.getByRole('heading', { name: 'Words that stand out' }).waitFor();
      await page.locator('#row-0 [role=gridcell]').first().click();
      await page.getByTestId('hits').waitFor();
    },
  ],
  reader: ['clerk', {}, (page) => read(page, 'gate seepage')],
  redaction: [
    'librarian',
    {},
    async (page) => {
      await read(page, 'crack and type == lock_inspection and file_type == pdf');
      await page.getByRole('button', { name: 'Redact', exact: true }).click();
      await page.getByLabel('Every occurrence of').fill('crack');
      await page.getByRole('checkbox', { name: /^people named/ }).check();
      await page.getByRole('button', { name: 'List them' }).click();
    },
  ],
  intake: [
    'clerk',
    {},
    async (page) => {
      await page.goto('/intake');
      const letter = [
        'Inspection of Bridge 9',
        '',
        'Structure BR-0631-3, Pellow flight. Inspected on 3rd May 2024 by Rowan Pike. Condition grade C.',
        '',
        'Since 28.04.2024 water stands on the towpath above the second lock.',
        'We ask for a notice to boats until the bank is mended.',
      ].join('\n');
      await page
        .getByLabel('Files', { exact: true })
        .setInputFiles({ name: 'bridge 9.txt', mimeType: 'text/plain', buffer: Buffer.from(letter) });
      await page.getByRole('article', { name: 'Page 1' }).first().waitFor();
      await page.getByRole('combobox', { name: 'Document type' }).fill('lock insp');
      await page.keyboard.press('ArrowDown');
      await page.keyboard.press('Enter');
      await page.getByRole('textbox', { name: /^Document date/ }).focus();
      await page.getByRole('group', { name: 'What the pages say' }).getByRole('button').first().waitFor();
      await page.getByText('values are proposed').waitFor();
    },
  ],
  dossier: [
    'clerk',
    {},
    async (page) => {
      await page.goto('/dossiers');
      await page.locator('main a[href^="/dossiers/"]').first().click();
      await page.getByRole('heading', { level: 1 }).waitFor();
    },
  ],
  list: [
    'clerk',
    {},
    async (page) => {
      const name = 'Seepage near the sill';
      await page.goto('/find?q=seepage+sill&c=type+%3D%3D+lock_inspection');
      await page.locator('#row-0 [role=gridcell]').first().waitFor();
      await page.getByRole('button', { name: /^With all/ }).click();
      await page.getByLabel('Name of a new list').fill(name);
      await page.getByRole('button', { name: 'Create list', exact: true }).click();
      await page.getByRole('button', { name: /^Add all \d+ found/ }).click();
      await page.getByRole('link', { name: new RegExp(`^${name}.*[1-9]`) }).click();
      await page.getByRole('heading', { name }).waitFor();
    },
  ],
  'design-field': ['librarian', {}, (page) => page.goto('/design/fields/condition')],
  tasks: [
    'works',
    {},
    async (page) => {
      await page.goto('/tasks?part=groups');
      await page.locator('[data-task] a').filter({ hasText: /^Tender/ }).first().click();
      await page.locator('#task canvas').first().waitFor({ timeout: 180_000 });
      await page.waitForTimeout(1_000);
      await page.keyboard.press('1');
    },
  ],
  'design-procedure': [
    'librarian',
    {},
    async (page) => {
      await page.goto('/design/procedures/tender');
      await page.getByRole('button', { name: 'Try it' }).click();
      await page.getByText(/^It would begin with/).waitFor();
      await page.getByRole('heading', { name: 'Plan' }).evaluate((heading) => heading.scrollIntoView());
    },
  ],
  'design-reading': [
    'librarian',
    { colorScheme: 'dark' },
    async (page) => {
      await page.goto('/design/readings/date_inspected');
      await page.getByRole('textbox', { name: 'On which documents, as a search' }).fill('type == lock_inspection');
      await page.keyboard.press('Enter');
      await page.getByRole('list', { name: 'Documents' }).locator('li').first().waitFor();
      await page.getByRole('heading', { name: 'Trial' }).evaluate((heading) => heading.scrollIntoView());
    },
  ],
  'design-scheme': [
    'librarian',
    {},
    async (page) => {
      await page.goto('/design/schemes/waterway');
      await page.getByRole('treeitem').nth(1).click();
    },
  ],
  'design-view': ['librarian', {}, (page) => page.goto('/design/views/inspections')],
  'design-table': [
    'librarian',
    {},
    async (page) => {
      // A register as an office has one, of the waters and berths of the demo.
      const rows = ['Licence no.;Issued;Waterway;Quay;Quay code;Fee;Draught;Insured;Holder mail'];
      const waters = ['Summit pound', 'Pellow flight', 'Cray cutting', 'Sea lock pound', 'Coal basin'];
      for (let i = 0; i < 600; i++) {
        const quay = (i * 7) % 20;
        rows.push(
          [
            `ML-${String(i).padStart(4, '0')}`,
            `${1 + (i % 28)}/${1 + (i % 12)}/${2009 + (i % 16)}`,
            i === 41 ? 'Coal Basin' : waters[quay % 5],
            `Quay ${String.fromCharCode(65 + quay)}`,
            `Q${String(quay).padStart(2, '0')}`,
            `£${(90 + ((i * 37) % 900)).toFixed(2)}`,
            `${(0.4 + (i % 22) / 10).toFixed(1).replace('.', ',')} m`,
            i % 9 ? 'yes' : 'no',
            `holder${i}@example.org`,
          ].join(';'),
        );
      }
      await page.goto('/design/table');
      const another = page.getByLabel('Another table…');
      await page.getByLabel('Choose a table…').or(another).first().waitFor({ state: 'attached' });
      if ((await another.count()) > 0) await page.getByRole('button', { name: 'Remove the table' }).click();
      await page
        .getByLabel('Choose a table…')
        .setInputFiles({ name: 'moorings.csv', mimeType: 'text/csv', buffer: Buffer.from(rows.join('\n')) });
      await page.getByRole('button', { name: 'Add to the draft' }).waitFor();
    },
  ],
  oversight: [
    'manager',
    {},
    async (page) => {
      await page.goto('/oversight');
      await page.getByRole('button', { name: /^Before this quarter, Destroy/ }).click();
      await page.getByRole('heading', { name: 'By rule' }).waitFor();
    },
  ],
  reports: [
    'manager',
    {},
    async (page) => {
      await page.goto('/oversight/reports/searches');
      await page.getByRole('img', { name: /^Searches, Found nothing/ }).waitFor();
      await page.locator('figure svg').first().waitFor();
    },
  ],
  office: [
    'admin',
    {},
    async (page) => {
      await page.goto('/office/roles');
      await page.getByRole('button', { name: 'Intake clerk' }).click();
    },
  ],
};

for (const [name, [who, how, show]] of Object.entries(pictures)) {
  if (only.length > 0 && !only.includes(name)) continue;
  const page = await windowOf(who, how);
  try {
    await show(page);
    await settled(page);
    await page.screenshot({ path: `${folder}${name}.png` });
    console.log(name);
  } catch (error) {
    console.error(`${name}: ${error.message.split('\n')[0]}`);
    process.exitCode = 1;
  }
  await page.context().close();
}
await browser.close();
