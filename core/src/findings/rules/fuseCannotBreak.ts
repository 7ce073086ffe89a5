import { amps } from '../words';
import type { FindingRule } from '../finding';

/** A main fuse that cannot break what the bank drives into a short. */
export const fuseCannotBreak: FindingRule = {
  code: 'fuseCannotBreak',
  belongsTo: 'system',
  check: ({ plan }) => {
    const { fuseA, fuseBreaksA, shortCircuitA } = plan.input.system.bank;
    if (fuseA === undefined || shortCircuitA === undefined || (fuseBreaksA ?? 0) >= shortCircuitA) return [];
    return [
      {
        code: 'fuseCannotBreak',
        severity: 'attention',
        text:
          fuseBreaksA === undefined
            ? `The bank drives ${amps(shortCircuitA)} into a short, and what the main fuse can break is not entered.`
            : `The bank drives ${amps(shortCircuitA)} into a short, and the main fuse can break ${amps(fuseBreaksA)}.`,
        hurts: 'A fuse that cannot break the arc burns on. Its sheet gives the breaking capacity at the bank’s voltage.',
        remedies: [],
      },
    ];
  },
};
