import { figureKeys, statedFigure } from '../../sheet';
import { jobRule } from '../rule';

/** Figures of the sheet that come from a charger's preset. */
export const presetFigures = jobRule(
  (plan) => {
    const keys = figureKeys.filter((key) => statedFigure(plan.input.sheet, key)?.rank === 'chargerPreset');
    const first = keys[0];
    return first ? { severity: 'attention', figure: first, facts: { keys } } : null;
  },
  { belongsTo: 'sheet' },
);
