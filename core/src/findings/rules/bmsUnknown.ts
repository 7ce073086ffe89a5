import { isLithium, statedFigure } from '../../sheet';
import { hasBegun } from '../places';
import { jobRule } from '../rule';

/** A lithium pack without a BMS, or whose trip nobody knows. */
export const bmsUnknown = jobRule<{ none: boolean }>(
  (plan) => {
    const { sheet, system } = plan.input;
    // Of a job that has neither figures nor chargers there is nothing to say yet.
    if (!isLithium(sheet.chemistry) || !hasBegun(plan)) return null;
    if (!system.bank.hasBms) return { severity: 'stop', facts: { none: true } };
    if (statedFigure(sheet, 'bmsOverVoltage') || statedFigure(sheet, 'bmsCellOverVoltage')) return null;
    return { severity: 'attention', figure: 'bmsOverVoltage', facts: { none: false } };
  },
  { belongsTo: 'sheet' },
);
