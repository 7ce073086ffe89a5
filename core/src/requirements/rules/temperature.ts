import { statedFigure } from '../../sheet';
import { chargersWithCards, ofCharger, type Rule } from '../context';
import type { Requirement } from '../requirement';

/** Charging outside the sheet's temperatures, and more current than its temperature allows. */
export const temperature: Rule = (plan) => {
  const range = statedFigure(plan.input.sheet, 'chargeTemperature');
  const list: Requirement[] = [];
  for (const { charger, card } of chargersWithCards(plan)) {
    const common = { ...ofCharger(charger, card), question: 'specified', unit: '°C', digits: 1 } as const;
    if (range?.min !== undefined)
      list.push({
        ...common,
        code: 'noChargeBelowMinimum',
        name: 'No charge when cold',
        why: 'Cells charged too cold are harmed for good.',
        seenBy: ['log', 'test', 'rehearsal'],
        band: { min: range.min },
      });
    if (range?.max !== undefined)
      list.push({
        ...common,
        code: 'noChargeAboveMaximum',
        name: 'No charge when hot',
        why: 'Cells charged too hot age fast, and lead can run away.',
        seenBy: ['log'],
        band: { max: range.max },
      });
  }
  list.push({
    code: 'currentForTemperature',
    question: 'specified',
    name: 'Current for its temperature',
    why: 'A cold or hot battery tolerates less; more than that ages or plates it.',
    seenBy: ['log', 'rehearsal'],
    band: {},
    unit: 'A',
    digits: 0,
    dwellSeconds: 60,
    zeroA: 0.5,
  });
  return list;
};
