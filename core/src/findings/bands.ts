import type { Role } from '../card';
import { outsideBy } from '../quantity';
import type { FindingRule } from './finding';
import { clearing, settingRule } from './rule';

/** What a setting outside its band comes to: the value, how far past its end, the ends, and whose figure it is where a person’s stands. */
export type OutsideBand = Readonly<{ comesTo: number; by: number; min: number | null; max: number | null; overriddenBy: string | null }>;

/** A rule on one setting that came to lie outside its band: a stop above it, attention below. */
export const bandRule = (role: Role): FindingRule<OutsideBand> =>
  settingRule((s) => {
    if (s.role !== role || s.within !== 'outside' || s.trueValue === null || s.band === null) return null;
    const by = outsideBy(s.band, s.trueValue);
    return {
      severity: by > 0 ? 'stop' : 'attention',
      facts: { comesTo: s.trueValue, by, min: s.band.min ?? null, max: s.band.max ?? null, overriddenBy: s.override?.by ?? null },
      remedies: s.override ? [clearing(s.charger, role)] : [],
    };
  });
