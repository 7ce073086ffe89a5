import type { Browser, Page } from '@playwright/test';
import { printed } from '../tools/papers/print';
import { expect } from './keel';

/** A file for a field, printed from HTML as a maker would print it. */
export const pdf = async (browser: Browser, name: string, html: string): Promise<{ name: string; mimeType: string; buffer: Buffer }> => ({
  name,
  mimeType: 'application/pdf',
  buffer: Buffer.from(await printed(browser, html)),
});

/** A picture of a paper, as a camera would give it held straight. */
export async function photoOf(browser: Browser, html: string): Promise<{ name: string; mimeType: string; buffer: Buffer }> {
  const page = await browser.newPage({ viewport: { width: 794, height: 900 }, deviceScaleFactor: 2 });
  await page.setContent(html.replace('<style>', '<style>body{margin:60px}'));
  const buffer = await page.screenshot();
  await page.close();
  return { name: 'photo.png', mimeType: 'image/png', buffer };
}

/** A made-up maker's sheet of a battery nobody else has. */
export const sheetHtml = `<!doctype html><meta charset="utf-8"><style>@page{size:A4;margin:18mm}body{font:11pt/1.4 "DejaVu Sans",sans-serif}table{border-collapse:collapse}td,th{border:1px solid #333;padding:5px 12px;text-align:left}</style>
<h1>Haddow MN-150</h1><p>Charging data, revision B, 2023-04. LiFePO4 battery of 25.6 V and 150 Ah.</p>
<table><tr><th>Parameter</th><th>Min.</th><th>Typ.</th><th>Max.</th><th>Unit</th></tr>
<tr><td>Charge voltage</td><td>28.0</td><td>28.2</td><td>28.4</td><td>V</td></tr>
<tr><td>Float voltage</td><td>26.8</td><td>27.0</td><td>27.2</td><td>V</td></tr>
<tr><td>Recharge voltage</td><td>–</td><td>–</td><td>26.4</td><td>V</td></tr>
<tr><td>Charge current</td><td>–</td><td>–</td><td>75</td><td>A</td></tr>
<tr><td>Charge temperature</td><td>0</td><td>–</td><td>45</td><td>°C</td></tr>
<tr><td>BMS over-voltage trip</td><td>–</td><td>–</td><td>29.2</td><td>V</td></tr>
<tr><td>Absorption time</td><td>–</td><td>30</td><td>–</td><td>min</td></tr></table>
<p>Do not equalise. Temperature compensation must be disabled. Disconnect loads at 23.6 V.</p>
<table><tr><th>Cell temperature</th><th>Charge current</th></tr><tr><td>below 0 °C</td><td>no charging</td></tr><tr><td>0–10 °C</td><td>0.1 C</td></tr><tr><td>10–20 °C</td><td>0.3 C</td></tr></table>`;

/** A letter that tells two things otherwise, one of them twice. */
export const letterHtml = `<!doctype html><meta charset="utf-8"><style>@page{size:A4;margin:25mm}body{font:11pt/1.5 "DejaVu Sans",sans-serif}</style>
<p>Charging at your site</p><p>Set the absorption to 28.0 V. Float at 26.9 V is fine.</p><p>High voltage disconnect: 29.0 V</p><p>Float voltage: 27.4 V</p>`;

/** A new job, empty, at Spec. */
export async function newJob(page: Page, name: string): Promise<void> {
  await page.goto('/');
  await page
    .getByRole('button', { name: /^New job/ })
    .first()
    .click();
  await page.getByLabel('Name').first().fill(name);
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/\/spec(\?|$)/);
}

/** The page of a paper, once it is read and its first page drawn. */
export async function paperRead(page: Page): Promise<void> {
  await expect(page.getByRole('heading', { name: 'Read from the paper' })).toBeVisible();
  await expect(page.getByText('On this paper')).toBeVisible();
  await expect(page.locator('canvas[data-drawn]').first()).toBeAttached();
}
