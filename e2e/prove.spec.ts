import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { strToU8, zipSync } from 'fflate';
import { madeWorkbook, serialOf, type MadeCell } from '../core/src/testing/workbook';
import { openLaunch } from './jobs';
import { bringLog, expect, openDemo, repo, saved, test } from './keel';

const text = (name: string, content: string) => ({ name, mimeType: 'text/plain', buffer: Buffer.from(content) });
const drawn = (page: Page) => expect(page.locator('[data-drawn=true]')).toBeVisible();

/** The clean day as another logger would have written it. */
function foreign(): string {
  const rows = readFileSync(repo('demo/logs/teasel-clean-day.csv'), 'utf8').split('\n').slice(1).filter(Boolean);
  const lines = rows.map((row) => {
    const f = row.split(',');
    const [day = '', clock = ''] = (f[0] ?? '').split('T');
    return [
      `${day.split('-').reverse().join('.')} ${clock.slice(0, 8)}`,
      String(Math.round(Number(f[1]) * 1000)),
      f[3]?.replace('.', ','),
      f[4]?.replace('.', ','),
      f[7]?.replace('.', ','),
    ].join(';');
  });
  return `Logger 7;;;;\nZeit;Busspannung (mV);Temperatur;Lader A Strom (A);Lader B Strom (A)\n${lines.join('\n')}\n`;
}

test('a file of another make is mapped, read, judged, and its mapping remembered', { tag: '@long' }, async ({ page }) => {
  await openDemo(page, 'prove');
  await drawn(page);
  await bringLog(page, text('anderswo.csv', foreign()));
  await expect(page.getByRole('heading', { name: 'What the columns mean' })).toBeVisible();
  await expect(page.getByLabel('Meaning of Busspannung (mV)')).toHaveValue('bankVolts');
  await expect(page.getByLabel('Unit of Busspannung (mV)')).toHaveValue('mV');
  for (const [column, charger] of [
    ['Lader A Strom (A)', 'fore'],
    ['Lader B Strom (A)', 'aft'],
  ] as const) {
    await page.getByLabel(`Meaning of ${column}`).selectOption('amps');
    await page.getByLabel(`Charger of ${column}`).selectOption(charger);
  }
  await expect(page.getByLabel('Sensor that wrote Temperatur')).toHaveValue('');
  await page.getByLabel('Sensor that wrote Temperatur').selectOption('a probe on the battery');
  await page.getByLabel('Times without a zone are').selectOption('Europe/London');
  await page.getByRole('button', { name: 'Read it so' }).click();
  await expect(page.getByRole('navigation', { name: 'Logs of this job' }).getByRole('link', { name: 'anderswo.csv' })).toBeVisible();
  // The forward charger comes down by itself; of the aft one nothing in this file shows that it held the bus, and not the other.
  await expect(page.getByRole('row', { name: /Proved Absorb level Solar fore/ })).toContainText('28.08');
  await expect(page.getByRole('row', { name: /Inconclusive Absorb level Solar aft/ })).toContainText('28.09');
  await expect(page.getByLabel('Temperature read by')).toHaveValue('probe');
  await saved(page);
  // A second file of the same make comes up as the first was read.
  await bringLog(page, text('again.csv', foreign()));
  await expect(page.getByText('Read the last file of this make so')).toBeVisible();
  await expect(page.getByLabel('Charger of Lader B Strom (A)')).toHaveValue('aft');
  await page.getByRole('button', { name: 'Leave it' }).click();
  await expect(page.getByRole('heading', { name: 'What the columns mean' })).toBeHidden();
});

