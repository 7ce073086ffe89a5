import { judged } from '../places';
import { hasTrait, type Role } from '../../card';
import type { FindingRule } from '../finding';

/** Loads that are not rated for what a charger holds at the reference temperature; what compensation adds in the cold is a finding of its own. */
export const loadsBelowSetpoint: FindingRule<{ role: Role; setV: number; loadsV: number }> = {
  belongsTo: 'system',
  check: ({ plan }) => {
    const loadsV = plan.input.system.loads.maxVolts;
    if (loadsV === undefined) return [];
    const past = plan.settings.flatMap((s) => {
      const at = hasTrait(s.role, 'chargingSetpoint') && s.role !== 'equaliseVoltage' ? judged(s) : null;
      return at && at.value > loadsV + 1e-9 ? [{ charger: s.charger, role: s.role, setV: at.value }] : [];
    });
    const [worst] = [...past].sort((a, b) => b.setV - a.setV);
    return worst ? [{ severity: 'attention', charger: worst.charger, role: worst.role, facts: { role: worst.role, setV: worst.setV, loadsV } }] : [];
  },
};
