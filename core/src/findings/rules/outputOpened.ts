import { relayPlan } from '../../settings';
import { companionRule } from '../rule';

/** A relay that would open the output of something that turns. */
export const outputOpened = companionRule(
  'thermostat',
  (companion, plan) =>
    (relayPlan(plan, companion.id)?.sources ?? []).flatMap((s) =>
      (s.card.kind === 'alternator' || s.card.kind === 'turbine') && (s.breaks === 'output' || s.breaks === 'batterySide')
        ? [{ severity: 'stop' as const, role: 'outputMode' as const, facts: { device: s.charger.id, kind: s.card.kind } }]
        : [],
    ),
  { belongsTo: 'system' },
);
