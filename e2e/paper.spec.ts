import { AxeBuilder } from '@axe-core/playwright';
import { expect, figure, saved, test } from './keel';
import { letterHtml, newJob, paperRead, pdf, sheetHtml } from './papers';

test('a maker’s PDF is read, confirmed by keys and traced to its place, in a new job', async ({ page, browser }) => {
  const sheet = await pdf(browser, 'Haddow charging data.pdf', sheetHtml);
  await newJob(page, 'Paper hut');
  let presses = 0;
  const press = async (key: string): Promise<void> => {
    presses++;
    await page.keyboard.press(key);
  };
  await expect(page.getByRole('button', { name: 'Read a paper' })).toBeEnabled();
  // One press on the button, one in the browser’s own dialogue.
  presses += 2;
  await page.getByLabel('Paper to read').setInputFiles(sheet);
  await paperRead(page);

  // Nothing counts before it is taken, and whose figures they are is asked once.
  await expect(page.getByText('1 of 12')).toBeVisible();
  await expect(page.getByRole('group', { name: 'Battery and paper' })).toContainText('LFP, 25.6 V, 150 Ah, 8 cells');
  await page.getByLabel('Whose figures does this paper hold?').selectOption('makerForThisCharger');
  presses++;
  await page.getByRole('group', { name: 'Battery and paper' }).focus();
  for (const name of ['Battery and paper', 'Absorb voltage', 'Float voltage', 'Recharge voltage', 'Most current']) {
    await expect(page.getByRole('group', { name, exact: true })).toBeVisible();
    await press('Enter');
  }
  await expect(page.getByRole('group', { name: 'Charging range' })).toContainText('0–45 °C');
  await press('a');
  await expect(page.getByRole('status').filter({ hasText: '7 taken. Nothing is left to look at.' })).toBeVisible();
  expect(presses).toBeLessThan(40);
  await page.getByRole('link', { name: 'Go on with the sheet' }).click();

  await expect(figure(page, 'Absorb voltage')).toHaveValue('28.2\u00a0V (28.0–28.4)');
  await expect(figure(page, 'Load disconnect')).toHaveValue('23.6\u00a0V');
  await expect(figure(page, 'Equalise voltage')).toHaveValue('not permitted');
  await expect(figure(page, 'Compensation slope')).toHaveValue('not needed');
  await expect(page.getByLabel('Document', { exact: true })).toHaveValue('Haddow MN-150');
  await expect(page.getByLabel('Revision', { exact: true })).toHaveValue('B');
  await expect(page.getByLabel('Cells in series in it')).toHaveValue('8');
  await expect(page.getByRole('button', { name: /^Remove the stair/ })).toHaveCount(3);
  await expect(page.getByText('Every figure here counts.')).toBeVisible();

  // From the value back to the rectangle on the page, also after a reload.
  await page.getByRole('link', { name: 'BMS trip, high on the paper, page 1' }).click();
  await paperRead(page);
  await expect(page.getByRole('group', { name: 'BMS trip, high' })).toContainText('29.2');
  await page.reload();
  await paperRead(page);
  await expect(page.getByRole('group', { name: 'BMS trip, high' })).toContainText('29.2');
  await expect(page.locator('button.here')).toBeInViewport();
  await expect(page.getByText('all answered')).toBeVisible();
});

