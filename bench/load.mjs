// An office at work: what one request costs on a quiet server, and how long people wait when many ask at once.
// ./brenvic bench load [--people=50] [--seconds=60] [--slow=20] [--filing] [--at=http://127.0.0.1:8080] [--json]
// Without --at the demo is made and served for it; with it a server that has the demo and its passwords is asked.
import http from 'node:http';
import { readdirSync, statSync } from 'node:fs';
import { spawnSync } from 'node:child_process';
import { home, option, root, started } from './application.mjs';

const people = Number(option('people', 50));
const seconds = Number(option('seconds', 60));
const slow = Number(option('slow', 20));
const data = `${root}bench/data/load`;
const at = option('at', '');
if (!at) await started(data);
const address = new URL(at || home);
const names = ['librarian', 'clerk', 'reader', 'manager', 'admin'];
const words = ['lock', 'sill', 'gate leaks', 'dredging', 'permit', 'inspection', 'tender paddles', 'breach', 'mooring', 'weir'];

const part = (list, share) => list.toSorted((a, b) => a - b)[Math.min(list.length - 1, Math.floor(list.length * share))] ?? 0;
const results = {};
function say(what, value) {
  results[what] = value;
  if (!process.argv.includes('--json')) console.log(`${what.padEnd(58)} ${value}`);
}

/** A browser’s connection and cookies. */
class Person {
  cookies = new Map();
  agent = new http.Agent({ keepAlive: true, maxSockets: 4 });

  ask(method, path, body, headers = {}) {
    const sent = body === undefined ? undefined : Buffer.isBuffer(body) ? body : JSON.stringify(body);
    return new Promise((done, failed) => {
      const began = performance.now();
      const request = http.request(
        {
          agent: this.agent,
          host: address.hostname,
          port: address.port,
          method,
          path,
          headers: {
            Accept: 'application/json',
            'X-XSRF-TOKEN': decodeURIComponent(this.cookies.get('XSRF-TOKEN') ?? ''),
            Cookie: [...this.cookies].map(([name, value]) => `${name}=${value}`).join('; '),
            ...(sent === undefined ? {} : { 'Content-Type': 'application/json', 'Content-Length': sent.length }),
            ...headers,
          },
        },
        (response) => {
          for (const cookie of response.headers['set-cookie'] ?? []) {
            const [, name, value] = /^([^=]+)=([^;]*)/.exec(cookie);
            this.cookies.set(name, value);
          }
          const pieces = [];
          response.on('data', (piece) => pieces.push(piece));
          response.on('end', () =>
            done({ status: response.statusCode, ms: performance.now() - began, text: Buffer.concat(pieces).toString() }),
          );
          response.on('error', failed);
        },
      );
      request.on('error', failed);
      request.end(sent);
    });
  }

  async signIn(name) {
    await this.ask('GET', '/api/session');
    const answer = await this.ask('POST', '/api/session', { sign_in: name, password: 'tarnwick' });
    if (answer.status !== 200) throw new Error(`${name} could not sign in: ${answer.status} ${answer.text}`);
  }

  search(asked) {
    return this.ask('POST', '/api/search', { words: asked, criteria: [], libraries: [] });
  }
}

const one = new Person();
await one.signIn('reader');
async function cost(what, act, times = 200) {
  const all = [];
  for (let i = 0; i < times; i++) {
    const answer = await act(i);
    if (answer.status !== 200) throw new Error(`${what}: ${answer.status} ${answer.text.slice(0, 300)}`);
    if (i >= times / 4) all.push(answer.ms);
  }
  say(`${what}, median and p95 in ms`, `${part(all, 0.5).toFixed(1)}  ${part(all, 0.95).toFixed(1)}`);
}
await cost('GET /api/session', () => one.ask('GET', '/api/session'));
await cost('a search of the demo', (i) => one.search(words[i % words.length]));

/** Of all processes of the server, in MB. */
function memory() {
  const all = spawnSync('ps', ['-eo', 'rss,args'], { encoding: 'utf8' }).stdout.split('\n');
  const used = all.filter((line) => /php-fpm|nginx|php .* -S /.test(line)).map((line) => Number.parseInt(line, 10));
  return Math.round(used.reduce((sum, rss) => sum + rss, 0) / 1024);
}

