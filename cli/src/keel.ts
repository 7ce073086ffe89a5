import * as z from 'zod';
import {
  acceptedBy,
  cardSchema,
  deriveSettings,
  devicesOf,
  editPlan,
  findFindings,
  isoWithOffset,
  jobSchema,
  openStops,
  parseJson,
  problemsOf,
  proveLog,
  provingMeter,
  readBundle,
  roleInfo,
  roleSchema,
  sheetSchema,
  targetsOf,
  verdictOrder,
  type DeviceValues,
  type Job,
  type Problem,
  type ProofRow,
  type Setting,
} from '@calm-keel/core';
import { readBytes, readLogFile } from './files.js';
import { listed, readAsked, rehearseJob } from './rehearse.js';

/** Exit codes of every command. */
export const exit = { proved: 0, failed: 1, badInput: 2, open: 3 } as const;

/** Where a command writes. Injected, so that tests see exactly what a shell would. */
export interface Out {
  readonly print: (text: string) => void;
  readonly say: (sentence: string) => void;
  readonly today: string;
}

const usage = `keel settings JOB                settings and findings of a job
keel edits JOB --charger ID      the order in which to key one device
     [--from VALUES.json] [--live]   from values read off it; with a source running
     [--as-found]                    back to what was found on it
keel rehearse JOB --scenario NAME    a day worked out before anything is keyed in
     [--seed N] [--days N] [--step S] [--csv OUT.csv]
     [--values asSet|asFound|factory|lastVisit] [--replay LOG.csv] [--study RUNS]
keel rehearse --list             names of the days
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
    case 'edits':
      return edits(rest, out);
    case 'rehearse':
      return rehearsal(rest, out);
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
  deviation: s.deviation,
  tolerance: s.tolerance,
  menu: s.menu,
  ...(s.inherited ? { inherited: s.inherited } : {}),
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
      schools: job.schools,
      choices: job.choices,
      findings: findings.map(({ code, severity, charger, role, text, hurts }) => ({
        code,
        severity,
        ...(acceptedBy(job.accepted, { code, text }) ? { accepted: acceptedBy(job.accepted, { code, text }) } : {}),
        ...(charger ? { charger } : {}),
        ...(role ? { role } : {}),
        text,
        hurts,
      })),
    },
    out,
  );
  return openStops(findings, job.accepted).length > 0 ? exit.failed : exit.proved;
}

/** Values as a device's display shows them, by role. */
const deviceValues = z.partialRecord(roleSchema, z.union([z.number(), z.string()]));

/** The order in which to key one device. Blocked is a failure: what is wanted cannot be keyed. */
function edits(args: readonly string[], out: Out): number {
  const flags = new Map<string, string>();
  const paths: string[] = [];
  for (let i = 0; i < args.length; i++) {
    const arg = args[i] ?? '';
    if (arg === '--live' || arg === '--as-found') flags.set(arg, '');
    else if (arg === '--charger' || arg === '--from') flags.set(arg, args[++i] ?? '');
    else if (arg.startsWith('--')) {
      out.say(`There is no option “${arg}”.\n${usage}`);
      return exit.badInput;
    } else paths.push(arg);
  }
  const job = readJobFile(paths[0], out);
  if (!job) return exit.badInput;
  const plan = deriveSettings(job);
  const device = devicesOf(job).find((d) => d.id === flags.get('--charger'));
  if (!device) {
    out.say(
      `Name a device with --charger: ${devicesOf(job)
        .map((d) => d.id)
        .join(', ')}.`,
    );
    return exit.badInput;
  }
  let from: DeviceValues | undefined;
  const file = flags.get('--from');
  if (file !== undefined) {
    const bytes = readBytes(file);
    const parsed = bytes.ok ? parseJson(new TextDecoder().decode(bytes.value), 'file of values') : bytes;
    if (!parsed.ok) return complain(parsed.problems, out, file);
    const read = deviceValues.safeParse(parsed.value);
    if (!read.success) return complain(problemsOf(read.error, 'values'), out, file);
    from = read.data;
  }
  const asFound = flags.has('--as-found');
  const found = editPlan(plan, device.id, {
    ...(asFound ? { from: { ...targetsOf(plan, device.id), ...from }, to: device.present } : from ? { from } : {}),
    live: flags.has('--live'),
  });
  if (!found) {
    out.say(`The job carries no card for ${device.name}, so nothing is known of its menu.`);
    return exit.badInput;
  }
  json(
    {
      charger: device.id,
      steps: found.steps.map(({ role, label, menu, kind, from: before, readOff, to, unit, readBack, temporary, notes }) => ({
        parameter: role,
        label,
        menu,
        kind,
        from: before,
        readOff,
        to,
        unit,
        readBack,
        ...(temporary ? { temporary } : {}),
        ...(notes.length > 0 ? { notes } : {}),
      })),
      already: found.already,
      left: found.left,
      commit: found.commit,
      proof: found.proof,
      ...(found.blocked ? { blocked: found.blocked } : {}),
    },
    out,
  );
  if (found.blocked) out.say(`${device.name}: ${found.blocked.why} ${found.blocked.ways.join(' ')}`);
  return found.blocked ? exit.failed : exit.proved;
}

/** A rehearsed day: 1 when a requirement breaks, 3 when none does but something cannot be told. */
async function rehearsal(args: readonly string[], out: Out): Promise<number> {
  if (args.includes('--list')) {
    json(listed(), out);
    return exit.proved;
  }
  const read = readAsked(args);
  if (typeof read === 'string') {
    out.say(read);
    return exit.badInput;
  }
  const job = readJobFile(read.job, out);
  if (!job) return exit.badInput;
  const done = await rehearseJob(job, read.asked);
  if (!done.ok) return complain(done.problems, out);
  json(done.summary, out);
  return done.broken > 0 ? exit.failed : done.open > 0 ? exit.open : exit.proved;
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
