import { decimate, type Trace } from '@calm-keel/core/proof';
import { evaluateRun, eventWords, type Run } from '@calm-keel/core/rehearsal';
import type { Plan } from '@calm-keel/core/settings';

/** Points of a drawn trace: a whole day is drawn as it was recorded, longer runs by their least and greatest. */
const plotPoints = 6000;

/** A run as the page draws and tells it. */
export function viewOf(plan: Plan, run: Run) {
  const trace = (values: Float32Array): Trace => decimate(run.time, values, plotPoints, Infinity);
  // Between two samples of a long run the voltage has moved: both its ends are drawn.
  const both = new Float64Array(run.time.length * 2);
  const ends = new Float32Array(run.time.length * 2);
  run.time.forEach((t, i) => {
    both[2 * i] = t;
    both[2 * i + 1] = t;
    ends[2 * i] = run.bankLow[i] ?? NaN;
    ends[2 * i + 1] = run.bankHigh[i] ?? NaN;
  });
  return {
    from: run.from,
    to: run.to,
    volts: run.everyS > 10 ? decimate(both, ends, plotPoints, Infinity) : trace(run.bankVolts),
    bankAmps: trace(run.bankAmps),
    charge: trace(run.charge),
    battery: trace(run.batteryC),
    chargers: run.chargers.map((c) => ({ id: c.id, amps: trace(c.amps), ready: trace(c.ready), sensor: trace(c.sensorC), spans: c.spans, totals: c.totals })),
    events: run.events.map((e) => ({
      at: e.at,
      kind: e.kind,
      device: e.device ?? null,
      text: eventWords(plan, e),
      beginsAbsorb: e.cause === 'touched' || e.cause === 'held',
    })),
    eventsLost: run.eventsLost,
    outcomes: evaluateRun(plan, run),
    totals: run.totals,
    notes: run.notes,
  };
}

/** What is shown of one variant. */
export type RunView = ReturnType<typeof viewOf>;