test('a spreadsheet is read like its text, and days in a zip become one log, mapped once', async ({ page }) => {
  await openDemo(page, 'prove');
  await drawn(page);
  const [head = '', ...rows] = readFileSync(repo('demo/logs/teasel-freezing-dawn.csv'), 'utf8').trimEnd().split(/\r?\n/);
  const cells = rows.map((row) =>
    row
      .split(',')
      .map((field, i): MadeCell => (i === 0 ? { serial: serialOf(field), as: 'both' } : field === '' || Number.isNaN(Number(field)) ? field : Number(field))),
  );
  const book = madeWorkbook({ Dawn: [head.split(','), ...cells], Notes: [['call back'], ['on Monday']] });
  await bringLog(page, { name: 'dawn.xlsx', mimeType: '', buffer: Buffer.from(book) });
  // The zone is lost in a spreadsheet; everything else is plain.
  await expect(page.getByRole('navigation', { name: 'Logs of this job' }).getByRole('link', { name: 'dawn.xlsx' })).toBeVisible();
  await expect(page.getByText('“dawn.xlsx › Notes” was left out')).toBeVisible();
  await expect(page.getByRole('row', { name: /Fails.*Solar aft/ }).first()).toContainText('−1.6');
  // Three days of another make, one of them with a date that can be read two ways: asked once.
  const day = (n: string, rest: readonly string[]): string =>
    `when;Bus;flow\n${rest.map((t, i) => `${n}.2026 ${t};${(26.4 + i / 100).toFixed(2).replace('.', ',')};3,5`).join('\n')}\n`;
  const clock = ['08:00:00', '08:00:10', '08:00:20'];
  const zip = zipSync({ '1.csv': strToU8(day('05.06', clock)), '2.csv': strToU8(day('14.06', clock)), '3.csv': strToU8(day('15.06', clock)) });
  await bringLog(page, { name: 'june.zip', mimeType: 'application/zip', buffer: Buffer.from(zip) });
  await expect(page.getByText('june.zip › 1.csv and 2 alike')).toBeVisible();
  await page.getByLabel('Meaning of flow').selectOption('bankAmps');
  await page.getByRole('button', { name: 'Read 3 tables as one log' }).click();
  await expect(page.getByRole('navigation', { name: 'Logs of this job' }).getByRole('link', { name: /june\.zip/ })).toBeVisible();
  await expect(page.getByText('5 Jun 2026').first()).toBeVisible();
  await bringLog(page, { name: 'locked.xlsx', mimeType: '', buffer: Buffer.from([0xd0, 0xcf, 0x11, 0xe0, 0xa1, 0xb1, 0x1a, 0xe1]) });
  await expect(page.getByRole('alert')).toContainText('save it without a password');
});

test('halves of a day become one log again', { tag: '@long' }, async ({ page }) => {
  await openDemo(page, 'prove');
  const [head = '', ...rows] = readFileSync(repo('demo/logs/teasel-clean-day.csv'), 'utf8').split('\n').filter(Boolean);
  const half = Math.floor(rows.length / 2);
  await page
    .getByLabel('Log file')
    .setInputFiles([text('morning.csv', [head, ...rows.slice(0, half)].join('\n')), text('evening.csv', [head, ...rows.slice(half)].join('\n'))]);
  await expect(page.getByText(`${rows.length.toLocaleString('en')} samples`)).toBeVisible();
  await expect(page.getByText('Put together from 2 files.')).toBeVisible();
});

test('what happened is told beside the plot: the touch on a cloud edge, and the sensor on its pad', { tag: '@long' }, async ({ page }) => {
  await openDemo(page, 'prove');
  await page.getByRole('link', { name: 'Broken cloud, 14 June' }).click();
  await page.getByRole('button', { name: /Absorb began on a touch/ }).click();
  await expect(page.getByTestId('cause')).toContainText('Solar fore called it absorb at 10:4');
  await expect(page.getByText('That is not “nearly full”')).toBeVisible();
  await page.getByRole('button', { name: 'Next' }).click();
  await expect(page.getByTestId('cause')).toBeVisible();
  await bringLog(page, repo('demo/logs/teasel-freezing-dawn.csv'));
  await page.getByRole('button', { name: /The cold sensor reads warm/ }).click();
  await expect(page.getByTestId('cause')).toContainText('Solar aft gave current');
  await expect(page.getByTestId('cause')).toContainText('on a pad');
});

test('the mast’s nine days: slope proved; the other log is called by its name', { tag: '@long' }, async ({ page }) => {
  await openDemo(page);
  await page.goto('/job/rook-moss/prove');
  await drawn(page);
  await expect(page.getByRole('row', { name: /Compensation slope Mast solar/ }).getByText('Proved')).toBeVisible();
  await expect(page.getByRole('group', { name: 'Days of this log' }).getByRole('button')).toHaveCount(9);
  await bringLog(page, repo('demo/logs/rook-moss-wrong-slope.csv'));
  // The rows of the log before stand until this one is judged.
  await page
    .getByRole('row', { name: /Fails Compensation slope Mast solar/ })
    .getByRole('button')
    .first()
    .click();
  await expect(page.getByTestId('why')).toContainText('about 6 times too small: looks like a per-cell slope entered as per 12 V');
});

