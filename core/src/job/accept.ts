import { aboutOf, type Finding } from '../findings';
import { isRecord } from '../quantity';
import { deviceName } from '../settings';
import { english, sayFor, speakFinding } from '../words';
import type { Acceptance, Job } from './job';

/** How far a number may move before an acceptance no longer counts, in its own unit: what nobody could read off a display. */
const tolerance = 0.005;

/** Whether two facts are the same, numbers within the tolerance. What is not said is the same as nothing. */
function same(a: unknown, b: unknown): boolean {
  if (typeof a === 'number' && typeof b === 'number') return Math.abs(a - b) <= tolerance;
  if (!isRecord(a) || !isRecord(b)) {
    if (!Array.isArray(a) || !Array.isArray(b)) return (a ?? null) === (b ?? null);
    return a.length === b.length && a.every((entry, i) => same(entry, b[i]));
  }
  return [...new Set([...Object.keys(a), ...Object.keys(b)])].every((name) => same(a[name], b[name]));
}

/** Numbers in a sentence, each with half of its last digit. */
const numbersIn = (text: string): readonly { readonly value: number; readonly half: number }[] =>
  [...text.replaceAll('−', '-').matchAll(/(?<![\w.])-?\d+(?:\.(\d+))?/g)].map(([number, decimals = '']) => ({
    value: Number(number),
    half: 0.5 * 10 ** -decimals.length,
  }));

/** Whether a sentence of an older program names the device that a finding is about. */
const namesIt = (job: Job, { text }: Acceptance, { charger }: Finding): boolean => charger === undefined || text.includes(deviceName(job, charger));

/** Whether a sentence of an older program, which held no facts, says the same of the same device: every number it names is still said. */
function saidTheSame(job: Job, accepted: Acceptance, finding: Finding): boolean {
  if (!namesIt(job, accepted, finding)) return false;
  const now = numbersIn(speakFinding(english, finding, sayFor(job, 'C')).text);
  return numbersIn(accepted.text).every((old) => now.some((n) => Math.abs(n.value - old.value) <= Math.max(n.half, old.half) + 1e-9));
}

/** Who accepted a finding, if it still says the same of the same device and setting, numbers included. */
export const acceptedBy = (job: Job, finding: Finding): Acceptance | undefined =>
  job.accepted.find((a) =>
    a.facts === undefined ? a.code === finding.code && saidTheSame(job, a, finding) : aboutOf(a) === aboutOf(finding) && same(a.facts, finding.facts),
  );

/** The newest acceptance of the same finding that no longer counts, because its numbers are others now. */
export function acceptedBefore(job: Job, finding: Finding): Acceptance | undefined {
  if (acceptedBy(job, finding)) return undefined;
  return job.accepted.findLast((a) => (a.facts === undefined ? a.code === finding.code && namesIt(job, a, finding) : aboutOf(a) === aboutOf(finding)));
}

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
