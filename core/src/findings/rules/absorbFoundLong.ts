import { isLithium } from '../../sheet';
import { chargerRule, puttingRight } from '../rule';

/** Found this many times as long as worked out, and at least so long, an absorb time is no rounding, s. */
const times = 3;
const atLeastS = 2 * 3600;

/** An absorb time found on a device that holds lithium at absorb for hours. Lead only gasses, and its sheet’s time is often a least. */
export const absorbFoundLong = chargerRule(({ charger }, plan) => {
  const setting = plan.setting(charger.id, 'absorbTime');
  const foundS = setting?.override ? undefined : setting?.presentTrue;
  if (!setting || foundS === undefined || typeof setting.exact !== 'number' || !isLithium(plan.input.sheet.chemistry)) return null;
  if (foundS < atLeastS - 1e-9 || foundS < times * setting.exact - 1e-9) return null;
  return { severity: 'stop', role: 'absorbTime', facts: { foundS, wantedS: setting.exact }, remedies: puttingRight(setting) };
});
