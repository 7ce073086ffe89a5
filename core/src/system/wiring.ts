import { ampacity, voltageDrop } from '../physics';
import type { Bank, Charger, Wire } from './system';

/** What a conductor bears, A: as entered, else by the table at 30 °C; null when nothing is known of it. */
const bears = (entered: number | undefined, wire: Wire | undefined): number | null => entered ?? (wire ? ampacity(wire.areaMm2) : null);

/** Ampacity of the main cable, A. */
export const bankAmpacity = (bank: Bank): number | null => bears(bank.cableA, bank.wire);

/** Ampacity of a charger's own cable, A. */
export const chargerAmpacity = (charger: Charger): number | null => bears(charger.cableA, charger.wire);

/** Volts lost between a charger and the bus at a current, copper warm from the load; null when the wire is not entered. */
export const chargerDrop = (charger: Charger, amps: number): number | null =>
  charger.wire ? voltageDrop(charger.wire.lengthM, charger.wire.areaMm2, amps) : null;
