import type { DeviceValues, Role } from '../card';
import type { Answer, Programming } from './record';
import type { RunSheet, SheetStep } from './step';

/** Steps of the way back have ids of their own. */
export const backPrefix = 'back/';

/** The last answer of each step. */
export const keptAnswers = ({ answers }: Pick<Programming, 'answers'>): ReadonlyMap<string, Answer> => new Map(answers.map((a) => [a.step, a]));

/** The device and role an edit’s id names; null for other steps. */
export function editOf(id: string): { device: string; role: Role } | null {
  const [device, kind, role] = (id.startsWith(backPrefix) ? id.slice(backPrefix.length) : id).split('/');
  return device !== undefined && kind === 'edit' && role !== undefined ? { device, role: role as Role } : null;
}

/** Whether a step stands answered: it was, and still wants the same value. */
export function isAnswered(step: SheetStep, kept: ReadonlyMap<string, Answer>): boolean {
  const answer = kept.get(step.id);
  if (!answer) return false;
  return answer.state === 'skipped' || step.value === undefined || answer.wanted === undefined || answer.wanted === step.value.to;
}

/** Whether a step is a value to key and read back, and nothing else: no hazard at it, and nothing in its way. Such steps may be answered from a list. */
export const isPlain = ({ kind, caution, blocked, value }: SheetStep): boolean =>
  kind === 'edit' && value !== undefined && caution === undefined && blocked === undefined;

/** Where a run sheet stands. */
export interface Standing {
  /** Place of the step in view; the number of steps when all are answered. */
  readonly at: number;
  readonly done: number;
  readonly skipped: number;
  readonly open: number;
  readonly answered: readonly boolean[];
}

/** Counts a run sheet. The step in view is the one the record names while it exists, else the first that is open. */
export function standingOf(sheet: RunSheet, record: Programming): Standing {
  const kept = keptAnswers(record);
  const answered = sheet.steps.map((s) => isAnswered(s, kept));
  const named = record.at === null ? -1 : sheet.steps.findIndex((s) => s.id === record.at);
  const open = answered.filter((a) => !a).length;
  const first = answered.indexOf(false);
  const skipped = sheet.steps.filter((s, i) => answered[i] && kept.get(s.id)?.state === 'skipped').length;
  return { at: named >= 0 ? named : first < 0 ? sheet.steps.length : first, done: answered.length - open - skipped, skipped, open, answered };
}

/** The next open step after one that was answered; from the beginning again when none is left behind it; null at the end. */
export function nextOpen(sheet: RunSheet, record: Programming, after: string): string | null {
  const kept = keptAnswers(record);
  const from = sheet.steps.findIndex((s) => s.id === after) + 1;
  const open = (s: SheetStep): boolean => !isAnswered(s, kept);
  return (sheet.steps.slice(from).find(open) ?? sheet.steps.slice(0, from).find(open))?.id ?? null;
}

/**
 * What stands on a device after some answers: what was found, what was read off, what was read back. What a preset overwrites by itself is
 * unknown until it is looked at, and so left out.
 */
export function valuesAfter(device: string, found: DeviceValues, answers: readonly Answer[], steps: readonly SheetStep[]): DeviceValues {
  const values: Partial<Record<Role, number | string>> = { ...found };
  const byId = new Map(steps.map((s) => [s.id, s]));
  for (const a of answers) {
    if (a.state !== 'done') continue;
    const edit = editOf(a.step);
    if (edit?.device === device && a.reading !== undefined) {
      for (const role of byId.get(a.step)?.value?.overwrites ?? []) Reflect.deleteProperty(values, role);
      values[edit.role] = a.reading;
    } else if (a.values && (a.step === `${device}/persist` || a.step === `${backPrefix}${device}/persist`)) Object.assign(values, a.values);
  }
  return values;
}
