import { puttingRight } from '../rule';
import { hasTrait, roleInfo } from '../../card';
import { formatBand, outsideBy } from '../../quantity';
import { presentWithin } from '../../settings';
import { volts, nameOf } from '../words';
import type { FindingRule } from '../finding';

/** A voltage found on the device that lies outside the maker's band. */
export const presentOutsideBand: FindingRule = {
  code: 'presentOutsideBand',
  short: 'As found out of band',
  check: ({ plan }) =>
    plan.settings
      .filter((s) => hasTrait(s.role, 'bandAsFound') && !s.inherited && presentWithin(s) === false)
      .map((s) => {
        const by = outsideBy(s.band ?? {}, s.presentTrue ?? 0);
        const name = nameOf(plan, s.charger);
        return {
          code: 'presentOutsideBand',
          severity: by > 0 ? 'stop' : 'attention',
          charger: s.charger,
          role: s.role,
          text: `${name} ${roleInfo[s.role].name} stands at ${volts(s.presentTrue ?? 0, 1)} as found, ${volts(Math.abs(by), 1)} ${by > 0 ? 'above' : 'below'} the band ${formatBand(s.band ?? {}, 'V', 1)}.`,
          hurts: by > 0 ? 'Cells age, or the BMS opens, until it is changed on the device.' : 'The bank is short-changed until it is changed on the device.',
          remedies: puttingRight(s),
        };
      }),
};
