import { statedFigure } from '../../sheet';
import { celsius, chargersWithCards, volts } from '../words';
import type { FindingRule } from '../finding';

/** The compensated absorb voltage at the site's coldest against what loads bear and the BMS trips at. */
export const compensatedVoltage: FindingRule = {
  code: 'compensatedVoltage',
  check: ({ plan }) =>
    chargersWithCards(plan).flatMap(({ charger }) => {
      const absorb = plan.setting(charger.id, 'absorbVoltage')?.trueValue;
      const slope = plan.setting(charger.id, 'compensationSlope')?.trueValue;
      const { site, loads } = plan.input.system;
      if (absorb == null || slope == null || slope === 0 || loads.maxVolts === undefined) return [];
      const reference = statedFigure(plan.input.sheet, 'compensationReference')?.target ?? 25;
      const cold = absorb + slope * plan.facts.cells * (site.bankLowC - reference);
      if (cold <= loads.maxVolts + 1e-9) return [];
      return [
        {
          code: 'compensatedVoltage',
          severity: 'attention',
          charger: charger.id,
          role: 'compensationSlope',
          text: `At ${celsius(site.bankLowC)} ${charger.name} would absorb at ${volts(cold)}, and the loads bear ${volts(loads.maxVolts)}.`,
          hurts: 'Electronics on the bank fail on the coldest sunny day. Clamp the compensation, or feed them through a regulator.',
          remedies: [],
        },
      ];
    }),
};
