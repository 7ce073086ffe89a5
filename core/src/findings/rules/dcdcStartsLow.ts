import { restingVolts } from '../../settings';
import { judged } from '../places';
import { chargerRule, puttingRight } from '../rule';

/** A DC-DC charger that starts while the battery it draws from only rests: it runs with the engine off. */
export const dcdcStartsLow = chargerRule(({ charger, card }, plan) => {
  const setting = plan.setting(charger.id, 'inputStartVoltage');
  const start = judged(setting);
  if (card.kind !== 'dcdc' || !start || charger.feed?.engineSignal === true) return null;
  const restsV = restingVolts({ charger }).volts;
  if (start.value > restsV + 1e-9) return null;
  return {
    severity: 'attention',
    role: 'inputStartVoltage',
    facts: { found: start.found, startV: start.value, restsV, feed: charger.feed?.name ?? null },
    remedies: setting?.override || start.found ? puttingRight(setting) : [],
  };
});
