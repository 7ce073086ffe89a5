import { isLithium } from '../../sheet';
import { companionsOf } from '../places';
import { jobRule } from '../rule';

/** A lithium bank without a monitor: its resting voltage tells nothing until it collapses. */
export const noMonitor = jobRule(
  (plan) =>
    !isLithium(plan.input.sheet.chemistry) || plan.input.system.chargers.length === 0 || companionsOf(plan, 'monitor').length > 0
      ? null
      : { severity: 'note', facts: { ratedAh: plan.facts.ratedAh } },
  { belongsTo: 'system' },
);
