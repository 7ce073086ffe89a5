import { offNumber } from '../../card';
import { cite, equaliseForbidden, isLithium, statedFigure, type FigureKey } from '../../sheet';
import { missing, provableVolts, voltsFromSheet, type RoleContext, type RoleRule, type Wanted } from '../context';

/** Equalise on or off: off wherever the sheet does not permit it. */
export const equaliseEnabled: RoleRule = {
  role: 'equaliseEnabled',
  want: (context) => {
    const forbidden = equaliseForbidden(context.input.sheet);
    const figure = context.input.sheet.figures.equaliseVoltage;
    return {
      kind: 'choice',
      means: forbidden ? 'off' : 'on',
      steps: [
        {
          kind: 'note',
          words: !forbidden
            ? 'The sheet permits it. Attend it: water level, ventilation, no sparks, hydrometer.'
            : `${forbidden === 'silent' ? 'The sheet says nothing of it, which counts as not permitted' : 'Not permitted'}. Off, and the stored values brought down, so that a wrong press does no damage.`,
          source: cite(context.input.sheet, figure),
        },
      ],
    };
  },
};

/** Equalise voltage: the sheet's, or where unused the absorb value or the nearest above it the charger accepts, never past the sheet's most. */
export const equaliseVoltage: RoleRule = {
  role: 'equaliseVoltage',
  want: (context) => {
    const { input, done, card } = context;
    if (!equaliseForbidden(input.sheet)) {
      const sheet = voltsFromSheet(context, 'equaliseVoltage');
      if (!sheet) return missing(context, 'equalise voltage');
      const aim = provableVolts(context, sheet.volts, sheet.band);
      return { kind: 'number', exact: aim.volts, band: sheet.band, inset: aim.inset, prefer: 'down', steps: [...sheet.steps, ...aim.steps] };
    }
    const absorb = done.get('absorbVoltage');
    if (typeof absorb?.trueValue !== 'number') return missing(context, 'absorb voltage');
    if (isLithium(input.sheet.chemistry) && input.schools.lithiumEqualise === 'off')
      return { kind: 'none', why: 'notSupported', steps: [{ kind: 'note', words: 'School: off only. The stored voltage is left as it is.' }] };
    const gap = card.constraints.find((c) => c.parameter === 'equaliseVoltage' && c.other === 'absorbVoltage' && c.relation === 'atLeast')?.gap ?? 0;
    const exact = absorb.trueValue + Math.max(0, gap);
    const most = absorb.band?.max;
    return {
      kind: 'number',
      exact,
      band: most === undefined ? { min: exact } : exact > most ? { max: most } : { min: exact, max: most },
      inset: 0,
      prefer: 'down',
      steps: [
        { kind: 'start', words: 'Stored at absorb, so that a stray press does no damage', value: absorb.trueValue, unit: 'V', digits: 2 },
        ...(gap > 0 ? [{ kind: 'change', words: 'This charger forces a gap above absorb', value: gap, unit: 'V', digits: 2 } as const] : []),
      ],
    };
  },
};

const fromSheetOr =
  (key: FigureKey, what: string, unused: (context: RoleContext) => Wanted): RoleRule['want'] =>
  (context) => {
    if (equaliseForbidden(context.input.sheet)) return unused(context);
    const figure = statedFigure(context.input.sheet, key);
    const value = figure?.target ?? figure?.max ?? figure?.min;
    if (!figure || value === undefined) return missing(context, what);
    const [shown, unit] = figure.unit === 's' ? [value / 60, 'min'] : [value, 'd'];
    return {
      kind: 'number',
      exact: value,
      band: null,
      inset: 0,
      prefer: 'down',
      steps: [{ kind: 'start', words: `Sheet ${what}`, value: shown, unit, digits: 0, source: cite(context.input.sheet, figure) }],
    };
  };

/** Equalise time: the sheet's, or the shortest the charger takes. */
export const equaliseTime: RoleRule = {
  role: 'equaliseTime',
  want: fromSheetOr('equaliseTime', 'equalise time', (context) =>
    isLithium(context.input.sheet.chemistry) && context.input.schools.lithiumEqualise === 'off'
      ? { kind: 'none', why: 'notSupported', steps: [{ kind: 'note', words: 'School: off only. The stored time is left as it is.' }] }
      : { kind: 'end', end: 'least', steps: [{ kind: 'note', words: 'The shortest time this charger takes, so that a stray press does little.' }] },
  ),
};

/** Equalise interval: the sheet's; where it is not permitted off, or the longest that a charger without an off takes. */
export const equaliseInterval: RoleRule = {
  role: 'equaliseInterval',
  want: fromSheetOr('equaliseInterval', 'equalise interval', ({ parameter }) =>
    parameter.unit !== 'choice' && offNumber(parameter) === undefined
      ? { kind: 'end', end: 'most', steps: [{ kind: 'note', words: 'This charger has no “off” here: the longest interval it takes.' }] }
      : { kind: 'off', steps: [{ kind: 'note', words: 'Off: the sheet does not permit equalising, so it never starts by itself.' }] },
  ),
};
