import { chargerRule } from '../rule';

/** A charger without a fuse of its own, or an array without an isolator. */
export const fuseMissing = chargerRule(
  ({ charger }, plan) => {
    const noFuse = charger.fuseA === undefined;
    const noIsolator = charger.array !== undefined && charger.array.isolatorA === undefined;
    return noFuse || noIsolator ? { severity: 'attention', facts: { noFuse, noIsolator, nominalV: plan.facts.nominalVolts } } : null;
  },
  { belongsTo: 'system' },
);
