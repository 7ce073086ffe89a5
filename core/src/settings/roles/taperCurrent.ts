import { offNumber, parameterFor } from '../../card';
import { formatQuantity } from '../../quantity';
import { cite, figureOnBank, statedFigure } from '../../sheet';
import { missing, type RoleRule, type Wanted } from '../context';
import { displacedTaper, endsByOwnCurrent, sourcesOf } from '../taper';

/**
 * Taper current. The sheet's figure is the bank's net current; a charger that sees only its own output takes a share by rating
 * of (bank figure + least load), so that all together end absorb no earlier than the bank figure while the least load runs.
 * Whether each can still reach its value at the greatest load is a finding. A share that a source without a taper would displace is
 * not keyed: time ends absorb, unless a person chose the taper or no timer would end it.
 */
export const taperCurrent: RoleRule = {
  role: 'taperCurrent',
  want: (context) => {
    const { input, facts, card, parameter } = context;
    if (input.schools.absorbEnd === 'time') return { kind: 'off', steps: [{ kind: 'note', words: 'School: absorb ends by time alone.' }] };
    const figure = statedFigure(input.sheet, 'taperCurrent');
    const bank = figure && figureOnBank(figure, facts.shape);
    const bankAmps = bank?.band.max ?? bank?.target;
    if (!figure || bankAmps === undefined) return missing(context, 'taper current', figure);
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
    const ratings = sourcesOf(input).reduce((sum, s) => sum + (endsByOwnCurrent(s.card) ? s.card.ratings.outputA : 0), 0);
    const total = bankAmps + input.system.loads.minA;
    const share = ratings === 0 ? total : (total * card.ratings.outputA) / ratings;
    const shared: Wanted & { kind: 'number' } = {
      kind: 'number',
      exact: share,
      band: { max: share },
      inset: 0,
      prefer: 'down',
      steps: [
        ...steps,
        { kind: 'change', words: 'Plus the least load, which this charger feeds too', value: input.system.loads.minA, unit: 'A', digits: 1 },
        { kind: 'subtotal', words: 'All chargers together', value: total, unit: 'A', digits: 1 },
        { kind: 'result', words: `Share by rating, ${card.ratings.outputA} of ${ratings} A`, value: share, unit: 'A', digits: 2 },
      ],
    };
    const timed = card.absorb.end === 'whicheverFirst' && parameterFor(card, 'absorbTime') && statedFigure(input.sheet, 'absorbTime');
    if (input.schools.absorbEnd !== 'asSheet' || !timed) return shared;
    const displaced = displacedTaper(input, share, (c) => context.cold.sources.find((s) => s.charger === c.id)?.amps ?? 0);
    if (!displaced) return shared;
    const note = {
      kind: 'note',
      words: `Beside ${displaced.others.map((c) => c.name).join(' and ')}, up to ${formatQuantity(displaced.othersA, 'A', 0)}, its share of ${formatQuantity(share, 'A', 2)} would end absorb while as much as ${formatQuantity(displaced.bankA, 'A', 1)} still flow into the bank. Time ends absorb.`,
    } as const;
    const off = parameter.unit !== 'choice' && offNumber(parameter) !== undefined;
    return off ? { kind: 'off', steps: [...shared.steps, note] } : { kind: 'end', end: 'least', steps: [...shared.steps, note] };
  },
};
