import { arrayRule } from '../arrays';

/** Open-circuit voltage at the record low above what the input is rated for; within the label's tolerance of it is a thing to look at. */
export const arrayTooHigh = arrayRule(({ array, facts }, plan) => {
  const { mostVolts, coldVolts, coldMostVolts } = facts;
  if (mostVolts === null || coldMostVolts <= mostVolts) return null;
  return {
    severity: coldVolts > mostVolts ? 'stop' : 'attention',
    facts: { inSeries: array.inSeries, coldV: coldVolts, mostV: coldMostVolts, recordLowC: plan.input.system.site.recordLowC, ratedV: mostVolts },
  };
});
