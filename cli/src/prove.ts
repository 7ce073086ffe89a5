import { parseJson, type Job, toMapping } from '@calm-keel/core/job';
import { logContextOf, mergeLogs, proveLog, speakRow, verdictOrder, type Log, type LogReport, type Mapping, type ProofRow } from '@calm-keel/core/proof';
import { isoWithOffset, speak } from '@calm-keel/core/quantity';
import { deriveSettings, type Plan } from '@calm-keel/core/settings';
import { guessFile, readBytes, readLogFile } from './files.js';
import { proveFolder } from './folder.js';
import { optionsIn } from './options.js';
import { complain, exit, json, readJobFile, writerOf, type Out } from './out.js';

/** Reads a mapping file, or says why not. */
function mappingIn(path: string, out: Out): Mapping | null {
  const bytes = readBytes(path);
  const parsed = bytes.ok ? parseJson(new TextDecoder().decode(bytes.value), 'mapping') : bytes;
  if (!parsed.ok) {
    complain(parsed.problems, out, path);
    return null;
  }
  const read = toMapping(parsed.value);
  if (read.ok) return read.value;
  complain(read.problems, out, path);
  return null;
}

/** Verdicts on logs: 1 when a requirement fails, 3 when none does but something is open. */
export async function prove(args: readonly string[], out: Out): Promise<number> {
  const read = optionsIn(args, { mapping: 'string', folder: 'string', results: 'string', workers: 'string', together: 'boolean', guess: 'boolean' });
  if (typeof read === 'string') {
    out.say(read);
    return exit.badInput;
  }
  const { folder, results: into, workers, mapping: named, together, guess } = read.values;
  if (folder !== undefined) return proveFolder(folder, { results: into, workers: Number(workers ?? 0) }, out);
  const [path, ...logs] = read.paths;
  const job = readJobFile(path, out);
  if (!job) return exit.badInput;
  if (logs.length === 0) {
    out.say('Name at least one log after the job.');
    return exit.badInput;
  }
  const plan = deriveSettings(job);
  if (guess) {
    const guesses = await Promise.all(logs.map(async (file) => ({ file, guess: await guessFile(file, logContextOf(plan)) })));
    for (const { file, guess } of guesses) {
      if (!guess.ok) return complain(guess.problems, out, file);
      for (const doubt of guess.value.doubts) out.say(`${file}: ${doubt}`);
    }
    const mappings = guesses.flatMap(({ guess }) => (guess.ok ? [guess.value.mapping] : []));
    json(mappings.length === 1 ? mappings[0] : mappings, out);
    return exit.proved;
  }
  const mapping = named === undefined ? undefined : mappingIn(named, out);
  if (mapping === null) return exit.badInput;
  const parts: { file: string; log: Log; report: LogReport }[] = [];
  for (const file of logs) {
    const one = await readLogFile(file, logContextOf(plan), mapping);
    if (!one.ok) return complain(one.problems, out, file);
    parts.push({ file, ...one.value });
    for (const line of one.value.report.firstSkipped) out.say(`${file}: line ${line.line} ${line.why}.`);
    if (one.value.report.skipped > one.value.report.firstSkipped.length) out.say(`${file}: ${one.value.report.skipped} lines in all could not be read.`);
  }
  if (together) {
    const merged = mergeLogs(parts);
    if (!merged.ok) return complain(merged.problems, out);
    parts.splice(0, parts.length, { file: logs.join(' + '), ...merged.value });
  }
  const results = parts.map(({ file, log, report }) => told(job, plan, file, log, report));
  json(results.length === 1 ? results[0]?.json : { logs: results.map((r) => r.json) }, out);
  const top = verdictOrder.find((v) => results.some((r) => r.rows.some((row) => row.verdict === v)));
  return top === 'fail' ? exit.failed : top === 'pass' ? exit.proved : exit.open;
}

/** One log as it is printed. */
function told(job: Job, plan: Plan, file: string, log: Log, report: LogReport): { json: unknown; rows: readonly ProofRow[] } {
  const instrument = writerOf(job);
  const proof = proveLog(plan, log, report, instrument);
  const iso = (seconds: number): string => isoWithOffset(seconds, log.offsetMinutes);
  return {
    rows: proof.rows,
    json: {
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
      requirements: proof.rows
        .map((row) => speakRow(row, 'C'))
        .map((r) => ({
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
          ...(r.witness ? { witness: r.witness } : {}),
          ...(r.next ? { next: r.next } : {}),
          budget: r.budget,
        })),
      explained: proof.told.map((t) => ({
        at: iso(t.at),
        kind: t.kind,
        code: t.code,
        ...(t.charger ? { charger: t.charger } : {}),
        title: t.title,
        cause: speak(t.cause, 'C'),
        ...(t.means ? { means: t.means } : {}),
        ...(t.advice ? { advice: t.advice } : {}),
      })),
      notes: [...report.notes, ...proof.notes],
    },
  };
}
