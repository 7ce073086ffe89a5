import { relayPlan } from '../../settings';
import { companionRule } from '../rule';

/** A coil that takes more than this part of the bank in a day is worth a word. */
const worth = 0.01;

/** What the coil of a relay that is held closed all day takes from the bank. */
export const coilLoad = companionRule(
  'thermostat',
  (companion, plan) => {
    const perDayWh = relayPlan(plan, companion.id)?.coilWhPerDay ?? null;
    const { capacityAh, nominalVolts } = plan.facts;
    const bankWh = capacityAh === null ? null : capacityAh * nominalVolts;
    const big = perDayWh !== null && bankWh !== null && perDayWh > worth * bankWh;
    const unfused = companion.relay?.coilW !== undefined && companion.relay.fusedSupply !== true;
    if (perDayWh === null || (!big && !unfused)) return null;
    return { severity: unfused ? 'attention' : 'note', facts: { perDayWh, bankWh, unfused } };
  },
  { belongsTo: 'system' },
);
