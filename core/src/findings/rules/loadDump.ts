import { chargerRule } from '../rule';

/** An alternator that a BMS can cut off while it turns. */
export const loadDump = chargerRule(
  ({ charger, card }, plan) =>
    plan.input.system.bank.hasBms && card.kind === 'alternator' && charger.machine?.loadDumpProtected !== true ? { severity: 'attention', facts: {} } : null,
  { belongsTo: 'system' },
);
