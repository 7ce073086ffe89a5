import { chargerRule } from '../rule';

/** A display that was never compared with a meter. */
export const displayNotCompared = chargerRule(({ charger }) => (charger.displayReadings.length === 0 ? { severity: 'attention', facts: {} } : null), {
  belongsTo: 'system',
});
