import { judged } from '../places';
import { chargerRule, puttingRight } from '../rule';

/** An input-side limit above what the charger's input is rated for. */
export const inputLimitAboveRating = chargerRule(({ charger, card }, plan) => {
  const setting = plan.setting(charger.id, 'inputLimitVoltage');
  const ratedV = card.ratings.inputVolts?.max;
  const limitV = judged(setting)?.value;
  if (ratedV === undefined || limitV == null || limitV < ratedV - 1e-9) return null;
  return { severity: 'stop', role: 'inputLimitVoltage', facts: { limitV, ratedV }, remedies: puttingRight(setting) };
});
