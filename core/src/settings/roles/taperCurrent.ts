import { cite, figureOnBank, statedFigure } from '../../sheet';
import { cardOf } from '../input';
import { missing, type RoleRule } from '../context';

/**
 * Taper current. The sheet's figure is the bank's net current; a charger that sees only its own output takes a share by rating
 * of (bank figure + least load), so that all together end absorb no earlier than the bank figure while the least load runs.
 * Whether each can still reach its value at the greatest load is a finding.
 */
export const taperCurrent: RoleRule = {
  role: 'taperCurrent',
  want: (context) => {
    const { input, facts, card } = context;
    if (input.schools.absorbEnd === 'time') return { kind: 'off', steps: [{ kind: 'note', words: 'School: absorb ends by time alone.' }] };
    const figure = statedFigure(input.sheet, 'taperCurrent');
    const bank = figure && figureOnBank(figure, facts.shape);
    const bankAmps = bank?.band.max ?? bank?.target;
    if (!figure || bankAmps === undefined) return missing(context, 'taper current');
    const steps = [
      figure.unit === 'C'
        ? ({
            kind: 'start',
            words: `Sheet: ${figure.max ?? figure.target} C × ${facts.ratedAh} Ah, net at the bank`,
            value: bankAmps,
            unit: 'A',
            digits: 1,
            source: cite(input.sheet, figure),
          } as const)
        : ({ kind: 'start', words: 'Sheet, net at the bank', value: bankAmps, unit: 'A', digits: 1, source: cite(input.sheet, figure) } as const),
    ];
    if (card.absorb.currentSeen === 'bank') return { kind: 'number', exact: bankAmps, band: { max: bankAmps }, inset: 0, prefer: 'down', steps };
    const sharing = input.system.chargers.map((c) => cardOf(input, c)).filter((c) => c?.absorb.currentSeen === 'ownOutput');
    const ratings = sharing.reduce((sum, c) => sum + (c?.ratings.outputA ?? 0), 0);
    const total = bankAmps + input.system.loads.minA;
    const share = (total * card.ratings.outputA) / ratings;
    return {
      kind: 'number',
      exact: share,
      band: { max: share },
      inset: 0,
      prefer: 'down',
      steps: [
        ...steps,
        { kind: 'change', words: 'Plus the least load, which this charger feeds too', value: input.system.loads.minA, unit: 'A', digits: 1 },
        { kind: 'subtotal', words: 'All chargers together', value: total, unit: 'A', digits: 1 },
        { kind: 'change', words: `Share by rating, ${card.ratings.outputA} of ${ratings} A`, value: share, unit: 'A', digits: 2 },
      ],
    };
  },
};
