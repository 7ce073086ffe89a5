import { AxeBuilder } from '@axe-core/playwright';
import { bringLog, expect, more, openDemo, repo, test } from './keel';
import { answerWell, beginSheet, walkTo } from './program';

test('no serious accessibility fault on the library', async ({ page }) => {
  await page.goto('/library');
  await page.getByRole('button', { name: /^Tessick D30/ }).click();
  await page.getByRole('button', { name: 'Make a copy of my own' }).click();
  await expect(page.getByLabel('absorb, least')).toBeVisible();
  const { violations } = await new AxeBuilder({ page }).analyze();
  expect(violations.filter((v) => v.impact === 'serious' || v.impact === 'critical').map((v) => `${v.id}: ${v.nodes[0]?.target.join(' ') ?? ''}`)).toEqual([]);
});

for (const station of [undefined, 'spec', 'system', 'settings', 'rehearse', 'program', 'prove', 'hand-over'] as const)
  test(`no serious accessibility fault on ${station ?? 'jobs'}`, async ({ page }) => {
    await openDemo(page, station);
    await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
    if (station === 'prove') await expect(page.locator('[data-drawn=true]')).toBeVisible();
    if (station === 'rehearse') await expect(page.getByRole('row', { name: /Never above the maximum/ })).toBeVisible();
    const { violations } = await new AxeBuilder({ page }).exclude('.plot').analyze();
    expect(
      violations
        .filter((v) => v.impact === 'serious' || v.impact === 'critical')
        .map(
          (v) =>
            `${v.id}: ${v.nodes
              .map((n) => n.target.join(' '))
              .slice(0, 3)
              .join(' | ')}`,
        ),
    ).toEqual([]);
  });

test('no serious accessibility fault on the run sheet, its list, its paper lines and the simulated devices', async ({ page }) => {
  await beginSheet(page);
  await walkTo(page, 'Compare its display with the meter');
  await answerWell(page);
  await walkTo(page, 'Absorb time');
  const faults = async (): Promise<string[]> => {
    const { violations } = await new AxeBuilder({ page }).analyze();
    return violations.filter((v) => v.impact === 'serious' || v.impact === 'critical').map((v) => `${v.id}: ${v.nodes[0]?.target.join(' ') ?? ''}`);
  };
  expect(await faults()).toEqual([]);
  await page.getByRole('button', { name: 'Reads something else' }).click();
  await page.getByLabel('What does it show instead').fill('60');
  expect(await faults()).toEqual([]);
  for (const view of ['All steps', 'From paper']) {
    await page.getByRole('button', { name: view }).click();
    expect(await faults()).toEqual([]);
  }
  await page.goto('/simulation');
  await expect(page.getByRole('heading', { name: 'Simulated devices' })).toBeVisible();
  await page.getByRole('button', { name: 'Faults' }).first().click();
  expect(await faults()).toEqual([]);
});

test('no serious accessibility fault on the mapping view, guided tests, one of them, and at a glance', async ({ page }) => {
  await openDemo(page, 'prove');
  await expect(page.locator('[data-drawn=true]')).toBeVisible();
  const faults = async (): Promise<string[]> => {
    const { violations } = await new AxeBuilder({ page }).analyze();
    return violations.filter((v) => v.impact === 'serious' || v.impact === 'critical').map((v) => `${v.id}: ${v.nodes[0]?.target.join(' ') ?? ''}`);
  };
  await bringLog(page, { name: 'other.csv', mimeType: 'text/csv', buffer: Buffer.from('Zeit;Bus (mV);Lader (A)\n1781400000;26500;3\n1781400010;26510;3\n') });
  await expect(page.getByRole('heading', { name: 'What the columns mean' })).toBeVisible();
  expect(await faults()).toEqual([]);
  await page.getByRole('button', { name: 'Leave it' }).click();
  await page.getByRole('button', { name: 'At a glance' }).click();
  expect(await faults()).toEqual([]);
  await page.getByRole('button', { name: 'Guided tests' }).click();
  await page.getByLabel('Initials').fill('KM');
  expect(await faults()).toEqual([]);
  await page.getByRole('button', { name: 'Begin' }).first().click();
  await expect(page.getByRole('heading', { name: 'Display against the meter' })).toBeVisible();
  expect(await faults()).toEqual([]);
});

test('no serious accessibility fault on visits, the owner’s card, labels, files, the panels of the book, and a label compared', async ({ page }) => {
  await openDemo(page);
  const faults = async (): Promise<string[]> => {
    const { violations } = await new AxeBuilder({ page }).analyze();
    return violations.filter((v) => v.impact === 'serious' || v.impact === 'critical').map((v) => `${v.id}: ${v.nodes[0]?.target.join(' ') ?? ''}`);
  };
  await page.getByLabel('Job file').setInputFiles(repo('demo/teasel.job.json'));
  await expect(page.getByRole('button', { name: 'Merge them' })).toBeVisible();
  expect(await faults()).toEqual([]);
  await page.getByRole('button', { name: 'Leave it' }).click();
  await more(page, 'Tumbler mobile stage', /Take a sister/);
  await page.getByLabel('Sister site', { exact: true }).selectOption({ label: 'Survey launch Teasel' });
  await page.getByRole('button', { name: 'Check the book' }).click();
  await expect(page.getByText('Everything in the book holds together.')).toBeVisible();
  expect(await faults()).toEqual([]);
  await page.getByLabel('Job file').setInputFiles(repo('demo/teasel-year.job.json'));
  await expect(page.getByRole('link', { name: 'Survey launch Teasel, a year on' })).toBeVisible();
  for (const view of ['visits', 'card', 'labels', 'files']) {
    await page.goto(`/job/teasel-year/hand-over?view=${view}`);
    await expect(page.getByRole('heading', { level: 1 }).first()).toBeVisible();
    expect(await faults()).toEqual([]);
  }
  await page.goto('/label');
  await page.getByLabel(/The text of the label/).fill('nothing of the kind');
  await expect(page.getByRole('alert')).toBeVisible();
  expect(await faults()).toEqual([]);
});

for (const view of ['Cold and heat', 'Table', 'What differs', 'Relay'])
  test(`no serious accessibility fault on settings, ${view}`, async ({ page }) => {
    await openDemo(page);
    await page.goto('/job/tumbler/settings');
    await page.getByRole('group', { name: 'View of the settings' }).getByRole('button', { name: view, exact: true }).click();
    await page.getByRole('button', { name: 'What the others would come to' }).first().click();
    const { violations } = await new AxeBuilder({ page }).analyze();
    expect(violations.filter((v) => v.impact === 'serious' || v.impact === 'critical').map((v) => `${v.id}: ${v.nodes[0]?.target.join(' ') ?? ''}`)).toEqual(
      [],
    );
  });

test('the server answers health and sends the policy', async ({ request }) => {
  expect(await (await request.get('/health')).json()).toEqual({ ok: true });
  expect((await request.get('/')).headers()['content-security-policy']).toContain("script-src 'self'");
});
