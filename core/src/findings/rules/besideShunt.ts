import { jobRule } from '../rule';
import { listed, companionsOf } from '../words';

/** A load or charger whose negative goes beside the monitor's shunt. */
export const besideShunt = jobRule(
  'besideShunt',
  (plan) => {
    const monitor = companionsOf(plan, 'monitor')[0]?.companion;
    if (!monitor) return null;
    const { chargers, loads } = plan.input.system;
    const names = [...chargers.filter((c) => c.besideShunt).map((c) => c.name), ...(loads.besideShunt ? [loads.name ?? 'a load'] : [])];
    if (names.length === 0) return null;
    return {
      severity: 'attention',
      text: `The negative of ${listed(names)} goes to the bank beside the shunt, where ${monitor.name} does not see it.`,
      hurts: 'Its count and its state of charge are fiction. Move every negative to the load side of the shunt.',
    };
  },
  { belongsTo: 'system' },
);
