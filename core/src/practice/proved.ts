import type { Log, LogReport } from '../proof';
import { runLog } from '../rehearsal';
import type { Bench } from './bench';

/** The day before as a log with its report, to be judged like any other; null where the logger was off. */
export function logOfYesterday(bench: Bench): { readonly log: Log; readonly report: LogReport } | null {
  const run = bench.yesterday();
  if (!run) return null;
  return { log: runLog(run), report: { rows: run.time.length, skipped: 0, firstSkipped: [], intervalSeconds: run.everyS, gaps: [], notes: [] } };
}
