import { companionsOf } from '../places';
import { jobRule } from '../rule';

/** A load or charger whose negative bypasses the monitor's shunt. */
export const besideShunt = jobRule(
  (plan) => {
    const monitor = companionsOf(plan, 'monitor')[0]?.companion;
    if (!monitor) return null;
    const { chargers, loads } = plan.input.system;
    const devices = chargers.filter((c) => c.besideShunt).map((c) => c.id);
    if (devices.length === 0 && !loads.besideShunt) return null;
    return { severity: 'attention', facts: { monitor: monitor.id, devices, load: loads.besideShunt ? (loads.name ?? '') : null } };
  },
  { belongsTo: 'system' },
);
