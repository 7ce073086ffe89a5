import { spawn } from 'node:child_process';
import { chromium } from '@playwright/test';
import { readFileSync } from 'node:fs';
import { ensureChromium, root } from '../common.mjs';

/** How a Chromium is started everywhere here. @type {string[]} */
const flags = JSON.parse(readFileSync(`${root}tools/test/chromium-flags.json`, 'utf8'));

/**
 * Serves the built application, opens it in Chromium, hands the page to some work, and closes both whatever happens.
 *
 * @template T
 * @param {number} port
 * @param {(page: import('@playwright/test').Page) => Promise<T>} work
 */
export async function withPage(port, work) {
  const executablePath = await ensureChromium();
  const server = spawn(process.execPath, [`${root}server/dist/main.js`], { env: { ...process.env, PORT: String(port) }, stdio: 'ignore' });
  try {
    const browser = await chromium.launch({ executablePath, args: flags });
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    for (let i = 0; i < 50; i++) {
      try {
        await page.goto(`http://127.0.0.1:${port}/`);
        break;
      } catch {
        await new Promise((resolve) => setTimeout(resolve, 100));
      }
    }
    const answer = await work(page);
    await browser.close();
    return answer;
  } finally {
    server.kill();
  }
}
