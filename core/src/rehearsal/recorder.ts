import type { ChargerTrace, Run } from './record';
import { inputVoltsOf, type Unit } from './unit';

/** What a run was at one moment: s from its start, volts at the bank's terminals, net A into it. */
interface Moment {
  readonly now: number;
  readonly terminal: number;
  readonly net: number;
}

/** Samples of a run at even spacing, with the extremes between them. */
export interface Recorder {
  /** When the next sample is due, s from the start; Infinity when all are taken. */
  dueS(): number;
  /** A voltage between two samples, for their extremes. */
  sees(volts: number): void;
  take(moment: Moment, charge: number, batteryC: number, amps: Float64Array): void;
  columns(): Pick<Run, 'time' | 'bankVolts' | 'bankLow' | 'bankHigh' | 'bankAmps' | 'batteryC' | 'charge' | 'chargers'>;
}

/**
 * Makes room for every sample of a run at once.
 *
 * @param startS seconds since 1970
 */
export function makeRecorder(units: readonly Unit[], startS: number, spanS: number, everyS: number): Recorder {
  const rows = Math.floor(spanS / everyS) + 1;
  const column = (): Float32Array => new Float32Array(rows);
  const time = new Float64Array(rows);
  const bank = { bankVolts: column(), bankLow: column(), bankHigh: column(), bankAmps: column(), batteryC: column(), charge: column() };
  const traces = units.map(() => ({ amps: column(), ready: column(), arrayVolts: column(), sensorC: column(), stage: new Uint8Array(rows) }));
  const machines = units.map((u) => (u.card.kind === 'alternator' ? column() : null));
  let row = 0;
  let low = Infinity;
  let high = -Infinity;
  return {
    dueS: () => (row < rows ? row * everyS : Infinity),
    sees(volts) {
      if (volts < low) low = volts;
      if (volts > high) high = volts;
    },
    take({ now, terminal, net }, charge, batteryC, amps) {
      time[row] = startS + now;
      bank.bankVolts[row] = terminal;
      bank.bankLow[row] = Math.min(low, terminal);
      bank.bankHigh[row] = Math.max(high, terminal);
      bank.bankAmps[row] = net;
      bank.batteryC[row] = batteryC;
      bank.charge[row] = charge;
      units.forEach((u, k) => {
        const trace = traces[k];
        if (!trace) return;
        const own = amps[k] ?? 0;
        trace.amps[row] = own;
        trace.ready[row] = u.state.stage === 'off' ? 0 : u.ready;
        trace.sensorC[row] = u.reading.celsius;
        trace.stage[row] = u.code;
        const machine = machines[k];
        if (machine) machine[row] = u.reading.machineC;
        trace.arrayVolts[row] = inputVoltsOf(u, own);
      });
      row++;
      low = Infinity;
      high = -Infinity;
    },
    columns() {
      const taken = <T extends Record<string, Float32Array | Uint8Array>>(of: T): T =>
        Object.fromEntries(Object.entries(of).map(([name, values]) => [name, values.subarray(0, row)])) as T;
      return {
        time: time.subarray(0, row),
        ...taken(bank),
        chargers: units.map((u, k): ChargerTrace => {
          const trace = traces[k];
          if (!trace) throw new Error('a trace for every charger');
          const machine = machines[k];
          return { id: u.charger.id, ...taken(trace), ...(machine ? taken({ machineC: machine }) : {}), spans: u.spans, totals: u.totals };
        }),
      };
    },
  };
}
