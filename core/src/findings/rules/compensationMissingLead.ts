import { parameterFor } from '../../card';
import { isLithium } from '../../sheet';
import { readsBattery } from '../../system';
import { chargersWithCards } from '../words';
import type { Finding, FindingRule } from '../finding';

/** A lead bank on a charger that cannot follow its temperature. */
export const compensationMissingLead: FindingRule = {
  code: 'compensationMissingLead',
  short: 'No compensation',
  check: ({ plan }) => {
    if (isLithium(plan.input.sheet.chemistry)) return [];
    const { bankLowC, bankHighC } = plan.input.system.site;
    return chargersWithCards(plan).flatMap(({ charger, card }): Finding[] => {
      const has = parameterFor(card, 'compensationSlope') !== undefined;
      const reads = readsBattery(charger, card) && card.sensor.usedFor.includes('compensation');
      const slope = plan.setting(charger.id, 'compensationSlope')?.trueValue ?? null;
      if (has && reads && slope !== 0) return [];
      return [
        {
          code: 'compensationMissingLead',
          severity: 'attention',
          charger: charger.id,
          role: 'compensationSlope',
          text: !has
            ? `${charger.name} has no temperature compensation, and this lead bank goes from ${bankLowC} to ${bankHighC} °C.`
            : slope === 0
              ? `${charger.name} has compensation set to nothing, and this lead bank goes from ${bankLowC} to ${bankHighC} °C.`
              : `${charger.name} has no sensor on the battery, so its compensation does not follow it from ${bankLowC} to ${bankHighC} °C.`,
          hurts: 'Undercharged in the cold, gassing dry in the heat.',
          remedies: [],
        },
      ];
    });
  },
};
