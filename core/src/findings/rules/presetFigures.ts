import { figureInfo, figureKeys, statedFigure } from '../../sheet';
import { jobRule } from '../rule';
import { listed } from '../words';

/** Figures of the sheet that come from a charger's preset. */
export const presetFigures = jobRule(
  'presetFigures',
  (plan) => {
    const keys = figureKeys.filter((key) => statedFigure(plan.input.sheet, key)?.rank === 'chargerPreset');
    const first = keys[0];
    if (!first) return null;
    return {
      severity: 'attention',
      figure: first,
      text: `${listed(keys.map((key) => figureInfo[key].name))} ${keys.length === 1 ? 'comes' : 'come'} from a charger’s preset.`,
      hurts: 'A preset knows neither this battery nor this site, and mostly errs low. Write to the battery’s maker.',
    };
  },
  { belongsTo: 'sheet' },
);
