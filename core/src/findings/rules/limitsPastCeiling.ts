import type { Remedy } from '../finding';
import { allAmps, chargersWithCards, standingAmps } from '../places';
import { jobRule, recording } from '../rule';

/**
 * Charge current limits that add up past the bank's ceiling, as they will be set or as they were found. Chargers without a limit count with their rating.
 */
export const limitsPastCeiling = jobRule((plan) => {
  const { binding } = plan.ceiling;
  const [setA, foundA] = [allAmps(plan), allAmps(plan, standingAmps)];
  if (!binding || Math.max(setA, foundA) <= binding.amps + 1e-9) return null;
  const found = setA <= binding.amps + 1e-9;
  return {
    severity: 'stop',
    role: 'chargeCurrentLimit',
    facts: {
      found,
      sumA: found ? foundA : setA,
      ceilingA: binding.amps,
      ceiling: binding.name,
      adds: binding.sum,
      bms: plan.input.system.bank.hasBms,
    },
    remedies: chargersWithCards(plan).flatMap(({ charger }): Remedy[] => {
      const limit = plan.setting(charger.id, 'chargeCurrentLimit');
      if (found)
        return limit?.presentTrue !== undefined && typeof limit.value === 'number' && limit.presentTrue > (limit.trueValue ?? 0) + 1e-9
          ? [recording(limit, limit.value)]
          : [];
      return limit?.override
        ? [{ does: 'clearLimit', facts: { device: charger.id }, changes: [{ kind: 'clearOverride', charger: charger.id, role: 'chargeCurrentLimit' }] }]
        : [];
    }),
  };
});
