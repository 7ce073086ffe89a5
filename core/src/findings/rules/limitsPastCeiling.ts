import { amps, chargersWithCards, mostAmps } from '../words';
import type { FindingRule } from '../finding';

/** Charge current limits that add up past the bank's ceiling. Chargers without a limit count with their rating. */
export const limitsPastCeiling: FindingRule = {
  code: 'limitsPastCeiling',
  check: ({ plan }) => {
    const binding = plan.ceiling.binding;
    const list = chargersWithCards(plan);
    const sum = list.reduce((total, { charger, card }) => total + mostAmps(plan, charger, card), 0);
    if (!binding || sum <= binding.amps + 1e-9) return [];
    return [
      {
        code: 'limitsPastCeiling',
        severity: 'stop',
        role: 'chargeCurrentLimit',
        text: `The charge limits add up to ${amps(sum)}, past the ${amps(binding.amps)} of “${binding.name.toLowerCase()}” (${binding.sum}).`,
        hurts: 'Hot cables, blown fuses, or a BMS that opens on over-current.',
        remedies: list
          .filter(({ charger }) => plan.setting(charger.id, 'chargeCurrentLimit')?.override)
          .map(({ charger }) => ({
            label: `Go back to the derived limit of ${charger.name}`,
            changes: [{ kind: 'clearOverride', charger: charger.id, role: 'chargeCurrentLimit' }],
          })),
      },
    ];
  },
};
