import type { RoleRule } from '../context';

/** System voltage: the class of the bank's nominal voltage, keyed and never left to auto-detection. */
export const systemVoltage: RoleRule = {
  role: 'systemVoltage',
  want: ({ facts, input }) =>
    facts.systemVolts === null
      ? { kind: 'none', why: 'notSupported', steps: [{ kind: 'note', words: `${facts.nominalVolts.toFixed(1)} V is no system voltage that chargers know.` }] }
      : {
          kind: 'choice',
          means: String(facts.systemVolts),
          steps: [
            { kind: 'start', words: 'Nominal, per battery', value: input.sheet.unit.nominalVolts, unit: 'V', digits: 1 },
            { kind: 'result', words: `× ${input.system.bank.unitsInSeries} in series`, value: facts.nominalVolts, unit: 'V', digits: 1 },
            { kind: 'note', words: 'Entered, not left to auto-detection: a wrong guess doubles or halves every setpoint.' },
          ],
        },
};
