import { ownProbe } from '../system';
import type { Run } from './record';

/** A rehearsed run as the columns of a standard log: written as CSV it is read like any other. Its clock carries no zone. */
export function runLog(run: Run) {
  return {
    time: run.time,
    offsetMinutes: null,
    bankVolts: run.bankVolts,
    bankAmps: run.bankAmps,
    batteryC: run.batteryC,
    // The cells themselves: what a probe between them would read.
    batterySensor: ownProbe,
    chargers: Object.fromEntries(
      run.chargers.map((c) => [c.id, { amps: c.amps, arrayVolts: c.arrayVolts, ...(c.machineC ? { machineC: c.machineC } : {}), stage: c.stage }]),
    ),
  };
}
