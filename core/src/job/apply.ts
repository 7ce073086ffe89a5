import type { Change } from '../findings';
import { figureKeys, rankedAs, sameBattery, type Sheet } from '../sheet';
import { assumedOfBattery, schoolsSchema, withSaid } from '../settings';
import type { Instrument } from '../system';
import { onCharger, onCompanion, onPresent } from './devices';
import type { Job } from './job';

/** Applies one change of a remedy. Pure; a change that names something the job has not leaves it as it is. */
export function applyChange(job: Job, change: Change): Job {
  const { system } = job;
  const isIt = (o: Job['overrides'][number], charger: string, role: string): boolean => o.charger === charger && o.role === role;
  switch (change.kind) {
    case 'setSchool': {
      const schools = schoolsSchema.safeParse({ ...job.schools, [change.school]: change.to });
      if (!schools.success) return job;
      const { school, to, chosen } = change;
      const choices = chosen
        ? [...job.choices.filter((c) => c.school !== school || c.date !== chosen.date), { school, to: String(to), ...chosen }]
        : job.choices;
      return { ...job, schools: schools.data, choices };
    }
    case 'override':
      return { ...job, overrides: [...job.overrides.filter((o) => !isIt(o, change.override.charger, change.override.role)), change.override] };
    case 'clearOverride':
      return { ...job, overrides: job.overrides.filter((o) => !isIt(o, change.charger, change.role)) };
    case 'reviewOverride':
      return { ...job, overrides: job.overrides.map((o) => (isIt(o, change.charger, change.role) ? { ...o, reviewedBy: change.by } : o)) };
    case 'recordPresent':
      return onPresent(job, change.charger, (present) => ({ ...present, [change.role]: change.value }));
    case 'setSensor':
      return onCharger(job, change.charger, (c) => ({ ...c, sensor: { ...c.sensor, ...change.sensor } }));
    case 'setCharger':
      return onCharger(job, change.charger, (c) => ({ ...c, ...change.values }));
    case 'setCompanion':
      return onCompanion(job, change.companion, (c) => ({ ...c, ...change.values }));
    case 'setBank':
      return { ...job, system: { ...system, bank: { ...system.bank, ...change.values } } };
    case 'passcodeChanged':
      return onCharger(job, change.charger, (c) => ({ ...c, passcodeChanged: true }));
    case 'confirmAssumed':
      return withSaid(
        {
          ...job,
          system: { ...system, instruments: system.instruments.map((i) => (change.meters?.includes(i.id) ? asStated(i) : i)) },
        },
        change.what,
      );
    case 'rankFigures':
      return { ...job, sheet: rankedAs(job.sheet, change.rank) };
    case 'pinSheet':
      return pinSheet(job, change.sheet);
    case 'setCells':
      return withSaid({ ...job, sheet: { ...job.sheet, unit: { ...job.sheet.unit, cellsInSeries: change.cells } } }, ['cellsInSeries']);
    case 'setBasis': {
      const key = figureKeys.find((k) => k === change.figure);
      const figure = key && job.sheet.figures[key];
      return key && figure ? { ...job, sheet: { ...job.sheet, figures: { ...job.sheet.figures, [key]: { ...figure, basis: change.basis } } } } : job;
    }
  }
}

/** An instrument whose accuracy somebody has read from its manual. */
export function asStated({ assumed: _usual, ...instrument }: Instrument): Instrument {
  return instrument;
}

/** Pins another of the job's sheets; the one pinned so far stays with the job. An id the job has not leaves it as it is. */
export function pinSheet(job: Job, id: string): Job {
  const next = job.otherSheets.find((s) => s.id === id);
  return next ? { ...withSaid(job, assumedOfBattery), sheet: next, otherSheets: [...job.otherSheets.filter((s) => s.id !== id), job.sheet] } : job;
}

/** Takes a sheet from outside as the job’s own copy. One of the same battery that was pinned so far stays with the job. */
export function withSheetTaken(job: Job, sheet: Sheet): Job {
  const others = job.otherSheets.filter((s) => s.id !== sheet.id && sameBattery(s, sheet));
  const before = sameBattery(job.sheet, sheet) && job.sheet.id !== sheet.id ? [job.sheet] : [];
  return { ...withSaid(job, assumedOfBattery), sheet, otherSheets: [...others, ...before] };
}

/**
 * The job with its battery said in one go: whose sheet, how many in series, and how many strings where somebody knows.
 *
 * @param inSeries batteries in series, 1 or more
 * @param strings strings in parallel; left open where nobody has said
 */
export function withBatterySaid(job: Job, sheet: Sheet, inSeries: number, strings?: number): Job {
  const taken = withSheetTaken(job, sheet);
  const bank = { ...taken.system.bank, unitsInSeries: inSeries, ...(strings === undefined ? {} : { stringsInParallel: strings }) };
  return withSaid({ ...taken, system: { ...taken.system, bank } }, ['unitsInSeries', ...(strings === undefined ? [] : ['stringsInParallel'])]);
}

/** Applies all changes of a remedy in order. */
export const applyChanges = (job: Job, changes: readonly Change[]): Job => changes.reduce(applyChange, job);
