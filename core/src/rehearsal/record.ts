import type { Cause, Stage } from '../charger';

/** Something that happened in a rehearsed day. Words are made of it by `eventWords`. */
export interface RunEvent {
  /** Seconds since 1970. */
  readonly at: number;
  readonly kind:
    | 'stage'
    | 'bmsOpen'
    | 'bmsClosed'
    | 'loadOff'
    | 'loadOn'
    | 'monitorFull'
    | 'diverting'
    | 'heatCut'
    | 'powerCut'
    | 'relayOpen'
    | 'relayClosed'
    | 'overAllowed';
  /** Charger or companion; missing for the bank. */
  readonly device?: string;
  readonly stage?: Stage;
  readonly before?: Stage;
  readonly cause?: Cause;
  /** For `bmsOpen`: what tripped it. */
  readonly trip?: 'high' | 'cell' | 'low' | 'current' | 'cold' | 'scenario';
  /** Bank volts, volts as the device measures them, its amps, the bank's amps, battery °C, sensor °C, charge 0 to 1. */
  readonly bankV: number;
  readonly ownV?: number;
  readonly amps?: number;
  readonly bankA: number;
  readonly batteryC: number;
  readonly sensorC?: number;
  readonly charge: number;
  /** s that counted for absorb when it ended; s since the stage before began. */
  readonly counted?: number;
  readonly lasted?: number;
  /** A number that goes with the event: allowed amps, volts of the trip, watts diverted. */
  readonly figure?: number;
}

/** A stretch of one stage. */
export interface RunSpan {
  readonly stage: Stage;
  readonly cause: Cause;
  readonly from: number;
  to: number;
  /** s at voltage while in absorb. */
  counted: number;
}

/** What was recorded of one charger. */
export interface ChargerTrace {
  readonly id: string;
  readonly amps: Float32Array;
  /** What its source could have given, A. */
  readonly ready: Float32Array;
  readonly arrayVolts: Float32Array;
  readonly sensorC: Float32Array;
  /** Temperature of the machine an alternator’s regulator drives, °C. */
  readonly machineC?: Float32Array;
  readonly stage: Uint8Array;
  readonly spans: readonly RunSpan[];
  readonly totals: ChargerTotals;
}

/** Sums over a run, for one charger. */
export interface ChargerTotals {
  ah: number;
  /** s in each stage, by the list of stages. */
  readonly seconds: number[];
  /** s in absorb at voltage, whatever its timer counts. */
  atVoltage: number;
  /** Mean bank volts while it regulated in absorb and in float. */
  absorbVs: number;
  absorbS: number;
  floatVs: number;
  floatS: number;
  /** Coldest cell while it charged, °C; Infinity when it never did. */
  coldest: number;
  coldestAt: number;
  /** s with its source there while the cells were below the sheet's least. */
  coldReady: number;
  /** Ah given below the sheet's least. */
  coldAh: number;
  peakA: number;
}

/** A rehearsed stretch of time. Times are seconds since 1970 on a clock without a zone. */
export interface Run {
  readonly from: number;
  readonly to: number;
  readonly everyS: number;
  readonly time: Float64Array;
  /** At the bank's terminals: value at the sample, and the extremes since the sample before. */
  readonly bankVolts: Float32Array;
  readonly bankLow: Float32Array;
  readonly bankHigh: Float32Array;
  readonly bankAmps: Float32Array;
  readonly batteryC: Float32Array;
  /** 0 to 1. */
  readonly charge: Float32Array;
  readonly chargers: readonly ChargerTrace[];
  readonly events: readonly RunEvent[];
  /** Events beyond the most that is kept. */
  readonly eventsLost: number;
  readonly totals: RunTotals;
  /** Said once for the whole run: what was taken for granted. */
  readonly notes: readonly string[];
  readonly steps: number;
}

/** Sums over a run, for the bank. */
export interface RunTotals {
  /** Ah into and out of the bank at its terminals, kept in the cells at the end and at the start, and lost on the way. */
  inAh: number;
  outAh: number;
  storedBeforeAh: number;
  storedAfterAh: number;
  lostAh: number;
  /** Highest volts at the bank, and when; lowest. */
  highest: number;
  highestAt: number;
  lowest: number;
  lowestAt: number;
  /** First time 99 % was reached; NaN if never. Ah it took. */
  fullAt: number;
  ahToFull: number;
  coldest: number;
  hottest: number;
  /** Most the bank took above what its temperature allows, A; what it took and what was allowed then, at which °C; s above it in all. */
  overA: number;
  overAt: number;
  overTook: number;
  overAllowed: number;
  overC: number;
  overSeconds: number;
  /** Nearest the current came to what is allowed, as took and allowed. */
  nearTook: number;
  nearAllowed: number;
  nearC: number;
  bmsOpenings: number;
  loadOffSeconds: number;
  dumpedAh: number;
  loadAh: number;
  /** Charge balance: in − out − (stored + lost), Ah. */
  imbalanceAh: number;
}

/** Most events that are kept of a run. */
export const mostEvents = 4000;
