import { lastSnapshot, type Job } from '../job';
import type { Plan } from '../settings';

/**
 * The last time that a device was seen to hold every value that is worked out for it now; null while nobody has seen that. One value that it showed
 * otherwise, or that was worked out anew since, and none of it counts.
 */
export function readBackOf(job: Pick<Job, 'snapshots'>, plan: Plan, device: string): Job['snapshots'][number] | null {
  const shot = lastSnapshot(job, device, ['readBack', 'powerCycle']);
  const own = plan.settings.filter((s) => s.charger === device && s.value !== null && !s.inherited);
  return shot !== null && own.every((s) => shot.values[s.role] === s.value) ? shot : null;
}
