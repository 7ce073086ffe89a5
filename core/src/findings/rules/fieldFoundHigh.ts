import { chargerRule, puttingRight } from '../rule';

/** A field limit found above what the chosen way of using the machine allows. */
export const fieldFoundHigh = chargerRule(({ charger }, plan) => {
  const setting = plan.setting(charger.id, 'fieldLimit');
  const found = setting?.override ? undefined : setting?.presentTrue;
  if (!setting || found === undefined || typeof setting.exact !== 'number' || found <= setting.exact + 1e-9) return null;
  return { severity: 'attention', role: 'fieldLimit', facts: { foundPercent: found, mostPercent: setting.exact }, remedies: puttingRight(setting) };
});
