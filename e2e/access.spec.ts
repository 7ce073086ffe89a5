import { AxeBuilder } from '@axe-core/playwright';
import { expect, openDemo, test } from './keel';

test('no serious accessibility fault on the library', async ({ page }) => {
  await page.goto('/library');
  await page.getByRole('button', { name: /^Tessick D30/ }).click();
  await page.getByRole('button', { name: 'Make a copy of my own' }).click();
  await expect(page.getByLabel('absorb, least')).toBeVisible();
  const { violations } = await new AxeBuilder({ page }).analyze();
  expect(violations.filter((v) => v.impact === 'serious' || v.impact === 'critical').map((v) => `${v.id}: ${v.nodes[0]?.target.join(' ') ?? ''}`)).toEqual([]);
});

for (const station of [undefined, 'spec', 'system', 'settings', 'rehearse', 'program', 'prove'] as const)
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
