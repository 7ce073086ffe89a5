import { chargersWithCards, mostAmps } from '../places';
import { jobRule } from '../rule';

/** Charge current limits that add up past the bank's ceiling. Chargers without a limit count with their rating. */
export const limitsPastCeiling = jobRule((plan) => {
  const { binding } = plan.ceiling;
  const list = chargersWithCards(plan);
  const sumA = list.reduce((total, { charger, card }) => total + mostAmps(plan, charger, card), 0);
  if (!binding || sumA <= binding.amps + 1e-9) return null;
  return {
    severity: 'stop',
    role: 'chargeCurrentLimit',
    facts: { sumA, ceilingA: binding.amps, ceiling: binding.name, adds: binding.sum, bms: plan.input.system.bank.hasBms },
    remedies: list
      .filter(({ charger }) => plan.setting(charger.id, 'chargeCurrentLimit')?.override)
      .map(({ charger }) => ({
        does: 'clearLimit',
        facts: { device: charger.id },
        changes: [{ kind: 'clearOverride', charger: charger.id, role: 'chargeCurrentLimit' }],
      })),
  };
});
