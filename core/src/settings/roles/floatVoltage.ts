import { makeBand } from '../../quantity';
import { isLithium, type Chemistry } from '../../sheet';
import { missing, per12, provableVolts, voltagePreference, voltsFromSheet, type RoleContext, type RoleRule } from '../context';

/**
 * Resting volts of a full cell (general electrochemistry): LFP settles near 3.33 V whatever it was charged to; an NMC cell holds about 0.05 V less than it was
 * charged to; lead rests by the density of its acid.
 */
const restingPerCell = (chemistry: Chemistry, absorbPerCell: number | null): number =>
  ({ lfp: 3.33, nmc: (absorbPerCell ?? 4.1) - 0.05, flooded: 2.11, agm: 2.14, gel: 2.14 })[chemistry];

/** Resting volts of the full bank, V. */
function resting({ input, facts, done }: RoleContext): number {
  const absorb = done.get('absorbVoltage')?.exact;
  return restingPerCell(input.sheet.chemistry, typeof absorb === 'number' ? absorb / facts.cells : null) * facts.cells;
}

/**
 * Float by school. `hold`: the sheet's target. `floatEqualsAbsorb`: the absorb value. `rest`, or a sheet without float:
 * midway between recharge and the resting voltage of a full lithium cell, so that no current flows.
 */
export const floatVoltage: RoleRule = {
  role: 'floatVoltage',
  want: (context) => {
    const { input, done } = context;
    const lithium = isLithium(input.sheet.chemistry);
    const hot = context.card.kind === 'alternator' && input.schools.alternator === 'shortHot';
    const sheet = voltsFromSheet(context, 'floatVoltage', hot ? 'least' : 'target');
    const school = lithium ? input.schools.lithiumFloat : 'hold';
    if (school === 'floatEqualsAbsorb') {
      const absorb = done.get('absorbVoltage');
      if (typeof absorb?.exact !== 'number') return missing(context, 'absorb voltage');
      return {
        kind: 'number',
        exact: absorb.exact,
        // A sheet that forbids a float still bears what lets a full bank rest.
        band: sheet?.band ?? (input.sheet.figures.floatVoltage?.state === 'notPermitted' ? { max: resting(context) } : null),
        inset: 0,
        prefer: voltagePreference(context),
        asGiven: true,
        steps: [{ kind: 'start', words: 'School: float equals absorb', value: absorb.exact, unit: 'V', digits: 2 }],
      };
    }
    if (school === 'hold' && sheet) {
      const aim = provableVolts(context, sheet.volts, sheet.band);
      return {
        kind: 'number',
        exact: aim.volts,
        band: sheet.band,
        inset: aim.inset,
        prefer: voltagePreference(context),
        steps: [...sheet.steps, ...aim.steps],
      };
    }
    const forbidden = input.sheet.figures.floatVoltage?.state === 'notPermitted';
    if (!lithium && !forbidden) return missing(context, 'float voltage');
    const recharge = voltsFromSheet(context, 'rechargeVoltage', 'most');
    if (!recharge && !forbidden) return missing(context, 'float or recharge voltage');
    const rest = resting(context);
    const low = recharge?.volts ?? rest - per12(context, 0.4);
    const exact = (low + rest) / 2;
    const why = school === 'rest' && !forbidden ? 'School: rest' : forbidden ? 'The sheet permits no float, so rest' : 'The sheet gives no float, so rest';
    return {
      kind: 'number',
      exact,
      band: makeBand(undefined, sheet?.band.max ?? rest),
      inset: 0,
      prefer: 'down',
      steps: [
        {
          kind: 'start',
          words: recharge ? `${why}. Recharge voltage` : `${why}. The sheet gives no recharge: 0.4 V per 12 V below rest`,
          value: low,
          unit: 'V',
          digits: 2,
        },
        {
          kind: 'start',
          words: 'Resting voltage of a full bank, derived',
          value: rest,
          unit: 'V',
          digits: 2,
          source: 'General electrochemistry, not the maker’s figure',
        },
        { kind: 'subtotal', words: 'Midway, so that no current flows', value: exact, unit: 'V', digits: 2 },
      ],
    };
  },
};
