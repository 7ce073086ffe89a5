import { deviceRange } from '../../card';
import { chargerRule, readingOf } from '../rule';
import { rangeVolts } from '../../system';

/** A value within two steps of an end that wraps to a huge one. */
export const wrapNearValue = chargerRule(({ charger, card }, plan) => {
  for (const parameter of card.parameters) {
    const setting = plan.setting(charger.id, parameter.role);
    if (parameter.unit === 'choice' || !parameter.wraps || typeof setting?.value !== 'number') continue;
    const { min, max } = deviceRange(parameter, rangeVolts(plan.facts));
    if (setting.value - min > 2 * parameter.step + 1e-9) continue;
    return {
      severity: 'attention',
      role: parameter.role,
      facts: { role: parameter.role, value: readingOf(setting, setting.value), min: readingOf(setting, min), max: readingOf(setting, max) },
    };
  }
  return null;
});
