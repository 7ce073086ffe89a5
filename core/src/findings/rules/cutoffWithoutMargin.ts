import { cutoffMargin } from '../../system';
import { chargerRule } from '../rule';

/** The sheet's figure entered exactly, although the sensor costs degrees. */
export const cutoffWithoutMargin = chargerRule(({ charger }, plan) => {
  const cutoffC = plan.setting(charger.id, 'lowTempCutoff')?.trueValue;
  if (plan.input.schools.cutoffFigure !== 'exact' || cutoffC == null) return null;
  return {
    severity: 'attention',
    role: 'lowTempCutoff',
    facts: { cutoffC, coldestC: cutoffC - cutoffMargin(charger.sensor, plan.input.system.site).total },
    remedies: [{ does: 'addMargin', changes: [{ kind: 'setSchool', school: 'cutoffFigure', to: 'margin' }] }],
  };
});
