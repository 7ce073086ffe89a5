import { chargerRule, puttingRight } from '../rule';

/** A cutoff found this far above what is worked out costs more days than it guards, °C. */
const uselessDegrees = 5;

/** A low-temperature cutoff found so high that the bank is not charged on days on which it may be. */
export const cutoffTooHigh = chargerRule(({ charger }, plan) => {
  const setting = plan.setting(charger.id, 'lowTempCutoff');
  const foundC = setting?.override ? undefined : setting?.presentTrue;
  const exact = setting?.off ? null : setting?.exact;
  if (!setting || foundC === undefined || typeof exact !== 'number') return null;
  if (foundC - exact <= uselessDegrees + 1e-9 || plan.input.system.site.bankLowC >= foundC) return null;
  return { severity: 'attention', role: 'lowTempCutoff', facts: { foundC, enoughC: exact }, remedies: puttingRight(setting) };
});