const waited = [];
let errors = 0;
let stopped = false;
const pause = (ms) => new Promise((done) => setTimeout(done, ms));
async function atWork(person, number) {
  const name = names[number % names.length];
  await pause(Math.random() * 5000);
  let refs = [];
  for (let turn = 0; !stopped; turn++) {
    const asked = words[Math.floor(Math.random() * words.length)];
    let answer;
    try {
      if (process.argv.includes('--filing') && turn % 5 === 4 && (name === 'librarian' || name === 'clerk')) {
        answer = await uploaded(person, number, turn);
      } else if (turn % 3 === 2 && refs.length > 0) {
        answer = await person.ask('GET', `/api/documents/${refs[Math.floor(Math.random() * refs.length)]}`);
      } else {
        answer = await person.search(asked);
        if (answer.status === 200) refs = JSON.parse(answer.text).rows.map((row) => row.ref);
      }
      if (answer.status >= 400) {
        errors++;
        console.error(answer.status, answer.text.slice(0, 200));
      } else waited.push(answer.ms);
    } catch (fault) {
      errors++;
      console.error(fault.message);
    }
    await pause(3000 + Math.random() * 4000);
  }
}

function uploaded(person, number, turn) {
  const edge = 'brenvic-load';
  const text = `The keeper of lock ${number} reports at turn ${turn} that the sill is sound and the gate was greased on Monday.`;
  const body = Buffer.from(
    `--${edge}\r\nContent-Disposition: form-data; name="library"\r\n\r\n${results.library}\r\n` +
      `--${edge}\r\nContent-Disposition: form-data; name="file"; filename="load-${number}-${turn}.txt"\r\nContent-Type: text/plain\r\n\r\n` +
      `${text}\r\n--${edge}--\r\n`,
  );
  return person.ask('POST', '/api/intake', body, {
    'Content-Type': `multipart/form-data; boundary=${edge}`,
    'Content-Length': body.length,
  });
}

results.library = JSON.parse((await one.ask('GET', '/api/design')).text).libraries[0].code;
// One after the other: a password takes a processor for a quarter of a second, and they come in over an hour.
const signedIn = [];
for (let number = 0; number < people; number++) {
  signedIn.push(new Person());
  await signedIn[number].signIn(names[number % names.length]);
}
const before = memory();
const all = signedIn.map(atWork);
await pause(seconds * 1000);
stopped = true;
await Promise.all(all);
say(`${people} people 3 to 7 s apart for ${seconds} s: requests, errors`, `${waited.length}  ${errors}`);
say('  median, p95, most in ms', [0.5, 0.95, 1].map((share) => Math.round(part(waited, share))).join('  '));
say('  memory of the server before and after, MB', `${before}  ${memory()}`);

// Slow readers take large answers drop by drop, while somebody else works.
if (slow > 0) {
  const held = [];
  const built = readdirSync(`${root}public/build/assets`).filter((name) => /js$/.test(name));
  const size = (name) => statSync(`${root}public/build/assets/${name}`).size;
  const large = `/build/assets/${built.toSorted((a, b) => size(b) - size(a))[0]}`;
  for (let i = 0; i < slow; i++) {
    const request = http.get({
      host: address.hostname,
      port: address.port,
      path: large,
      headers: { 'Accept-Encoding': 'identity' },
    });
    request.on('response', (response) => response.pause());
    request.on('error', () => {});
    held.push(request);
    // And senders who say only the beginning of what they ask.
    const sender = http.request({
      host: address.hostname,
      port: address.port,
      method: 'POST',
      path: '/api/session',
      headers: { 'Content-Length': 100000 },
    });
    sender.on('error', () => {});
    sender.write('{');
    held.push(sender);
  }
  await pause(500);
  await cost(`a search beside ${slow} slow readers and senders`, (i) => one.search(words[i % words.length]), 60);
  held.forEach((request) => request.destroy());
}
if (process.argv.includes('--json')) console.log(JSON.stringify(results));
process.exit(errors > 0 ? 1 : 0);
