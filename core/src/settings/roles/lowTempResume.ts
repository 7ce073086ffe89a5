import { said, warmthBy } from '../../quantity';
import { leastHysteresisC, resumeHysteresis } from '../../system';
import { missing, notUsed, type RoleRule } from '../context';

/** Resume: cutoff as the device holds it, plus 2 °C or what sensor error and its lead on warming ask, rounded up. */
export const lowTempResume: RoleRule = {
  role: 'lowTempResume',
  want: (context) => {
    const cutoff = context.done.get('lowTempCutoff');
    if (cutoff?.off === true || cutoff?.noValue === 'notUsed') return notUsed('The cutoff is not used.');
    if (typeof cutoff?.trueValue !== 'number') return missing(context, 'least charging temperature');
    const hysteresis = resumeHysteresis(context.charger.sensor);
    return {
      kind: 'number',
      exact: cutoff.trueValue + hysteresis,
      band: { min: cutoff.trueValue + hysteresis },
      inset: 0,
      prefer: 'up',
      steps: [
        { kind: 'start', words: 'Cutoff as set', value: cutoff.trueValue, unit: '°C', digits: 0 },
        {
          kind: 'change',
          words: said`The greater of ${warmthBy(leastHysteresisC, 0)} and sensor error + its lead on warming`,
          value: hysteresis,
          unit: '°C',
          digits: 1,
        },
        { kind: 'subtotal', words: 'Resume no colder than', value: cutoff.trueValue + hysteresis, unit: '°C', digits: 1 },
      ],
    };
  },
};
