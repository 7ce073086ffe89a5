import type { Log, LogReport } from '../proof';
import { rehearse, runLog, type Run } from '../rehearsal';
import { deriveSettings } from '../settings';
import type { Setup } from './faults';
import { planWith } from './prepared';

/** The day before somebody arrived, as a logger wrote it; null where the installation makes too little sense to be run. */
export function yesterdayOf({ truth, inUse, scenario, light, loadA, unplugged, isolated }: Setup): Run | null {
  const chargers = truth.system.chargers.map((c) =>
    isolated.includes(c.id) && c.array ? { ...c, array: { ...c.array, shaded: c.array.inSeries * c.array.inParallel, shadeLight: 0 } } : c,
  );
  const made = rehearse({
    plan: planWith(deriveSettings({ ...truth, system: { ...truth.system, chargers } }), inUse),
    scenario: {
      ...scenario,
      fromHour: 0,
      snow: 1 - light,
      load: { ...scenario.load, baseA: scenario.load.baseA + loadA },
      unplugged: [...unplugged],
    },
    values: inUse,
  });
  return made.ok ? made.value : null;
}

/** A logger’s day as a log with its report, to be judged like any other. */
export const logOfDay = (run: Run): { readonly log: Log; readonly report: LogReport } => ({
  log: runLog(run),
  report: { rows: run.time.length, skipped: 0, firstSkipped: [], intervalSeconds: run.everyS, gaps: [], notes: [] },
});
