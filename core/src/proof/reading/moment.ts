import type { Live } from '../../card';
import { stages } from '../../charger';
import { bankColumns, chargerColumns, type Log } from '../log';
import { logOf, type LogParts } from './columns';
import { columnUnits, meaningSchema, quantityOf, type Mapping, type MappedColumn, type Meaning } from './mapping';
import { readNumber } from './number';

/**
 * What was read of everything at one moment, by the name of its column: `bankVolts`, `amps fore`. A battery temperature stands under `batteryC` where it is
 * the bank’s own, and under `batteryC fore` where it is the sensor of a charger.
 */
export interface Moment {
  /** Seconds since 1970, UTC. */
  readonly at: number;
  readonly values: ReadonlyMap<string, number>;
}

const nameOf = (meaning: string, charger?: string): string => (charger === undefined ? meaning : `${meaning} ${charger}`);

/** What a device’s own registers tell of itself and, of a monitor, of the bank. */
export function valuesOfDevice(id: string, isCharger: boolean, live: Partial<Readonly<Record<Live, number | null>>>): ReadonlyMap<string, number> {
  const values = new Map<string, number>();
  const put = (name: string, value: number | null | undefined): void => {
    if (typeof value === 'number' && Number.isFinite(value)) values.set(name, value);
  };
  put(isCharger ? nameOf('volts', id) : 'bankVolts', live.volts);
  put(nameOf('batteryC', isCharger ? id : undefined), live.celsius);
  if (isCharger) {
    put(nameOf('amps', id), live.amps);
    put(nameOf('arrayVolts', id), live.inputVolts);
    put(nameOf('inputWatts', id), live.inputWatts);
    put(nameOf('machineC', id), live.machineC);
    put(nameOf('stage', id), live.stage);
  }
  put('bankAmps', live.bankAmps);
  put('stateOfCharge', live.charge);
  put('loadAmps', live.loadAmps);
  return values;
}

/** What the fields of a device that only talks say, by what somebody said that they mean. A field that is no number, or is not there, says nothing. */
export function valuesOfFields({ columns, decimal, stages: words }: Mapping, fields: Readonly<Record<string, string>>): ReadonlyMap<string, number> {
  const values = new Map<string, number>();
  for (const column of columns) {
    const text = fields[column.header];
    if (text === undefined) continue;
    const value = column.meaning === 'stage' ? stageOf(text, words) : numberOf(column, text, decimal === ',');
    if (value !== null) values.set(nameOf(column.meaning, column.charger ?? sensorOf(column)), value);
  }
  return values;
}

const sensorOf = ({ meaning, sensor }: MappedColumn): string | undefined => (meaning === 'batteryC' ? sensor : undefined);

function stageOf(text: string, words: Mapping['stages']): number | null {
  const plain = text.trim().toLowerCase();
  const named = Object.entries(words).find(([word]) => word.trim().toLowerCase() === plain)?.[1] ?? stages.find((s) => s === plain);
  return named === undefined ? null : stages.indexOf(named);
}

function numberOf({ meaning, unit, negated }: MappedColumn, text: string, comma: boolean): number | null {
  if (quantityOf(meaning) === null) return null;
  const value = readNumber(text, comma);
  if (value === null || !Number.isFinite(value)) return null;
  const { factor, offset } = unit === undefined ? { factor: 1, offset: 0 } : columnUnits[unit];
  return (value * factor + offset) * (negated ? -1 : 1) + 0;
}

/**
 * Moments as a log. Where nobody read the bank’s volts by themselves they are the chargers’ own, and the log says so. Of several battery temperatures the
 * bank’s own is taken, else that of the first sensor that was read, all through: one temperature of two sensors is nobody’s.
 *
 * @returns null without any voltage
 */
export function logOfMoments(moments: readonly Moment[], offsetMinutes: number | null): Log | null {
  const column = (name: string): Float32Array | null => {
    const data = Float32Array.from(moments, (m) => m.values.get(name) ?? NaN);
    return data.some((v) => v === v) ? data : null;
  };
  const names = [...new Set(moments.flatMap((m) => [...m.values.keys()]))];
  const parts: LogParts = { chargers: {} };
  for (const key of ['bankVolts', ...bankColumns] as const) {
    const data = column(key);
    if (data) parts[key] = data;
  }
  if (!parts.batteryC) {
    const sensor = names.find((n) => n.startsWith('batteryC '))?.slice('batteryC '.length);
    const data = sensor === undefined ? null : column(nameOf('batteryC', sensor));
    if (data && sensor !== undefined) {
      parts.batteryC = data;
      parts.batterySensor = sensor;
    }
  }
  for (const name of names) {
    const [key = '', id] = name.split(' ');
    if (id === undefined || key === 'batteryC') continue;
    const data = column(name);
    if (!data) continue;
    const own = (parts.chargers[id] ??= {});
    const number = chargerColumns.find((k) => k === key);
    if (number) own[number] = data;
    else if (key === 'stage') own.stage = Uint8Array.from(data, (v) => (v === v ? v : 255));
  }
  return logOf(
    Float64Array.from(moments, (m) => m.at),
    offsetMinutes,
    parts,
  );
}

/** Meanings that a field of a talking device can have: everything but times and names, which it needs not. */
export const fieldMeanings: readonly Meaning[] = meaningSchema.options.filter((m) => m === 'ignore' || m === 'stage' || quantityOf(m) !== null);
