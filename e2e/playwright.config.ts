import { existsSync } from 'node:fs';
import { defineConfig } from '@playwright/test';
import { chromiumOptions } from './browser';

if (!existsSync(chromiumOptions.executablePath)) throw new Error('The end-to-end tests need Chromium. Set CHROME_BIN to one.');

/** How long a journey waits for what it looks at, ms; shorter by PATIENCE while one is being written. */
const patience = Number(process.env['PATIENCE'] ?? 120_000);

export default defineConfig({
  testDir: '.',
  globalSetup: './core-bundle.ts',
  // There to end what hangs, and no measure of anything: a busy machine takes many times as long as a quiet one.
  timeout: 600_000,
  expect: { timeout: patience },
  fullyParallel: true,
  workers: 2,
  retries: 0,
  forbidOnly: Boolean(process.env['CI']),
  reporter: [['list'], ['json', { outputFile: process.env['SPEC_RESULTS'] ?? 'test-results/results.json' }]],
  // A worker that keeps the files would bring them anew in every test; the one about working offline lets it.
  use: { actionTimeout: patience, serviceWorkers: 'block', launchOptions: chromiumOptions, acceptDownloads: true, timezoneId: 'UTC', locale: 'en-GB' },
  projects: [
    { name: 'desk', testIgnore: ['*phone.spec.ts', 'shots.spec.ts'], use: { viewport: { width: 1280, height: 800 } } },
    { name: 'phone', testMatch: '*phone.spec.ts', use: { viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true } },
    ...(process.env['SHOTS'] ? [{ name: 'shots', testMatch: 'shots.spec.ts', use: { viewport: { width: 1280, height: 800 } } }] : []),
  ],
});
