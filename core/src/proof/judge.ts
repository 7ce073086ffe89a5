import { outsideBy, said, saidBy, type Band, type Measured, type Sentence } from '../quantity';

/** Proved, Fails, Inconclusive, Not tested; Stated is what somebody said and nobody measured. Severities of findings are another vocabulary. */
export type Verdict = 'pass' | 'fail' | 'inconclusive' | 'notTested' | 'stated';

/** The order in which verdicts are shown: worst first. */
export const verdictOrder: readonly Verdict[] = ['fail', 'inconclusive', 'notTested', 'stated', 'pass'];

/** How bad a verdict is: smaller is worse. */
export const verdictRank = (verdict: Verdict): number => verdictOrder.indexOf(verdict);

/** A verdict in words. */
export const verdictWords: Readonly<Record<Verdict, string>> = {
  pass: 'Proved',
  fail: 'Fails',
  inconclusive: 'Inconclusive',
  notTested: 'Not tested',
  stated: 'Stated',
};

/**
 * The guard-band rule (JCGM 106:2012, 8.3; ISO 14253-1): pass only if the whole interval value ± U lies inside the band,
 * fail only if it lies wholly outside, else inconclusive.
 */
export function judge(measured: Pick<Measured, 'value' | 'uncertainty'>, band: Band): Verdict {
  const { value, uncertainty } = measured;
  const low = outsideBy(band, value - uncertainty);
  const high = outsideBy(band, value + uncertainty);
  if (low === 0 && high === 0) return 'pass';
  if ((low > 0 && high > 0) || (low < 0 && high < 0)) return 'fail';
  return 'inconclusive';
}

/** What would settle an inconclusive value: the largest ± that would decide it, in words. */
export function settle(measured: Pick<Measured, 'value'>, band: Band, unit: string, digits: number): Sentence {
  const ends = [band.min, band.max].filter((end) => end !== undefined);
  const nearest = Math.min(...ends.map((end) => Math.abs(measured.value - end)));
  // Cut, not rounded: a rounded-up figure would promise too much.
  const enough = Math.floor(nearest * 10 ** digits + 1e-9) / 10 ** digits;
  return enough === 0
    ? 'The value lies on the limit itself: no meter can settle it. Move the setting away from the limit.'
    : said`A measurement of ± ${saidBy(enough, unit, digits)} or better would settle it.`;
}
