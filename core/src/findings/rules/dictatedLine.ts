import { dictationOf } from '../../settings';
import { chargerRule } from '../rule';

/** Figures that another device says over a data line, and what becomes of them when it is lost. A charger that goes back to its own is as it should be. */
export const dictatedLine = chargerRule(
  ({ charger, card }) => {
    const said = dictationOf(charger, card);
    if (!said || said.whenLost === 'ownFigures') return null;
    const { by, roles, whenLost } = said;
    return { severity: whenLost === 'stops' ? 'note' : 'attention', facts: { by, roles, whenLost } };
  },
  { belongsTo: 'system' },
);
