import { missing, provableVolts, voltagePreference, voltsFromSheet, type RoleRule } from '../context';

/** Absorb voltage: the sheet's target, or the low end of its band by the gentle school, scaled to the bank. */
export const absorbVoltage: RoleRule = {
  role: 'absorbVoltage',
  want: (context) => {
    const gentle = context.input.schools.topCharge === 'gentle';
    const sheet = voltsFromSheet(context, 'absorbVoltage', gentle ? 'least' : 'target');
    if (!sheet) return missing(context, 'absorb voltage');
    const aim = provableVolts(context, sheet.volts, sheet.band);
    return { kind: 'number', exact: aim.volts, band: sheet.band, inset: aim.inset, prefer: voltagePreference(context), steps: [...sheet.steps, ...aim.steps] };
  },
};
