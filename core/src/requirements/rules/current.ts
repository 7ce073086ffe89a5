import type { Rule } from '../context';

/** The most current into the bank, all chargers together. */
export const ceiling: Rule = (plan) =>
  plan.ceiling.binding
    ? [
        {
          code: 'currentCeiling',
          question: 'specified',
          name: 'Current ceiling',
          why: 'More than battery, cable or fuse may carry heats what is weakest.',
          seenBy: ['log', 'test'],
          band: { max: plan.ceiling.binding.amps },
          unit: 'A',
          digits: 0,
          dwellSeconds: 60,
          zeroA: 0.5,
        },
      ]
    : [];
