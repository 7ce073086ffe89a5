import { formatBand, formatNumber, mapBand } from '../../quantity';
import { basisWords, figureInfo, figureKeys, plausibility } from '../../sheet';
import type { FindingRule } from '../finding';

/** A figure far outside what its chemistry bears, most often noted on the wrong basis or with the wrong sign. */
export const basisSuspicious: FindingRule = {
  code: 'basisSuspicious',
  belongsTo: 'sheet',
  check: ({ plan }) =>
    figureKeys.flatMap((key) => {
      const { sheet } = plan.input;
      const figure = sheet.figures[key];
      if (!figure) return [];
      const result = plausibility(sheet.chemistry, key, figure, plan.facts.shape);
      if (result.plausible) return [];
      const slope = figure.unit === 'V/°C';
      const scale = slope ? 1000 : 1;
      const unit = slope ? 'mV/°C' : 'V';
      const digits = slope ? 1 : 2;
      const window = mapBand(result.window, (end) => end * scale);
      const hint = result.wouldFit.length > 0 ? ` It would make sense ${result.wouldFit.map((b) => basisWords[b]).join(' or ')}.` : '';
      return [
        {
          code: 'basisSuspicious',
          severity: 'stop',
          figure: key,
          text: `${figureInfo[key].name} comes to ${formatNumber(result.perCell * scale, digits)} ${unit} per cell; this chemistry lives at ${formatBand(window, unit, digits)}.${hint}`,
          hurts: 'A figure on the wrong basis puts every setpoint wrong by a factor.',
          remedies: result.wouldFit.map((basis) => ({ label: `Read it ${basisWords[basis]}`, changes: [{ kind: 'setBasis', figure: key, basis }] })),
        },
      ];
    }),
};
