import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { demoLog } from '../logs';
import { demoJob } from '../rehearsals';
import { judged, workedOut } from './kept';

/**
 * Everything that is worked out from the demo jobs and read from their logs, to the last sum and word, as it was when somebody last looked it
 * over. What changes here is meant to change: `KEEP=1 npm test -- --only core/testing` writes it anew, and the difference is read before it is
 * committed.
 */
function isKept(name: string, text: string): void {
  const file = new URL(`./${name}.txt`, import.meta.url);
  if (process.env['KEEP']) writeFileSync(file, text);
  const kept = existsSync(file) ? readFileSync(file, 'utf8').split('\n') : [];
  const lines = text.split('\n');
  const at = lines.findIndex((line, i) => line !== kept[i]);
  expect(lines[at])
    .withContext(`line ${at + 1}`)
    .toBe(kept[at]);
  expect(lines.length).toBe(kept.length);
}

describe('what is worked out from a demo job is what was looked over', () => {
  for (const name of ['teasel', 'rook-moss', 'skarrow', 'tumbler'] as const)
    describe(name, () => {
      let parts: Readonly<Record<string, string>> = {};
      beforeAll(() => {
        parts = workedOut(demoJob(name));
      });
      for (const part of ['settings', 'findings', 'edits', 'requirements', 'sheet', 'schools'])
        it(part, () => {
          isKept(`${name}.${part}`, parts[part] ?? '');
        });
    });
});

describe('what a demo log comes to is what was looked over', () => {
  for (const [job, log, chargers] of [
    ['teasel', 'teasel-clean-day', ['fore', 'aft']],
    ['teasel', 'teasel-broken-cloud', ['fore', 'aft']],
    ['teasel', 'teasel-freezing-dawn', ['fore', 'aft']],
    ['teasel', 'teasel-motoring', ['fore', 'aft', 'dcdc', 'alternator']],
    ['rook-moss', 'rook-moss-nine-days', ['mast']],
    ['rook-moss', 'rook-moss-wrong-slope', ['mast']],
  ] as const)
    it(log, () => {
      isKept(log, judged(demoJob(job), demoLog(log, chargers)));
    });
});
