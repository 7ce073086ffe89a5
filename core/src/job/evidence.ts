import type { DeviceValues } from '../card';
import { readBetween, subjectOf, testNamed, testsFor, type TestCode, type TestRecord } from '../fieldtest';
import { asTold, judge, verdictOrder, type ProofRow, type Verdict } from '../proof';
import { formatBand, formatQuantity, measure, readingBudget, said, type Sentence } from '../quantity';
import { requirementKey, requirementsOf, type EvidenceKind, type Requirement } from '../requirements';
import { devicesOf, provingMeter, type Plan } from '../settings';
import type { Job } from './job';
import { proofBasis, type KeptVerdicts } from './standing';

/** One piece of evidence on a requirement. */
interface Piece {
  readonly kind: EvidenceKind;
  /** Id of the log or test; the device for what is on record. */
  readonly id: string;
  readonly name: string;
  /** When it was taken, ISO time. */
  readonly at: string;
  /** When its first reading was taken, ISO time; missing for what is on record. */
  readonly since?: string;
  readonly verdict: Verdict;
  readonly why: Sentence;
  /** For a pass: what else the evidence shows. */
  readonly witness?: Sentence;
  readonly next?: Sentence;
  /** Why it no longer counts; missing while it does. */
  readonly expired?: string;
}

/** How a requirement stands by everything there is. */
export interface Covered {
  readonly requirement: Requirement;
  readonly verdict: Verdict;
  /** What decides; null without any evidence that counts. */
  readonly by: Piece | null;
  readonly pieces: readonly Piece[];
  /** A guided test that would speak to it. */
  readonly test: { readonly code: TestCode; readonly device: string } | null;
}

const iso = (seconds: number): string => new Date(seconds * 1000).toISOString();

/**
 * When the settings of a device last changed, as its snapshots and read-backs tell; null where nobody knows of a change.
 * Anything that was seen before then speaks of other settings.
 */
export function changedAt(job: Job, device: string): { readonly at: string; readonly what: string } | null {
  let last: { at: string; what: string } | null = null;
  const sheets = [...job.pastSheets, ...(job.programming ? [job.programming] : [])];
  let before: DeviceValues | null = null;
  for (const shot of job.snapshots) {
    if (shot.device !== device) continue;
    // Before the first snapshot stands what the run sheet found.
    const known: DeviceValues = before ?? sheets.findLast((s) => s.begunAt <= shot.at)?.found[device] ?? {};
    const roles = Object.keys(shot.values) as (keyof DeviceValues)[];
    if (roles.some((role) => known[role] !== undefined && known[role] !== shot.values[role])) last = { at: shot.at, what: 'its settings were changed' };
    before = { ...known, ...shot.values };
  }
  return last;
}

/** A display further off than this part of its reading has a fault rather than an error. */
const faultPart = 0.01;

/** What makes all evidence on a device doubtful, whenever it was taken. */
function doubt(job: Job, device: string): string | null {
  const charger = job.system.chargers.find((c) => c.id === device);
  if (devicesOf(job).find((d) => d.id === device)?.resetSinceProof) return 'it has been reset since';
  if (charger?.provedFirmware !== undefined && charger.firmware !== undefined && charger.provedFirmware !== charger.firmware)
    return 'its firmware has changed since';
  return null;
}

/** Instrument of a test, or the proving meter. */
const instrumentOf = (job: Job, id: string) => job.system.instruments.find((i) => i.id === id) ?? provingMeter(job);

/** Verdicts of a test as it stands. */
export function judgeTest(plan: Plan, job: Job, record: TestRecord): readonly ProofRow[] {
  const subject = subjectOf(plan, record.device);
  return subject
    ? testNamed(record.code)
        .judge(plan, subject, record, instrumentOf(job, record.instrument))
        .map((row) => asTold(plan, row))
    : [];
}

/** What the record of a device says without any test: read-backs after a power cut, comparisons, the passcode. */
function onRecord(job: Job, requirement: Requirement): Piece | null {
  const device = devicesOf(job).find((d) => d.id === requirement.charger);
  if (!device) return null;
  const piece = (at: string, verdict: Verdict, why: string, witness?: string): Piece => ({
    kind: 'record',
    id: device.id,
    name: 'on record',
    at,
    verdict,
    why,
    ...(verdict === 'pass' && witness !== undefined ? { witness } : {}),
  });
  if (requirement.code === 'survivesPowerCut') {
    const shot = job.snapshots.findLast((s) => s.device === device.id && s.verified === 'powerCycle');
    return shot
      ? piece(shot.at, 'pass', `Every value of ${device.name} was read back after a power cut on ${shot.date}.`, 'Its power was off in between.')
      : null;
  }
  const noted = job.programming?.endedAt ?? job.programming?.begunAt ?? job.createdAt;
  if (requirement.code === 'passcodeChanged')
    return device.passcodeChanged ? piece(noted, 'stated', `Somebody noted that the passcode of ${device.name} was changed.`) : null;
  const [first] = device.displayReadings;
  if (requirement.code === 'displayAgrees' && first) {
    const worst = device.displayReadings.reduce((a, b) => (Math.abs(b.displayV - b.meterV) > Math.abs(a.displayV - a.meterV) ? b : a), first);
    const meter = provingMeter(job);
    const off = measure(worst.displayV - worst.meterV, readingBudget(meter.name, worst.meterV, meter.volts), job.coverage);
    const verdict = judge(off, requirement.band);
    // Settings are corrected for an error; that display and regulator share it has still to be seen. Past one part in a hundred it is a fault.
    const corrected = verdict === 'fail' && Math.abs(off.value) - off.uncertainty <= faultPart * worst.meterV;
    return {
      ...piece(
        noted,
        corrected ? 'inconclusive' : verdict,
        `The display of ${device.name} reads ${formatQuantity(Math.abs(off.value), 'V', 2)} ${off.value < 0 ? 'low' : 'high'} ± ${formatQuantity(off.uncertainty, 'V', 2)} at ${formatQuantity(worst.meterV, 'V', 1)}, the furthest of ${device.displayReadings.length}; ${formatBand(requirement.band, 'V', 2)} is asked.`,
        `The display was read beside ${meter.name}.`,
      ),
      next: corrected
        ? 'Its settings are corrected for that. A stretch of level absorb or float, read with the meter, would show that the correction holds.'
        : 'Calibrate the display where the charger can. Look for a fault, or a drop in a lead, before correcting for so much.',
    };
  }
  return null;
}

