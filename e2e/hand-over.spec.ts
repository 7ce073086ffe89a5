import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { downloaded, expect, more, openDemo, repo, reportText, saved, test } from './keel';
import { beginVisit } from './visits';

/** Text of a PDF by Debian's own reader: a second opinion on what is in it. */
const pdfText = (file: string): string => execFileSync('pdftotext', ['-layout', file, '-'], { encoding: 'utf8' }).replaceAll('\u00a0', ' ');
const flat = (text: string): string => text.replace(/\s+/g, ' ');

test('a year of visits: what was changed, and that it was not by this book', { tag: '@long' }, async ({ page }) => {
  await page.goto('/');
  await page.getByLabel('Job file').setInputFiles(repo('demo/teasel-year.job.json'));
  await page.getByRole('link', { name: 'Survey launch Teasel, a year on' }).click();
  await page.goto('/job/teasel-year/hand-over?view=visits');
  const differs = page.getByRole('region', { name: 'What differs' });
  await expect(differs).toContainText('Solar fore: Hold level 27.1 V');
  await expect(differs).toContainText('27.4 V, not by this book');
  // Between two visits at which nothing was touched there is nothing.
  await page.getByLabel('To the visit of').selectOption('2025-12-05');
  await page.getByLabel('From the visit of').selectOption('2025-06-12');
  await expect(differs).toContainText('Nothing on record differs');
  // The closed visits tell what counted then.
  await expect(page.getByText('rev D, 2026-02. 11 proved, 4 stated, 67 not tested, 1 inconclusive.')).toBeVisible();
  await page.getByText('What was open then').first().click();
  await expect(page.getByText(/requirements are not tested/).first()).toBeVisible();

  // The open one is noted, closed, and opened again; the keel says so.
  await page.getByLabel('Notes').fill('Hold level put back by the owner’s brother.');
  await page.getByRole('button', { name: 'Close this visit' }).click();
  await expect(page.getByRole('navigation', { name: 'Work stations' })).toContainText('handed over');
  await saved(page);
  await page.reload();
  await expect(page.getByText('Hold level put back by the owner’s brother.')).toBeVisible();
  await page.getByRole('button', { name: 'Open this visit again' }).first().click();
  await expect(page.getByLabel('Notes')).toHaveValue('Hold level put back by the owner’s brother.');
});

test('the report as a PDF says what the page says, with its fonts in it; the owner’s card fits one page', { tag: '@long' }, async ({ page }, info) => {
  await openDemo(page);
  const shown = flat(await reportText(page, 'teasel'));
  await page.getByLabel('Write every sum out').check();
  await expect(page.locator('svg[data-log]')).toHaveCount(2);
  const file = await downloaded(page, info.outputPath('report.pdf'), () => page.getByRole('button', { name: 'Save as PDF' }).click());
  const text = flat(pdfText(file));
  for (const part of [
    'Hand-over: Survey launch Teasel',
    'rev D, 2026-02',
    '28.09 ± 0.07 V',
    'Display reads 0.21 V high',
    'No charge when cold',
    'The careful default'.toLowerCase(),
    'DC-DC has no working cold protection: it has no battery sensor',
    'One-line drawing',
    'BMS trip',
    'absorb band',
    'Prove the cold protection',
    'licensed people',
  ]) {
    expect(text).toContain(part);
  }
  // Every verdict that the page tells stands in the PDF.
  const held = [...shown.matchAll(/Solar (?:fore|aft) held [\d.]+ V ± [\d.]+ V for [\d hmin]+/g)].map((m) => m[0]);
  expect(held.length).toBeGreaterThan(3);
  for (const sentence of held) expect(text).toContain(sentence);
  const fonts = execFileSync('pdffonts', [file], { encoding: 'utf8' }).split('\n').slice(2).filter(Boolean);
  expect(fonts.length).toBeGreaterThan(1);
  for (const font of fonts) expect(font).toMatch(/AtkinsonHyperlegibleNext.* yes yes yes/);

  await page.getByRole('tab', { name: 'Owner’s card' }).click();
  const card = await downloaded(page, info.outputPath('card.pdf'), () => page.getByRole('button', { name: 'Save as PDF' }).click());
  expect(flat(pdfText(card))).toContain('a display shows more than 28.6 V');
  expect(execFileSync('pdfinfo', [card], { encoding: 'utf8' })).toMatch(/Pages:\s+1\n/);
});

