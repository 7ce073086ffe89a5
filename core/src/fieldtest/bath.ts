import type { Charger } from '../system';

/** What a sensor is put into, so that a cutoff must act. */
export interface Bath {
  readonly name: string;
  readonly says: string;
  /** Known without a thermometer, °C; null where it has to be measured. */
  readonly celsius: number | null;
}

/** Ice water must lie at least so far under a cutoff, sensor error taken off, to put it to the test, °C. */
const clearC = 0.5;

/**
 * The bath that puts a cutoff to the test. Melting ice is 0 °C everywhere, and a cutoff below it must not act there; ice with salt goes down to −21 °C
 * (the eutectic of water and common salt) and is as cold as its thermometer says.
 *
 * @param cutoffC where the charger has to stop, °C
 */
export const bathFor = (cutoffC: number, { sensor }: Pick<Charger, 'sensor'>): Bath =>
  cutoffC - sensor.errorC >= clearC
    ? { name: 'ice water', says: 'Crushed ice and water, stirred: 0 °C.', celsius: 0 }
    : {
        name: 'ice with salt',
        says: 'Plain ice water must not stop it. Crushed ice with a third of its weight of salt, stirred, goes down to about −20 °C; keep salt water off the battery and its terminals.',
        celsius: null,
      };
