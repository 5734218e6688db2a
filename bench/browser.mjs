// How long people wait: from the key or click until the answer is painted, in the real application on the demo data,
// or with --docs on that many documents, which are made at first (a million take half an hour) and kept in bench/data.
// ./brenvic bench browser [--docs=N] [--rounds=N] [--json]
import { spawnSync } from 'node:child_process';
import { existsSync, readFileSync } from 'node:fs';
import { gzipSync } from 'node:zlib';
import { home, opened, option, root, signIn, started } from './application.mjs';

const rounds = Number(option('rounds', 15));
const docs = Number(option('docs', 0));
const demo = `${root}bench/data/browser`;
const data = docs > 0 ? `${demo}-${docs}` : demo;

if (docs > 0 && !existsSync(data)) {
  if (!existsSync(demo)) {
    const first = await started(demo);
    first.kill('SIGTERM');
    await new Promise((done) => first.on('exit', done));
  }
  const made = spawnSync(
    'php',
    [
      '-d',
      'memory_limit=2G',
      '-d',
      'opcache.enable_cli=1',
      '-d',
      'opcache.jit=tracing',
      '-d',
      'opcache.jit_buffer_size=64M',
      'bench/large.php',
      demo,
      data,
      String(docs),
    ],
    { cwd: root, stdio: ['ignore', 'inherit', 'inherit'] },
  );
  if (made.status !== 0) throw new Error('The documents were not made.');
}
const server = await started(data);

const browser = await opened();
const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
// The moment of the key or click is that of the event itself.
await context.addInitScript(() => {
  for (const type of ['keydown', 'click', 'input']) addEventListener(type, (e) => (window.began = e.timeStamp), { capture: true });
  window.answered = () => {
    const told = document.querySelector('[data-testid=answered]')?.dataset ?? { asking: '' };
    if ('asking' in told) window.asked = true;
    return 'asking' in told
      ? ''
      : `${told.took} ${document.querySelector('[data-testid=total]')?.textContent ?? ''} ${document.querySelector('#row-0')?.textContent ?? ''}`;
  };
});
const page = await context.newPage();
await signIn(page, 'reader');

/** Acts, and measures until what is told in the page is so and was painted. */
async function measured(act, ready, given) {
  await page.evaluate(
    ({ ready, given }) => {
      const test = new Function('given', `return (${ready})`);
      window.began = 0;
      window.asked = false;
      window.waited = new Promise((done) => {
        const late = setTimeout(() => done(null), 15_000);
        const look = () =>
          window.began && test(given)
            ? requestAnimationFrame(() => {
                clearTimeout(late);
                done(performance.now() - window.began);
              })
            : requestAnimationFrame(look);
        look();
      });
    },
    { ready, given },
  );
  await act();
  const ms = await page.evaluate(() => window.waited);
  if (ms === null) throw new Error(`never painted: ${ready}, at ${page.url()}`);
  return ms;
}
// An answer may look like the one before it, to the tenth of a millisecond: then it is known by the asking.
const CHANGED = "answered() !== '' && (window.asked || answered() !== given)";
const state = () => page.evaluate(() => window.answered());
const settle = () => page.waitForFunction(() => window.answered() !== '' && !document.querySelector('[aria-busy=true]'));
const words = ['seepage sill', 'keeper', 'gate', 'marigold', 'silt depth', 'contract', 'towpath', 'winding gear', 'holm masonry', 'lock'];

