import { figureOnBank, isLithium, statedFigure } from '../../sheet';
import { allAmps } from '../places';
import { jobRule } from '../rule';

/** A vented lead bank that never gets the current to mix its acid: below the sheet's least, else about 0.1 C. */
export const leadTooWeak = jobRule((plan) => {
  const { sheet } = plan.input;
  if (isLithium(sheet.chemistry)) return null;
  const figure = statedFigure(sheet, 'chargeCurrentRecommended');
  const printed = figure && figureOnBank(figure, plan.facts.shape).band.min;
  const { ratedAh } = plan.facts;
  const leastA = printed ?? (ratedAh === null ? null : 0.1 * ratedAh);
  const givesA = allAmps(plan);
  if (leastA === null || givesA === 0 || givesA >= leastA) return null;
  return {
    severity: 'note',
    role: 'chargeCurrentLimit',
    facts: { givesA, ratedAh, leastA, bySheet: printed !== undefined, chemistry: sheet.chemistry },
  };
});