test(
  'a second paper: what it tells otherwise is said beside what is there, another meaning, basis and value, no, undo, a reload',
  { tag: '@long' },
  async ({ page, browser }) => {
    const [sheet, letter] = [await pdf(browser, 'sheet.pdf', sheetHtml), await pdf(browser, 'letter of may.pdf', letterHtml)];
    await newJob(page, 'Two papers');
    await page.getByLabel('Paper to read').setInputFiles([sheet, letter]);
    await paperRead(page);
    await page.getByRole('button', { name: /^Take the 12 that are sure/ }).click();
    await page.getByRole('link', { name: 'Leave the paper' }).click();
    await page.getByRole('link', { name: 'Read letter of may.pdf' }).click();
    await paperRead(page);

    // Figures come in the order of the paper; a charger's own setting is left out and named.
    const slip = (name: string) => page.getByRole('group', { name, exact: true });
    await page.getByRole('button', { name: /^Absorb voltage 28.0/ }).click();
    await expect(slip('Absorb voltage')).toContainText('On the sheet now: 28.2 V (28.0–28.4) per battery. Taking this replaces it.');
    await page.getByText('Left out: 1 line').click();
    await expect(page.getByText('a setting of a charge controller, no figure of a battery')).toBeVisible();

    // Two values for one figure: both are marked, one leads to the other.
    await page.getByRole('button', { name: /^Float voltage 26.9/ }).click();
    await expect(slip('Float voltage')).toContainText('The paper gives another value for the same figure.');
    await page.getByRole('button', { name: 'Also on this paper: 27.4 V, page 1' }).click();
    await expect(slip('Float voltage')).toContainText('27.4 V');
    await page.keyboard.press('n');
    await expect(page.getByRole('button', { name: /^Float voltage 27.4 V left out/ })).toBeVisible();
    await page.getByRole('button', { name: /^Float voltage 26.9/ }).click();
    await page.getByRole('button', { name: /^Another basis/ }).click();
    await expect(slip('Float voltage')).toContainText('for the bank');
    await page.getByLabel(/^Another meaning/).selectOption('storageVoltage');
    await expect(slip('Storage voltage')).toContainText('26.9 V');
    await page.getByRole('button', { name: /^Type it/ }).click();
    await page.getByLabel('Storage voltage, as the paper prints it').fill('eel');
    await page.getByRole('button', { name: 'Take what I typed' }).click();
    await expect(page.getByRole('alert')).toContainText('“eel” is not understood here');
    await page.getByLabel('Storage voltage, as the paper prints it').fill('26.7 V');
    await page.getByRole('button', { name: 'Take what I typed' }).click();
    await expect(page.getByRole('button', { name: /^Storage voltage 26.7 V taken/ })).toBeVisible();
    await page.getByLabel('Whose figures does this paper hold?').selectOption('makerReply');
    await saved(page);

    await page.reload();
    await paperRead(page);
    await expect(page.getByRole('button', { name: /^Float voltage 27.4 V left out/ })).toBeVisible();
    await page.getByRole('link', { name: 'Leave the paper' }).click();
    await figure(page, 'Storage voltage').focus();
    await expect(page.getByLabel('Rank of the source')).toHaveValue('makerReply');
    await expect(page.getByLabel('From another paper')).toHaveValue('letter of may.pdf');
    await figure(page, 'Absorb voltage').focus();
    await expect(page.getByLabel('Rank of the source')).toHaveValue('notSaid');
    await page.getByRole('heading', { level: 1 }).click();
    await page.getByRole('button', { name: /^Undo Say whose/ }).click();
    await figure(page, 'Storage voltage').focus();
    await expect(page.getByLabel('Rank of the source')).toHaveValue('notSaid');
  },
);

test('which of several batteries is asked first; other cells read the same words otherwise', { tag: '@long' }, async ({ page, browser }) => {
  const html = `<!doctype html><meta charset="utf-8"><style>td,th{padding:5px 30px 5px 0;text-align:left}</style><h2>Marl batteries, LiFePO4</h2>
    <table><tr><th></th><th>KT-50</th><th>KT-90</th></tr><tr><td>Nominal voltage</td><td>12.8 V</td><td>25.6 V</td></tr><tr><td>Capacity</td><td>50 Ah</td><td>90 Ah</td></tr>
    <tr><td>Charge voltage</td><td>14.2 V</td><td>28.4 V</td></tr><tr><td>Maximum charge current</td><td>25 A</td><td>45 A</td></tr></table>`;
  await newJob(page, 'Several');
  await page.getByLabel('Paper to read').setInputFiles(await pdf(browser, 'range.pdf', html));
  await page.getByLabel('This paper tells several batteries apart. Which is yours?').selectOption('KT-90');
  await expect(page.getByRole('group', { name: 'Battery and paper' })).toContainText('LFP, 25.6 V, 90 Ah, 8 cells');
  await expect(page.getByRole('button', { name: /^Absorb voltage 28.4/ })).toContainText('sure');
  await page.getByLabel('This paper tells several batteries apart. Which is yours?').selectOption('KT-50');
  await expect(page.getByRole('button', { name: /^Absorb voltage 14.2/ })).toContainText('sure');
  await expect(page.getByRole('group', { name: 'Battery and paper' })).toContainText('12.8 V, 50 Ah, 4 cells');
});

