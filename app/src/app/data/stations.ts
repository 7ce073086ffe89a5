import { findingPlace, type Finding } from '@calm-keel/core/findings';
import { changedSince, openStops, type Job } from '@calm-keel/core/job';
import type { Verdict } from '@calm-keel/core/proof';
import { neededFigures } from '@calm-keel/core/report';
import { runSheet, standingOf } from '@calm-keel/core/runsheet';
import type { Plan } from '@calm-keel/core/settings';
import { hasFigures } from '@calm-keel/core/sheet';

/** How something is, each with a mark of its own: a verdict's, a finding's, a station's. */
export type Mark = 'proved' | 'done' | 'attention' | 'stop' | 'note' | 'notyet' | 'inconclusive';

/** One station of the keel line. */
export interface Station {
  readonly path: 'spec' | 'system' | 'settings' | 'rehearse' | 'program' | 'prove' | 'hand-over';
  readonly name: string;
  readonly state: Mark;
  /** "4 open", "done", "not yet". */
  readonly words: string;
}

const counted = (findings: readonly Finding[], job: Job): { state: Mark; words: string } | null => {
  const stops = openStops(findings, job).length;
  const open = stops + findings.filter((f) => f.severity === 'attention').length;
  return open === 0 ? null : { state: stops > 0 ? 'stop' : 'attention', words: `${open} open` };
};

function proved(standing: Readonly<Record<Verdict, number>>): Pick<Station, 'state' | 'words'> {
  const all = standing.pass + standing.fail + standing.inconclusive + standing.notTested + standing.stated;
  if (standing.fail > 0) return { state: 'stop', words: standing.fail === 1 ? '1 fails' : `${standing.fail} fail` };
  if (standing.pass === all && all > 0) return { state: 'proved', words: 'proved' };
  return { state: standing.inconclusive > 0 ? 'inconclusive' : 'notyet', words: `${standing.pass} of ${all} proved` };
}

/** Where the run sheet is; before one is begun, whether keying-in may begin, and how much of it there is. */
function programmed(job: Job, plan: Plan, stops: number, toKey: number): Pick<Station, 'state' | 'words'> {
  const record = job.programming;
  if (record?.endedAt === null) {
    const sheet = runSheet(plan, record);
    const { at, open } = standingOf(sheet, record);
    return { state: 'notyet', words: open === 0 ? 'to be ended' : `step ${Math.min(at + 1, sheet.steps.length)} of ${sheet.steps.length}` };
  }
  const changed = changedSince(job).length;
  if (changed > 0) return { state: 'attention', words: changed === 1 ? '1 changed since' : `${changed} changed since` };
  if (toKey === 0) return { state: 'done', words: record ? 'read back' : 'all as found' };
  return stops > 0 ? { state: 'notyet', words: stops === 1 ? '1 stop first' : `${stops} stops first` } : { state: 'notyet', words: `${toKey} to enter` };
}

/** What the rehearsed day came to. It is never called proved. */
function rehearsed(standing: { readonly breaks: number; readonly holds: number } | null, kept: boolean): Pick<Station, 'state' | 'words'> {
  if (!standing) return kept ? { state: 'note', words: 'a day saved' } : { state: 'notyet', words: 'not yet' };
  if (standing.breaks > 0) return { state: 'attention', words: standing.breaks === 1 ? '1 breaks' : `${standing.breaks} break` };
  return standing.holds > 0 ? { state: 'done', words: 'holds' } : { state: 'inconclusive', words: 'cannot tell' };
}

/** Whether the last visit was closed, and whether anything was done since. */
function handedOver(job: Job): Pick<Station, 'state' | 'words'> {
  const closed = job.visits.findLast((v) => v.closed !== null)?.closed;
  if (!closed) return { state: 'notyet', words: job.visits.length > 0 ? 'visit open' : 'not yet' };
  const later = [...job.snapshots.map((s) => s.at), ...job.tests.map((t) => t.begunAt), ...(job.programming?.answers ?? []).map((a) => a.at)].some(
    (at) => at > closed.at,
  );
  return later ? { state: 'notyet', words: 'work since then' } : { state: 'proved', words: 'handed over' };
}

/** Where a finding is dealt with. */
export const stationOf = (finding: Finding): Station['path'] => {
  const { belongsTo } = findingPlace(finding.code);
  return belongsTo === 'sheet' ? 'spec' : (belongsTo ?? 'settings');
};

/**
 * How far the work has come: findings decide, and "done" is never said of an empty station. Only Prove says proved, and only of verdicts that still count.
 *
 * @param rehearsal what the rehearsed day came to; null while none stands
 * @param toKey edits that stand between the devices and their targets
 * @param stays stops that keying-in will not mend; all open ones when it is not told
 */
export function stationsOf(
  job: Job,
  plan: Plan,
  findings: readonly Finding[],
  standing: Readonly<Record<Verdict, number>> | null,
  rehearsal: { readonly breaks: number; readonly holds: number } | null,
  toKey: number,
  stays?: number,
): readonly Station[] {
  const at = (path: Station['path']) =>
    counted(
      findings.filter((f) => stationOf(f) === path),
      job,
    );
  const done = { state: 'done', words: 'done' } as const;
  const needed = neededFigures(plan).length;
  const lacking = needed === 0 ? done : ({ state: 'attention', words: `${needed} missing` } as const);
  const notYet = { state: 'notyet', words: 'not yet' } as const;
  return [
    { path: 'spec', name: 'Spec', ...(hasFigures(job.sheet) ? (at('spec') ?? lacking) : notYet) },
    { path: 'system', name: 'System', ...(job.system.chargers.length > 0 ? (at('system') ?? done) : notYet) },
    // Without a sheet there is nothing that they could be done by.
    { path: 'settings', name: 'Settings', ...(plan.settings.length > 0 && hasFigures(job.sheet) ? (at('settings') ?? done) : notYet) },
    { path: 'rehearse', name: 'Rehearse', ...rehearsed(rehearsal, job.rehearsal !== null) },
    {
      path: 'program',
      name: 'Program',
      ...(plan.settings.length > 0 ? programmed(job, plan, stays ?? openStops(findings, job).length, toKey) : notYet),
    },
    { path: 'prove', name: 'Prove', ...(standing ? proved(standing) : job.logs.length > 0 ? { state: 'notyet', words: 'not judged yet' } : notYet) },
    { path: 'hand-over', name: 'Hand over', ...handedOver(job) },
  ];
}
