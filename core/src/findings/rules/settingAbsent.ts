import { isUnknown, parameterFor } from '../../card';
import { statedFigure } from '../../sheet';
import { chargerRule } from '../rule';

/** What the sheet asks of every charger, and a card may lack. */
const asked = ['absorbVoltage', 'floatVoltage', 'rechargeVoltage', 'absorbTime', 'taperCurrent'] as const;

/** A figure of the sheet for which a charger has no setting. */
export const settingAbsent = chargerRule(({ card }, plan) => {
  // Of a device whose list nobody has seen nothing is known to be absent.
  if (isUnknown(card, 'settings')) return null;
  const roles = asked.filter((role) => statedFigure(plan.input.sheet, role) && !parameterFor(card, role));
  return roles.length === 0 ? null : { severity: 'note', facts: { model: card.model, roles } };
});
