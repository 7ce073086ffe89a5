import { isLithium, statedFigure, figureOnBank } from '../../sheet';
import { jobRule } from '../rule';
import { volts } from '../words';

/** A school that goes against what the sheet says. */
export const schoolAgainstSheet = jobRule('schoolAgainstSheet', (plan) => {
  const { sheet, schools } = plan.input;
  const float = statedFigure(sheet, 'floatVoltage');
  if (!isLithium(sheet.chemistry) || schools.lithiumFloat === 'hold' || !float) return null;
  const band = figureOnBank(float, plan.facts.shape);
  const equal = schools.lithiumFloat === 'floatEqualsAbsorb';
  const absorb = plan.settings.find((s) => s.role === 'absorbVoltage')?.trueValue;
  const most = band.band.max ?? band.target ?? 0;
  if (equal && (absorb == null || absorb <= most + 1e-9)) return null;
  return {
    severity: equal ? 'attention' : 'note',
    role: 'floatVoltage',
    text: equal
      ? `The school “float equals absorb” holds ${volts(absorb ?? 0)}, and the sheet’s float is at most ${volts(most)}: it counts as an override.`
      : `The school “rest” sets no float, and the sheet gives one of ${volts(band.target ?? most)}.`,
    hurts: 'It stays marked in the report as outside the sheet; the maker may refuse a claim.',
    remedies: [{ label: 'Hold at the sheet’s float', changes: [{ kind: 'setSchool', school: 'lithiumFloat', to: 'hold' }] }],
  };
});
