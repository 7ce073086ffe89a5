import { standsAt } from '../../settings';
import { equaliseForbidden } from '../../sheet';
import { chargerRule, recording } from '../rule';

/** Equalise is off, but the stored voltage is still harmful. */
export const equaliseStored = chargerRule<{ least: boolean; storedV: number; mostV: number }>(({ charger }, plan) => {
  const most = plan.setting(charger.id, 'absorbVoltage')?.band?.max;
  const target = plan.setting(charger.id, 'equaliseVoltage');
  const stored = standsAt(plan, charger, 'equaliseVoltage');
  if (!equaliseForbidden(plan.input.sheet) || most === undefined || !target || target.inherited || stored === null) return null;
  const planned = target.trueValue;
  if (planned !== null && planned > most + 1e-9)
    return { severity: 'attention', role: 'equaliseVoltage', facts: { least: true, storedV: planned, mostV: most } };
  if (stored <= most + 1e-9) return null;
  return {
    severity: 'attention',
    role: 'equaliseVoltage',
    facts: { least: false, storedV: stored, mostV: most },
    remedies: typeof target.value === 'number' ? [recording(target, target.value)] : [],
  };
});
