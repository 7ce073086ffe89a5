import { celsius, volts } from '../words';
import { arrayRule } from '../arrays';

/** Operating voltage too low to charge on the hottest day. */
export const arrayTooLow = arrayRule('arrayTooLow', ({ charger, facts }, plan) =>
  facts.hotVolts >= facts.leastVolts
    ? null
    : {
        severity: 'attention',
        text: `The array of ${charger.name} works at ${volts(facts.hotVolts, 1)} when the air has ${celsius(plan.input.system.site.recordHighC)}; to reach absorb it needs ${volts(facts.leastVolts, 1)}.`,
        hurts: 'On hot days the bank is never filled, whatever is set.',
      },
);
