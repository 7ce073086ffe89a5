import { celsius, volts } from '../words';
import { arrayRule } from '../arrays';

/** Open-circuit voltage at the record low above what the input bears. */
export const arrayTooHigh = arrayRule('arrayTooHigh', ({ charger, array, facts }, plan) =>
  facts.mostVolts === null || facts.coldVolts <= facts.mostVolts
    ? null
    : {
        severity: 'stop',
        text: `The array of ${charger.name}, ${array.inSeries} in series, reaches ${volts(facts.coldVolts, 1)} at ${celsius(plan.input.system.site.recordLowC)}; its input bears ${volts(facts.mostVolts, 0)}.`,
        hurts: 'The first clear frosty dawn destroys the charger. Put fewer panels in series.',
      },
);
