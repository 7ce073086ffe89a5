import { rectangular, said, warmthBy, type BudgetLine, type Sentence } from '../quantity';
import { devicesOf, type Plan } from '../settings';
import { ownProbe, type Instrument } from '../system';
import type { Log } from './log';

/** How far the battery temperature of a log can be trusted. */
export interface TemperatureRead {
  /** Whether anybody has said which sensor wrote it. One that nobody named may sit in a charger's case. */
  readonly known: boolean;
  /** Half-width of all of `lines` together, °C. */
  readonly errorC: number;
  readonly lines: readonly BudgetLine[];
}

const line = (name: Sentence, halfWidth: number): BudgetLine => ({ name, halfWidth, divisor: rectangular, kind: 'systematic' });

/** The fastest the temperature moved over a quarter of an hour, °C/s: what a lagging sensor is behind by, over its lag. */
function fastest(time: Float64Array, celsius: Float32Array): number {
  let most = 0;
  let k = 0;
  for (let i = 0; i < time.length; i++) {
    while ((time[i] ?? 0) - (time[k] ?? 0) > 900) k++;
    const seconds = (time[i] ?? 0) - (time[k] ?? 0);
    const by = Math.abs((celsius[i] ?? NaN) - (celsius[k] ?? NaN));
    if (seconds >= 600 && by / seconds > most) most = by / seconds;
  }
  return most;
}

/**
 * The log with its temperature as the cells have it: what System knows of the sensor's offset is taken off, its error and lag stay as uncertainty.
 *
 * @param instrument what wrote the log: its own thermometer where a probe on the battery wrote the column
 */
export function temperatureRead(plan: Plan, log: Log, instrument: Instrument): { readonly log: Log; readonly read: TemperatureRead } {
  const own = line(said`${instrument.name}: battery temperature ± ${warmthBy(instrument.temperatureErrorC)}`, instrument.temperatureErrorC);
  const { batteryC, batterySensor } = log;
  const device = devicesOf(plan.input).find((d) => d.id === batterySensor);
  if (!batteryC || batterySensor === ownProbe) return { log, read: { known: batterySensor === ownProbe, errorC: instrument.temperatureErrorC, lines: [own] } };
  if (!device?.sensor.fitted) return { log, read: { known: false, errorC: instrument.temperatureErrorC, lines: [own] } };
  const { errorC, offsetC, lagSeconds } = device.sensor;
  const lagC = lagSeconds * fastest(log.time, batteryC);
  const lines = [line(said`Sensor of ${device.name} ± ${warmthBy(errorC)}`, errorC), ...(lagC > 0 ? [line(`Lag of the sensor of ${device.name}`, lagC)] : [])];
  return {
    log: offsetC === 0 ? log : { ...log, batteryC: batteryC.map((c) => c - offsetC) },
    read: { known: true, errorC: errorC + lagC, lines },
  };
}
