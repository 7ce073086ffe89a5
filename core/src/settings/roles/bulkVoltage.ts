import { missing, provableVolts, voltsFromSheet, type RoleRule } from '../context';

/** Bulk, where a charger separates it: as absorb; by the short and hot school the upper end of the band. */
export const bulkVoltage: RoleRule = {
  role: 'bulkVoltage',
  want: (context) => {
    const absorb = context.done.get('absorbVoltage');
    if (typeof absorb?.exact !== 'number' || absorb.trueValue === null) return missing(context, 'absorb voltage');
    const hot = context.card.kind === 'alternator' && context.input.schools.alternator === 'shortHot' ? voltsFromSheet(context, 'absorbVoltage', 'most') : null;
    if (!hot)
      return {
        kind: 'number',
        exact: absorb.exact,
        band: absorb.band,
        inset: 0,
        prefer: 'down',
        steps: [{ kind: 'start', words: 'As absorb', value: absorb.exact, unit: 'V', digits: 2 }],
      };
    const aim = provableVolts(context, hot.volts, hot.band);
    return {
      kind: 'number',
      exact: aim.volts,
      band: hot.band,
      inset: aim.inset,
      prefer: 'down',
      steps: [{ kind: 'note', words: 'School: short, hot and fast. Bulk at the upper end of the absorb band.' }, ...hot.steps, ...aim.steps],
    };
  },
};
