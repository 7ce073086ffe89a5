import { correctionAt } from '../../settings';
import { chargerRule, readingOf } from '../rule';

/** A display error that is corrected in the setpoints: say so once, because the value on the display will look wrong to others. */
export const displayCorrected = chargerRule(({ charger, card }, plan) => {
  const absorb = plan.setting(charger.id, 'absorbVoltage');
  if (typeof absorb?.value !== 'number' || absorb.trueValue === null) return null;
  const errorV = correctionAt({ input: plan.input, charger, card }, absorb.trueValue);
  if (errorV === 0) return null;
  return {
    severity: 'note',
    role: 'absorbVoltage',
    facts: { entered: readingOf(absorb, absorb.value), makesV: absorb.trueValue, errorV, calibratable: card.display.calibratable },
  };
});
