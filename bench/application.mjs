// The application on data of its own, and a browser, for what is measured as people wait.
import { chromium } from 'playwright-core';
import { spawn } from 'node:child_process';

export const port = 8397;
export const home = `http://127.0.0.1:${port}`;
export const root = new URL('..', import.meta.url).pathname;

export const option = (name, other) => process.argv.map((a) => new RegExp(`^--${name}=(.+)$`).exec(a)?.[1]).find(Boolean) ?? other;

export async function started(folder) {
  const server = spawn('./brenvic', ['start', `--port=${port}`], {
    cwd: root,
    env: { ...process.env, BRENVIC_DATA: folder },
    stdio: 'ignore',
  });
  process.on('exit', () => server.kill('SIGTERM'));
  for (let waited = 0; ; waited++) {
    if (
      await fetch(`${home}/api/session`).then(
        () => true,
        () => false,
      )
    )
      return server;
    if (waited > 600 || server.exitCode !== null) throw new Error('The server did not start.');
    await new Promise((done) => setTimeout(done, 500));
  }
}

export const opened = () =>
  chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking', '--disable-component-update', '--disable-sync'],
  });

export async function signIn(page, who) {
  await page.goto(home);
  await page.getByLabel('Sign-in name').fill(who);
  await page.getByLabel('Password').fill('tarnwick');
  await page.keyboard.press('Enter');
  await page.getByRole('navigation', { name: 'Places' }).waitFor();
}
