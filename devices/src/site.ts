import { readJob, type Job } from '@calm-keel/core/job';
import { makeLivePlant, scenarioNamed, variantValues, type LivePlant } from '@calm-keel/core/rehearsal';
import { cardOf, deriveSettings, devicesOf } from '@calm-keel/core/settings';
import { makeDevice, type Device } from './device';

/** One bank with everything that hangs on it. */
export interface Site {
  readonly id: string;
  readonly name: string;
  readonly plant: LivePlant;
  readonly devices: readonly Device[];
  light: number;
  /** Where sensors are held, by device. */
  readonly held: Map<string, number | null>;
  shiftC: number;
}

/**
 * Makes a site of a job: every device whose card tells of registers, on one bank, standing as the job found it. It begins on a clear morning.
 *
 * @throws Error with a sentence where the job makes no sense
 */
function makeSite(job: Job): Site {
  const plan = deriveSettings(job);
  const day = scenarioNamed(plan, 'clear-day');
  if (!day) throw new Error(`${job.name}: there is no clear day to begin with.`);
  const values = variantValues(plan, 'asFound');
  const plant = makeLivePlant(plan, { ...day, fromHour: 9, charge: 0.9 }, values);
  if (!plant.ok) throw new Error(`${job.name}: ${plant.problems.map((p) => p.text).join(' ')}`);
  const devices = devicesOf(plan.input).flatMap((charger) => {
    const card = cardOf(plan.input, charger);
    return card?.telemetry ? [makeDevice(plan, plant.value, charger, card, card.telemetry, values[charger.id] ?? {})] : [];
  });
  return { id: job.id, name: job.name, plant: plant.value, devices, light: 1, shiftC: 0, held: new Map() };
}

/** Sites of job files; a file that is no job is an error, not a site less. */
export function sitesOf(texts: readonly string[]): readonly Site[] {
  return texts.map((text) => {
    const job = readJob(text);
    if (!job.ok) throw new Error(job.problems.map((p) => p.text).join(' '));
    return makeSite(job.value);
  });
}
