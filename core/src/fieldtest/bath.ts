import { said, warmth, warmthBy, type Sentence } from '../quantity';
import type { ProofRow } from '../proof';
import type { Requirement } from '../requirements';
import type { Plan } from '../settings';
import type { Charger, Instrument } from '../system';
import type { TestStep } from './definition';
import type { TestRecord } from './record';
import { measuredRow, number, reading } from './tools';

/** What a sensor is put into, so that a cutoff must act. */
export interface Bath {
  readonly name: string;
  readonly says: Sentence;
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
    ? { name: 'ice water', says: said`Crushed ice and water, stirred: ${warmth(0, 0)}.`, celsius: 0 }
    : {
        name: 'ice with salt',
        says: said`Plain ice water must not stop it. Crushed ice with a third of its weight of salt, stirred, goes down to about ${warmth(-20, 0)}; keep salt water off the battery and its terminals.`,
        celsius: null,
      };

/** The step that looks at what lost its supply together with the charge. */
export const aliveStep = (charger: string, says: string): TestStep => ({
  id: 'alive',
  kind: 'read',
  title: 'What else went with it',
  says: [says],
  fields: [
    { id: 'charger', name: charger, unit: '', choices: ['yes', 'no'] },
    { id: 'count', name: 'Monitor still has its count', unit: '', choices: ['yes', 'no', 'no monitor'] },
  ],
});

/** The coldest that what went on had its sensor, °C; null where nobody noted it and the bath does not tell. */
export const coldestIn = (record: TestRecord, bath: Bath): number | null =>
  number(record, 'trip', 'coldest') ?? number(record, 'trip', 'celsius') ?? bath.celsius;

/** How much warmer a sensor reads than the cells, as both were read side by side, °C; null while one of them was not. */
export function warmerThanCells(record: TestRecord): number | null {
  const [cell, shown] = [number(record, 'cells', 'cell'), number(record, 'cells', 'shown')];
  return cell === undefined || shown === undefined ? null : shown - cell;
}

/** Where charging stops at the cells: the sensor's temperature at the trip, less what it reads too warm. */
export function cellsRow(
  plan: Plan,
  record: TestRecord,
  below: Requirement,
  instrument: Instrument,
  { tripC, warmerC, what, told }: { readonly tripC: number; readonly warmerC: number; readonly what: string; readonly told: (warmer: Sentence) => Sentence },
): readonly ProofRow[] {
  return measuredRow(
    plan,
    record,
    below,
    tripC - warmerC,
    [
      ...reading(instrument, tripC, '°C'),
      { name: `Cell and ${what} read one after the other`, halfWidth: 0.5, divisor: Math.sqrt(3), kind: 'systematic' },
      ...reading(instrument, number(record, 'cells', 'cell') ?? 0, '°C'),
    ],
    told(said`${warmthBy(warmerC)} ${warmerC >= 0 ? 'warmer' : 'colder'}`),
  );
}
