import { spawnSync } from 'node:child_process';
import type { Page } from '@playwright/test';
import { expect, openDemo, saved, test } from './keel';
import { press } from './program';

/** Gives the launch’s monitor another name on the wire. */
async function listen(page: Page, name: string): Promise<void> {
  await page
    .getByRole('button', { name: /^Monitor/ })
    .first()
    .click();
  const field = page.getByLabel('On the wire as').first();
  await expect(field).toHaveAttribute('list', /./);
  await field.fill(name);
  await field.blur();
  await saved(page);
}

test('what a broker says is told what it means once, and is recorded into a log that is judged', async ({ page }) => {
  await openDemo(page, 'system');
  await listen(page, 'teasel-broker');
  await page.goto('/job/teasel/program');
  await page
    .getByRole('button', { name: /^Monitor/ })
    .first()
    .click();
  const panel = page.locator('ck-fields-panel');
  await expect(panel).toContainText('nothing can be asked of it or written to it');
  await expect(page.getByLabel('Meaning of bank.volts')).toHaveValue('bankVolts');
  await expect(page.getByLabel('Meaning of fore.amps')).toHaveValue('amps');
  await expect(page.getByLabel('Charger of fore.amps')).toHaveValue('fore');
  await expect(page.getByRole('button', { name: 'Read what it is set to' })).toHaveCount(0);
  await page.getByLabel('Sensor that wrote bank.celsius').selectOption('a probe on the battery');
  await expect(panel).toContainText('Remembered under this name');
  await page.reload();
  await page
    .getByRole('button', { name: /^Monitor/ })
    .first()
    .click();
  await expect(page.getByLabel('Sensor that wrote bank.celsius')).toHaveValue('probe');
  await page.goto('/job/teasel/prove');
  await page.getByRole('link', { name: 'Guided tests' }).click();
  await page.getByLabel('Initials').fill('KM');
  await page.getByRole('article').filter({ hasText: 'Absorb, reached and held' }).getByRole('button', { name: 'Begin' }).nth(1).click();
  await page.getByRole('button', { name: 'Record from the devices while you test' }).click();
  await expect.poll(async () => Number(/(\d+)\s*samples\./.exec(await page.locator('body').innerText())?.[1])).toBeGreaterThan(3);
  await page.getByRole('button', { name: 'Stop', exact: true }).click();
  await page.getByRole('button', { name: 'Prove', exact: true }).first().click();
  await page.getByRole('link', { name: 'Logs', exact: true }).click();
  await expect(page.getByText('Recorded from what “teasel-broker” said.')).toBeVisible();
});

test('what a monitor that only talks says is set on it is taken as found, and taken back', async ({ page }) => {
  test.skip(spawnSync('socat', ['-V'], { stdio: 'ignore' }).status !== 0, 'this machine has no socat, and no serial lines without it');
  await openDemo(page, 'system');
  await listen(page, 'teasel-talker');
  await page.goto('/job/teasel/program');
  await page
    .getByRole('button', { name: /^Monitor/ })
    .first()
    .click();
  const said = page.getByRole('region', { name: 'Settings among what it says' });
  await expect(said.getByRole('listitem').filter({ hasText: 'Full V' })).toContainText('as noted');
  await expect(said.getByRole('listitem').filter({ hasText: 'Full for' })).toContainText('not noted yet');
  // What it says is set on it is no current of anybody.
  await expect(page.locator('ck-fields-panel')).not.toContainText('Full A');
  await said.getByRole('checkbox', { name: 'Low horn' }).uncheck();
  await said.getByRole('button', { name: 'Take 3 as found on it' }).click();
  await expect(said.getByText('Noted as found on it.')).toBeVisible();
  await expect(said.getByRole('listitem').filter({ hasText: 'Low horn' })).toContainText('not noted yet');
  await saved(page);
  await page.goto('/job/teasel/system?device=monitor');
  await page
    .getByRole('button', { name: /^Monitor/ })
    .first()
    .click();
  await expect(page.getByLabel('Full for (full-charge time)')).toHaveValue('3');
  await page.getByRole('button', { name: /^Undo/ }).click();
  await expect(page.getByLabel('Full for (full-charge time)')).toHaveValue('');
});

