import { formatQuantity, type BudgetLine } from '../quantity';
import type { Plan } from '../settings';
import type { Instrument } from '../system';
import type { Witness } from '../proof';
import { expectedVolts } from './tools';
import type { TestRecord } from './record';

/** What a series of readings says of a level that was held. */
export interface Held {
  /** Median of the readings near the level, referred to the reference temperature; null where none were near. */
  readonly level: number | null;
  readonly count: number;
  readonly scatter: BudgetLine;
  /** Time between readings that were both at the level, s. */
  readonly seconds: number;
  /** Longest step between two of them, s. */
  readonly apart: number;
  /** Net current of the last reading that had one, A, where it had fallen to that over the last of at least three at the level; null otherwise. */
  readonly fallenTo: number | null;
  /** What shows that the level was held and not passed: the current moved while the voltage stood, in words; null where nothing does. */
  readonly regulated: string | null;
}

/** Readings further apart than this are two visits: what was between them nobody saw, s. */
const longestApartS = 900;
/** A level is held over at least so many readings. */
export const leastReadings = 3;
/** The current moves by this part of itself while the voltage stands. */
const movedPart = 0.15;

/** Reads a series as a stay at a level: readings within one part in a hundred of what is expected at their temperature. */
export function minutesHeld(plan: Plan, device: string, role: 'absorbVoltage' | 'floatVoltage', record: TestRecord, instrument: Instrument): Held | null {
  const reference = plan.input.sheet.figures.compensationReference?.target ?? 25;
  const points = record.series.flatMap((a) => {
    const { volts, net, celsius, amps } = a.values;
    if (typeof volts !== 'number') return [];
    const warm = typeof celsius === 'number' ? celsius : reference;
    const asked = expectedVolts(plan, device, role, warm);
    if (asked === null) return [];
    const at25 = expectedVolts(plan, device, role, reference) ?? asked;
    return [
      {
        t: Date.parse(a.at) / 1000,
        referred: volts - (asked - at25),
        near: Math.abs(volts - asked) <= asked * 0.01,
        net: typeof net === 'number' ? net : null,
        amps: typeof amps === 'number' ? amps : null,
      },
    ];
  });
  if (points.length === 0) return null;
  const at = points.filter((p) => p.near);
  const near = at.map((p) => p.referred).sort((a, b) => a - b);
  let seconds = 0;
  let apart = 0;
  points.forEach((p, i) => {
    const before = points[i - 1];
    if (!before?.near || !p.near || p.t - before.t > longestApartS) return;
    seconds += p.t - before.t;
    apart = Math.max(apart, p.t - before.t);
  });
  const nets = at.flatMap((p) => (p.net === null ? [] : [p.net]));
  const last = nets.at(-1) ?? null;
  const fell = last !== null && nets.length >= leastReadings && last <= (1 - movedPart) * Math.max(...nets) && points.at(-1)?.near === true;
  const middle = near[Math.floor(near.length / 2)] ?? null;
  const spread = near.length > 1 ? ((near.at(-1) ?? 0) - (near[0] ?? 0)) / 2 : instrument.volts.resolution;
  return {
    level: middle,
    count: near.length,
    scatter: { name: `Spread of ${near.length} readings`, halfWidth: spread / Math.sqrt(Math.max(1, near.length)), divisor: 1, kind: 'random' },
    seconds,
    apart,
    fallenTo: fell ? last : null,
    regulated: regulatedBy(at, instrument),
  };
}

/** What shows that a voltage was held: the charger’s current moved by a part of itself while it stood within the meter’s own steps. */
function regulatedBy(at: readonly { readonly referred: number; readonly amps: number | null }[], instrument: Instrument): string | null {
  const amps = at.flatMap((p) => (p.amps === null ? [] : [p.amps]));
  if (amps.length < leastReadings) return null;
  const [low, high] = [Math.min(...amps), Math.max(...amps)];
  const volts = at.map((p) => p.referred);
  const spread = Math.max(...volts) - Math.min(...volts);
  const middle = volts[0] ?? 0;
  if (high - low < movedPart * high || spread > 0.004 * middle + 2 * instrument.volts.resolution) return null;
  return `The voltage stayed level while its current moved between ${formatQuantity(low, 'A', 1)} and ${formatQuantity(high, 'A', 1)}.`;
}

/** What speaks for a level that was read again and again: a touch is no hold, and a voltage on its way is none either. */
export const heldWitness = (held: Held, name: string): Witness =>
  held.count < leastReadings
    ? {
        missing: `${held.count === 1 ? 'One reading is a touch' : 'Two readings are a touch'}, not a hold.`,
        next: `Read on: at least ${leastReadings} readings.`,
      }
    : held.regulated !== null
      ? { words: held.regulated }
      : {
          missing: `Nothing shows that ${name} held it there: its current did not move while the voltage stayed level.`,
          next: 'Read on until its current has fallen, or switch a load on and off.',
        };
