import type { FindingRule } from '../finding';
import { allAmps } from '../places';

/** A main switch or shunt rated for less than what flows through it: all chargers together, or all loads. */
export const mainPathTooSmall: FindingRule<{ part: 'mainSwitch' | 'shunt'; ratedA: number; flowsA: number; charging: boolean }> = {
  belongsTo: 'system',
  check: ({ plan }) => {
    const { bank, loads } = plan.input.system;
    const chargeA = allAmps(plan);
    const flowsA = Math.max(chargeA, loads.maxA);
    return (
      [
        ['mainSwitch', bank.mainSwitchA],
        ['shunt', bank.shuntA],
      ] as const
    ).flatMap(([part, ratedA]) =>
      ratedA === undefined || ratedA >= flowsA - 1e-9
        ? []
        : [{ severity: 'attention' as const, facts: { part, ratedA, flowsA, charging: chargeA >= loads.maxA } }],
    );
  },
};
