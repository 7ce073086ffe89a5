import { isLithium } from '../../sheet';
import { jobRule } from '../rule';
import { companionsOf } from '../words';

/** A lithium bank without a monitor: its resting voltage tells nothing until it collapses. */
export const noMonitor = jobRule(
  'noMonitor',
  (plan) =>
    !isLithium(plan.input.sheet.chemistry) || plan.input.system.chargers.length === 0 || companionsOf(plan, 'monitor').length > 0
      ? null
      : {
          severity: 'note',
          text: `This lithium bank of ${plan.facts.ratedAh} Ah has no monitor, and its resting voltage hardly moves between 20 and 90 % of charge.`,
          hurts: 'A charge read from the voltage is wrong until it collapses. Count the current at a shunt.',
        },
  { belongsTo: 'system' },
);
