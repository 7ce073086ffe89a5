import { ampacity, voltageDrop } from '../physics';
import type { Bank, Charger, Wire } from './system';

/** What a conductor is rated for, A: as entered, else by the table at the air it runs through; null when nothing is known of it. */
const ratingOf = (entered: number | undefined, wire: Wire | undefined): number | null => entered ?? (wire ? ampacity(wire.areaMm2, wire.airC) : null);

/** Ampacity of the main cable, A. */
export const bankAmpacity = (bank: Bank): number | null => ratingOf(bank.cableA, bank.wire);

/** Ampacity of a charger's own cable, A. */
export const chargerAmpacity = (charger: Charger): number | null => ratingOf(charger.cableA, charger.wire);

/** Volts lost between a charger and the bus at a current, copper warm from the load; null when the wire is not entered. */
export const chargerDrop = (charger: Charger, amps: number): number | null =>
  charger.wire ? voltageDrop(charger.wire.lengthM, charger.wire.areaMm2, amps) : null;
