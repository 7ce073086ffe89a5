import { editionOf, isNewerRevision, isLithium, statedFigure, type Sheet } from '../sheet';
import { devicesOf } from '../settings';
import type { Covered } from './evidence';
import type { Job } from './job';

/** Something to come back for. */
export interface Due {
  readonly code: 'evidenceAge' | 'coldSeason' | 'hotSeason' | 'newerSheet' | 'equalise' | 'balance' | 'unattended' | 'calibration';
  /** Year-month-day. */
  readonly on: string;
  /** What to do, in a few words. */
  readonly title: string;
  readonly why: string;
}

const months = (date: string, n: number): string => {
  const at = new Date(`${date.slice(0, 10)}T00:00:00Z`);
  const day = at.getUTCDate();
  at.setUTCDate(1);
  at.setUTCMonth(at.getUTCMonth() + n);
  const last = new Date(Date.UTC(at.getUTCFullYear(), at.getUTCMonth() + 1, 0)).getUTCDate();
  at.setUTCDate(Math.min(day, last));
  return at.toISOString().slice(0, 10);
};
const days = (date: string, n: number): string => new Date(Date.parse(`${date.slice(0, 10)}T00:00:00Z`) + n * 86_400_000).toISOString().slice(0, 10);
const full = (date: string): string => (date.length === 7 ? `${date}-01` : date);

/** Requirements that only a cold, or a hot, day can show. */
const coldCodes: ReadonlySet<string> = new Set(['noChargeBelowMinimum', 'cutoffAsProgrammed', 'resumeAsProgrammed', 'currentForTemperature']);
const hotCodes: ReadonlySet<string> = new Set(['noChargeAboveMaximum']);

/** The first of a month that comes next. */
function nextMonth(today: string, month: number): string {
  const year = Number(today.slice(0, 4));
  const text = (y: number): string => `${y}-${String(month).padStart(2, '0')}-01`;
  return text(year) > today ? text(year) : text(year + 1);
}

/**
 * What is due, the soonest first: evidence grown old, what only a season can show, sheets that moved on, equalising, balancing, a site left alone, meters to
 * be calibrated. Equalising and balancing are counted from the last visit at which they were noted.
 *
 * @param today year-month-day
 * @param library sheets this device knows besides those of the job
 */
export function dueOf(job: Job, covered: readonly Covered[], today: string, library: readonly Sheet[] = []): readonly Due[] {
  const due: Due[] = [];
  const south = (job.system.site.latitude ?? 0) < 0;
  const names = new Map(devicesOf(job).map((d) => [d.id, d.name]));
  // One line a device: the oldest evidence on it decides.
  const oldest = new Map<string, { at: string; count: number }>();
  for (const c of covered) {
    if (c.verdict !== 'pass' || !c.by || c.by.kind === 'record') continue;
    const who = c.requirement.charger ?? '';
    const before = oldest.get(who);
    oldest.set(who, { at: before && before.at < c.by.at ? before.at : c.by.at, count: (before?.count ?? 0) + 1 });
  }
  for (const [who, { at, count }] of oldest)
    due.push({
      code: 'evidenceAge',
      on: months(at, job.recheckMonths),
      title: `Prove ${names.get(who) ?? 'the bank'} again`,
      why: `Its oldest evidence, of ${at.slice(0, 10)}, is then ${job.recheckMonths} months old; ${count === 1 ? 'one requirement rests' : `${count} requirements rest`} on it.`,
    });
  const waiting = (codes: ReadonlySet<string>): number =>
    covered.filter((c) => codes.has(c.requirement.code) && c.verdict !== 'pass' && c.verdict !== 'fail').length;
  const cold = waiting(coldCodes);
  if (cold > 0 && job.system.chargers.length > 0)
    due.push({
      code: 'coldSeason',
      on: nextMonth(today, south ? 6 : 12),
      title: 'Prove the cold protection',
      why: `${cold === 1 ? 'One requirement is' : `${cold} requirements are`} open that only a cold day, or ice on the sensor, can show.`,
    });
  const hot = waiting(hotCodes);
  if (hot > 0 && job.system.site.bankHighC >= 40)
    due.push({
      code: 'hotSeason',
      on: nextMonth(today, south ? 1 : 7),
      title: 'Prove the heat protection',
      why: 'One requirement is open that only a hot day can show.',
    });
  const newer = [...job.otherSheets, ...library].find((s) => isNewerRevision(s, job.sheet));
  if (newer)
    due.push({
      code: 'newerSheet',
      on: today,
      title: newer.revision === '' ? `Look at the sheet of ${newer.date}` : `Look at revision ${newer.revision} of the sheet`,
      why: `These settings follow ${editionOf(job.sheet)}; ${editionOf(newer)} is known.`,
    });
  const every = statedFigure(job.sheet, 'equaliseInterval')?.target;
  if (every !== undefined && !isLithium(job.sheet.chemistry)) {
    const last = job.visits.findLast((v) => v.equalised)?.date ?? job.programming?.endedAt?.slice(0, 10) ?? job.createdAt.slice(0, 10);
    due.push({
      code: 'equalise',
      on: days(full(last), every),
      title: 'Equalise, attended',
      why: `The sheet calls for it every ${every} days; last on record ${job.visits.some((v) => v.equalised) ? `on ${last}` : `never, counted from ${last}`}. Water level, ventilation, hydrometer, somebody there until it ends.`,
    });
  }
  const { balanceEveryDays } = job.system.bank;
  if (balanceEveryDays !== undefined && isLithium(job.sheet.chemistry)) {
    const last = job.visits.findLast((v) => v.balanced)?.date ?? job.programming?.endedAt?.slice(0, 10) ?? job.createdAt.slice(0, 10);
    due.push({
      code: 'balance',
      on: days(full(last), balanceEveryDays),
      title: 'Balance the cells, attended',
      why: `These packs do not balance themselves: every ${balanceEveryDays} days; last on record ${job.visits.some((v) => v.balanced) ? `on ${last}` : `never, counted from ${last}`}. By the maker’s manual, with every cell watched until the last is level.`,
    });
  }
  const alone = job.system.site.unattendedMonths ?? 0;
  if (alone >= 1) {
    const last = job.visits.at(-1)?.date ?? job.programming?.endedAt?.slice(0, 10) ?? job.createdAt.slice(0, 10);
    due.push({
      code: 'unattended',
      on: months(full(last), alone),
      title: 'Visit the site',
      why: `Nobody is there for ${alone} ${alone === 1 ? 'month' : 'months'} at a time; last on record ${last}.`,
    });
  }
  for (const meter of job.system.instruments)
    if (meter.calibrationDue !== undefined)
      due.push({
        code: 'calibration',
        on: full(meter.calibrationDue),
        title: `Have ${meter.name} calibrated`,
        why: 'Verdicts rest on what its maker promises, and that ends then.',
      });
  return due.sort((a, b) => a.on.localeCompare(b.on));
}
