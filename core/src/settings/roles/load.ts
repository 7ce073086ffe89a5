import type { Direction } from '../../quantity';
import type { FigureKey } from '../../sheet';
import { missing, voltsFromSheet, type RoleRule } from '../context';

const fromSheet = (role: 'loadDisconnect' | 'loadReconnect', key: FigureKey, what: string, prefer: Direction): RoleRule => ({
  role,
  want: (context) => {
    const sheet = voltsFromSheet(context, key);
    if (!sheet) return missing(context, what);
    return { kind: 'number', exact: sheet.volts, band: sheet.band, inset: 0, prefer, steps: sheet.steps };
  },
});

/** Load disconnect: the sheet's, rounded up so that the bank is never drained below it. */
export const loadDisconnect = fromSheet('loadDisconnect', 'disconnectVoltage', 'load disconnect voltage', 'up');

/** Load reconnect: the sheet's. */
export const loadReconnect = fromSheet('loadReconnect', 'reconnectVoltage', 'load reconnect voltage', 'up');
