import { amps } from '../words';
import { arrayRule } from '../arrays';

/** Short-circuit current, with bright clouds counted, above what the input bears. */
export const arrayTooMuchCurrent = arrayRule('arrayTooMuchCurrent', ({ charger, facts }) =>
  facts.mostA === null || facts.designA <= facts.mostA
    ? null
    : {
        severity: 'stop',
        text: `The array of ${charger.name} can drive ${amps(facts.designA, 1)} into a short in bright light; its input is rated ${amps(facts.mostA)}.`,
        hurts: 'The input or its wiring overheats. Put fewer strings side by side.',
      },
);
