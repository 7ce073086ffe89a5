import { mostAmps } from '../../settings';

import { chargerRule } from '../rule';

/** What a DC-DC charger draws more than it gives (general figure for converters). */
const efficiency = 0.9;
/** A running alternator holds its battery at about this, V per 12 V. */
const runningPer12 = 14;

/** A DC-DC charger that draws more than the alternator it hangs on can spare. */
export const dcdcPastSpare = chargerRule(
  ({ charger, card }, plan) => {
    const spareA = charger.feed?.spareA;
    const absorb = plan.setting(charger.id, 'absorbVoltage')?.trueValue;
    if (card.kind !== 'dcdc' || spareA === undefined || absorb == null) return null;
    const givesA = mostAmps(plan, charger, card);
    const drawsA = (givesA * absorb) / (((runningPer12 * (charger.feed?.volts ?? 12)) / 12) * efficiency);
    return drawsA <= spareA + 1e-9 ? null : { severity: 'attention', role: 'chargeCurrentLimit', facts: { givesA, drawsA, spareA } };
  },
  { belongsTo: 'system' },
);
