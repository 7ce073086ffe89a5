import { restingVolts, standsAt } from '../../settings';
import { chargerRule, puttingRight } from '../rule';

/** A DC-DC charger that goes on below the resting volts of the battery it draws from. */
export const dcdcDrainsStarter = chargerRule(({ charger, card }, plan) => {
  const setting = plan.setting(charger.id, 'inputStopVoltage');
  if (card.kind !== 'dcdc' || !setting) return null;
  const stopV = setting.override ? setting.trueValue : standsAt(plan, charger, 'inputStopVoltage');
  const restsV = restingVolts({ charger }).volts;
  if (stopV === null || stopV >= restsV - 1e-9) return null;
  return {
    severity: 'attention',
    role: 'inputStopVoltage',
    facts: {
      set: setting.override ? ('target' as const) : charger.present.inputStopVoltage === undefined ? ('factory' as const) : ('found' as const),
      stopV,
      restsV,
      feed: charger.feed?.name ?? null,
    },
    remedies: puttingRight(setting),
  };
});
