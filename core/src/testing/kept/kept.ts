import { said } from '../fixtures';
import { editPlan } from '../../edits';
import { findFindings } from '../../findings';
import type { Job } from '../../job';
import { proveLog, speakRow, type Log, type LogReport } from '../../proof';
import { speak } from '../../quantity';
import { requirementsOf } from '../../requirements';
import { runSheet } from '../../runsheet';
import { deriveSettings, devicesOf, schoolQuestions, type Plan, type Setting } from '../../settings';

/** The day on which findings are looked for. */
const today = '2026-06-09';
const plain = (text: string): string => text.replace(/\u00a0/g, ' ');
const number = (value: number | string | null | undefined): string =>
  typeof value === 'number' ? String(Number(value.toPrecision(9))) : value === null || value === undefined ? '–' : `“${value}”`;
const band = (of: { readonly min?: number; readonly max?: number } | null): string => (of === null ? '–' : `${number(of.min)}…${number(of.max)}`);

/** One setting with its whole sum, as lines. */
function settingLines(s: Setting): string[] {
  const head = [
    `${s.charger} ${s.role}`,
    `“${s.label}”`,
    `exact ${number(s.exact)}`,
    `key ${number(s.value)} ${s.unit}`.trim(),
    `real ${number(s.trueValue)} ± ${number(s.uncertainty)}`,
    `band ${band(s.band)} ${s.within}`,
    ...(s.tolerance === null ? [] : [`tolerance ${number(s.tolerance)}`]),
    ...(s.noValue ? [s.noValue] : []),
    ...(s.inherited ? [`from ${s.inherited}`] : []),
    ...(s.off ? ['off'] : []),
    ...(s.present === undefined ? [] : [`found ${number(s.present)}, real ${number(s.presentTrue)}`]),
  ];
  const steps = s.derivation.map(
    ({ kind, words, value, unit, digits, uncertainty, source }) =>
      `    ${kind}: ${speak(words, 'C')}${value === undefined ? '' : ` | ${number(value)} ${unit ?? ''} .${digits ?? ''}`}${uncertainty === undefined ? '' : ` ± ${number(uncertainty)}`}${source ? ` | ${source}` : ''}`,
  );
  return [head.join(' · '), ...steps, ...s.budget.map((b) => `    ± ${speak(b.name, 'C')}: ${number(b.halfWidth)} / ${number(b.divisor)} ${b.kind}`)];
}

const settings = (plan: Plan): string[] => plan.settings.flatMap(settingLines);

const findings = (plan: Plan): string[] =>
  said(plan.input, today).flatMap((f) => [
    `${f.severity} ${f.code} ${f.charger ?? ''} ${f.role ?? ''} ${f.figure ?? ''}: ${f.text} ${f.hurts}`,
    ...f.remedies.map((r) => `    ${r.label}: ${JSON.stringify(r.changes)}`),
  ]);

function edits(plan: Plan): string[] {
  const told = (device: string, options: Parameters<typeof editPlan>[2], how: string): string[] => {
    const found = editPlan(plan, device, options);
    if (!found) return [`${device}: no card`];
    return [
      `${device} ${how}: already ${found.already.join(' ')}; left ${found.left.join(' ')}; saves: ${found.commit}; proof: ${found.proof}`,
      ...found.steps.map(
        (s) =>
          `    ${s.kind} ${s.role} ${s.menu.join(' › ')} › ${s.label}: ${number(s.from)} (${s.stands}${s.readOff ? ', read off' : ''}) → ${number(s.to)} ${s.unit}, reads ${s.readBack}${s.temporary ? ', on the way' : ''}${s.overwrites.length > 0 ? `, overwrites ${s.overwrites.join(' ')}` : ''}${s.notes.map((n) => ` | ${n}`).join('')}`,
      ),
      ...(found.blocked ? [`    blocked: ${found.blocked.why} ${found.blocked.ways.join(' ')}`] : []),
    ];
  };
  return devicesOf(plan.input).flatMap(({ id, present }) => [
    ...told(id, {}, 'from what was found'),
    ...told(id, { from: {}, found: {} }, 'from the factory'),
    ...told(id, { found: {}, live: true }, 'from the factory, live'),
    ...told(id, { to: present }, 'back as found'),
  ]);
}

const requirements = (plan: Plan): string[] =>
  requirementsOf(plan).map((r) => {
    const { band: of, ...rest } = r;
    return `${r.code} ${r.charger ?? ''} ${band(of)} ${JSON.stringify(rest, (_, v: unknown) => (typeof v === 'number' ? Number(v.toPrecision(9)) : v))}`;
  });

