import { isLithium, statedFigure } from '../../sheet';
import { jobRule } from '../rule';

/** A lead sheet whose slope rises with temperature: the sign is reversed. */
export const slopeSign = jobRule(
  (plan) => {
    const figure = statedFigure(plan.input.sheet, 'compensationSlope');
    const slope = figure?.target ?? figure?.min ?? figure?.max;
    if (isLithium(plan.input.sheet.chemistry) || slope === undefined || slope <= 0) return null;
    return { severity: 'stop', figure: 'compensationSlope', facts: { slope } };
  },
  { belongsTo: 'sheet' },
);