const suites = {
  'words and Enter': async (n) => {
    const before = await state();
    await page.getByLabel(/^Query line/).fill(words[n % words.length]);
    return measured(() => page.keyboard.press('Enter'), CHANGED, before);
  },
  'words until the margins stand': async (n) => {
    await settle();
    const before = await state();
    await page.getByLabel(/^Query line/).fill(words[(n + 5) % words.length]);
    return measured(() => page.keyboard.press('Enter'), `${CHANGED} && !document.querySelector('[aria-busy=true]')`, before);
  },
  'a value in the margins': async () => {
    const before = await state();
    const value = page.locator('button.value[aria-pressed=false]').first();
    // Where every document has the same, there is nothing to choose.
    return (await value.count()) === 0 ? null : measured(() => value.click(), CHANGED, before);
  },
  'a line off': async () => {
    const before = await state();
    return measured(() => page.locator('input[type=checkbox][aria-label]').first().click(), CHANGED, before);
  },
  'sort by a column': async () => {
    const before = await state();
    return measured(() => page.getByRole('columnheader', { name: 'Title' }).getByRole('button').click(), CHANGED, before);
  },
  'open a document': async () => {
    await page.getByRole('treegrid').focus();
    const ms = await measured(
      () => page.keyboard.press('Space'),
      '!!document.querySelector(\'[aria-label="Reading pane"] [data-testid=hits], [aria-label="Reading pane"] canvas, [aria-label="Reading pane"] h2\')',
    );
    await page.keyboard.press('Escape');
    return ms;
  },
  completion: async () => {
    await page.getByLabel(/^Query line/).fill('');
    await page.getByLabel(/^Query line/).pressSequentially('upper b');
    const ms = await measured(
      () => page.keyboard.press('a'),
      "[...document.querySelectorAll('[role=option]')].some((o) => o.textContent.includes('Upper basin'))",
    );
    await page.keyboard.press('Escape');
    return ms;
  },
};

const quantile = (list, q) => [...list].sort((a, b) => a - b)[Math.min(list.length - 1, Math.floor(list.length * q))];
const results = {};
for (const name of Object.keys(suites)) results[name] = [];
for (let n = 0; n <= rounds; n++) {
  await page.goto(`${home}/find?q=${encodeURIComponent(words[(n + 3) % words.length])}`);
  await settle();
  for (const [name, suite] of Object.entries(suites)) {
    const ms = await suite(n);
    // The first round warms what a working day has warm.
    if (n > 0 && ms !== null) results[name].push(ms);
    await settle();
  }
}
const loads = [];
for (let n = 0; n < Math.max(5, rounds / 2); n++) {
  const fresh = await browser.newContext({ viewport: { width: 1280, height: 800 }, storageState: await context.storageState() });
  const first = await fresh.newPage();
  await first.goto(`${home}/find?q=keeper`, { waitUntil: 'commit' });
  await first.getByTestId('total').waitFor();
  loads.push(await first.evaluate(() => new Promise((done) => requestAnimationFrame(() => done(performance.now())))));
  await fresh.close();
}
results['first load, nothing cached'] = loads;

const manifest = JSON.parse(readFileSync(`${root}public/build/manifest.json`, 'utf8'));
const seen = new Set();
const take = (key) => {
  if (!seen.has(key)) {
    seen.add(key);
    (manifest[key].imports ?? []).forEach(take);
  }
};
Object.keys(manifest)
  .filter((key) => manifest[key].isEntry)
  .forEach(take);
const scripts = [...seen]
  .map((key) => manifest[key].file)
  .filter((file) => file.endsWith('.js'))
  .reduce((sum, file) => sum + gzipSync(readFileSync(`${root}public/build/${file}`)).length, 0);

const figures = Object.fromEntries(
  Object.entries(results).map(([name, list]) => [
    name,
    { median_ms: Math.round(quantile(list, 0.5)), p95_ms: Math.round(quantile(list, 0.95)), samples: list.length },
  ]),
);
if (process.argv.includes('--json')) console.log(JSON.stringify({ figures, initial_scripts_gzip_bytes: scripts }));
else {
  for (const [name, f] of Object.entries(figures))
    console.log(
      `${name.padEnd(28)} ${String(f.median_ms).padStart(6)} ms median ${String(f.p95_ms).padStart(6)} ms 95 %   ${f.samples} samples`,
    );
  console.log(`${'scripts at first, gzipped'.padEnd(28)} ${(scripts / 1000).toFixed(0).padStart(6)} kB`);
}
await browser.close();
server.kill('SIGTERM');
