import { left, type RoleContext, type RoleRule, type Wanted } from '../context';
import type { Step } from '../setting';

const long = ({ input }: RoleContext): boolean => input.schools.alternator === 'longCool';
const school = (context: RoleContext): Step => ({
  kind: 'note',
  words: long(context) ? 'School: long and cool.' : 'School: short, hot and fast.',
  source: 'A choice of the school, not a maker’s figure',
});
const chosen = (context: RoleContext, exact: number, prefer: 'up' | 'down' | 'nearest', steps: readonly Step[]): Wanted => ({
  kind: 'number',
  exact,
  band: null,
  inset: 0,
  prefer,
  steps: [school(context), ...steps],
});

/** Machine temperature limit: under what the machine's maker allows by 20 °C (long and cool) or 5 °C (short and hot). */
export const machineTempLimit: RoleRule = {
  role: 'machineTempLimit',
  want: (context) => {
    const most = context.charger.machine?.maxC;
    if (most === undefined) return left('The machine’s hottest is not entered on System. Left as it is; ask the maker of the machine.');
    const by = long(context) ? 20 : 5;
    return {
      ...(chosen(context, most - by, 'down', [
        { kind: 'start', words: 'Hottest the machine’s maker allows', value: most, unit: '°C', digits: 0 },
        { kind: 'change', words: 'Held under it', value: -by, unit: '°C', digits: 0 },
      ]) as Wanted & { kind: 'number' }),
      band: { max: most },
    };
  },
};

/** Field limit: full, or four fifths for a cooler machine. It is no current limit. */
export const fieldLimit: RoleRule = {
  role: 'fieldLimit',
  want: (context) =>
    chosen(context, long(context) ? 80 : 100, 'down', [
      { kind: 'note', words: 'A field limit is no current limit: unless output was measured at it, the machine counts with its full rating.' },
    ]),
};

/** Soft start: long spares the belt, short charges sooner. */
export const softStartTime: RoleRule = {
  role: 'softStartTime',
  want: (context) =>
    chosen(context, long(context) ? 30 : 10, 'nearest', [{ kind: 'note', words: 'Long enough for the engine to settle before the belt is loaded.' }]),
};

/** Belt relief: a little with the cool school, none with the hot one. */
export const beltRelief: RoleRule = {
  role: 'beltRelief',
  want: (context) =>
    long(context)
      ? chosen(context, 10, 'nearest', [{ kind: 'note', words: 'Raise it if the belt squeals or dusts.' }])
      : { kind: 'off', steps: [school(context), { kind: 'note', words: 'None. Raise it if the belt squeals or dusts.' }] },
};
