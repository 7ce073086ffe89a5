import { stages } from '@calm-keel/core/charger';
import type { Job } from '@calm-keel/core/job';
import { logContextOf, writeLog } from '@calm-keel/core/proof';
import { isoWithOffset, speak, type Problem } from '@calm-keel/core/quantity';
import {
  evaluateRun,
  eventWords,
  logEvery,
  rehearse,
  replayOf,
  runLog,
  scenarioKinds,
  scenarioNamed,
  stepLimits,
  studyResult,
  studyRuns,
  uncertainOf,
  variantValues,
  variantWords,
  type VariantKind,
} from '@calm-keel/core/rehearsal';
import { deriveSettings } from '@calm-keel/core/settings';
import { readLogFile, writeText } from './files.js';
import { optionsIn } from './options.js';

/** What the command was asked for, its numbers already read. */
interface Asked {
  readonly name: string;
  readonly seed: number | undefined;
  readonly days: number | undefined;
  readonly step: number | undefined;
  readonly csv: string | undefined;
  readonly values: VariantKind;
  readonly study: number | undefined;
  readonly replay: string | undefined;
}

const kinds = {
  scenario: 'string',
  seed: 'string',
  days: 'string',
  step: 'string',
  csv: 'string',
  values: 'string',
  study: 'string',
  replay: 'string',
} as const;

/** Most runs of a study from the shell. */
const mostRuns = 20_000;

/** Names of the days, for `--list`. */
export const listed = () => ({ scenarios: scenarioKinds.map(({ name, words }) => ({ name, words })) });

/** Reads the command's words; a sentence where they make no sense. */
export function readAsked(args: readonly string[]): { asked: Asked; job: string | undefined } | string {
  const read = optionsIn(args, kinds);
  if (typeof read === 'string') return read;
  const given = read.values;
  const numbers: Partial<Record<keyof typeof kinds, number>> = {};
  for (const [name, least, most, whole] of [
    ['seed', 0, 2 ** 31, true],
    ['days', 1, 400, true],
    ['step', stepLimits.least, stepLimits.most, false],
    ['study', 2, mostRuns, true],
  ] as const) {
    const text = given[name];
    if (text === undefined) continue;
    const value = Number(text);
    if (text.trim() === '' || !(value >= least && value <= most) || (whole && !Number.isInteger(value)))
      return `--${name} takes ${whole ? 'a whole number' : 'a number'} from ${least} to ${most}, not “${text}”.`;
    numbers[name] = value;
  }
  const values = given.values ?? 'asSet';
  if (!(values in variantWords)) return `--values takes one of ${Object.keys(variantWords).join(', ')}, not “${values}”.`;
  const name = given.scenario ?? 'clear-day';
  if (!scenarioKinds.some((k) => k.name === name)) return `There is no scenario “${name}”. keel rehearse --list names them all.`;
  return {
    job: read.paths[0],
    asked: {
      name,
      seed: numbers.seed,
      days: numbers.days,
      step: numbers.step,
      csv: given.csv,
      values: values as VariantKind,
      study: numbers.study,
      replay: given.replay,
    },
  };
}

/** Rehearses a job as asked. `summary` is printed as JSON; `broken` counts requirements that break, `open` those that cannot be told. */
export async function rehearseJob(
  job: Job,
  asked: Asked,
): Promise<{ ok: true; summary: object; broken: number; open: number } | { ok: false; problems: readonly Problem[] }> {
  const plan = deriveSettings(job);
  const named = scenarioNamed(plan, asked.name);
  if (!named) return { ok: false, problems: [{ code: 'no-scenario', text: `There is no scenario “${asked.name}”.` }] };
  const scenario = { ...named, seed: asked.seed ?? named.seed, days: asked.days ?? named.days };
  let replay = undefined;
  if (asked.replay !== undefined) {
    const log = await readLogFile(asked.replay, logContextOf(plan));
    const made = log.ok ? replayOf(log.value.log) : log;
    if (!made.ok) return made;
    replay = made.value;
  }
  const input = { plan, scenario, values: variantValues(plan, asked.values), stored: variantValues(plan, 'asFound'), ...(replay ? { replay } : {}) };
  const spanS = replay ? (replay.time.at(-1) ?? 0) : scenario.days * 86_400;
  const run = rehearse(input, {
    ...(asked.step === undefined ? {} : { stepS: asked.step }),
    ...(asked.csv === undefined ? {} : { everyS: logEvery(spanS) }),
  });
  if (!run.ok) return run;
  const { value } = run;
  const outcomes = evaluateRun(plan, value);
  if (asked.csv !== undefined) {
    const written = writeText(asked.csv, writeLog(runLog(value)));
    if (!written.ok) return written;
  }
  const iso = (seconds: number): string | null => (Number.isFinite(seconds) ? isoWithOffset(Math.round(seconds), null) : null);
  const finite = (n: number): number | null => (Number.isFinite(n) ? n : null);
  const { totals } = value;
  const study =
    asked.study === undefined
      ? {}
      : {
          study: {
            runs: asked.study,
            varied: uncertainOf(plan, scenario).map(({ words, from, to, unit }) => ({ words, from, to, unit })),
            requirements: studyResult(plan, scenario, studyRuns(input, asked.study, scenario.seed, 0, asked.study)).map(
              ({ key, breaks, runs, influences }) => ({
                requirement: key,
                breaks,
                runs,
                influences,
              }),
            ),
          },
        };
  return {
    ok: true,
    broken: outcomes.filter((o) => o.holding === 'breaks').length,
    open: outcomes.filter((o) => o.holding === 'cannotTell').length,
    summary: {
      scenario,
      values: asked.values,
      from: iso(value.from),
      to: iso(value.to),
      totals: {
        ahIn: totals.inAh,
        ahOut: totals.outAh,
        ahLost: totals.lostAh,
        highestV: finite(totals.highest),
        highestAt: iso(totals.highestAt),
        lowestV: finite(totals.lowest),
        lowestAt: iso(totals.lowestAt),
        fullAt: iso(totals.fullAt),
        ahToFull: finite(totals.ahToFull),
        coldestC: finite(totals.coldest),
        hottestC: finite(totals.hottest),
        bmsOpenings: totals.bmsOpenings,
        loadOffSeconds: totals.loadOffSeconds,
        chargeImbalanceAh: totals.imbalanceAh,
      },
      chargers: value.chargers.map((c) => ({
        charger: c.id,
        ah: c.totals.ah,
        peakA: c.totals.peakA,
        atAbsorbVoltageSeconds: c.totals.atVoltage,
        coldestChargingC: finite(c.totals.coldest),
        stageSeconds: Object.fromEntries(stages.map((stage, i) => [stage, c.totals.seconds[i] ?? 0])),
        stages: c.spans.map((s) => ({ stage: s.stage, from: iso(s.from), to: iso(s.to), cause: s.cause })),
      })),
      events: value.events.map((e) => ({ at: iso(e.at), ...(e.device ? { device: e.device } : {}), text: speak(eventWords(plan, e), 'C') })),
      ...(value.eventsLost > 0 ? { eventsLost: value.eventsLost } : {}),
      requirements: outcomes.map((o) => ({
        code: o.requirement.code,
        ...(o.requirement.charger ? { charger: o.requirement.charger } : {}),
        outcome: o.holding,
        value: o.value,
        unit: o.requirement.unit,
        band: o.requirement.band,
        why: speak(o.why, 'C'),
      })),
      notes: value.notes,
      ...study,
    },
  };
}