test('papers that are none say so, lose nothing, run nothing', { tag: '@long' }, async ({ page, browser }) => {
  await newJob(page, 'Bad papers');
  const papers = page.getByLabel('Paper to read');
  await papers.setInputFiles({ name: 'notes.txt', mimeType: 'text/plain', buffer: Buffer.from('Float 13.5 V') });
  await expect(page.getByRole('alert')).toContainText('“notes.txt” is no PDF, PNG, JPEG or WebP.');
  await papers.setInputFiles({ name: 'torn.pdf', mimeType: 'application/pdf', buffer: Buffer.from('%PDF-1.7\nand nothing behind it') });
  await expect(page.getByRole('alert')).toContainText('This document cannot be read. Download it again');
  await page.getByRole('link', { name: 'Back to Spec' }).click();

  // A script and a link in it do nothing: another host or an error would fail this test.
  const script = '<< /Type /Action /S /JavaScript /JS (app.alert\\(1\\)) >>';
  const objects = [
    `<< /Type /Catalog /Pages 2 0 R /OpenAction ${script} >>`,
    '<< /Type /Pages /Kids [3 0 R] /Count 1 >>',
    '<< /Type /Page /Parent 2 0 R /MediaBox [0 0 400 300] /Contents 4 0 R /Resources << /Font << /F 5 0 R >> >> /Annots [<< /Type /Annot /Subtype /Link /Rect [0 0 400 300] /A << /S /URI /URI (http://example.invalid/) >> >>] >>',
    '<< /Length 62 >>\nstream\nBT /F 14 Tf 40 200 Td (Float voltage: 13.5 V per battery) Tj ET    \nendstream',
    '<< /Type /Font /Subtype /Type1 /BaseFont /Helvetica >>',
  ];
  const text = `%PDF-1.4\n${objects.map((o, i) => `${i + 1} 0 obj\n${o}\nendobj\n`).join('')}trailer << /Root 1 0 R /Size 6 >>\n`;
  await papers.setInputFiles({ name: 'script.pdf', mimeType: 'application/pdf', buffer: Buffer.from(text, 'latin1') });
  await paperRead(page);
  await expect(page.getByRole('button', { name: /^Float voltage 13.5/ })).toBeVisible();
  await page.getByRole('link', { name: 'Leave the paper' }).click();

  const other = await browser.newPage();
  const picture = await other.screenshot();
  await other.close();
  await papers.setInputFiles({ name: 'photo.png', mimeType: 'image/png', buffer: picture });
  await expect(page.getByText('No letters can be read on this paper.')).toBeVisible();
  await page.goto(page.url().replace(/paper\/.*/, 'paper/nothing'));
  await expect(page.getByRole('heading', { name: 'No such document in this job' })).toBeVisible();
  await page.getByRole('link', { name: 'Back to Spec' }).click();
  await expect(page.getByRole('link', { name: 'Read script.pdf' })).toBeVisible();
  await page.getByRole('button', { name: 'Take out script.pdf' }).click();
  await expect(page.getByRole('link', { name: 'Read script.pdf' })).toHaveCount(0);
});

test('no serious accessibility fault on a paper', { tag: '@long' }, async ({ page, browser }) => {
  await newJob(page, 'Seen by all');
  await page.getByLabel('Paper to read').setInputFiles(await pdf(browser, 'sheet.pdf', sheetHtml));
  await paperRead(page);
  for (const key of ['Enter', 'Enter', 'e'] as const) {
    const { violations } = await new AxeBuilder({ page })
      .setLegacyMode(true)
      .options({ resultTypes: ['violations'] })
      .analyze();
    expect(violations.filter((v) => v.impact === 'serious' || v.impact === 'critical').map((v) => `${v.id}: ${v.nodes[0]?.target.join(' ') ?? ''}`)).toEqual(
      [],
    );
    await page.keyboard.press(key);
  }
});
