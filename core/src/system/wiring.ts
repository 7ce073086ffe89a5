import { ampacity, pairOhms, voltageDrop } from '../physics';
import type { Bank, Charger, Wire } from './system';

/** What a conductor is rated for, A: as entered, else by the table at the air it runs through; null when nothing is known of it. */
const ratingOf = (entered: number | undefined, wire: Wire | undefined): number | null =>
  entered ?? (wire?.areaMm2 === undefined ? null : ampacity(wire.areaMm2, wire.airC));

/** Ampacity of the main cable, A. */
export const bankAmpacity = (bank: Bank): number | null => ratingOf(bank.cableA, bank.wire);

/** Ampacity of a charger's own cable, A. */
export const chargerAmpacity = (charger: Charger): number | null => ratingOf(charger.cableA, charger.wire);

/** Volts lost between a charger and the bus at a current, copper warm from the load; null when the wire is not entered. */
export const chargerDrop = (charger: Charger, amps: number): number | null => wireDrop(charger.wire, amps);

/** Volts lost in a pair of conductors at a current, copper warm from the load; null while length or area is not known. */
export const wireDrop = (wire: Wire | undefined, amps: number): number | null =>
  wire?.lengthM === undefined || wire.areaMm2 === undefined ? null : voltageDrop(wire.lengthM, wire.areaMm2, amps);

/** Resistance of a pair of conductors there and back, Ω; null while length or area is not known. */
export const wireOhms = (wire: Wire | undefined, celsius?: number): number | null =>
  wire?.lengthM === undefined || wire.areaMm2 === undefined ? null : pairOhms(wire.lengthM, wire.areaMm2, celsius);

/** "16 mm², 3 m", as much of it as is known. */
export const wireText = ({ areaMm2, lengthM }: Wire): string =>
  [areaMm2 === undefined ? '' : `${areaMm2} mm²`, lengthM === undefined ? '' : `${lengthM} m`].filter((part) => part !== '').join(', ');
