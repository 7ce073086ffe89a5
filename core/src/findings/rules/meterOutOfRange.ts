import { figureOnBank, statedFigure } from '../../sheet';
import { volts } from '../words';
import type { FindingRule } from '../finding';

/** A meter whose range ends below what it has to show. */
export const meterOutOfRange: FindingRule = {
  code: 'meterOutOfRange',
  belongsTo: 'system',
  check: ({ plan }) => {
    const figure = statedFigure(plan.input.sheet, 'absorbVoltage');
    const most = figure && (figureOnBank(figure, plan.facts.shape).band.max ?? figureOnBank(figure, plan.facts.shape).target);
    const meter = plan.input.system.instruments.find((i) => i.id === plan.input.system.provingInstrument);
    if (most === undefined || meter?.rangeV === undefined || meter.rangeV >= most) return [];
    return [
      {
        code: 'meterOutOfRange',
        severity: 'attention',
        text: `${meter.name} shows ${volts(meter.rangeV, 0)} at most, and absorb stands at ${volts(most, 1)}.`,
        hurts: 'Nothing can be proved with it at the terminals. Choose another range or another meter.',
        remedies: [],
      },
    ];
  },
};
