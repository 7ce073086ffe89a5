import { cutoffMargin } from '../../system';
import { chargerRule } from '../rule';
import { celsius } from '../words';

/** The sheet's figure keyed exactly, although the sensor costs degrees. */
export const cutoffWithoutMargin = chargerRule(
  'cutoffWithoutMargin',
  ({ charger }, plan) => {
    const cutoff = plan.setting(charger.id, 'lowTempCutoff')?.trueValue;
    if (plan.input.schools.cutoffFigure !== 'exact' || cutoff == null) return null;
    const margin = cutoffMargin(charger.sensor, plan.input.system.site).total;
    return {
      severity: 'attention',
      role: 'lowTempCutoff',
      text: `${charger.name} stops at ${celsius(cutoff)} by its sensor, and the cell may then be at ${celsius(cutoff - margin, 1)}.`,
      hurts: 'Tape, lag and sensor error cost that much; the cells are charged colder than the sheet allows.',
      remedies: [{ label: 'Add the margin of each sensor', changes: [{ kind: 'setSchool', school: 'cutoffFigure', to: 'margin' }] }],
    };
  },
  { short: 'Cutoff without margin' },
);
