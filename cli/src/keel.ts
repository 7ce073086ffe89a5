import * as z from 'zod';
import {
  cardSchema,
  deriveSettings,
  findFindings,
  isoWithOffset,
  jobSchema,
  parseJson,
  problemsOf,
  proveLog,
  provingMeter,
  readBundle,
  roleInfo,
  sheetSchema,
  verdictOrder,
  type Job,
  type Problem,
  type ProofRow,
  type Setting,
} from '@calm-keel/core';
import { readBytes, readLogFile } from './files.js';

/** Exit codes of every command. */
export const exit = { proved: 0, failed: 1, badInput: 2, open: 3 } as const;

/** Where a command writes. Injected, so that tests see exactly what a shell would. */
export interface Out {
  readonly print: (text: string) => void;
  readonly say: (sentence: string) => void;
  readonly today: string;
}

const usage = `keel settings JOB                settings and findings of a job
keel prove JOB LOG.csv…          verdicts on one or more logs, each judged by itself
keel check FILE…                 validates job, bundle, card and sheet files
keel schema job|card|sheet       prints the JSON Schema
JSON goes to the standard output, sentences to the standard error.
Exit: 0 all proved, 1 a stop or a failed requirement, 2 bad input, 3 something inconclusive or not tested.`;

/** Runs one command and returns the exit code. */
export async function keel(args: readonly string[], out: Out): Promise<number> {
  const [command, ...rest] = args;
  switch (command) {
    case 'settings':
      return settings(rest, out);
    case 'prove':
      return prove(rest, out);
    case 'check':
      return check(rest, out);
    case 'schema':
      return schema(rest, out);
    case 'help':
    case '--help':
    case undefined:
      out.say(usage);
      return command === undefined ? exit.badInput : exit.proved;
    default:
      out.say(`There is no command “${command}”.\n${usage}`);
      return exit.badInput;
  }
}

function complain(problems: readonly Problem[], out: Out, where?: string): number {
  for (const problem of problems) out.say(`${where ? `${where}: ` : ''}${problem.text}`);
  return exit.badInput;
}

const json = (value: unknown, out: Out): void => out.print(JSON.stringify(value, null, 2));

function readJobFile(path: string | undefined, out: Out): Job | null {
  if (path === undefined) {
    out.say(`Name a job file.\n${usage}`);
    return null;
  }
  const bytes = readBytes(path);
  const bundle = bytes.ok ? readBundle(bytes.value) : bytes;
  if (!bundle.ok) {
    complain(bundle.problems, out, path);
    return null;
  }
  return bundle.value.job;
}

const settingRow = (s: Setting) => ({
  charger: s.charger,
  role: s.role,
  label: s.label,
  exact: s.exact,
  exactUnit: roleInfo[s.role].unit,
  value: s.value,
  unit: s.unit,
  atBattery: s.trueValue,
  uncertainty: s.uncertainty,
  band: s.band,
  within: s.within,
  ...(s.noValue ? { noValue: s.noValue } : {}),
  ...(s.present === undefined ? {} : { present: s.present }),
  ...(s.override ? { override: s.override } : {}),
  derivation: s.derivation,
});

function settings([path]: readonly string[], out: Out): number {
  const job = readJobFile(path, out);
  if (!job) return exit.badInput;
  const plan = deriveSettings(job);
  const findings = findFindings(plan, out.today);
  json(
    {
      settings: plan.settings.map(settingRow),
      findings: findings.map(({ code, severity, charger, role, text, hurts }) => ({
        code,
        severity,
        ...(charger ? { charger } : {}),
        ...(role ? { role } : {}),
        text,
        hurts,
      })),
    },
    out,
  );
  return findings.some((f) => f.severity === 'stop') ? exit.failed : exit.proved;
}

