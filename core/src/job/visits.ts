import { displayText, parameterFor, roleInfo, type Role } from '../card';
import { verdictOrder, verdictWords, type Verdict } from '../proof';
import { testNamed } from '../fieldtest';
import { verifiedWords } from '../runsheet';
import { editionOf } from '../sheet';
import { cardOf, deviceName, devicesOf, targetsOf, type Plan } from '../settings';
import { settingChanges, type SettingChange } from './deviceHistory';
import { countVerdicts, type Covered } from './evidence';
import type { Job } from './job';
import type { Visit } from './visit';

/** Something that is on record of a day. */
interface Happening {
  /** ISO time, or a date. */
  readonly at: string;
  readonly kind: 'found' | 'set' | 'test' | 'log' | 'choice' | 'trouble';
  readonly text: string;
  readonly by: string;
  /** Id of the test or log. */
  readonly ref?: string;
}

/** A day on which something is on record, with the visit that was noted for it. */
export interface Day {
  readonly date: string;
  readonly visit: Visit | null;
  /** Everybody who is named. */
  readonly by: readonly string[];
  readonly happenings: readonly Happening[];
}

const day = (at: string): string => at.slice(0, 10);
const iso = (seconds: number): string => new Date(seconds * 1000).toISOString();
const several = (n: number, one: string): string => `${n} ${one}${n === 1 ? '' : 's'}`;

function happenings(job: Job): readonly Happening[] {
  const name = (id: string): string => deviceName(job, id);
  const sheets = [...job.pastSheets, ...(job.programming ? [job.programming] : [])];
  return [
    ...job.snapshots.map((s): Happening => ({
      at: s.at,
      kind: s.verified === 'readOff' ? 'found' : 'set',
      text: `${name(s.device)}: ${several(Object.keys(s.values).length, 'value')} ${verifiedWords[s.verified]}${s.way === 'wire' ? ', over the wire' : ''}`,
      by: s.by,
    })),
    ...sheets.flatMap((s) =>
      s.trouble.map((t): Happening => ({ at: t.at, kind: 'trouble', text: `${t.device ? `${name(t.device)}: ` : ''}${t.text}`, by: s.by })),
    ),
    ...job.tests.map((t): Happening => ({ at: t.begunAt, kind: 'test', text: `${testNamed(t.code).name}, ${name(t.device)}`, by: t.by, ref: t.id })),
    ...job.logs.map((l): Happening => ({ at: iso(l.to), kind: 'log', text: l.name, by: '', ref: l.id })),
    ...job.choices.map((c): Happening => ({ at: c.date, kind: 'choice', text: `${c.reason} (${c.school}: ${c.to})`, by: c.by })),
    ...job.accepted.map((a): Happening => ({ at: a.date, kind: 'choice', text: `Accepted: ${a.text} ${a.reason}`, by: a.by })),
    ...job.overrides.map((o): Happening => ({
      at: o.date,
      kind: 'choice',
      text: `${name(o.charger)}, ${roleInfo[o.role].name} outside the sheet: ${o.reason}`,
      by: o.by,
    })),
  ];
}

/** Every day on which something is on record, the newest first; days of one visit that nobody noted stand by themselves. */
export function daysOf(job: Job): readonly Day[] {
  const all = happenings(job);
  const dates = new Set([...all.map((h) => day(h.at)), ...job.visits.map((v) => v.date)]);
  return [...dates]
    .sort((a, b) => b.localeCompare(a))
    .map((date) => {
      const happened = all.filter((h) => day(h.at) === date).sort((a, b) => a.at.localeCompare(b.at));
      const visit = job.visits.findLast((v) => v.date === date) ?? null;
      return { date, visit, by: [...new Set([...(visit?.by ? [visit.by] : []), ...happened.flatMap((h) => (h.by ? [h.by] : []))])], happenings: happened };
    });
}

/** One difference between two visits, in words. */
export interface Difference {
  readonly subject: string;
  readonly what: string;
  readonly from: string;
  readonly to: string;
  /** `book`: keyed by a run sheet here; `elsewhere`: found so, changed by somebody else; `choice`: decided in this job. */
  readonly how: 'book' | 'elsewhere' | 'choice';
  readonly at: string;
}

/** A value of a device as its display shows it. */
export function valueText(job: Pick<Job, 'system' | 'cards'>, device: string, role: Role, value: number | string): string {
  const place = devicesOf(job).find((d) => d.id === device);
  const card = job.cards.find((c) => c.id === place?.card);
  const parameter = card && parameterFor(card, role);
  return parameter ? displayText(parameter, value) : String(value);
}

