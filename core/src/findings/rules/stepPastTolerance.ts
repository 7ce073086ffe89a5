import { roleInfo, shownIn } from '../../card';
import { formatQuantity } from '../../quantity';
import type { FindingRule, Finding } from '../finding';
import { nameOf } from '../words';

/** A device step so coarse that the value lies further from what is wanted than its tolerance, where no band judges it. */
export const stepPastTolerance: FindingRule = {
  code: 'stepPastTolerance',
  check: ({ plan }) =>
    plan.settings.flatMap((s): Finding[] => {
      if (s.override || s.inherited || s.tolerance === null || s.deviation === null || typeof s.exact !== 'number' || s.trueValue === null) return [];
      if (Math.abs(s.deviation) <= s.tolerance + 1e-9) return [];
      const core = roleInfo[s.role].unit;
      if (core === 'choice') return [];
      const { unit, scale, digits } = shownIn[core];
      // What is asked to be as little as the device can is no failing of its step.
      if (s.exact === 0) return [];
      return [
        {
          code: 'stepPastTolerance',
          severity: 'attention',
          charger: s.charger,
          role: s.role,
          text: `${nameOf(plan, s.charger)} holds ${roleInfo[s.role].name} as ${formatQuantity(s.trueValue / scale, unit, digits)}, and ${formatQuantity(s.exact / scale, unit, digits)} is wanted; ± ${formatQuantity(s.tolerance / scale, unit, digits)} would go unremarked.`,
          hurts: 'Its range or its steps come no closer. Write down that it does not meet the sheet here.',
          remedies: [],
        },
      ];
    }),
};