async function prove([path, ...logs]: readonly string[], out: Out): Promise<number> {
  const job = readJobFile(path, out);
  if (!job) return exit.badInput;
  if (logs.length === 0) {
    out.say('Name at least one log after the job.');
    return exit.badInput;
  }
  const plan = deriveSettings(job);
  const results = [];
  const worst = new Set<ProofRow['verdict']>();
  for (const file of logs) {
    const read = await readLogFile(
      file,
      job.system.chargers.map((c) => c.id),
    );
    if (!read.ok) return complain(read.problems, out, file);
    const { log, report } = read.value;
    const instrument = job.system.instruments.find((i) => i.id === 'monitor') ?? provingMeter(job);
    const proof = proveLog(plan, log, report, instrument);
    for (const row of proof.rows) worst.add(row.verdict);
    const iso = (seconds: number): string => isoWithOffset(seconds, log.offsetMinutes);
    for (const line of report.firstSkipped) out.say(`${file}: line ${line.line} ${line.why}.`);
    if (report.skipped > report.firstSkipped.length) out.say(`${file}: ${report.skipped} lines in all could not be read.`);
    results.push({
      log: file,
      instrument: instrument.name,
      stages: proof.stages.map((s) => ({ from: iso(s.from), to: iso(s.to), stage: s.stage, confidence: Number(s.confidence.toFixed(3)), charger: s.charger })),
      measured: {
        rows: report.rows,
        skipped: report.skipped,
        intervalSeconds: report.intervalSeconds,
        from: iso(log.time[0] ?? 0),
        to: iso(log.time.at(-1) ?? 0),
      },
      requirements: proof.rows.map((r) => ({
        code: r.requirement.code,
        ...(r.requirement.charger ? { charger: r.requirement.charger } : {}),
        question: r.requirement.question,
        verdict: r.verdict,
        measured: r.measured,
        uncertainty: r.uncertainty,
        unit: r.unit,
        band: r.band,
        evidence: r.evidence && { from: iso(r.evidence.from), to: iso(r.evidence.to) },
        why: r.why,
        ...(r.next ? { next: r.next } : {}),
        budget: r.budget,
      })),
      notes: [...report.notes, ...proof.notes],
    });
  }
  json(results.length === 1 ? results[0] : { logs: results }, out);
  const top = verdictOrder.find((v) => worst.has(v));
  return top === 'fail' ? exit.failed : top === 'pass' ? exit.proved : exit.open;
}

function check(files: readonly string[], out: Out): number {
  if (files.length === 0) {
    out.say('Name at least one file to check.');
    return exit.badInput;
  }
  const results = files.map((file) => {
    const problems = problemsIn(file);
    for (const problem of problems) out.say(`${file}: ${problem.text}`);
    return { file, ok: problems.length === 0, problems };
  });
  json({ files: results }, out);
  return results.every((r) => r.ok) ? exit.proved : exit.badInput;
}

/** What is wrong with one file; its `format` says which schema it must keep. */
function problemsIn(file: string): readonly Problem[] {
  const bytes = readBytes(file);
  if (!bytes.ok) return bytes.problems;
  const text = new TextDecoder().decode(bytes.value.subarray(0, 2));
  const parsed = text === 'PK' ? null : parseJson(new TextDecoder().decode(bytes.value), 'file');
  if (parsed && !parsed.ok) return parsed.problems;
  const format = (parsed?.value as { format?: unknown } | undefined)?.format;
  const schemaOf = format === 'calm-keel/card' ? cardSchema : format === 'calm-keel/sheet' ? sheetSchema : null;
  if (schemaOf) {
    const result = schemaOf.safeParse(parsed?.value);
    return result.success ? [] : problemsOf(result.error, 'file');
  }
  const bundle = readBundle(bytes.value);
  return bundle.ok
    ? bundle.value.missing.map((name) => ({ code: 'log-missing', text: `The samples of the log “${name}” are not in this file.` }))
    : bundle.problems;
}

const schemas: Readonly<Record<string, z.ZodType>> = { job: jobSchema, card: cardSchema, sheet: sheetSchema };

function schema([name]: readonly string[], out: Out): number {
  const found = name !== undefined && Object.hasOwn(schemas, name) ? schemas[name] : undefined;
  if (!found) {
    out.say(`Name one of ${Object.keys(schemas).join(', ')}.`);
    return exit.badInput;
  }
  json(z.toJSONSchema(found, { io: 'input' }), out);
  return exit.proved;
}
