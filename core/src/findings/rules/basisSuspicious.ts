import { figureKeys, plausibility, type Basis, type Chemistry, type FigureKey } from '../../sheet';
import type { FindingRule } from '../finding';

/** A figure far outside what its chemistry takes, most often noted on the wrong basis or with the wrong sign. */
export const basisSuspicious: FindingRule<{
  key: FigureKey;
  chemistry: Chemistry;
  /** V per cell, or V/°C per cell of a slope. */
  perCell: number;
  min: number | null;
  max: number | null;
  slope: boolean;
  wouldFit: readonly Basis[];
}> = {
  belongsTo: 'sheet',
  check: ({ plan }) =>
    figureKeys.flatMap((key) => {
      const { sheet } = plan.input;
      const figure = sheet.figures[key];
      if (!figure) return [];
      const judged = plausibility(sheet.chemistry, key, figure, plan.facts.shape);
      if (judged.plausible) return [];
      const { window, perCell, wouldFit } = judged;
      return [
        {
          severity: 'stop',
          figure: key,
          facts: { key, chemistry: sheet.chemistry, perCell, min: window.min ?? null, max: window.max ?? null, slope: figure.unit === 'V/°C', wouldFit },
          remedies: wouldFit.map((basis) => ({ does: 'setBasis', facts: { basis }, changes: [{ kind: 'setBasis', figure: key, basis }] })),
        },
      ];
    }),
};
