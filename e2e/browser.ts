import { readFileSync } from 'node:fs';
import { repo } from './repo';

/** The browser that journeys and attacks drive, and how it is started: as any user, without a word to the outside. */
export const chromiumOptions = {
  executablePath: process.env['CHROME_BIN'] ?? '/usr/bin/chromium',
  args: JSON.parse(readFileSync(repo('tools/test/chromium-flags.json'), 'utf8')) as string[],
};
