import { displayText, parameterFor, type DeviceValues, type Role } from '../card';
import {
  backPrefix,
  editOf,
  keptAnswers,
  nextOpen,
  runSheet,
  valuesAfter,
  type Answer,
  type Before,
  type Programming,
  type RunSheet,
  type Snapshot,
  type SheetStep,
  type Way,
} from '../runsheet';
import { cardOf, deriveSettings, devicesOf } from '../settings';
import type { Sensor } from '../system';
import { onPresent } from './devices';
import { mostPastSheets, type Job } from './job';

/** Who does something, when, and how it was read. */
export interface Doing {
  /** ISO time. */
  readonly at: string;
  readonly by: string;
  readonly way: Way;
}

/** Values told one by one when a power cut took them away; the rest are counted. */
const mostTold = 4;

/** Most snapshots a job keeps; the oldest of a device that has newer ones goes first. */
const mostSnapshots = 300;

/** The run sheet of a job as it stands. */
export const sheetOf = (job: Job): RunSheet => runSheet(deriveSettings(job), job.programming);

/** The newest snapshot of a device; null without one. */
export const lastSnapshot = (job: Pick<Job, 'snapshots'>, device: string, verified?: readonly Snapshot['verified'][]): Snapshot | null =>
  job.snapshots.findLast((s) => s.device === device && (verified?.includes(s.verified) ?? true)) ?? null;

/** Begins a run sheet: what is noted on the devices now counts as found, and what the last snapshot says becomes the last visit. */
export function beginProgramming(job: Job, { at, by }: Doing, instrument: string): Job {
  const found = Object.fromEntries(devicesOf(job).map((d) => [d.id, d.present]));
  const visited = <T extends { readonly id: string }>(device: T): T => {
    const last = lastSnapshot(job, device.id, ['readBack', 'powerCycle']);
    return last ? { ...device, lastVisit: { date: last.date, values: last.values } } : device;
  };
  return {
    ...job,
    system: { ...job.system, chargers: job.system.chargers.map(visited), companions: job.system.companions.map(visited) },
    // What was answered on an earlier visit stays with the job.
    pastSheets: job.programming && job.programming.answers.length > 0 ? [...job.pastSheets, job.programming].slice(-mostPastSheets) : job.pastSheets,
    programming: { begunAt: at, endedAt: null, by, instrument, aim: 'set', found, answers: [], at: null, trouble: [] },
  };
}

/** Keeps what stands on a device, with who, when and how it was verified. */
function keepSnapshot(job: Job, device: string, doing: Doing, verified: Snapshot['verified'], values: DeviceValues): Job {
  const firmware = devicesOf(job).find((d) => d.id === device)?.firmware;
  const snapshot: Snapshot = { device, date: doing.at.slice(0, 10), ...doing, verified, values, ...(firmware === undefined ? {} : { firmware }) };
  return { ...job, snapshots: [...job.snapshots, snapshot].slice(-mostSnapshots) };
}

/** A sensor with what is known of its being there. */
function withFitted(sensor: Sensor, fitted: boolean | null): Sensor {
  const { fitted: _before, ...rest } = sensor;
  return fitted === null ? rest : { ...rest, fitted };
}

/** A device with some of its notes changed. */
function withNotes(job: Job, device: string | null, { firmware, displayReadings, passcodeChanged, sensorFitted, resetSinceProof }: Before): Job {
  const { system } = job;
  const named = <T extends { readonly id: string; firmware?: string | undefined }>(d: T): T => {
    if (d.id !== device) return d;
    const marked = resetSinceProof === undefined ? d : { ...d, resetSinceProof };
    if (firmware === undefined) return marked;
    const { firmware: _gone, ...rest } = marked;
    return (firmware === null ? rest : { ...rest, firmware }) as T;
  };
  const noted = (c: Job['system']['chargers'][number]): Job['system']['chargers'][number] =>
    c.id !== device
      ? c
      : {
          ...c,
          displayReadings: displayReadings ?? c.displayReadings,
          passcodeChanged: passcodeChanged ?? c.passcodeChanged,
          sensor: sensorFitted === undefined ? c.sensor : withFitted(c.sensor, sensorFitted),
        };
  return { ...job, system: { ...system, chargers: system.chargers.map((c) => noted(named(c))), companions: system.companions.map(named) } };
}

