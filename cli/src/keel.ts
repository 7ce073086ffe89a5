import * as z from 'zod';
import { cardSchema, roleInfo, roleSchema, type DeviceValues, unknownsOf, unknownWords } from '@calm-keel/core/card';
import { editPlan } from '@calm-keel/core/edits';
import { findFindings } from '@calm-keel/core/findings';
import {
  acceptedBy,
  backupSchema,
  copyMarkSchema,
  coverage,
  isBackup,
  jobSchema,
  openStops,
  parseJson,
  problemsOf,
  readBackup,
  readBundle,
} from '@calm-keel/core/job';
import { mappingSchema } from '@calm-keel/core/proof';
import { speak, type Problem, strangeIn, strangeProblem } from '@calm-keel/core/quantity';
import { handover, settingsFileSchema } from '@calm-keel/core/report';
import { deriveSettings, devicesOf, targetsOf, type Setting } from '@calm-keel/core/settings';
import { sheetSchema } from '@calm-keel/core/sheet';
import { english, sayFor, speakFinding } from '@calm-keel/core/words';
import { readBytes } from './files.js';
import { prove } from './prove.js';
import { look } from './look.js';
import { optionsIn } from './options.js';
import { complain, exit, json, readJobFile, type Out } from './out.js';
import { read } from './read.js';
import { listed, readAsked, rehearseJob } from './rehearse.js';

export { exit, type Out } from './out.js';