test('printed, the report stands alone, without frame and buttons', async ({ page }, info) => {
  await openDemo(page);
  await reportText(page, 'tumbler');
  await page.emulateMedia({ media: 'print' });
  await expect(page.getByRole('button', { name: 'Save as PDF' })).toBeHidden();
  await expect(page.getByRole('navigation', { name: 'Work stations' })).toBeHidden();
  const file = info.outputPath('print.pdf');
  await page.pdf({ path: file, format: 'A4' });
  const text = flat(pdfText(file));
  expect(text).toContain('Hand-over: Tumbler mobile stage');
  expect(text).toContain('when to come back');
  expect(text).not.toContain('Job file');
});

test('a bundle brought into a fresh profile gives the same report', { tag: '@long' }, async ({ page, browser }, info) => {
  await openDemo(page);
  const here = await reportText(page, 'teasel');
  expect(here).toContain('held 26.90 V');
  await page.goto('/');
  const file = await downloaded(page, info.outputPath('teasel.keel.zip'), () => more(page, 'Survey launch Teasel', /Save to a file/));
  const other = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
  await other.goto(page.url());
  await other.getByLabel('Job file').setInputFiles(file);
  await expect(other.getByRole('link', { name: 'Survey launch Teasel' })).toBeVisible();
  expect(await reportText(other, 'teasel')).toBe(here);
  await other.context().close();
});

test('backed up, wiped, restored: every job is as it was, what was put away too', { tag: '@long' }, async ({ page }, info) => {
  await openDemo(page);
  const reports = async (): Promise<string[]> => [await reportText(page, 'teasel'), await reportText(page, 'rook-moss')];
  const documents = (): Promise<string> =>
    page.evaluate(
      () =>
        new Promise<string>((resolve) => {
          const open = indexedDB.open('calm-keel');
          open.onsuccess = () => {
            const all = open.result.transaction('jobs').objectStore('jobs').getAll();
            all.onsuccess = () => {
              open.result.close();
              resolve(
                JSON.stringify((all.result as { id: string; doc: unknown; archivedAt?: number }[]).map((r) => [r.id, r.doc, r.archivedAt !== undefined])),
              );
            };
          };
        }),
    );
  await page.goto('/');
  await more(page, 'Skarrow relay hut', 'Put away');
  await expect(page.getByRole('link', { name: 'Skarrow relay hut' })).toHaveCount(0);
  const [before, kept] = [await reports(), await documents()];
  await page.goto('/');
  const file = await downloaded(page, info.outputPath('all.backup.zip'), () => page.getByRole('button', { name: 'Back up all jobs' }).click());
  await expect(page.getByText('nothing touched since')).toBeVisible();

  // From a page without the application: nothing holds the book open.
  await page.route('**/bare', (route) => route.fulfill({ contentType: 'text/html', body: '<link rel="icon" href="data:," />' }));
  await page.goto('/bare');
  await page.evaluate(async () => {
    for (const { name } of await indexedDB.databases())
      await new Promise((resolve, reject) => {
        const asked = indexedDB.deleteDatabase(name ?? '');
        asked.onsuccess = resolve;
        asked.onerror = reject;
      });
  });
  await page.goto('/');
  await expect(page.getByText('No job on this device yet.')).toBeVisible();

  await page.getByLabel('Job file').setInputFiles(file);
  await expect(page.getByRole('heading', { name: 'Restore from all.backup.zip' })).toBeVisible();
  await expect(page.getByRole('row').filter({ hasText: 'not on this device' })).toHaveCount(4);
  // Looked into, nothing is taken yet.
  await expect(page.getByText('No job on this device yet.')).toBeVisible();
  await page.getByRole('button', { name: 'Restore 4 jobs' }).click();
  await expect(page.getByText('4 jobs were restored.')).toBeVisible();
  await expect(page.getByRole('link', { name: 'Skarrow relay hut' })).toHaveCount(0);
  expect(await documents()).toBe(kept);
  expect(await reports()).toEqual(before);

  // Restored again, there is nothing to do; a job changed since is asked about.
  await beginVisit(page);
  await page.goto('/');
  await page.getByLabel('Job file').setInputFiles(file);
  const panel = page.getByRole('region', { name: 'Restore from all.backup.zip' });
  await expect(panel.getByRole('row').filter({ hasText: 'stays as it is' })).toHaveCount(3);
  await panel.getByLabel('Survey launch Teasel').selectOption('replace');
  await panel.getByRole('button', { name: 'Restore 1 job' }).click();
  await expect(page.getByText('One job was restored.')).toBeVisible();
  expect(await documents()).toBe(kept);
});

