import type { Card } from '../../card';
import type { Plan } from '../../settings';
import type { Charger } from '../../system';
import { chargersWithCards, mostAmps } from '../places';
import { judged, jobRule, recording } from '../rule';
import type { Remedy } from '../finding';

/** What a charger may give as it stands: the limit found on it, else what counts for it anyway. */
export const standingAmps = (plan: Plan, charger: Charger, card: Card): number => {
  const limit = judged(plan.setting(charger.id, 'chargeCurrentLimit'));
  return limit?.found ? Math.min(limit.value, card.ratings.outputA) : mostAmps(plan, charger, card);
};

/**
 * Charge current limits that add up past the bank's ceiling, as they will be set or as they were found. Chargers without a limit count with their rating.
 */
export const limitsPastCeiling = jobRule((plan) => {
  const { binding } = plan.ceiling;
  const list = chargersWithCards(plan);
  const sum = (amps: typeof mostAmps): number => list.reduce((total, { charger, card }) => total + amps(plan, charger, card), 0);
  const [setA, foundA] = [sum(mostAmps), sum(standingAmps)];
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
    remedies: list.flatMap(({ charger }): Remedy[] => {
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
