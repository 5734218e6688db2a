// A program that is told by webhooks. It reads what RFC 9421 and RFC 9530 say of the signature, with nothing of Brenvic's.
// Usage: node receiver.mjs SECRET FILE — prints its port; writes a line of JSON for each message that is signed rightly.
import { createHash, createHmac, timingSafeEqual } from 'node:crypto';
import { appendFileSync } from 'node:fs';
import { createServer } from 'node:http';

const [secret, file] = process.argv.slice(2);

function isSigned(request, body, address) {
  const digest = `sha-256=:${createHash('sha256').update(body).digest('base64')}:`;
  const input = /^brenvic=(\(([^)]*)\).*)$/.exec(request.headers['signature-input'] ?? '');
  const given = /^brenvic=:([^:]+):$/.exec(request.headers['signature'] ?? '');
  if (request.headers['content-digest'] !== digest || !input || !given) return false;
  const values = { '@method': request.method, '@target-uri': address };
  const lines = input[2]
    .split(' ')
    .map((quoted) => quoted.slice(1, -1))
    .map((name) => `"${name}": ${values[name] ?? request.headers[name]}`);
  const base = [...lines, `"@signature-params": ${input[1]}`].join('\n');
  const wanted = createHmac('sha256', secret).update(base).digest();
  const got = Buffer.from(given[1], 'base64');
  return wanted.length === got.length && timingSafeEqual(wanted, got);
}

const server = createServer(async (request, response) => {
  const parts = [];
  for await (const part of request) parts.push(part);
  const body = Buffer.concat(parts);
  const isRight = isSigned(request, body, `http://127.0.0.1:${server.address().port}${request.url}`);
  if (isRight) appendFileSync(file, body + '\n');
  response.writeHead(isRight ? 204 : 401).end();
});
server.listen(0, '127.0.0.1', () => console.log(server.address().port));
