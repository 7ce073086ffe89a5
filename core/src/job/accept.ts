import { findingPlace, type Finding } from '../findings';
import { isRecord } from '../quantity';
import { english, sayFor, speakFinding } from '../words';
import type { Acceptance, Job } from './job';

/** How far a number may move before an acceptance no longer counts, where the rule says nothing else: what nobody could read off a display. */
const usualTolerance = 0.005;

/** Whether two facts are the same, numbers within the tolerance. What is not said is the same as nothing. */
function same(a: unknown, b: unknown, tolerance: number): boolean {
  if (typeof a === 'number' && typeof b === 'number') return Math.abs(a - b) <= tolerance;
  if (!isRecord(a) || !isRecord(b)) {
    if (!Array.isArray(a) || !Array.isArray(b)) return (a ?? null) === (b ?? null);
    return a.length === b.length && a.every((entry, i) => same(entry, b[i], tolerance));
  }
  return [...new Set([...Object.keys(a), ...Object.keys(b)])].every((name) => same(a[name], b[name], tolerance));
}

/** Numbers in a sentence, each with half of its last digit. */
const numbersIn = (text: string): readonly { readonly value: number; readonly half: number }[] =>
  [...text.replaceAll('−', '-').matchAll(/(?<![\w.])-?\d+(?:\.(\d+))?/g)].map(([number, decimals = '']) => ({
    value: Number(number),
    half: 0.5 * 10 ** -decimals.length,
  }));

/** Whether a sentence of an older program, which held no facts, says the same of the same device: every number it names is still said. */
function saidTheSame(job: Job, { text }: Acceptance, finding: Finding): boolean {
  const say = sayFor(job, 'C');
  if (finding.charger !== undefined && !text.includes(say.name(finding.charger))) return false;
  const now = numbersIn(speakFinding(english, finding, say).text);
  return numbersIn(text).every((old) => now.some((n) => Math.abs(n.value - old.value) <= Math.max(n.half, old.half) + 1e-9));
}

/** Who accepted a finding, if it still says the same of the same device and setting, numbers included. */
export const acceptedBy = (job: Job, finding: Finding): Acceptance | undefined =>
  job.accepted.find((a) => {
    if (a.code !== finding.code) return false;
    if (a.facts === undefined) return saidTheSame(job, a, finding);
    const about = a.charger === finding.charger && a.role === finding.role && a.figure === finding.figure;
    return about && same(a.facts, finding.facts, findingPlace(finding.code).tolerance ?? usualTolerance);
  });

/** The newest acceptance of the same finding that no longer counts, because its numbers are others now. */
export const acceptedBefore = (job: Job, finding: Finding): Acceptance | undefined =>
  acceptedBy(job, finding)
    ? undefined
    : job.accepted.findLast(
        (a) =>
          a.code === finding.code &&
          (a.facts === undefined
            ? finding.charger === undefined || a.text.includes(sayFor(job, 'C').name(finding.charger))
            : a.charger === finding.charger && a.role === finding.role),
      );

/** A job in which somebody has accepted a finding; an earlier acceptance of the same one gives way. */
export function accept(job: Job, finding: Finding, { by, reason, date }: Pick<Acceptance, 'by' | 'reason' | 'date'>): Job {
  const { code, charger, role, figure } = finding;
  const entry: Acceptance = {
    code,
    ...(charger === undefined ? {} : { charger }),
    ...(role === undefined ? {} : { role }),
    ...(figure === undefined ? {} : { figure }),
    facts: JSON.parse(JSON.stringify(finding.facts)) as NonNullable<Acceptance['facts']>,
    text: speakFinding(english, finding, sayFor(job, 'C')).text,
    reason,
    by,
    date,
  };
  const earlier = [acceptedBy(job, finding), acceptedBefore(job, finding)];
  return { ...job, accepted: [...job.accepted.filter((a) => !earlier.includes(a)), entry] };
}
