import { per12 } from '../../settings';
import { chargersWithCards, volts } from '../words';
import type { FindingRule } from '../finding';

/** Recharge less than 0.1 V per 12 V below float, or above it: the charger would start over all day. */
export const rechargeNearFloat: FindingRule = {
  code: 'rechargeNearFloat',
  check: ({ plan }) =>
    chargersWithCards(plan).flatMap(({ charger }) => {
      const recharge = plan.setting(charger.id, 'rechargeVoltage')?.trueValue;
      const float = plan.setting(charger.id, 'floatVoltage')?.trueValue;
      if (recharge == null || float == null) return [];
      const least = per12(plan, 0.1);
      if (float - recharge >= least - 1e-9) return [];
      return [
        {
          code: 'rechargeNearFloat',
          severity: 'attention',
          charger: charger.id,
          role: 'rechargeVoltage',
          text: `${charger.name} recharge ${volts(recharge)} is ${recharge > float ? 'above' : `only ${volts(float - recharge)} below`} float ${volts(float)}; at least ${volts(least, 1)} is wanted.`,
          hurts: 'The charger starts a new charge at every passing load.',
          remedies: [],
        },
      ];
    }),
};
