import { roleInfo, deviceRange } from '../../card';
import { formatQuantity } from '../../quantity';
import { chargerRule } from '../rule';

/** A value within two steps of an end that wraps to a huge one. */
export const wrapNearValue = chargerRule('wrapNearValue', ({ charger, card }, plan) => {
  for (const parameter of card.parameters) {
    const setting = plan.setting(charger.id, parameter.role);
    if (parameter.unit === 'choice' || !parameter.wraps || typeof setting?.value !== 'number') continue;
    const { min, max } = deviceRange(parameter, plan.facts.systemVolts ?? plan.facts.nominalVolts);
    if (setting.value - min > 2 * parameter.step + 1e-9) continue;
    const show = (value: number): string => formatQuantity(value, setting.unit, setting.digits);
    return {
      severity: 'attention',
      role: parameter.role,
      text: `${charger.name}’s ${roleInfo[parameter.role].name} is set to ${show(setting.value)}; one step below ${show(min)} it jumps to ${show(max)}.`,
      hurts: 'One press too many makes hours out of minutes. Come from above, stop, and read it back.',
    };
  }
  return null;
});
