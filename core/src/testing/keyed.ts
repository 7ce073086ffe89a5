import type { Job } from '../job';
import { deriveSettings, targetsOf } from '../settings';

/** A job whose devices were keyed by its run sheet and read back: each shows its target. */
export function keyed(job: Job): Job {
  const plan = deriveSettings(job);
  const shown = <T extends { readonly id: string; readonly present: Job['system']['chargers'][number]['present'] }>(device: T): T => ({
    ...device,
    present: { ...device.present, ...targetsOf(plan, device.id) },
  });
  const { system } = job;
  return { ...job, system: { ...system, chargers: system.chargers.map(shown), companions: system.companions.map(shown) } };
}
