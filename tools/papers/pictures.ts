/** Made-up sheets as pictures, and their words by the same reader and data that the page uses. */
import { fileURLToPath } from 'node:url';
import type { Browser } from '@playwright/test';
import { PNG } from 'pngjs';
import { createWorker, PSM } from 'tesseract.js';
import { eraseRules, wordsOfPicture, type PaperPage } from '../../core/src/paper';

/** How the picture was taken. */
export type Look = 'scan' | 'photo';

const css: Readonly<Record<Look, string>> = {
  scan: 'body{margin:60px}',
  photo: 'html{background:#e4dfd3}body{margin:70px;transform:rotate(1.3deg);filter:blur(0.45px)}',
};

export async function photographed(browser: Browser, html: string, look: Look): Promise<PNG> {
  const page = await browser.newPage({ viewport: { width: 860, height: 1000 }, deviceScaleFactor: 2.5 });
  try {
    await page.setContent(html.replace('<style>', `<style>${css[look]}`));
    return PNG.sync.read(await page.screenshot());
  } finally {
    await page.close();
  }
}

export async function pictureReader(): Promise<{ read: (picture: PNG) => Promise<readonly PaperPage[]>; end: () => Promise<unknown> }> {
  const worker = await createWorker('eng', 1, {
    langPath: fileURLToPath(new URL('../../node_modules/@tesseract.js-data/eng/4.0.0_best_int', import.meta.url)),
    gzip: true,
    cacheMethod: 'none',
  });
  await worker.setParameters({ tessedit_pageseg_mode: PSM.AUTO, user_defined_dpi: '260' });
  return {
    async read(picture) {
      eraseRules(picture);
      const { data } = await worker.recognize(PNG.sync.write(picture), {}, { blocks: true, text: false });
      return [{ number: 1, width: picture.width, height: picture.height, words: wordsOfPicture(data.blocks ?? []) }];
    },
    end: () => worker.terminate(),
  };
}
