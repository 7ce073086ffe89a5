import { readJob } from '@calm-keel/core/job';
import { rehearse, scenarioNamed, variantValues } from '@calm-keel/core/rehearsal';
import { deriveSettings } from '@calm-keel/core/settings';

/** What of a rehearsed day is compared between engines. Bundled for both; no browser, no Node in it. */
export function rehearsedFor(jobText: string, scenarioName: string) {
  const job = readJob(jobText);
  if (!job.ok) throw new Error(job.problems[0]?.text);
  const plan = deriveSettings(job.value);
  const scenario = scenarioNamed(plan, scenarioName);
  if (!scenario) throw new Error(`no scenario ${scenarioName}`);
  const run = rehearse({ plan, scenario, values: variantValues(plan, 'asSet'), stored: variantValues(plan, 'asFound') });
  if (!run.ok) throw new Error(run.problems[0]?.text);
  const { events, totals, bankVolts, bankAmps, batteryC, charge, chargers } = run.value;
  return {
    events: events.map(({ kind, device, stage, cause, trip }) => [kind, device, stage, cause, trip].map((x) => x ?? '').join(' ')),
    moments: events.flatMap((e) => [e.at, e.bankV, e.bankA, e.batteryC, e.charge]),
    totals: Object.values(totals).filter((x): x is number => typeof x === 'number' && Number.isFinite(x)),
    traces: [bankVolts, bankAmps, batteryC, charge, ...chargers.map((c) => c.amps)].map((t) => Array.from(t)),
  };
}
