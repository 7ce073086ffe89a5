import { isLithium, statedFigure, figureOnBank } from '../../sheet';
import { jobRule } from '../rule';

type AgainstSheet = { readonly chosen: 'equalsAbsorb'; readonly holdsV: number; readonly mostV: number } | { readonly chosen: 'rest'; readonly sheetV: number };

/** A school that goes against what the sheet says. */
export const schoolAgainstSheet = jobRule<AgainstSheet>((plan) => {
  const { sheet, schools } = plan.input;
  const figure = statedFigure(sheet, 'floatVoltage');
  if (!isLithium(sheet.chemistry) || schools.lithiumFloat === 'hold' || !figure) return null;
  const float = figureOnBank(figure, plan.facts.shape);
  const equal = schools.lithiumFloat === 'floatEqualsAbsorb';
  const absorb = plan.settings.find((s) => s.role === 'absorbVoltage')?.trueValue;
  const mostV = float.band.max ?? float.target ?? 0;
  if (equal && (absorb == null || absorb <= mostV + 1e-9)) return null;
  return {
    severity: equal ? 'attention' : 'note',
    role: 'floatVoltage',
    facts: equal ? { chosen: 'equalsAbsorb', holdsV: absorb ?? 0, mostV } : { chosen: 'rest', sheetV: float.target ?? mostV },
    remedies: [{ does: 'holdSheetFloat', changes: [{ kind: 'setSchool', school: 'lithiumFloat', to: 'hold' }] }],
  };
});
