import { isSource } from '../../card';
import { cite, figureOnBank, statedFigure, type Chemistry } from '../../sheet';
import { cardOf } from '../input';
import { missing, per12, type RoleContext, type RoleRule } from '../context';

/** The lowest absorb of all chargers, V at the bank; null before any is known. */
export function lowestAbsorb({ input, other }: Pick<RoleContext, 'input' | 'other'>): number | null {
  const all = input.system.chargers.flatMap((c) => {
    const card = cardOf(input, c);
    const volts = other(c.id, 'absorbVoltage')?.trueValue;
    return card && isSource(card.kind) && volts != null ? [volts] : [];
  });
  return all.length === 0 ? null : Math.min(...all);
}

/** Full, voltage: 0.1 to 0.2 V per 12 V under the lowest absorb, so that the monitor sees every full charge. */
export const fullDetectVoltage: RoleRule = {
  role: 'fullDetectVoltage',
  want: (context) => {
    const absorb = lowestAbsorb(context);
    if (absorb === null) return missing(context, 'absorb voltage');
    const by = per12(context, 0.15);
    return {
      kind: 'number',
      exact: absorb - by,
      band: { min: absorb - per12(context, 0.2), max: absorb - per12(context, 0.1) },
      inset: 0,
      prefer: 'down',
      steps: [
        { kind: 'start', words: 'Lowest absorb of the chargers', value: absorb, unit: 'V', digits: 2 },
        { kind: 'change', words: 'Under it by 0.1 to 0.2 V per 12 V', value: -by, unit: 'V', digits: 2 },
      ],
    };
  },
};

/** Full, current: at or a little above the bank's taper figure, compared with the net current of the battery. */
export const fullDetectCurrent: RoleRule = {
  role: 'fullDetectCurrent',
  want: (context) => {
    const figure = statedFigure(context.input.sheet, 'taperCurrent');
    const onBank = figure && figureOnBank(figure, context.facts.shape);
    const taper = onBank?.band.max ?? onBank?.target;
    if (!figure || taper === undefined) return missing(context, 'taper current', figure);
    return {
      kind: 'number',
      exact: taper * 1.05,
      band: { min: taper, max: taper * 1.2 },
      inset: 0,
      prefer: 'down',
      steps: [
        { kind: 'start', words: 'Bank’s taper figure, net', value: taper, unit: 'A', digits: 1, source: cite(context.input.sheet, figure) },
        { kind: 'change', words: 'A little above, so that the monitor sees full before absorb ends', value: taper * 0.05, unit: 'A', digits: 1 },
      ],
    };
  },
};

/** Longer than a gap in the clouds, shorter than any absorb, s. */
const fullFor = 180;

/** Full, time: so long that a passing cloud does not look like full. */
export const fullDetectTime: RoleRule = {
  role: 'fullDetectTime',
  want: () => ({
    kind: 'number',
    exact: fullFor,
    band: null,
    inset: 0,
    prefer: 'up',
    steps: [{ kind: 'note', words: 'Long enough that a passing cloud does not look like full.', source: 'Rule of thumb, not a maker’s figure' }],
  }),
};

/** Coulombic efficiency, %, and Peukert exponent by chemistry (general electrochemistry). */
const general: Readonly<Record<Chemistry, { readonly efficiency: number; readonly exponent: number }>> = {
  lfp: { efficiency: 99, exponent: 1.03 },
  nmc: { efficiency: 99, exponent: 1.03 },
  flooded: { efficiency: 85, exponent: 1.25 },
  agm: { efficiency: 92, exponent: 1.12 },
  gel: { efficiency: 90, exponent: 1.15 },
};

const byChemistry = (role: 'chargeEfficiency' | 'peukertExponent', pick: 'efficiency' | 'exponent', words: string): RoleRule => ({
  role,
  want: ({ input }) => ({
    kind: 'number',
    exact: general[input.sheet.chemistry][pick],
    band: null,
    inset: 0,
    prefer: 'nearest',
    steps: [
      {
        kind: 'start',
        words,
        value: general[input.sheet.chemistry][pick],
        unit: pick === 'efficiency' ? '%' : '',
        digits: pick === 'efficiency' ? 0 : 2,
        source: 'General electrochemistry, not the maker’s figure',
      },
    ],
  }),
});

/** Charge efficiency by chemistry. */
export const chargeEfficiency = byChemistry('chargeEfficiency', 'efficiency', 'Charge got back of charge put in, usual for the chemistry');

/** Peukert exponent by chemistry. */
export const peukertExponent = byChemistry('peukertExponent', 'exponent', 'Usual for the chemistry');
