import { judged } from '../places';
import { chargerRule, puttingRight } from '../rule';

/** Diversion at or below the charging setpoint. */
export const diversionBelowAbsorb = chargerRule(({ charger, card }, plan) => {
  const setting = plan.setting(charger.id, 'diversionVoltage');
  const absorb = plan.setting(charger.id, 'absorbVoltage')?.trueValue;
  const diversion = judged(setting)?.value;
  if (card.kind !== 'turbine' || !setting || diversion == null || absorb == null || diversion > absorb + 1e-9) return null;
  return { severity: 'stop', role: 'diversionVoltage', facts: { diversion, absorb }, remedies: puttingRight(setting) };
});
