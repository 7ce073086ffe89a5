import { arrayRule } from '../arrays';

/** Open-circuit voltage at the record low above what the input is rated for. */
export const arrayTooHigh = arrayRule(({ array, facts }, plan) =>
  facts.mostVolts === null || facts.coldVolts <= facts.mostVolts
    ? null
    : {
        severity: 'stop',
        facts: { inSeries: array.inSeries, coldV: facts.coldVolts, recordLowC: plan.input.system.site.recordLowC, ratedV: facts.mostVolts },
      },
);
