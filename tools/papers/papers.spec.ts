import type { Browser } from '@playwright/test';
import { keptLayouts } from './kept';
import { score } from './measure';
import { openLayouts } from './open';
import { printed, printer, wordsOf } from './print';
import { drawTruth } from './truth';

describe('reading made-up sheets printed to PDF', () => {
  let browser: Browser;
  beforeAll(async () => (browser = await printer()));
  afterAll(() => browser.close());

  for (const layout of openLayouts)
    it(`finds every figure of “${layout.name}”, on its basis, and no other`, async () => {
      for (const [i, chemistry] of layout.chemistries.entries()) {
        const truth = drawTruth(11 + i, { chemistry });
        const { html, says, battery } = layout.draw(truth);
        const { missed, wrongSure, inventedSure, wrongLook, inventedLook } = score(truth, says, await wordsOf(await printed(browser, html)), battery);
        expect({ missed, wrongSure, inventedSure, wrongLook, inventedLook })
          .withContext(chemistry)
          .toEqual({ missed: [], wrongSure: [], inventedSure: [], wrongLook: [], inventedLook: [] });
      }
    });

  it('calls nothing sure that a sheet of another layout does not say, and finds most of it', async () => {
    let right = 0;
    let all = 0;
    for (const layout of keptLayouts)
      for (const [i, chemistry] of layout.chemistries.entries()) {
        const truth = drawTruth(5 + i, { chemistry });
        const { html, says, battery } = layout.draw(truth);
        const read = score(truth, says, await wordsOf(await printed(browser, html)), battery);
        expect([read.wrongSure, read.inventedSure]).withContext(`${layout.name}, ${chemistry}`).toEqual([[], []]);
        right += read.right.length;
        all += Object.keys(says).length;
      }
    expect(right).toBeGreaterThan(0.9 * all);
  });
});
