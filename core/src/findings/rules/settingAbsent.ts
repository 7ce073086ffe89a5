import { parameterFor, roleInfo } from '../../card';
import { statedFigure } from '../../sheet';
import { chargerRule } from '../rule';
import { listed } from '../words';

/** What the sheet asks of every charger, and a card may lack. */
const asked = [
  ['absorbVoltage', 'absorbVoltage'],
  ['floatVoltage', 'floatVoltage'],
  ['rechargeVoltage', 'rechargeVoltage'],
  ['absorbTime', 'absorbTime'],
  ['taperCurrent', 'taperCurrent'],
] as const;

/** A figure of the sheet for which a charger has no setting. */
export const settingAbsent = chargerRule('settingAbsent', ({ charger, card }, plan) => {
  const absent = asked.filter(([figure, role]) => statedFigure(plan.input.sheet, figure) && !parameterFor(card, role)).map(([, role]) => roleInfo[role].name);
  if (absent.length === 0) return null;
  return {
    severity: 'note',
    text: `${charger.name} (${card.model}) has no setting for ${listed(absent)}; the sheet gives ${absent.length === 1 ? 'a figure' : 'figures'}.`,
    hurts: 'It does there what it was built to do. Watch on the first days whether that suits the sheet.',
  };
});
