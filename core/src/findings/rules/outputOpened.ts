import { relayPlan } from '../../settings';
import type { FindingRule, Finding } from '../finding';
import { companionsOf } from '../words';

/** A relay that would open the output of something that turns. */
export const outputOpened: FindingRule = {
  code: 'outputOpened',
  belongsTo: 'system',
  check: ({ plan }) =>
    companionsOf(plan, 'thermostat').flatMap(({ companion }): Finding[] =>
      (relayPlan(plan, companion.id)?.sources ?? [])
        .filter((s) => (s.card.kind === 'alternator' || s.card.kind === 'turbine') && (s.breaks === 'output' || s.breaks === 'batterySide'))
        .map((s) => ({
          code: 'outputOpened',
          severity: 'stop',
          charger: companion.id,
          role: 'outputMode',
          text: `${companion.name} would open the output of ${s.charger.name} while it turns.`,
          hurts:
            s.card.kind === 'alternator'
              ? 'The load dump kills diodes and electronics. An alternator is stopped at its field.'
              : 'An unloaded turbine runs away. It is stopped by its brake.',
          remedies: [],
        })),
    ),
};