const label = (job: Job, device: string, role: Role): string => {
  const place = devicesOf(job).find((d) => d.id === device);
  const card = place && cardOf(job, place);
  return (card && parameterFor(card, role)?.label) ?? roleInfo[role].name;
};

/** What differs on the devices, in the pinned figures and in the choices between two days. */
export function differencesBetween(job: Job, from: string, to: string): readonly Difference[] {
  const name = (id: string): string => deviceName(job, id);
  const changed = settingChanges(job, from, to).map((c: SettingChange): Difference => ({
    subject: name(c.device),
    what: label(job, c.device, c.role),
    from: valueText(job, c.device, c.role, c.from),
    to: valueText(job, c.device, c.role, c.to),
    how: c.byBook ? 'book' : 'elsewhere',
    at: c.at,
  }));
  const closedBy = (date: string) => job.visits.findLast((v) => v.closed !== null && v.date <= date)?.closed ?? null;
  const [a, b] = [closedBy(from), closedBy(to)];
  const sheet =
    a && b && (a.sheet.id !== b.sheet.id || a.sheet.revision !== b.sheet.revision)
      ? [
          {
            subject: 'Maker’s sheet',
            what: b.sheet.document,
            from: editionOf(a.sheet),
            to: editionOf(b.sheet),
            how: 'choice' as const,
            at: b.at,
          },
        ]
      : [];
  const schools =
    a && b
      ? Object.entries(b.schools).flatMap(([school, value]): Difference[] =>
          a.schools[school] === undefined || a.schools[school] === value
            ? []
            : [{ subject: 'Choice', what: school, from: String(a.schools[school]), to: String(value), how: 'choice', at: b.at }],
        )
      : [];
  return [...changed, ...sheet, ...schools];
}

/** How a difference came about, in words. */
export const differenceWords: Readonly<Record<Difference['how'], string>> = {
  book: 'entered by this book',
  elsewhere: 'not by this book',
  choice: 'decided in this job',
};

/** Begins a visit. A second one on the same day is the same visit. */
export function beginVisit(job: Job, visit: Pick<Visit, 'id' | 'date' | 'by' | 'purpose'>): Job {
  if (job.visits.some((v) => v.date === visit.date && v.closed === null)) return job;
  return { ...job, visits: [...job.visits, { ...visit, note: '', photos: [], closed: null }].slice(-200) };
}

/** Changes what is noted of a visit. */
export const noteVisit = (
  job: Job,
  id: string,
  patch: Partial<Pick<Visit, 'by' | 'purpose' | 'note' | 'photos' | 'equalised' | 'balanced' | 'date'>>,
): Job => ({
  ...job,
  visits: job.visits.map((v) => (v.id === id ? { ...v, ...patch } : v)),
});

/**
 * Closes a visit: figures, choices, targets, what stands on each device, verdicts and what is open are kept as they are now.
 *
 * @param open what is left open, in words
 */
export function closeVisit(job: Job, plan: Plan, covered: readonly Covered[], open: readonly string[], id: string, at: string): Job {
  const { sheet } = job;
  const devices = devicesOf(job);
  const closed: Visit['closed'] = {
    at,
    sheet: { id: sheet.id, battery: `${sheet.maker} ${sheet.battery}`.trim(), document: sheet.document, revision: sheet.revision, date: sheet.date },
    schools: { ...job.schools },
    targets: Object.fromEntries(devices.map((d) => [d.id, targetsOf(plan, d.id)])),
    present: Object.fromEntries(devices.map((d) => [d.id, d.present])),
    verdicts: countVerdicts(covered),
    open: open.slice(0, 120).map((text) => text.slice(0, 600)),
  };
  return { ...job, visits: job.visits.map((v) => (v.id === id ? { ...v, closed } : v)) };
}

/** Opens a closed visit again. */
export const reopenVisit = (job: Job, id: string): Job => ({ ...job, visits: job.visits.map((v) => (v.id === id ? { ...v, closed: null } : v)) });

/** "9 proved, 2 fail" of a count of verdicts; what is zero is not said. */
export const countWords = (counts: Readonly<Record<Verdict, number>>): string =>
  verdictOrder
    .toReversed()
    .flatMap((v) => (counts[v] > 0 ? [`${counts[v]} ${v === 'fail' && counts[v] > 1 ? 'fail' : verdictWords[v].toLowerCase()}`] : []))
    .join(', ');