test('a register nobody knows is found by reading what moves with the display, and goes on the card', { tag: '@long' }, async ({ page }) => {
  const bankVolts = async (): Promise<string> => {
    const { sites } = (await (await page.request.get('/api/simulation/state')).json()) as { sites: { id: string; bank: { volts: number } }[] };
    return (sites.find(({ id }) => id === 'teasel')?.bank.volts ?? NaN).toFixed(1);
  };
  await openDemo(page);
  await press(page, { do: 'reset' });
  await press(page, { do: 'speed', speed: 0 });
  await press(page, { do: 'pass', seconds: 60 });
  await page.goto('/library');
  await page
    .getByRole('link', { name: /Tessick M1/ })
    .first()
    .click();
  await page.getByRole('button', { name: 'Make a copy of my own' }).click();
  const panel = page.locator('ck-registers');
  await panel.getByLabel('Device on the wire').selectOption('teasel-monitor');
  await panel.getByLabel('Look for').selectOption({ label: 'battery voltage, known' });
  await panel.getByLabel('From register').fill('16');
  await panel.getByLabel('How many').fill('60');
  await panel.getByLabel(/Its display shows/).fill(await bankVolts());
  await panel.getByRole('button', { name: 'Read the range' }).click();
  await expect(panel.getByText(/\d fit\. Change the value|One register fits/)).toBeVisible();
  await expect(panel.getByText(/Register 22 holds/)).toBeVisible();
  // By evening it shows something else, and only one register went with it.
  await press(page, { do: 'pass', seconds: 10 * 3600 });
  await panel.getByLabel(/Its display shows/).fill(await bankVolts());
  await panel.getByRole('button', { name: 'Read again' }).click();
  await expect(panel.getByText('One register fits.')).toBeVisible();
  await panel.getByRole('button', { name: 'Put it on the card' }).click();
  await expect(panel.getByText('10 settings, 5 live values over the wire')).toBeVisible();
});

test('a device that sends lines is heard through a port of this machine, without the server, and recorded', { tag: '@long' }, async ({ page }) => {
  // A browser that opens ports, with a device behind one that says its volts and amps three times a second.
  await page.addInitScript(() => {
    const lines = (n: number): Uint8Array => new TextEncoder().encode(`bank.volts=${(26.4 + (n % 5) / 100).toFixed(2)}\r\nbank.amps=3.2\r\n\r\n`);
    const port = {
      readable: null as ReadableStream<Uint8Array> | null,
      writable: null as WritableStream<Uint8Array> | null,
      timer: 0,
      open() {
        this.writable = new WritableStream();
        this.readable = new ReadableStream({
          start: (out) => {
            let n = 0;
            this.timer = window.setInterval(() => out.enqueue(lines(n++)), 300);
          },
          cancel: () => clearInterval(this.timer),
        });
        return Promise.resolve();
      },
      close: () => Promise.resolve(),
    };
    Object.defineProperty(navigator, 'serial', { value: { requestPort: () => Promise.resolve(port) } });
  });
  await openDemo(page, 'program');
  const monitor = page.getByRole('button', { name: /^Monitor/ }).first();
  await page.route('**/api/link', (route) => route.fulfill({ json: { devices: [], simulation: false } }));
  await page.goto('/job/teasel/program');
  await monitor.click();
  await page.getByText('Read it through a port of this machine').click();
  await page.getByLabel('Speed, baud').selectOption('19200');
  await page.getByRole('button', { name: 'Choose the port and listen' }).click();
  await expect(page.getByText('Heard through a port of this machine')).toBeVisible();
  await expect(page.getByLabel('Meaning of bank.volts')).toHaveValue('bankVolts');
  await expect(page.getByLabel('Meaning of bank.amps')).toHaveValue('bankAmps');
  await saved(page);
  await page
    .getByRole('link', { name: /^Prove/ })
    .first()
    .click();
  await page
    .getByRole('button', { name: /Record from the devices|record from the devices/ })
    .first()
    .click();
  await expect.poll(async () => Number(/(\d+)\s*samples/.exec(await page.locator('main').innerText())?.[1])).toBeGreaterThan(2);
});
