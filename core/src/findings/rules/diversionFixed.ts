import { setpointAt } from '../../settings';
import { chargerRule } from '../rule';
import { celsius, volts } from '../words';

/** A diversion that stands fixed while the charging setpoint moves past it in the cold. */
export const diversionFixed = chargerRule(
  'diversionFixed',
  ({ charger, card }, plan) => {
    const setting = plan.setting(charger.id, 'diversionVoltage');
    const absorb = plan.setting(charger.id, 'absorbVoltage');
    const diversion = setting?.override ? setting.trueValue : (setting?.presentTrue ?? setting?.trueValue);
    if (diversion == null || !absorb || card.compensated.includes('diversionVoltage')) return null;
    const { bankLowC, bankHighC } = plan.input.system.site;
    const cold = setpointAt(plan, absorb, bankLowC);
    const hot = setpointAt(plan, absorb, bankHighC);
    if (cold === null || hot === null || diversion > cold) return null;
    return {
      severity: 'attention',
      role: 'diversionVoltage',
      text: `${charger.name} diverts from a fixed ${volts(diversion)}; at ${celsius(bankLowC)} it would charge to ${volts(cold)}, and at ${celsius(bankHighC)} to ${volts(hot)}.`,
      hurts:
        'In the cold the bank is not filled. A fixed diversion that cleared the coldest setpoint would never protect in the heat: move it with the seasons.',
    };
  },
  { short: 'Diversion stands fixed' },
);