const usage = `keel settings JOB                settings and findings of a job
keel edits JOB --charger ID      the order in which to set one device
     [--from VALUES.json] [--live]   from values read off it; with a source running
     [--as-found]                    back to what was found on it
keel rehearse JOB --scenario NAME    a day worked out before anything is entered
     [--seed N] [--days N] [--step S] [--csv OUT.csv]
     [--values asSet|asFound|factory|lastVisit] [--replay LOG.csv] [--study RUNS]
keel rehearse --list             names of the days
keel prove JOB LOG…              verdicts on logs of any make, each judged by itself
     [--together] [--mapping M.json]     as one log; M.json says what the columns mean
     [--guess]                           prints what the columns would be taken for
keel prove --folder DIR          every job in a folder with its logs, over all cores
     [--results FILE] [--workers N]      one line each, saved in FILE: run again, it goes on
keel look LOG… [--fahrenheit]    what logs show by themselves, without a job: no verdicts
keel read PAPER                  what a maker’s PDF or text says, to be confirmed
     [--chemistry lfp] [--cells N] [--battery NAME]
keel wire list                   devices on the list (--devices DEVICES.json or --simulated)
keel wire read NAME              what is set on one that has registers; nothing is written
     (--job JOB | --card CARD.json)      what it is
keel wire watch NAME…            a line of JSON for every sample of those that tell or talk
     [--seconds N]                       60 where nobody says
keel report JOB [--sums] [--fahrenheit]
                                 the hand-over as JSON, without what only logs can show
keel check FILE…                 validates job, bundle, backup, card, sheet and settings files
keel schema NAME                 prints the JSON Schema: job, card, sheet, mapping, settings,
                                 backup (backup.json), copy (copy.json of a bundle)
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
    case 'look':
      return look(rest, out);
    case 'read':
      return read(rest, out);
    case 'wire':
      // Ports and brokers are opened by packages of their own: only this command waits for them.
      return (await import('./wire.js')).wire(rest, out);
    case 'report':
      return report(rest, out);
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
  derivation: s.derivation.map((step) => ({ ...step, words: speak(step.words, 'C') })),
});

function settings([path]: readonly string[], out: Out): number {
  const job = readJobFile(path, out);
  if (!job) return exit.badInput;
  const plan = deriveSettings(job);
  const findings = findFindings(plan, out.today);
  const say = sayFor(job, 'C');
  json(
    {
      settings: plan.settings.map(settingRow),
      schools: job.schools,
      choices: job.choices,
      findings: findings.map((finding) => {
        const { code, severity, charger, role, facts } = finding;
        const { text, hurts } = speakFinding(english, finding, say);
        const accepted = acceptedBy(job, finding);
        return {
          code,
          severity,
          ...(accepted ? { accepted } : {}),
          ...(charger ? { charger } : {}),
          ...(role ? { role } : {}),
          facts,
          text,
          hurts,
        };
      }),
    },
    out,
  );
  return openStops(findings, job).length > 0 ? exit.failed : exit.proved;
}

/** Values as a device's display shows them, by role. */
const deviceValues = z.partialRecord(roleSchema, z.union([z.number(), z.string()]));

/** The order in which to key one device. Blocked is a failure: what is wanted cannot be keyed. */
function edits(args: readonly string[], out: Out): number {
  const read = optionsIn(args, { charger: 'string', from: 'string', live: 'boolean', 'as-found': 'boolean' });
  if (typeof read === 'string') {
    out.say(read);
    return exit.badInput;
  }
  const { charger, from: file, live = false, 'as-found': asFound = false } = read.values;
  const job = readJobFile(read.paths[0], out);
  if (!job) return exit.badInput;
  const plan = deriveSettings(job);
  const device = devicesOf(job).find((d) => d.id === charger);
  if (!device) {
    out.say(
      `Name a device with --charger: ${devicesOf(job)
        .map((d) => d.id)
        .join(', ')}.`,
    );
    return exit.badInput;
  }
  let from: DeviceValues | undefined;
  if (file !== undefined) {
    const bytes = readBytes(file);
    const parsed = bytes.ok ? parseJson(new TextDecoder().decode(bytes.value), 'file of values') : bytes;
    if (!parsed.ok) return complain(parsed.problems, out, file);
    const values = deviceValues.safeParse(parsed.value);
    if (!values.success) return complain(problemsOf(values.error, 'values'), out, file);
    from = values.data;
  }
  const found = editPlan(plan, device.id, {
    ...(asFound ? { from: { ...targetsOf(plan, device.id), ...from }, to: device.present } : from ? { from } : {}),
    live,
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

/** The hand-over of a job. Logs are judged in the page; here stands what sheet, system, record and tests tell. */
function report(args: readonly string[], out: Out): number {
  const read = optionsIn(args, { sums: 'boolean', fahrenheit: 'boolean' });
  if (typeof read === 'string') {
    out.say(read);
    return exit.badInput;
  }
  const job = readJobFile(read.paths[0], out);
  if (!job) return exit.badInput;
  const today = new Date().toISOString().slice(0, 10);
  json(handover(job, coverage(job, deriveSettings(job), []), { today, sums: read.values.sums === true, scale: read.values.fahrenheit ? 'F' : 'C' }), out);
  return exit.proved;
}

function check(files: readonly string[], out: Out): number {
  if (files.length === 0) {
    out.say('Name at least one file to check.');
    return exit.badInput;
  }
  const results = files.map((file) => {
    const problems = problemsIn(file);
    for (const problem of problems) out.say(`${file}: ${problem.text}`);
    const notKnown = problems.length === 0 ? notKnownIn(file) : [];
    if (notKnown.length > 0) out.say(`${file}: not known: ${notKnown.join('; ')}.`);
    return { file, ok: problems.length === 0, problems, ...(notKnown.length > 0 ? { notKnown } : {}) };
  });
  json({ files: results }, out);
  return results.every((r) => r.ok) ? exit.proved : exit.badInput;
}

/** What nobody knows of a device, where the file is a card. It is no fault. */
function notKnownIn(file: string): readonly string[] {
  const bytes = readBytes(file);
  const parsed = bytes.ok ? parseJson(new TextDecoder().decode(bytes.value), 'file') : null;
  const card = parsed?.ok ? cardSchema.safeParse(parsed.value) : null;
  return card?.success ? unknownsOf(card.data).map((what) => unknownWords[what]) : [];
}

/** What is wrong with one file; its `format` says which schema it must keep. */
function problemsIn(file: string): readonly Problem[] {
  const bytes = readBytes(file);
  if (!bytes.ok) return bytes.problems;
  const text = new TextDecoder().decode(bytes.value.subarray(0, 2));
  const parsed = text === 'PK' ? null : parseJson(new TextDecoder().decode(bytes.value), 'file');
  if (parsed && !parsed.ok) return parsed.problems;
  const format = (parsed?.value as { format?: unknown } | undefined)?.format;
  const schemaOf =
    format === 'calm-keel/card' ? cardSchema : format === 'calm-keel/sheet' ? sheetSchema : format === 'calm-keel/settings' ? settingsFileSchema : null;
  if (schemaOf) {
    const result = schemaOf.safeParse(parsed?.value);
    return result.success ? strangeIn(parsed?.value, result.data).map(strangeProblem) : problemsOf(result.error, 'file');
  }
  if (isBackup(bytes.value)) {
    const backup = readBackup(bytes.value);
    return backup.ok ? backup.value.unread.map((text) => ({ code: 'backup-unread', text })) : backup.problems;
  }
  const bundle = readBundle(bytes.value);
  return bundle.ok
    ? [
        ...(bundle.value.job.aside ?? []).map(strangeProblem),
        ...bundle.value.missing.map((name) => ({ code: 'log-missing', text: `The samples of the log “${name}” are not in this file.` })),
      ]
    : bundle.problems;
}

const schemas: Readonly<Record<string, z.ZodType>> = {
  job: jobSchema,
  card: cardSchema,
  sheet: sheetSchema,
  mapping: mappingSchema,
  settings: settingsFileSchema,
  backup: backupSchema,
  copy: copyMarkSchema,
};

function schema([name]: readonly string[], out: Out): number {
  const found = name !== undefined && Object.hasOwn(schemas, name) ? schemas[name] : undefined;
  if (!found) {
    out.say(`Name one of ${Object.keys(schemas).join(', ')}.`);
    return exit.badInput;
  }
  json(z.toJSONSchema(found, { io: 'input' }), out);
  return exit.proved;
}