test('two copies edited apart are merged field by field, and what both changed is asked', { tag: '@long' }, async ({ page, browser }, info) => {
  await openDemo(page);
  const out = await downloaded(page, info.outputPath('out.keel.zip'), () => more(page, 'Survey launch Teasel', /Save to a file/));
  const other = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
  await other.goto(page.url());
  await other.getByLabel('Job file').setInputFiles(out);
  await expect(other.getByRole('link', { name: 'Survey launch Teasel' })).toBeVisible();

  const visit = async (p: typeof page, note: string): Promise<void> => {
    await p.goto('/job/teasel/hand-over?view=visits');
    await p.getByLabel('Evidence is taken again after').fill(note.length > 12 ? '6' : '9');
    await p.keyboard.press('Enter');
    await p.getByRole('button', { name: 'Begin a visit today' }).click();
    await p.getByLabel('Notes').fill(note);
    await saved(p);
  };
  await visit(other, 'From the boat, lid of the aft charger was open.');
  await visit(page, 'At the desk');
  await other.goto('/');
  const back = await downloaded(other, info.outputPath('back.keel.zip'), () => more(other, 'Survey launch Teasel', /Save to a file/));
  await other.context().close();

  await page.goto('/');
  await page.getByLabel('Job file').setInputFiles(back);
  const panel = page.getByRole('region', { name: '“Survey launch Teasel” is here already' });
  await expect(panel).toContainText('Both come from one copy');
  const months = panel.getByRole('row').filter({ hasText: 'Recheck months' });
  await expect(months).toContainText('12');
  await months.getByRole('radio').nth(1).check();
  await panel.getByRole('row').filter({ hasText: 'note' }).getByRole('radio').nth(1).check();
  await panel.getByRole('button', { name: 'Merge them' }).click();
  await expect(page.getByText('was merged with the copy from back.keel.zip')).toBeVisible();
  await page.goto('/job/teasel/hand-over?view=visits');
  await expect(page.getByLabel('Notes')).toHaveValue('From the boat, lid of the aft charger was open.');
  await expect(page.getByLabel('Evidence is taken again after')).toHaveValue('6');
  // One step, and undo takes it back.
  await page.keyboard.press('Control+z');
  await expect(page.getByLabel('Notes')).toHaveValue('At the desk');
});

test('a label is printed with a code, and a charger is compared with it without the job', async ({ page }) => {
  await openDemo(page);
  await page.goto('/job/teasel/hand-over?view=labels');
  const label = page.getByRole('region', { name: 'Label of Solar fore' });
  await expect(label).toContainText('28.3 V');
  await expect(label.getByRole('img', { name: 'Code of the settings of Solar fore' })).toBeVisible();
  // The text that its code holds, written anew from what stands on the label, with its check worked out here a second time.
  const printed = await label
    .locator('dl div')
    .evaluateAll((rows) => rows.map((row) => [row.querySelector('dt')?.textContent ?? '', row.querySelector('dd')?.textContent ?? ''] as const));
  const foot = ((await label.locator('footer').textContent()) ?? '').trim();
  const [, site = '', by = '', date = '', state = ''] = /^(.*?)\. (.*)\. (\d{4}-\d{2}-\d{2}), (.*)\.$/.exec(foot) ?? [];
  const body = ['CALM KEEL LABEL 1', `Site: ${site}`, 'Device: Solar fore', 'Model: Varrow S45', `Date: ${date}`, `State: ${state}`, `By: ${by}`]
    .concat(printed.map(([name, value]) => `${name}: ${value}`.replaceAll('\u00a0', ' ')))
    .join('\n');
  let hash = 2166136261;
  for (const letter of body) hash = Math.imul(hash ^ letter.charCodeAt(0), 16777619);
  const text = `${body}\nCheck: ${(hash >>> 0).toString(16).padStart(8, '0')}`;
  await page.goto('/label');
  await page.getByLabel(/The text of the label/).fill('CALM KEEL LABEL 1\nSite: x');
  await expect(page.getByRole('alert')).toContainText('its check does not fit');
  await page.getByLabel(/The text of the label/).fill(text);
  await expect(page.getByRole('heading', { name: 'Solar fore, Varrow S45' })).toBeVisible();
  await page.getByLabel('Display shows for Top level').fill('28,3');
  await expect(page.getByRole('row', { name: /^Top level/ })).toContainText('the same');
  await page.getByLabel('Display shows for Hold level').fill('27.4');
  await expect(page.getByRole('row', { name: /^Hold level/ })).toContainText('otherwise');
  await expect(page.getByText('One value is otherwise than the label says.')).toBeVisible();
});

