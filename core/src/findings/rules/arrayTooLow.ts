import { arrayRule } from '../arrays';

/** Operating voltage too low to charge on the hottest day. */
export const arrayTooLow = arrayRule(({ facts }, plan) =>
  facts.hotVolts >= facts.leastVolts
    ? null
    : { severity: 'attention', facts: { hotV: facts.hotVolts, recordHighC: plan.input.system.site.recordHighC, leastV: facts.leastVolts } },
);
