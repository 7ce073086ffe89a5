import * as z from 'zod';

/** What a setting means, whatever the charger's own menu calls it. */
export const roles = [
  'systemVoltage',
  'chargeCurrentLimit',
  'absorbVoltage',
  'absorbTime',
  'taperCurrent',
  'floatVoltage',
  'rechargeVoltage',
  'compensationSlope',
  'lowTempCutoff',
  'lowTempResume',
  'equaliseEnabled',
  'equaliseVoltage',
  'equaliseTime',
  'equaliseInterval',
  'loadDisconnect',
  'loadReconnect',
] as const;
export const roleSchema = z.enum(roles);
export type Role = z.infer<typeof roleSchema>;

/** The unit a role has in the core, at the bank. `choice` roles hold a word. */
export type RoleUnit = 'V' | 'A' | 's' | 'd' | '°C' | 'V/°C per cell' | 'choice';

/** Each role's name in words and its unit. */
export const roleInfo: Readonly<Record<Role, { readonly name: string; readonly unit: RoleUnit }>> = {
  systemVoltage: { name: 'system voltage', unit: 'V' },
  chargeCurrentLimit: { name: 'charge current limit', unit: 'A' },
  absorbVoltage: { name: 'absorb', unit: 'V' },
  absorbTime: { name: 'absorb time', unit: 's' },
  taperCurrent: { name: 'taper current', unit: 'A' },
  floatVoltage: { name: 'float', unit: 'V' },
  rechargeVoltage: { name: 'recharge', unit: 'V' },
  compensationSlope: { name: 'compensation slope', unit: 'V/°C per cell' },
  lowTempCutoff: { name: 'low-temperature cutoff', unit: '°C' },
  lowTempResume: { name: 'low-temperature resume', unit: '°C' },
  equaliseEnabled: { name: 'equalise', unit: 'choice' },
  equaliseVoltage: { name: 'equalise voltage', unit: 'V' },
  equaliseTime: { name: 'equalise time', unit: 's' },
  equaliseInterval: { name: 'equalise interval', unit: 'd' },
  loadDisconnect: { name: 'load disconnect', unit: 'V' },
  loadReconnect: { name: 'load reconnect', unit: 'V' },
};
