import type { FindingRule } from '../finding';
import { companionsOf } from '../words';

/** A monitor that has not yet seen a full charge. */
export const chargeUnknown: FindingRule = {
  code: 'chargeUnknown',
  belongsTo: 'system',
  check: ({ plan }) =>
    companionsOf(plan, 'monitor')
      .filter(({ companion }) => companion.fullSeen !== true)
      .map(({ companion }) => ({
        code: 'chargeUnknown',
        severity: 'note',
        charger: companion.id,
        text: `${companion.name} has not seen a full charge yet, so its state of charge is unknown.`,
        hurts: 'Until then its percentage is a guess; do not judge loads or charging by it.',
        remedies: [{ label: 'A full charge has been proved since', changes: [{ kind: 'setCompanion', companion: companion.id, values: { fullSeen: true } }] }],
      })),
};
