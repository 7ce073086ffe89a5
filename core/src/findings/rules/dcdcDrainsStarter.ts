import { restingVolts, standsAt } from '../../settings';
import { chargerRule, puttingRight } from '../rule';
import { volts } from '../words';

/** A DC-DC charger that goes on below the resting volts of the battery it draws from. */
export const dcdcDrainsStarter = chargerRule(
  'dcdcDrainsStarter',
  ({ charger, card }, plan) => {
    const setting = plan.setting(charger.id, 'inputStopVoltage');
    if (card.kind !== 'dcdc' || !setting) return null;
    const found = setting.override ? setting.trueValue : standsAt(plan, charger, 'inputStopVoltage');
    const least = restingVolts({ charger }).volts;
    if (found === null || found >= least - 1e-9) return null;
    const how = setting.override
      ? 'would stop at'
      : charger.present.inputStopVoltage === undefined
        ? 'leaves the factory stopping at'
        : 'was found stopping at';
    return {
      severity: 'attention',
      role: 'inputStopVoltage',
      text: `${charger.name} ${how} ${volts(found, 1)}, and ${charger.feed?.name ?? 'the battery it draws from'} rests at ${volts(restingVolts({ charger }).volts, 1)}.`,
      hurts: 'With the engine off it goes on, and the starter battery is flat in the morning.',
      remedies: puttingRight(setting),
    };
  },
  { short: 'Drains its feed' },
);
