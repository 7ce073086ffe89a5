import { proveLog, type Proof } from '../proof';
import { runLog } from '../rehearsal';
import { provingMeter } from '../settings';
import type { Bench } from './bench';

/**
 * The day before judged like any log, by the sheet on the wall and the settings worked out from it; null where the logger was off. It says
 * what does not hold, as it would on a job, and leaves the why to whoever reads it.
 */
export function provedYesterday(bench: Bench): Proof | null {
  const run = bench.yesterday();
  if (!run) return null;
  const wall = bench.wall();
  const report = { rows: run.time.length, skipped: 0, firstSkipped: [], intervalSeconds: run.everyS, gaps: [], notes: [] };
  return proveLog(wall, runLog(run), report, provingMeter(wall.input));
}
