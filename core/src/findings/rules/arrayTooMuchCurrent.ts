import { arrayRule } from '../arrays';

/** Short-circuit current, with bright clouds counted, above what the input is rated for. */
export const arrayTooMuchCurrent = arrayRule(({ facts }) =>
  facts.mostA === null || facts.designA <= facts.mostA ? null : { severity: 'stop', facts: { designA: facts.designA, ratedA: facts.mostA } },
);
