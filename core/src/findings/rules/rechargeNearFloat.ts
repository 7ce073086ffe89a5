import { per12 } from '../../settings';
import { chargerRule } from '../rule';

/** Recharge less than 0.1 V per 12 V below float, or above it: the charger would start over all day. */
export const rechargeNearFloat = chargerRule(({ charger }, plan) => {
  const recharge = plan.setting(charger.id, 'rechargeVoltage')?.trueValue;
  const float = plan.setting(charger.id, 'floatVoltage')?.trueValue;
  if (recharge == null || float == null) return null;
  const least = per12(plan, 0.1);
  return float - recharge >= least - 1e-9 ? null : { severity: 'attention', role: 'rechargeVoltage', facts: { recharge, float, least } };
});
