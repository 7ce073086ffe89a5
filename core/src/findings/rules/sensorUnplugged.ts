import { parameterFor } from '../../card';
import { isLithium } from '../../sheet';
import { chargerRule, fittingSensor } from '../rule';

/** A sensor left off, to be safe from compensation, at a charger whose cutoff needs it. */
export const sensorUnplugged = chargerRule(
  ({ charger, card }, plan) => {
    const both = card.sensor.usedFor.includes('cutoff') && card.sensor.usedFor.includes('compensation') && parameterFor(card, 'lowTempCutoff');
    if (!isLithium(plan.input.sheet.chemistry) || charger.sensor.fitted || !both) return null;
    return {
      severity: 'attention',
      role: 'lowTempCutoff',
      facts: { known: charger.sensor.fitted !== undefined, stops: card.sensor.withoutSensor === 'stopsCharging' },
      remedies: [fittingSensor(charger.id)],
    };
  },
  { belongsTo: 'system' },
);
