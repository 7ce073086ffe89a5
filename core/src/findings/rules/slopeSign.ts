import { formatNumber } from '../../quantity';
import { isLithium, statedFigure } from '../../sheet';
import { jobRule } from '../rule';

/** A lead sheet whose slope rises with temperature: the sign is reversed. */
export const slopeSign = jobRule(
  'slopeSign',
  (plan) => {
    const figure = statedFigure(plan.input.sheet, 'compensationSlope');
    const printed = figure?.target ?? figure?.min ?? figure?.max;
    if (isLithium(plan.input.sheet.chemistry) || printed === undefined || printed <= 0) return null;
    return {
      severity: 'stop',
      figure: 'compensationSlope',
      text: `The compensation slope stands as +${formatNumber(printed * 1000, 1)} mV/°C, rising with temperature; a lead battery’s falls.`,
      hurts: 'With the sign reversed the bank is overcharged in the heat, where it can run away, and starved in the cold.',
    };
  },
  { belongsTo: 'sheet' },
);
