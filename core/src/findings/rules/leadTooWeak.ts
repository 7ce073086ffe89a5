import { figureOnBank, isLithium, statedFigure } from '../../sheet';
import { amps, chargersWithCards, mostAmps } from '../words';
import type { FindingRule } from '../finding';

/** A vented lead bank that never gets the current to mix its acid: below the sheet's least, else about 0.1 C. */
export const leadTooWeak: FindingRule = {
  code: 'leadTooWeak',
  check: ({ plan }) => {
    if (isLithium(plan.input.sheet.chemistry)) return [];
    const figure = statedFigure(plan.input.sheet, 'chargeCurrentRecommended');
    const least = (figure && figureOnBank(figure, plan.facts.shape).band.min) ?? 0.1 * plan.facts.ratedAh;
    const sum = chargersWithCards(plan).reduce((total, { charger, card }) => total + mostAmps(plan, charger, card), 0);
    if (sum === 0 || sum >= least) return [];
    return [
      {
        code: 'leadTooWeak',
        severity: 'note',
        role: 'chargeCurrentLimit',
        text: `All chargers together give ${amps(sum)} at most, ${(sum / plan.facts.ratedAh).toFixed(3)} C; a vented bank of ${plan.facts.ratedAh} Ah wants ${amps(least)}.`,
        hurts: 'The acid stratifies and the plates sulphate. Plan on longer absorb, equalising, or a second source.',
        remedies: [],
      },
    ];
  },
};
