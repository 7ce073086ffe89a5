import { arrayRule } from '../arrays';

/** More array than the charger can pass on. */
export const arrayClipped = arrayRule(({ facts }) =>
  facts.stcW <= facts.ceilingW * 1.1 ? null : { severity: 'note', facts: { labelW: facts.stcW, ceilingW: facts.ceilingW } },
);
