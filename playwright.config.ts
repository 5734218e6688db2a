import { defineConfig } from '@playwright/test';

const port = Number(process.env.BRENVIC_TEST_PORT ?? 8391);

export default defineConfig({
  testDir: 'tests/browser',
  outputDir: 'test-results',
  // One server with one worker in the background: tests take turns.
  workers: 1,
  // Scans are still being read in the background while the tests run.
  timeout: 150_000,
  // A busy machine can be too slow for one moment; what passes only again is listed as flaky.
  retries: 1,
  expect: { timeout: 10_000 },
  reporter: [['list']],
  use: {
    baseURL: `http://127.0.0.1:${port}`,
    viewport: { width: 1280, height: 800 },
    launchOptions: {
      executablePath: '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    },
  },
  projects: [
    { name: 'sign in', testMatch: 'sign-in.setup.ts' },
    { name: 'places', testMatch: '*.spec.ts', dependencies: ['sign in'] },
  ],
  webServer: {
    command: `rm -rf storage/browser && exec ./brenvic start --port=${port}`,
    env: { BRENVIC_DATA: `${import.meta.dirname}/storage/browser` },
    url: `http://127.0.0.1:${port}/api/session`,
    // ./brenvic test has started it long before, so that it is ready.
    reuseExistingServer: process.env.BRENVIC_TEST_SERVER === 'started',
    // It makes the demo data first, which takes its time on a slow machine.
    timeout: 600_000,
    gracefulShutdown: { signal: 'SIGTERM', timeout: 10_000 },
    stdout: 'ignore',
  },
});