/** What else of the job an answer changes, and how that was before; null where it changes nothing but values. */
function notesOf(
  job: Job,
  step: SheetStep,
  given: Pick<Answer, 'state' | 'reading' | 'values' | 'meterV' | 'displayV'>,
): { after: Before; before: Before } | null {
  const device = devicesOf(job).find((d) => d.id === step.device);
  if (!device || given.state !== 'done') return null;
  switch (step.kind) {
    case 'identify':
      return typeof given.reading === 'string' ? { after: { firmware: given.reading }, before: { firmware: device.firmware ?? null } } : null;
    case 'compare': {
      const { meterV, displayV } = given;
      if (meterV === undefined || displayV === undefined) return null;
      const { displayReadings } = device;
      // A comparison at nearly the same volts replaces the one before: an instrument is compared anew on every visit.
      const others = displayReadings.filter((r) => Math.abs(r.meterV - meterV) > 0.02 * meterV);
      return { after: { displayReadings: [...others, { meterV, displayV }].slice(-6) }, before: { displayReadings } };
    }
    case 'passcode':
      return { after: { passcodeChanged: true }, before: { passcodeChanged: device.passcodeChanged } };
    case 'sensor':
      return step.unplugs ? { after: { sensorFitted: false }, before: { sensorFitted: device.sensor.fitted ?? null } } : null;
    case 'persist':
      // Every value was read again: what a reset put in doubt is settled.
      return device.resetSinceProof ? { after: { resetSinceProof: false }, before: { resetSinceProof: true } } : null;
    case 'readOff':
      return { after: {}, before: { found: job.programming?.found[device.id] ?? {} } };
    default:
      return null;
  }
}

/** Writes what stands on a device by what was found and answered. */
function settled(job: Job, device: string | null, sheet: RunSheet): Job {
  const record = job.programming;
  if (!record || device === null) return job;
  const present = valuesAfter(device, record.found[device] ?? {}, record.answers, sheet.steps);
  return onPresent(job, device, () => present);
}

/** The run sheet with an answer in place of the one before to the same step. */
const answered = (record: Programming, answer: Answer): Programming => ({
  ...record,
  answers: [...record.answers.filter((a) => a.step !== answer.step), answer],
});

/**
 * Answers a step and moves on to the next that is open. A step the sheet does not know leaves the job as it is.
 *
 * Values read after a power cut that are not as wanted open their edits again, with what was seen kept as trouble.
 */
export function answerStep(job: Job, stepId: string, doing: Doing, given: Omit<Answer, 'step' | 'at' | 'by' | 'way'>): Job {
  const record = job.programming;
  const sheet = sheetOf(job);
  const step = sheet.steps.find((s) => s.id === stepId);
  if (!record || !step) return job;
  const answer: Answer = { step: stepId, ...doing, ...given, ...(step.value && given.state === 'done' ? { wanted: step.value.to } : {}) };
  const lost =
    step.kind === 'persist' && answer.state === 'done' ? (step.looks ?? []).filter((l) => l.want !== null && answer.values?.[l.role] !== l.want) : [];
  if (lost.length > 0)
    return reopened(
      job,
      sheet,
      step,
      doing,
      answer.values ?? {},
      lost.map((l) => l.role),
    );
  const notes = notesOf(job, step, answer);
  // Answered again, what was before the first answer is what undoing brings back.
  const before = record.answers.find((a) => a.step === stepId)?.before ?? notes?.before;
  const kept: Answer = before ? { ...answer, before } : answer;
  let next: Job = { ...job, programming: answered(record, kept) };
  if (notes) next = withNotes(next, step.device, notes.after);
  if (step.kind === 'readOff' && step.device !== null && answer.values) {
    const found = { ...record.found[step.device], ...answer.values };
    next = { ...next, programming: { ...answered(record, kept), found: { ...record.found, [step.device]: found } } };
    next = keepSnapshot(next, step.device, doing, 'readOff', found);
  }
  next = settled(next, step.device, sheet);
  if (step.kind === 'persist' && answer.state === 'done' && step.device !== null) {
    const keyedHere = record.answers.some((a) => editOf(a.step)?.device === step.device && a.state === 'done');
    next = keepSnapshot(next, step.device, doing, keyedHere ? 'powerCycle' : 'readBack', devicesOf(next).find((d) => d.id === step.device)?.present ?? {});
  }
  return moved(next, stepId);
}

/** The cursor on the next open step; at the end of all, the sheet is ended by whoever holds it. */
function moved(job: Job, after: string): Job {
  const record = job.programming;
  if (!record) return job;
  return { ...job, programming: { ...record, at: nextOpen(sheetOf(job), record, after) } };
}

/** Values that did not survive: their edits stand open again, the save with them, and what was seen is kept. */
function reopened(job: Job, sheet: RunSheet, step: SheetStep, doing: Doing, seen: DeviceValues, lost: readonly Role[]): Job {
  const record = job.programming;
  const device = step.device;
  if (!record || device === null) return job;
  const prefix = step.id.startsWith(backPrefix) ? backPrefix : '';
  const gone = new Set([...lost.map((role) => `${prefix}${device}/edit/${role}`), `${prefix}${device}/commit`, step.id]);
  const card = cardOf(job, devicesOf(job).find((d) => d.id === device) ?? { card: '' });
  const read = (role: Role): string => {
    const value = seen[role];
    const p = card && parameterFor(card, role);
    return value === undefined ? 'nothing that was noted' : p ? displayText(p, value) : String(value);
  };
  const otherwise = (step.looks ?? []).filter((l) => lost.includes(l.role)).map((l) => `${l.label} reads ${read(l.role)} instead of ${l.text}`);
  const more = otherwise.length - mostTold;
  const words = [...otherwise.slice(0, mostTold), ...(more > 0 ? [more === 1 ? 'and one more' : `and ${more} more`] : [])];
  const found = { ...record.found[device] };
  // An edit that was never needed is needed now: what is seen is what stands there.
  for (const role of lost) {
    const value = seen[role];
    if (value !== undefined && !record.answers.some((a) => a.step === `${prefix}${device}/edit/${role}`)) Object.assign(found, { [role]: value });
  }
  const next: Programming = {
    ...record,
    found: { ...record.found, [device]: found },
    answers: record.answers.filter((a) => !gone.has(a.step)),
    trouble: [...record.trouble, { at: doing.at, device, step: step.id, text: `After the power cut: ${words.join('; ')}.`.slice(0, 400) }].slice(-300),
  };
  const present = { ...valuesAfter(device, found, next.answers, sheet.steps), ...seen };
  const opened = onPresent({ ...job, programming: next }, device, () => present);
  const again = sheetOf(opened).steps.find((s) => gone.has(s.id) && s.kind === 'edit');
  return { ...opened, programming: { ...next, at: again?.id ?? null } };
}

