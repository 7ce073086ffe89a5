import { standsAt } from '../../settings';
import { statedFigure } from '../../sheet';
import { chargerRule, puttingRight, recording } from '../rule';

/** A cutoff, overridden or as found, under what sheet and sensor margin require. */
export const cutoffBelowSheet = chargerRule<{ found: boolean; cutoffC: number; leastC: number; sheetC: number | null }>(({ charger }, plan) => {
  const setting = plan.setting(charger.id, 'lowTempCutoff');
  const leastC = setting?.band?.min;
  const sheetC = statedFigure(plan.input.sheet, 'chargeTemperature')?.min ?? null;
  if (!setting || leastC === undefined || plan.input.system.site.bankLowC >= leastC) return null;
  if (setting.trueValue !== null && setting.trueValue < leastC - 1e-9)
    return {
      severity: 'stop',
      role: 'lowTempCutoff',
      facts: { found: false, cutoffC: setting.trueValue, leastC, sheetC },
      remedies: setting.override ? puttingRight(setting) : [],
    };
  const found = standsAt(plan, charger, 'lowTempCutoff');
  if (charger.present.lowTempCutoff === undefined || found === null || found >= leastC - 1e-9 || typeof setting.value !== 'number') return null;
  return { severity: 'stop', role: 'lowTempCutoff', facts: { found: true, cutoffC: found, leastC, sheetC }, remedies: [recording(setting, setting.value)] };
});