const sheet = (plan: Plan): string[] =>
  runSheet(plan, null).steps.flatMap((s) => [
    `${s.id}: ${s.title}${s.caution ? ` ! ${s.caution}` : ''}`,
    ...s.says.map((t) => `    ${t}`),
    ...s.notes.map((t) => `    note: ${t}`),
    ...(s.items ?? []).map((t) => `    item: ${t}`),
    ...(s.keys && s.keys.length > 0
      ? [`    keys: ${s.keys.map((k) => `${k.kind === 'shows' ? '▸' : ''}${k.text}${k.how ? ` (${k.how})` : ''}`).join(' ')}`]
      : []),
  ]);

/** What each other answer to each question of practice would change: values of settings, and findings that come and go. */
function schools(job: Job, plan: Plan): string[] {
  const value = (s: Setting): string => `${s.charger} ${s.role} ${number(s.value)} real ${number(s.trueValue)} ${s.within} ${s.noValue ?? ''}`.trim();
  const kinds = (p: Plan): string[] => findFindings(p, today).map((f) => `${f.severity} ${f.code} ${f.charger ?? ''} ${f.role ?? ''}`.trim());
  const [values, codes] = [plan.settings.map(value), kinds(plan)];
  return schoolQuestions.flatMap((question) =>
    question.options
      .filter(({ value: to }) => to !== job.schools[question.school])
      .flatMap(({ value: to }) => {
        const other = deriveSettings({ ...job, schools: { ...job.schools, [question.school]: to } });
        const [now, found] = [other.settings.map(value), kinds(other)];
        return [
          `${question.school} → ${to}`,
          ...now.filter((v) => !values.includes(v)).map((v) => `    ${v}`),
          ...found.filter((c) => !codes.includes(c)).map((c) => `    + ${c}`),
          ...codes.filter((c) => !found.includes(c)).map((c) => `    − ${c}`),
        ];
      }),
  );
}

/** What is worked out from a job, in parts of plain lines. */
export function workedOut(job: Job): Readonly<Record<string, string>> {
  const plan = deriveSettings(job);
  const parts = {
    settings: settings(plan),
    findings: findings(plan),
    edits: edits(plan),
    requirements: requirements(plan),
    sheet: sheet(plan),
    schools: schools(job, plan),
  };
  return Object.fromEntries(Object.entries(parts).map(([name, lines]) => [name, `${lines.map(plain).join('\n')}\n`]));
}

/** What a log of a job comes to: verdicts with their numbers and reasons, stages, and what happened. */
export function judged(job: Job, { log, report }: { readonly log: Log; readonly report: LogReport }): string {
  const plan = deriveSettings(job);
  const instrument = job.system.instruments.find(({ id }) => id === 'monitor') ?? job.system.instruments[0];
  if (!instrument) return '';
  const proof = proveLog(plan, log, report, instrument);
  const start = log.time[0] ?? 0;
  const rows = proof.rows
    .map((row) => speakRow(row, 'C'))
    .flatMap((r) => [
      `${r.verdict} ${r.requirement.code} ${r.requirement.charger ?? ''}: ${number(r.measured)} ± ${number(r.uncertainty)} ${r.unit} .${r.digits} in ${band(r.band)}, ${r.evidence === null ? 'nowhere' : `${r.evidence.from - start}…${r.evidence.to - start} s`}`,
      `    ${r.why}`,
      ...(r.witness ? [`    witness: ${r.witness}`] : []),
      ...(r.next ? [`    next: ${r.next}`] : []),
      ...r.budget.map((b) => `    ± ${speak(b.name, 'C')}: ${number(b.halfWidth)} / ${number(b.divisor)} ${b.kind}`),
    ]);
  const spans = proof.stages.map(
    (s) => `${s.charger} ${s.stage} ${s.from - start}…${s.to - start} s, at voltage ${number(s.atVoltageSeconds)} s, ${number(s.confidence)}`,
  );
  const told = proof.told.map((t) =>
    `${t.kind} ${t.code} ${t.charger ?? ''} at ${t.at - start}: ${t.title} ${speak(t.cause, 'C')} ${t.means ?? ''} ${t.sure ?? ''}`.trim(),
  );
  return `${[...rows, ...proof.notes, ...spans, ...told].map(plain).join('\n')}\n`;
}