/** Notes something that went otherwise than it should, without answering the step. */
export function noteTrouble(job: Job, step: Pick<SheetStep, 'id' | 'device'>, at: string, text: string): Job {
  const record = job.programming;
  if (!record) return job;
  return { ...job, programming: { ...record, trouble: [...record.trouble, { at, device: step.device, step: step.id, text: text.slice(0, 400) }].slice(-300) } };
}

/** Takes the last answer back and shows its step again. */
export function undoAnswer(job: Job): Job {
  const record = job.programming;
  const last = record?.answers.at(-1);
  if (!record || !last) return job;
  const sheet = sheetOf(job);
  const step = sheet.steps.find((s) => s.id === last.step);
  const device = step?.device ?? null;
  const found = device !== null && last.before?.found ? { ...record.found, [device]: last.before.found } : record.found;
  const taken = { ...job, programming: { ...record, found, answers: record.answers.slice(0, -1), at: last.step, endedAt: null } };
  const next = last.before ? withNotes(taken, device, last.before) : taken;
  // A snapshot rests on its answer and goes with it.
  const snapshots =
    step && ['persist', 'readOff'].includes(step.kind) ? job.snapshots.filter((s) => s.device !== step.device || s.at !== last.at) : job.snapshots;
  return settled({ ...next, snapshots }, device, sheet);
}

/** Shows a step of the sheet. */
export const showStep = (job: Job, id: string | null): Job => (job.programming ? { ...job, programming: { ...job.programming, at: id } } : job);

/** Turns the sheet round: back to what was found, or forward again to the targets. */
export const aimAt = (job: Job, aim: Programming['aim']): Job =>
  job.programming ? { ...job, programming: { ...job.programming, aim, at: null, endedAt: null } } : job;

/** Ends the sheet. What was keyed and never proved by a power cut is kept as read back. */
export function endProgramming(job: Job, doing: Doing): Job {
  const record = job.programming;
  if (!record) return job;
  const kept = keptAnswers(record);
  const keyed = new Set(record.answers.flatMap((a) => (a.state === 'done' ? (editOf(a.step)?.device ?? []) : [])));
  const ended: Job = { ...job, programming: { ...record, endedAt: doing.at, at: null } };
  return [...keyed]
    .filter((device) => !['', backPrefix].some((prefix) => kept.get(`${prefix}${device}/persist`)?.state === 'done'))
    .reduce((next, device) => keepSnapshot(next, device, doing, 'readBack', devicesOf(job).find((d) => d.id === device)?.present ?? {}), ended);
}

/** A setting that is otherwise than it was left: somebody, or something, changed it since. */
export interface ChangedSince {
  readonly device: string;
  readonly role: Role;
  readonly left: number | string;
  readonly now: number | string;
  /** The snapshot that says how it was left. */
  readonly since: Snapshot;
}

/** What stands otherwise than the newest verified snapshot left it; found values of a sheet under way are compared, not what it keys. */
export function changedSince(job: Job): readonly ChangedSince[] {
  const record = job.programming?.endedAt === null ? job.programming : null;
  return devicesOf(job).flatMap((d) => {
    const last = job.snapshots.findLast((s) => s.device === d.id && s.verified !== 'readOff' && (record === null || s.at < record.begunAt));
    if (!last) return [];
    const now = record ? (record.found[d.id] ?? {}) : d.present;
    return (Object.entries(last.values) as [Role, number | string][]).flatMap(([role, left]) => {
      const value = now[role];
      return value === undefined || value === left ? [] : [{ device: d.id, role, left, now: value, since: last }];
    });
  });
}

/** Values read from a device’s registers, or typed in one go: noted as found, and kept as a snapshot. */
export function noteFound(job: Job, device: string, doing: Doing, values: DeviceValues): Job {
  const merged = { ...devicesOf(job).find((d) => d.id === device)?.present, ...values };
  return keepSnapshot(
    onPresent(job, device, () => merged),
    device,
    doing,
    'readOff',
    merged,
  );
}
