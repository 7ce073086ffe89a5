import { existsSync } from 'node:fs';
import { defineConfig } from '@playwright/test';

const port = Number(process.env['E2E_PORT'] ?? 4311);
// Simulated devices listen at the ports from here on.
const devicesPort = port + 20;
const chromium = process.env['CHROME_BIN'] ?? '/usr/bin/chromium';
if (!existsSync(chromium)) throw new Error('The end-to-end tests need Chromium. Set CHROME_BIN to one.');
const launchOptions = {
  executablePath: chromium,
  args: [
    '--no-sandbox',
    '--disable-gpu',
    '--disable-quic',
    '--no-first-run',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
  ],
};

export default defineConfig({
  testDir: '.',
  timeout: 90_000,
  // Generous: two browsers, their workers and the server share two cores.
  expect: { timeout: 25_000 },
  fullyParallel: true,
  workers: 2,
  retries: 0,
  forbidOnly: Boolean(process.env['CI']),
  reporter: [['list'], ['json', { outputFile: 'test-results/results.json' }]],
  // A worker that keeps the files would bring them anew in every test; the one about working offline lets it.
  use: { serviceWorkers: 'block', baseURL: `http://127.0.0.1:${port}`, launchOptions, acceptDownloads: true, timezoneId: 'UTC', locale: 'en-GB' },
  projects: [
    { name: 'desk', testIgnore: ['*phone.spec.ts', 'shots.spec.ts'], use: { viewport: { width: 1280, height: 800 } } },
    { name: 'phone', testMatch: '*phone.spec.ts', use: { viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true } },
    ...(process.env['SHOTS'] ? [{ name: 'shots', testMatch: 'shots.spec.ts', use: { viewport: { width: 1280, height: 800 } } }] : []),
  ],
  webServer: [
    {
      command: 'node ../devices/dist/main.js',
      url: `http://127.0.0.1:${devicesPort}/state`,
      env: { DEVICES_PORT: String(devicesPort) },
      reuseExistingServer: false,
    },
    { command: 'node ../server/dist/main.js', port, env: { PORT: String(port), DEVICES_PORT: String(devicesPort) }, reuseExistingServer: false },
  ],
});