test('a long log is looked at by its whole and by a stretch drawn out in the plot', { tag: '@long' }, async ({ page }) => {
  await openDemo(page);
  await page.goto('/job/rook-moss/prove');
  await drawn(page);
  const stretch = page.getByRole('group', { name: 'Stretch of the log in view' }).getByRole('status');
  const all = await stretch.textContent();
  const pull = async (box: { x: number; y: number; width: number; height: number } | null, from: number, to: number): Promise<void> => {
    const at = (share: number): [number, number] => [(box?.x ?? 0) + share * (box?.width ?? 0), (box?.y ?? 0) + (box?.height ?? 0) * 0.4];
    await page.mouse.move(...at(from));
    await page.mouse.down();
    await page.mouse.move(...at((from + to) / 2), { steps: 4 });
    await page.mouse.move(...at(to), { steps: 4 });
    await page.mouse.up();
  };
  await pull(await page.locator('ck-log-overview .overlay').boundingBox(), 0.3, 0.5);
  await expect(page).toHaveURL(/from=.+to=/);
  const fifth = await stretch.textContent();
  expect(fifth).not.toBe(all);
  await expect(page.locator('ck-log-overview .selection')).toBeVisible();

  // Pointing brings the plot, with values; what is drawn out in it is the next stretch.
  await page.locator('.picture').hover();
  const plot = page.locator('.plot .nsewdrag').first();
  await expect(plot).toBeVisible();
  await expect(page.locator('ck-log-picture')).toBeHidden();
  await pull(await plot.boundingBox(), 0.2, 0.6);
  await expect(stretch).not.toHaveText(fifth ?? '');
  await page.getByRole('button', { name: 'Whole log' }).click();
  await expect(stretch).toHaveText(all ?? '');
  await expect(page.locator('ck-log-overview .selection')).toBeHidden();
  await page.goBack();
  await expect(stretch).not.toHaveText(all ?? '');
});

test('everything at a glance: by what it is proved, what is open, and a test to do', async ({ page }) => {
  await openDemo(page, 'prove');
  await drawn(page);
  await page.getByRole('link', { name: 'At a glance' }).click();
  const aft = page.getByRole('region', { name: 'Solar aft' });
  await expect(aft.getByText(/held 28\.0\d\sV/).first()).toBeVisible();
  await page.getByRole('region', { name: 'Solar fore' }).getByRole('button', { name: 'Low-temperature cutoff in a cold bath' }).first().click();
  await expect(page.getByRole('heading', { name: 'Low-temperature cutoff in a cold bath' })).toBeVisible();
});

test('a visit is planned by what sun, engine, bank and hours allow, and the plan outlives a reload', async ({ page }) => {
  await openLaunch(page, 'prove');
  await page.getByRole('link', { name: 'Guided tests' }).click();
  const plan = page.locator('ck-visit-plan');
  const answer = (question: string, words: string) => plan.getByRole('group', { name: question }).getByRole('button', { name: words, exact: true });
  await expect(plan.getByText('Say how full the bank is:', { exact: false })).toBeVisible();
  await expect(plan.getByRole('heading', { name: 'At absorb' })).toHaveCount(0);
  await page.getByLabel('Initials').fill('KM');
  await answer('Sun', 'full').click();
  await answer('Bank', 'in between').click();
  await answer('Engine', 'not today').click();
  await plan.getByLabel('Battery itself').fill('59 °F');
  await expect(plan.getByText('depend on it', { exact: false })).toHaveCount(0);
  await expect(plan.getByRole('heading', { name: 'At absorb' })).toBeVisible();
  await expect(plan.getByRole('listitem').filter({ hasText: 'Alternator: soft start and heat' })).toContainText('needs the engine');
  await expect(plan.getByRole('listitem').filter({ hasText: 'Load cutoff and return' })).toContainText('needs the bank lower');
  await plan.getByLabel('Time on site').fill('1');
  await expect(plan.getByRole('status')).toContainText(/about (1.h|\d\d.min) at the devices/);
  await expect(plan.getByText('Absorb, reached and held, Solar fore, Solar aft: no time left')).toBeVisible();
  await plan.getByLabel('Time on site').fill('1 year');
  await expect(plan.getByRole('alert')).toBeVisible();
  await page.reload();
  await expect(answer('Sun', 'full')).toHaveAttribute('aria-pressed', 'true');
  await expect(plan.getByLabel('Time on site')).toHaveValue('1');
  await expect(plan.getByLabel('Battery itself')).toHaveValue('15');
  // Pressed again it is not known any more.
  await answer('Sun', 'full').click();
  await expect(plan.getByText('Say what the sun does:', { exact: false })).toBeVisible();
  await plan.getByRole('button', { name: /^Begin now: Values after a power cut, Solar fore/ }).click();
  await expect(page.getByRole('heading', { name: 'Values after a power cut' })).toBeVisible();
});

