import type { BudgetLine } from '../quantity';
import type { Plan } from '../settings';
import type { Instrument } from '../system';
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
  /** Net current of the last reading that had one, A. */
  readonly lastNet: number | null;
}

/** Reads a series as a stay at a level: readings within one part in a hundred of what is expected at their temperature. */
export function minutesHeld(plan: Plan, device: string, role: 'absorbVoltage' | 'floatVoltage', record: TestRecord, instrument: Instrument): Held | null {
  const reference = plan.input.sheet.figures.compensationReference?.target ?? 25;
  const points = record.series.flatMap((a) => {
    const { volts, net, celsius } = a.values;
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
      },
    ];
  });
  if (points.length === 0) return null;
  const near = points
    .filter((p) => p.near)
    .map((p) => p.referred)
    .sort((a, b) => a - b);
  let seconds = 0;
  let apart = 0;
  points.forEach((p, i) => {
    const before = points[i - 1];
    if (!before?.near || !p.near) return;
    seconds += p.t - before.t;
    apart = Math.max(apart, p.t - before.t);
  });
  const middle = near[Math.floor(near.length / 2)] ?? null;
  const spread = near.length > 1 ? ((near.at(-1) ?? 0) - (near[0] ?? 0)) / 2 : instrument.volts.resolution;
  return {
    level: middle,
    count: near.length,
    scatter: { name: `Spread of ${near.length} readings`, halfWidth: spread / Math.sqrt(Math.max(1, near.length)), divisor: 1, kind: 'random' },
    seconds,
    apart,
    lastNet: points.findLast((p) => p.net !== null)?.net ?? null,
  };
}