test('settings leave as a table and as a file without a card, what is due as a calendar', { tag: '@long' }, async ({ page }, info) => {
  await openDemo(page);
  await page.goto('/job/teasel/hand-over?view=files');
  const csv = readFileSync(
    await downloaded(page, info.outputPath('fore.csv'), () => page.getByRole('button', { name: 'Table of Solar fore' }).click()),
    'utf8',
  );
  expect(csv.startsWith('\ufeffmenu,setting,role,set')).toBe(true);
  expect(csv).toContain('Set-up › Levels,Top level,absorb,28.3,V,28.09');
  const file = JSON.parse(
    readFileSync(await downloaded(page, info.outputPath('fore.json'), () => page.getByRole('button', { name: 'Settings file of Solar fore' }).click()), 'utf8'),
  ) as { format: string; settings: { role: string; wanted: unknown }[] };
  expect([file.format, file.settings.find((s) => s.role === 'absorbVoltage')?.wanted]).toEqual(['calm-keel/settings', 28.1]);
  await page.goto('/');
  const calendar = readFileSync(
    await downloaded(page, info.outputPath('due.ics'), () => page.getByRole('button', { name: 'Save as a calendar' }).click()),
    'utf8',
  );
  expect(calendar).toMatch(/^BEGIN:VCALENDAR\r\n/);
  expect(calendar).toContain('SUMMARY:Survey launch Teasel: Prove the cold protection');
  expect(calendar).toMatch(/DTSTART;VALUE=DATE:\d{4}1201/);
});

test('jobs are found, put away, made like another, and take a sister site’s choices', { tag: '@long' }, async ({ page }) => {
  await openDemo(page);
  const names = page.locator('li.job h2');
  await page.getByLabel('Find a job').fill('turbine hadrin');
  await expect(names).toHaveText(['Skarrow relay hut']);
  await page.getByLabel('Find a job').fill('no such thing');
  await expect(page.getByText('No job has “no such thing” in it.')).toBeVisible();
  await page.getByRole('button', { name: 'Show all jobs' }).click();
  await page.getByRole('button', { name: /^With stops/ }).click();
  await expect(names).toHaveText(['Survey launch Teasel', 'Tumbler mobile stage']);
  await page.getByRole('button', { name: /^All/ }).click();
  await more(page, 'Rook Moss weather mast', 'Put away');
  await expect(names).toHaveCount(3);
  await page.getByRole('button', { name: /^Put away/ }).click();
  await more(page, 'Rook Moss weather mast', 'Take out again');
  await page.getByRole('button', { name: /^All/ }).click();
  await expect(names).toHaveCount(4);

  // A job like it: devices and sheet, nothing done yet.
  await more(page, 'Survey launch Teasel', /Make another like it/);
  await page.getByLabel(/Name of the job made like it/).fill('Survey launch Plover');
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/survey-launch-plover\/system/);
  await page.goto('/job/survey-launch-plover/settings');
  await expect(page.getByRole('button', { name: /^Solar aft: absorb 28\.10/ })).toBeVisible();

  // Another school there, and the first launch takes it over.
  await page.getByRole('button', { name: 'Weigh the choices on this job' }).click();
  await page
    .getByRole('region', { name: 'Lithium float' })
    .getByRole('button', { name: /^Float equals absorb/ })
    .click();
  await saved(page);
  await page.goto('/');
  await more(page, 'Survey launch Teasel', /Take a sister site/);
  await page.getByLabel('Sister site', { exact: true }).selectOption({ label: 'Survey launch Plover' });
  const panel = page.getByRole('region', { name: /Choices for/ });
  await expect(panel).toContainText('Hold at the sheet’s float');
  await expect(panel).toContainText('Solar aft, float');
  await panel.getByRole('button', { name: 'Take these choices' }).click();
  await expect(page.getByText('has the choices of “Survey launch Plover” now')).toBeVisible();
  await page.goto('/job/teasel/settings');
  await expect(page.getByRole('button', { name: /^Solar aft: float 28\.10/ })).toBeVisible();
});
