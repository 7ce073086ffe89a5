import { bankAmpacity, chargerAmpacity } from '../../system';
import type { Draft, FindingRule } from '../finding';

type PastCable = Readonly<{ fuseA: number; cableA: number }>;

/** A fuse that lets through more than its conductor is rated for. */
export const fusePastCable: FindingRule<PastCable> = {
  belongsTo: 'system',
  check: ({ plan }) => {
    const { bank, chargers } = plan.input.system;
    const places = [
      { fuseA: bank.fuseA, cableA: bankAmpacity(bank), charger: undefined },
      ...chargers.map((c) => ({ fuseA: c.fuseA, cableA: chargerAmpacity(c), charger: c.id })),
    ];
    return places.flatMap(({ fuseA, cableA, charger }): Draft<PastCable>[] =>
      fuseA === undefined || cableA === null || fuseA <= cableA + 1e-9 ? [] : [{ severity: 'stop', ...(charger ? { charger } : {}), facts: { fuseA, cableA } }],
    );
  },
};
