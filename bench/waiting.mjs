// Intake as people use it: hundreds of files dropped together, what is asked while they are read, and thousands that wait.
// ./brenvic bench waiting [--docs=500] [--rows=5000] [--json]
import { mkdirSync, rmSync, writeFileSync } from 'node:fs';
import { spawnSync } from 'node:child_process';
import { home, opened, option, root, signIn, started } from './application.mjs';

const docs = Number(option('docs', 500));
const rows = Number(option('rows', 5000));
const data = `${root}bench/data/waiting`;
rmSync(data, { recursive: true, force: true });
// The demo’s design and people without its documents, so that nothing else is read meanwhile.
mkdirSync(data, { recursive: true });
writeFileSync(`${data}/brenvic.sqlite`, '');
spawnSync('php', ['tests/empty-office.php'], { cwd: root, env: { ...process.env, BRENVIC_DATA: data }, stdio: 'inherit' });
await started(data);
const browser = await opened();
const page = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
await signIn(page, 'clerk');
await page.goto(`${home}/intake`);
await page.getByLabel('Library for new files').waitFor();

const at = (list, part) => list.toSorted((a, b) => a - b)[Math.min(list.length - 1, Math.floor(list.length * part))];
const round = (ms) => Math.round(ms);
const results = new Proxy(
  {},
  {
    set(all, what, value) {
      if (!process.argv.includes('--json')) console.log(`${what.padEnd(52)} ${value}`);
      all[what] = value;
      return true;
    },
  },
);

/** A PDF of two pages of text. */
function pdfOf(i) {
  const lines = Array.from({ length: 30 }, (_, n) => `(Line ${n} of letter ${i}: the sill of the lock at Holm leaks.) Tj T*`).join('\n');
  const stream = `BT /F1 11 Tf 60 780 Td 14 TL\n${lines}\nET`;
  const parts = [
    '<< /Type /Catalog /Pages 2 0 R >>',
    '<< /Type /Pages /Kids [3 0 R 4 0 R] /Count 2 >>',
    ...[5, 5].map(
      (c) => `<< /Type /Page /Parent 2 0 R /MediaBox [0 0 595 842] /Contents ${c} 0 R /Resources << /Font << /F1 6 0 R >> >> >>`,
    ),
    `<< /Length ${stream.length} >>\nstream\n${stream}\nendstream`,
    '<< /Type /Font /Subtype /Type1 /BaseFont /Helvetica >>',
  ];
  let text = '%PDF-1.4\n';
  const places = parts.map((part, n) => {
    const place = text.length;
    text += `${n + 1} 0 obj\n${part}\nendobj\n`;
    return place;
  });
  const table = places.map((place) => `${String(place).padStart(10, '0')} 00000 n \n`).join('');
  return Buffer.from(
    `${text}xref\n0 ${parts.length + 1}\n0000000000 65535 f \n${table}trailer << /Size ${parts.length + 1} /Root 1 0 R >>\nstartxref\n${text.length}\n%%EOF\n`,
  );
}

const get = (path, body) =>
  page.evaluate(
    async ([address, given]) => {
      const token = decodeURIComponent(/XSRF-TOKEN=([^;]+)/.exec(document.cookie)[1]);
      const since = performance.now();
      const answer = given
        ? await fetch(address, {
            method: 'POST',
            headers: { 'Content-Type': 'application/json', 'X-XSRF-TOKEN': token, Accept: 'application/json' },
            body: JSON.stringify(given),
          })
        : await fetch(address);
      if (!answer.ok) throw new Error(`${address} answered ${answer.status}`);
      await answer.text();
      return performance.now() - since;
    },
    [path, body],
  );
const pending = () => page.evaluate(async () => (await (await fetch('/api/intake')).json()).documents.filter((d) => d.text_state === 'pending').length);

// Dropped together: how long until all are in, and from the first on what others ask meanwhile.
// The files are in the browser before, so that what is measured is not how they get there.
await page.evaluate(
  (files) => {
    window.dropped = new DataTransfer();
    for (const [i, text] of files.entries()) window.dropped.items.add(new File([text], `letter-${i}.pdf`, { type: 'application/pdf' }));
  },
  Array.from({ length: docs }, (_, i) => pdfOf(i).toString('latin1')),
);
const since = Date.now();
results['first row, ms'] = round(
  await page.evaluate(
    () =>
      new Promise((done) => {
        const began = performance.now();
        const look = () =>
          document.querySelector('[aria-label^="Select letter-"]') ? done(performance.now() - began) : requestAnimationFrame(look);
        const input = document.querySelector('input[aria-label="Files"]');
        input.files = window.dropped.files;
        input.dispatchEvent(new Event('change', { bubbles: true }));
        look();
      }),
  ),
);
const meanwhile = { search: [], session: [], list: [], key: [] };
let left = 1;
while (left > 0) {
  meanwhile.session.push(await get('/api/session'));
  meanwhile.search.push(await get('/api/search', { words: 'lock' }));
  meanwhile.list.push(await get('/api/intake'));
  meanwhile.key.push(
    await page.evaluate(
      () =>
        new Promise((done) => {
          const field = document.querySelector('#type');
          const began = performance.now();
          field.focus();
          field.dispatchEvent(new KeyboardEvent('keydown', { key: 's', bubbles: true }));
          requestAnimationFrame(() => setTimeout(() => done(performance.now() - began)));
        }),
    ),
  );
  const isComing = await page.getByText('on the way').count();
  if (isComing === 0 && !results['all in, s']) results['all in, s'] = (Date.now() - since) / 1000;
  left = isComing > 0 ? 1 : await pending();
}
results['all read, s'] = (Date.now() - since) / 1000;
for (const [what, times] of Object.entries(meanwhile)) {
  results[`${what} meanwhile, median ms`] = round(at(times, 0.5));
  results[`${what} meanwhile, p95 ms`] = round(at(times, 0.95));
}

// Thousands: made in the database, since what is measured is the list.
spawnSync('php', ['bench/waiting-rows.php', data, String(rows)], { cwd: root, stdio: 'inherit' });
for (const shape of ['names', 'pictures', 'table']) {
  await page.evaluate((s) => localStorage.setItem('intake:shape', s), shape);
  const reload = Date.now();
  await page.goto(`${home}/intake`);
  await page.getByText(`Waiting ${rows}`, { exact: false }).or(page.getByRole('heading', { name: 'Waiting' })).first().waitFor();
  results[`${rows} as ${shape}: shown, ms`] = Date.now() - reload;
  await page.waitForFunction(
    (most) => [...document.querySelectorAll('*')].some((e) => e.scrollHeight > most && getComputedStyle(e).overflowY !== 'visible'),
    rows * 10,
  );
  const gaps = await page.evaluate(async () => {
    const box = [...document.querySelectorAll('*')]
      .filter((e) => e.scrollHeight > e.clientHeight + 2000 && getComputedStyle(e).overflowY !== 'visible')
      .toSorted((a, b) => b.scrollHeight - a.scrollHeight)[0];
    const found = [];
    let last = performance.now();
    for (let i = 0; i < 120; i++) {
      box.scrollTop += 700;
      await new Promise((done) => requestAnimationFrame(done));
      const now = performance.now();
      found.push(now - last);
      last = now;
    }
    return found;
  });
  results[`${rows} as ${shape}: frame while scrolling, median ms`] = round(at(gaps, 0.5));
  results[`${rows} as ${shape}: frame while scrolling, p95 ms`] = round(at(gaps, 0.95));
}
if (process.argv.includes('--json')) console.log(JSON.stringify(results));
await browser.close();
process.exit(0);
