/** Made-up sheets as PDF, through the test browser, and their words as a reader gets them. */
import { chromium, type Browser } from '@playwright/test';
import { readPdf } from '../../cli/src/pdf';
import type { PaperPage } from '../../core/src/paper';
import { chromiumOptions } from '../../e2e/browser';

/** A browser that prints. Close it when done. */
export const printer = (): Promise<Browser> => chromium.launch(chromiumOptions);

export async function printed(browser: Browser, html: string): Promise<Uint8Array> {
  const page = await browser.newPage();
  try {
    await page.setContent(html);
    return new Uint8Array(await page.pdf({ preferCSSPageSize: true }));
  } finally {
    await page.close();
  }
}

export async function wordsOf(bytes: Uint8Array): Promise<readonly PaperPage[]> {
  const read = await readPdf(bytes);
  if (typeof read === 'string') throw new Error(`The PDF is ${read}.`);
  return read.pages;
}
