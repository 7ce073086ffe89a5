import { roleInfo, type Role } from '../card';
import { formatBand, outsideBy } from '../quantity';
import { volts, nameOf } from './words';
import type { Finding, FindingContext, FindingPlace, FindingRule } from './finding';

/** A rule on one setting that came to lie outside its band: a stop above it, attention below. */
export const bandRule = (code: string, role: Role, hurtsAbove: string, hurtsBelow: string, place: FindingPlace = {}): FindingRule => ({
  ...place,
  code,
  check: ({ plan }: FindingContext): readonly Finding[] =>
    plan.settings
      .filter((s) => s.role === role && s.within === 'outside' && s.trueValue !== null && s.band !== null)
      .map((s) => {
        const by = outsideBy(s.band ?? {}, s.trueValue ?? 0);
        const name = nameOf(plan, s.charger);
        return {
          code,
          severity: by > 0 ? 'stop' : 'attention',
          charger: s.charger,
          role,
          text: `${name} ${roleInfo[role].name} comes to ${volts(s.trueValue ?? 0)}, ${volts(Math.abs(by))} ${by > 0 ? 'above' : 'below'} the band ${formatBand(s.band ?? {}, 'V', 2)}.`,
          hurts: by > 0 ? hurtsAbove : hurtsBelow,
          remedies: s.override ? [{ label: 'Go back to the derived value', changes: [{ kind: 'clearOverride', charger: s.charger, role }] }] : [],
        };
      }),
});
