import { figureOnBank, statedFigure } from '../../sheet';
import { jobRule } from '../rule';

/** A meter whose range ends below what it has to show. */
export const meterOutOfRange = jobRule(
  (plan) => {
    const figure = statedFigure(plan.input.sheet, 'absorbVoltage');
    const onBank = figure && figureOnBank(figure, plan.facts.shape);
    const absorbV = onBank && (onBank.band.max ?? onBank.target);
    const meter = plan.input.system.instruments.find((i) => i.id === plan.input.system.provingInstrument);
    if (absorbV === undefined || meter?.rangeV === undefined || meter.rangeV >= absorbV) return null;
    return { severity: 'attention', facts: { meter: meter.name, rangeV: meter.rangeV, absorbV } };
  },
  { belongsTo: 'system' },
);
