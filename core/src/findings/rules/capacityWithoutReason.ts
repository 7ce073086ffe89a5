import { jobRule } from '../rule';

/** A capacity in use that differs from the rated one, and nobody said why. */
export const capacityWithoutReason = jobRule(
  ({ input, facts }) => {
    const { capacityFactor, capacityReason } = input.system.bank;
    if (Math.abs(capacityFactor - 1) < 1e-9 || capacityReason.trim() !== '' || facts.ratedAh === null) return null;
    return { severity: 'note', facts: { percent: capacityFactor * 100, ratedAh: facts.ratedAh, usedAh: facts.ratedAh * capacityFactor } };
  },
  { belongsTo: 'system' },
);