/** What a log came to when it was last judged, if the job still is as it was then. */
function keptNow(job: Job, logId: string, kept: readonly KeptVerdicts[]): KeptVerdicts | undefined {
  const own = kept.filter((k) => k.logId === logId);
  return own.length === 0 ? undefined : own.find((k) => k.basis === proofBasis(job, logId));
}

/**
 * Every requirement with everything that speaks to it: logs, tests, what is on record. The newest that decides counts; one that was taken before the
 * settings changed is shown and does not count.
 */
export function coverage(job: Job, plan: Plan, kept: readonly KeptVerdicts[]): readonly Covered[] {
  const tests = testsFor(plan);
  const judgedTests = job.tests.map((record) => ({ record, rows: judgeTest(plan, job, record), read: readBetween(record) }));
  const changes = new Map(devicesOf(job).map((d) => [d.id, changedAt(job, d.id)]));
  // What each log came to, where that still counts: looked up once, not for every requirement.
  const counting = new Map(job.logs.map((entry) => [entry.id, keptNow(job, entry.id, kept)?.rows]));
  const latest = [...changes.values()].reduce<string | null>((a, b) => (b && (a === null || b.at > a) ? b.at : a), null);
  return requirementsOf(plan).map((requirement) => {
    const key = requirementKey({ requirement });
    const pieces: Piece[] = [];
    for (const entry of job.logs) {
      const told = counting.get(entry.id)?.[key];
      if (told && told.verdict !== 'notTested')
        pieces.push({
          kind: 'log',
          id: entry.id,
          name: entry.name,
          at: iso(entry.to),
          since: iso(entry.from),
          verdict: told.verdict,
          why: told.why,
          ...(told.witness ? { witness: told.witness } : {}),
          ...(told.next ? { next: told.next } : {}),
        });
    }
    for (const { record, rows, read } of judgedTests)
      for (const row of rows)
        if (requirementKey(row) === key)
          pieces.push({
            kind: 'test',
            id: record.id,
            name: testNamed(record.code).name,
            at: iso(read.to),
            since: iso(read.from),
            verdict: row.verdict,
            why: row.verdict === 'stated' ? said`${row.why} Stated by ${record.by} on ${record.begunAt.slice(0, 10)}.` : row.why,
            ...(row.witness ? { witness: row.witness } : {}),
            ...(row.next ? { next: row.next } : {}),
          });
    const recorded = onRecord(job, requirement);
    if (recorded) pieces.push(recorded);
    const device = requirement.charger;
    const change = device === undefined ? (latest === null ? null : { at: latest, what: 'settings were changed' }) : (changes.get(device) ?? null);
    const doubted = device === undefined ? null : doubt(job, device);
    const aged = pieces
      .map((p): Piece => {
        const why =
          doubted && p.kind !== 'record'
            ? doubted
            : change && p.since !== undefined && p.since < change.at
              ? `${change.what} on ${change.at.slice(0, 10)}${p.at > change.at ? ', while it was being taken' : ''}`
              : null;
        return why ? { ...p, expired: why } : p;
      })
      .sort((a, b) => b.at.localeCompare(a.at));
    const valid = aged.filter((p) => !p.expired && p.verdict !== 'notTested');
    // One that fails fails, unless something newer has passed; then proved, then inconclusive.
    const newest = valid[0];
    const fails = valid.find((p) => p.verdict === 'fail');
    const passes = valid.find((p) => p.verdict === 'pass');
    const says = valid.find((p) => p.verdict === 'stated');
    // A word takes back a word that came before it, never what was measured.
    const stands = passes ?? (says && (!fails || (fails.kind !== 'log' && says.at > fails.at)) ? says : null);
    const by = fails && (!stands || fails.at >= stands.at) ? fails : (stands ?? newest ?? null);
    const offered = tests.find(
      (t) =>
        t.test.proves.includes(requirement.code) && (device === undefined || (t.test.speaksFor?.(plan, t.subject) ?? [t.subject.device.id]).includes(device)),
    );
    return {
      requirement,
      verdict: by?.verdict ?? 'notTested',
      by,
      pieces: aged,
      test: offered ? { code: offered.test.code, device: offered.subject.device.id } : null,
    };
  });
}

/** How many requirements stand how. */
export const countVerdicts = (covered: readonly Pick<Covered, 'verdict'>[]): Readonly<Record<Verdict, number>> =>
  Object.fromEntries(verdictOrder.map((v) => [v, covered.filter((c) => c.verdict === v).length])) as Record<Verdict, number>;

/** How a job stands by all its logs and tests; null without any, or while a log has not been judged as the job is now. */
export function standingOfAll(job: Job, plan: Plan, kept: readonly KeptVerdicts[]): Readonly<Record<Verdict, number>> | null {
  if (job.logs.length + job.tests.length === 0) return null;
  if (job.logs.some((log) => !keptNow(job, log.id, kept))) return null;
  return countVerdicts(coverage(job, plan, kept));
}
