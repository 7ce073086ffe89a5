import { proveLog, speakRow, type ChargerColumns, type Log, type LogReport, type SpokenRow } from '../proof';
import { plan, teasel } from './fixtures';
import { keyed } from './keyed';

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
