import { puttingRight } from '../rule';
import type { FindingRule, Finding } from '../finding';
import { volts, nameOf } from '../words';

/** A load disconnect, as found, under the sheet's. */
export const loadDisconnectTooLow: FindingRule = {
  code: 'loadDisconnectTooLow',
  check: ({ plan }) =>
    plan.settings.flatMap((s): Finding[] => {
      const least = s.band?.min;
      if (s.role !== 'loadDisconnect' || s.override || s.presentTrue === undefined || least === undefined || s.presentTrue >= least - 1e-9) return [];
      return [
        {
          code: 'loadDisconnectTooLow',
          severity: 'attention',
          charger: s.charger,
          role: 'loadDisconnect',
          text: `${nameOf(plan, s.charger)} disconnects the loads at ${volts(s.presentTrue, 1)} as found; the sheet asks for ${volts(least)}.`,
          hurts: 'Every deep discharge takes from the bank’s life.',
          remedies: s.within === 'inside' ? puttingRight(s) : [],
        },
      ];
    }),
};
