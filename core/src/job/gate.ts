import { aboutOf, findFindings, type Finding } from '../findings';
import { deriveSettings, targetsOf, type Plan } from '../settings';
import { acceptedBy } from './accept';
import type { Job } from './job';

/** Stops that are open: not resolved, and accepted by nobody. */
export const openStops = (findings: readonly Finding[], job: Job): readonly Finding[] => findings.filter((f) => f.severity === 'stop' && !acceptedBy(job, f));

/**
 * Open stops that would still be there when every device holds its targets: while there are any, entering is not begun. The others speak of what
 * was found, and entering is what fixes them.
 *
 * @param today year-month-day
 */
export function stopsThatStay(job: Job, plan: Plan, findings: readonly Finding[], today: string): readonly Finding[] {
  const open = openStops(findings, job);
  if (open.length === 0) return open;
  const keyed = <T extends Job['system']['chargers'][number] | Job['system']['companions'][number]>(device: T): T => ({
    ...device,
    present: { ...device.present, ...targetsOf(plan, device.id) },
  });
  const { system } = job;
  const after = findFindings(
    deriveSettings({ ...job, system: { ...system, chargers: system.chargers.map(keyed), companions: system.companions.map(keyed) } }),
    today,
  );
  return open.filter((f) => after.some((a) => a.severity === 'stop' && aboutOf(a) === aboutOf(f)));
}
