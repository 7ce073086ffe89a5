import { chargerRule } from '../rule';
import { volts, listed } from '../words';

/** A charger without a fuse of its own, or an array without an isolator. */
export const fuseMissing = chargerRule(
  'fuseMissing',
  ({ charger }, plan) => {
    const lacks = [
      ...(charger.fuseA === undefined ? ['no fuse between it and the bank'] : []),
      ...(charger.array && charger.array.isolatorA === undefined ? ['no isolator in its array'] : []),
    ];
    if (lacks.length === 0) return null;
    return {
      severity: 'attention',
      text: `${charger.name} has ${listed(lacks)} entered; a ${volts(plan.facts.nominalVolts, 0)} bank feeds every short.`,
      hurts: 'Without it there is nothing to open in a fault, and nothing to work behind. Local codes and a licensed electrician decide.',
    };
  },
  { belongsTo: 'system', short: 'Fuse missing' },
);
