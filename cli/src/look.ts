import { newJob } from '@calm-keel/core/job';
import { shownAlone, type LogFact } from '@calm-keel/core/proof';
import { isoWithOffset } from '@calm-keel/core/quantity';
import { aloneEnglish, sayFor } from '@calm-keel/core/words';
import { guessFile, readLogFile } from './files.js';
import { optionsIn } from './options.js';
import { complain, exit, json, type Out } from './out.js';

/** Of a log without a job nothing is known. */
const nobody = { chargers: [], nominalVolts: null };

/** The moments of a fact, ISO with the log’s own offset. */
function when(fact: LogFact, iso: (seconds: number) => string): Readonly<Record<string, string>> {
  if ('from' in fact) return { from: iso(fact.from), to: iso(fact.to) };
  return 'seen' in fact ? { at: iso(fact.seen.at) } : {};
}

/** `keel look`: what logs show by themselves, without a job or a sheet. Nothing of it is a verdict. */
export async function look(args: readonly string[], out: Out): Promise<number> {
  const read = optionsIn(args, { fahrenheit: 'boolean' });
  if (typeof read === 'string') {
    out.say(read);
    return exit.badInput;
  }
  if (read.paths.length === 0) {
    out.say('Name at least one log: keel look LOG.csv');
    return exit.badInput;
  }
  const say = sayFor(newJob('look', '', new Date(0).toISOString()), read.values.fahrenheit ? 'F' : 'C');
  const logs = [];
  for (const file of read.paths) {
    const guess = await guessFile(file, nobody);
    if (!guess.ok) return complain(guess.problems, out, file);
    for (const doubt of guess.value.doubts) out.say(`${file}: ${doubt}`);
    const made = await readLogFile(file, nobody);
    if (!made.ok) return complain(made.problems, out, file);
    const { log, report } = made.value;
    const iso = (seconds: number): string => isoWithOffset(seconds, log.offsetMinutes);
    logs.push({
      log: file,
      chargers: Object.keys(log.chargers),
      rows: report.rows,
      skipped: report.skipped,
      intervalSeconds: report.intervalSeconds,
      from: iso(log.time[0] ?? 0),
      to: iso(log.time.at(-1) ?? 0),
      shows: shownAlone(log, report).map((fact) => ({ code: fact.code, ...aloneEnglish.fact(fact, say), ...when(fact, iso) })),
      notes: report.notes,
    });
  }
  json(logs.length === 1 ? logs[0] : { logs }, out);
  return exit.proved;
}