test('values are recorded from the devices into a log while a test runs', { tag: '@long' }, async ({ page }) => {
  await openDemo(page, 'prove');
  await page.getByRole('link', { name: 'Guided tests' }).click();
  await page.getByLabel('Initials').fill('KM');
  await page.getByRole('article').filter({ hasText: 'Absorb, reached and held' }).getByRole('button', { name: 'Begin' }).nth(1).click();
  await page.getByRole('button', { name: 'Record from the devices while you test' }).click();
  await expect(page.getByText(/Recording from the devices/)).toBeVisible();
  await page.getByTestId('test-answer').click();
  await expect(page.getByText(/\d+ samples\./)).toBeVisible();
  await expect(page.getByText(/2\d\.\d\d V, \d/)).toBeVisible();
  await page.getByRole('button', { name: 'Take these into the fields' }).click();
  await expect(page.getByLabel('Battery', { exact: true })).toHaveValue(/^2\d\.\d\d$/);
  await page.getByRole('button', { name: 'Add this reading' }).click();
  await expect(page.getByText('1 reading is enough')).toBeVisible();
  // A log of a few seconds.
  await expect.poll(async () => Number(/(\d+)\s*samples\./.exec(await page.locator('body').innerText())?.[1])).toBeGreaterThan(3);
  await page.getByRole('button', { name: 'Stop', exact: true }).click();
  await page.getByRole('button', { name: 'Prove', exact: true }).first().click();
  await page.getByRole('link', { name: 'Logs', exact: true }).click();
  await expect(page.getByRole('navigation', { name: 'Logs of this job' }).getByRole('link', { name: /Absorb, reached and held, Solar aft/ })).toBeVisible();
  await expect(page.getByText('Recorded from the devices’ own registers.')).toBeVisible();
});

test('a log is judged before there is a job: its chargers, what it shows by itself, then its battery', async ({ page }) => {
  await page.goto('/');
  await expect(page.getByRole('button', { name: 'Choose a log' })).toBeVisible();
  const log = page.getByLabel('Log to judge');
  // What is no log makes no job.
  await log.setInputFiles(text('notes.txt', 'call Ana about the lid'));
  await expect(page.getByRole('alert')).toContainText('No columns were found');
  await expect(page.getByText('No job on this device yet')).toBeVisible();

  await log.setInputFiles(repo('demo/logs/teasel-clean-day.csv'));
  await expect(page.getByRole('heading', { name: 'What the columns mean' })).toBeVisible();
  await expect(page.getByText('Still needed: what Fore, Aft are, and their rated output.')).toBeVisible();
  for (const name of ['Fore', 'Aft']) {
    const charger = page.getByRole('group', { name });
    await charger.getByLabel('What it is').selectOption('solarMppt');
    await charger.getByLabel('Rated output').fill('45');
  }
  await page.getByRole('button', { name: 'Read it so' }).click();

  await expect(page.getByText('What this log shows by itself')).toBeVisible();
  const numbers = page.getByRole('table', { name: 'Numbers of this log' });
  await expect(numbers.getByRole('row', { name: /Highest bank voltage/ })).toContainText('28.11');
  await expect(numbers.getByRole('row', { name: /Highest level at which the voltage stayed/ })).toContainText('28.09');
  await expect(page.getByRole('link', { name: 'Settings, not yet' })).toBeVisible();
  await numbers.getByRole('button', { name: /Show Highest bank voltage/ }).click();
  await expect(page).toHaveURL(/from=/);

  // Nothing is lost by a reload; a battery that does not fit is said to.
  await saved(page);
  await page.reload();
  await page.getByLabel('Battery', { exact: true }).selectOption('Corvane N14, rev 1, 2025-11');
  await expect(page.getByText('fits no number of these in series')).toBeVisible();
  await page.getByLabel('Battery', { exact: true }).selectOption('Pellow LB-25/230, rev D, 2026-02');
  await expect(page.getByLabel('In series')).toHaveValue('1');
  await page.getByRole('button', { name: 'Judge by this sheet' }).click();
  await expect(page.getByRole('row', { name: /Proved Float level Fore/ })).toContainText('26.90');
  // Nobody has read the chargers: whether they do as they were set stays open.
  await page
    .getByRole('row', { name: /Inconclusive Float as programmed Fore/ })
    .getByRole('button')
    .first()
    .click();
  await expect(page.getByTestId('why')).toContainText('Nobody has read what Fore is set to.');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText('What this log shows by itself')).toBeVisible();
});
