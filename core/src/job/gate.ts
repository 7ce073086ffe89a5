import { findFindings, type Finding } from '../findings';
import { deriveSettings, targetsOf, type Plan } from '../settings';
import type { Acceptance, Job } from './job';

/** Who answered for a finding, if it still says the same, numbers included. */
export const acceptedBy = (accepted: readonly Acceptance[], finding: Pick<Finding, 'code' | 'text'>): Acceptance | undefined =>
  accepted.find((a) => a.code === finding.code && a.text === finding.text);

/** Stops that stand: not resolved, and answered for by nobody. */
export const openStops = (findings: readonly Finding[], accepted: readonly Acceptance[]): readonly Finding[] =>
  findings.filter((f) => f.severity === 'stop' && !acceptedBy(accepted, f));

/**
 * Open stops that would still stand when every device holds its targets: while there are any, keying-in is not begun. The others speak of what
 * was found, and keying in is what mends them.
 *
 * @param today year-month-day
 */
export function stopsThatStay(job: Job, plan: Plan, findings: readonly Finding[], today: string): readonly Finding[] {
  const open = openStops(findings, job.accepted);
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
  return open.filter((f) => after.some((a) => a.severity === 'stop' && a.code === f.code && a.charger === f.charger && a.role === f.role));
}
