import { proveLog, speakRow, type ChargerColumns, type Log, type LogReport, type SpokenRow } from '../proof';
import { plan, teasel, wholeTeasel } from './fixtures';
import { keyed } from './keyed';
import { madeLog } from './logs';

/** The launch with its two solar chargers, keyed and read back, and the monitor that writes its logs. */
export const solarLaunch = plan(keyed(teasel()));
const monitor = teasel().system.instruments[1]!;

/** A made-up log. */
export interface Made {
  readonly log: Log;
  readonly report: LogReport;
}

export const rowsOf = (made: Made, of = solarLaunch): readonly SpokenRow[] => proveLog(of, made.log, made.report, monitor).rows.map((r) => speakRow(r, 'C'));

/** The verdict of a log on one requirement. */
export const row = (made: Made, code: string, charger?: string, of = solarLaunch): SpokenRow =>
  rowsOf(made, of).find((r) => r.requirement.code === code && r.requirement.charger === charger)!;

export const change = (made: Made, log: Partial<Log>): Made => ({ ...made, log: { ...made.log, ...log } });

/** A column of seconds since the log began. */
export const column = (made: Made, at: (second: number) => number): Float32Array => Float32Array.from(made.log.time, (t) => at(t - made.log.time[0]!));

/** Another charger beside "aft". */
export const beside = (made: Made, id: string, columns: ChargerColumns): Made => change(made, { chargers: { ...made.log.chargers, [id]: columns } });

/** More columns of "aft". */
export const aft = (made: Made, columns: ChargerColumns): Made => beside(made, 'aft', { ...made.log.chargers['aft'], ...columns });

/** The launch with everything it has. */
export const wholeLaunch = plan(wholeTeasel());

/** The same with a monitor that is known to wait so long before it switches the loads, s. */
export const withLoadDelay = (seconds: number): typeof wholeLaunch => ({
  ...wholeLaunch,
  setting: (device, role) =>
    role === 'loadDisconnectDelay' || role === 'loadReconnectDelay'
      ? { ...wholeLaunch.setting('monitor', 'loadDisconnect')!, trueValue: seconds }
      : wholeLaunch.setting(device, role),
});

/** What three hours of an alternator say of its temperature, by that and its current at each second. */
export function machineRow(machineC: (second: number) => number, amps: (second: number) => number): SpokenRow {
  const made = madeLog(3 * 3600, 10, () => ({ volts: 27, amps: 0 }));
  return row(beside(made, 'alternator', { amps: column(made, amps), machineC: column(made, machineC) }), 'machineTemperature', 'alternator', wholeLaunch);
}
