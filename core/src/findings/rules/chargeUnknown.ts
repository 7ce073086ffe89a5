import { companionRule } from '../rule';

/** A monitor that has not yet seen a full charge. */
export const chargeUnknown = companionRule(
  'monitor',
  (monitor) =>
    monitor.fullSeen === true
      ? null
      : {
          severity: 'note',
          facts: {},
          remedies: [{ does: 'recordFullCharge', changes: [{ kind: 'setCompanion', companion: monitor.id, values: { fullSeen: true } }] }],
        },
  { belongsTo: 'system' },
);
