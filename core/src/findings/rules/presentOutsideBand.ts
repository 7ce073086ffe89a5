import { puttingRight } from '../rule';
import { hasTrait, roleInfo } from '../../card';
import { digitsApart, formatBand, outsideBy } from '../../quantity';
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
        const stands = s.presentTrue ?? 0;
        const by = outsideBy(s.band ?? {}, stands);
        const digits = digitsApart(stands, stands - by, 1);
        // Recharge charges nothing by itself: too high a one only begins a charge sooner.
        const harms = by > 0 && hasTrait(s.role, 'chargingSetpoint');
        return {
          code: 'presentOutsideBand',
          severity: harms ? 'stop' : 'attention',
          charger: s.charger,
          role: s.role,
          text: `${nameOf(plan, s.charger)} ${roleInfo[s.role].name} stands at ${volts(stands, digits)} as found, ${volts(Math.abs(by), digits)} ${by > 0 ? 'above' : 'below'} the band ${formatBand(s.band ?? {}, 'V', digits)}.`,
          hurts: harms
            ? 'Cells age, or the BMS opens, until it is changed on the device.'
            : by > 0
              ? 'Charging begins again sooner than the maker wants, until it is changed on the device.'
              : 'The bank is charged too little until it is changed on the device.',
          remedies: puttingRight(s),
        };
      }),
};
