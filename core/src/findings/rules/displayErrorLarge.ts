import { chargerRule } from '../rule';

/** A display more than one percent off the meter: look for a fault before correcting it away. */
export const displayErrorLarge = chargerRule(
  ({ charger }) => {
    const off = charger.displayReadings.find((r) => Math.abs((100 * (r.displayV - r.meterV)) / r.meterV) > 1);
    return off ? { severity: 'stop', facts: { displayV: off.displayV, meterV: off.meterV } } : null;
  },
  { belongsTo: 'system' },
);
