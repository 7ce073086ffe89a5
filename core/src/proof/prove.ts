import {
  expandedUncertainty,
  formatBand,
  formatDuration,
  formatQuantity,
  measure,
  readingBudget,
  rectangular,
  type Band,
  type BudgetLine,
  type Measured,
} from '../quantity';
import { requirementsOf, type Requirement } from '../requirements';
import type { Plan } from '../settings';
import type { Instrument } from '../system';
import { formatClock } from './clock';
import { judge, settle, verdictOrder, type Verdict } from './judge';
import { longestStep, type Log, type LogReport } from './log';
import { canCharge, chargerAmps, disagreement, inferStages, levelsOf, referredVolts, regulatedLevel, type ChargerLevels, type StageSpan } from './stages';
import { median, robustLevel } from './statistics';

/** A requirement with its verdict and what it rests on. */
export interface ProofRow {
  readonly requirement: Requirement;
  readonly verdict: Verdict;
  readonly measured: number | null;
  readonly uncertainty: number | null;
  readonly unit: string;
  readonly digits: number;
  readonly budget: readonly BudgetLine[];
  /** The band it was judged against, in `unit`. */
  readonly band: Band;
  /** Seconds since 1970. */
  readonly evidence: { readonly from: number; readonly to: number } | null;
  /** One or two sentences with the numbers in them. */
  readonly why: string;
  /** What would settle an inconclusive row, or test an untested one. */
  readonly next?: string;
}

/** Everything a log says about a job. */
export interface Proof {
  readonly stages: readonly StageSpan[];
  readonly rows: readonly ProofRow[];
  readonly notes: readonly string[];
}

interface Evidence {
  readonly plan: Plan;
  readonly log: Log;
  readonly report: LogReport;
  readonly instrument: Instrument;
  readonly spans: ReadonlyMap<string, readonly StageSpan[]>;
  readonly levels: ReadonlyMap<string, ChargerLevels>;
  /** The level each charger really regulates at, V. */
  readonly regulated: ReadonlyMap<string, number>;
}

/**
 * Judges every requirement of a plan against one log.
 *
 * @param instrument what wrote the log: its accuracy goes into every verdict
 */
export function proveLog(plan: Plan, log: Log, report: LogReport, instrument: Instrument): Proof {
  const levels = new Map<string, ChargerLevels>();
  const spans = new Map<string, readonly StageSpan[]>();
  const regulated = new Map<string, number>();
  const notes: string[] = [];
  for (const charger of plan.input.system.chargers) {
    const found = levelsOf(plan, charger.id);
    if (!found) continue;
    levels.set(charger.id, found);
    const own = log.chargers[charger.id]?.amps !== undefined || (plan.input.system.chargers.length === 1 && log.bankAmps !== undefined);
    if (!own) {
      notes.push(`${charger.name}: the log has no column “${charger.id}_A”, so nothing can be told about it alone.`);
      continue;
    }
    const level = regulatedLevel(log, report, charger.id, found);
    regulated.set(charger.id, level);
    const stages = inferStages(log, report, charger.id, found, level);
    spans.set(charger.id, stages);
    const differ = disagreement(log, charger.id, stages);
    if (differ !== null && differ > 0.02)
      notes.push(`${charger.name}: the stage it reports and the stage its voltage and current show differ for ${Math.round(differ * 100)} % of the log.`);
  }
  const evidence: Evidence = { plan, log, report, instrument, spans, levels, regulated };
  const rows = requirementsOf(plan).map((requirement) => judges[requirement.code](evidence, requirement));
  return { stages: [...spans.values()].flat(), rows: [...rows].sort((a, b) => verdictOrder.indexOf(a.verdict) - verdictOrder.indexOf(b.verdict)), notes };
}

type Judge = (evidence: Evidence, requirement: Requirement) => ProofRow;

const judges: Readonly<Record<Requirement['code'], Judge>> = {
  absorbLevel: (e, r) => level(e, r, 'absorb'),
  absorbAsProgrammed: (e, r) => level(e, r, 'absorb'),
  floatLevel: (e, r) => level(e, r, 'float'),
  floatAsProgrammed: (e, r) => level(e, r, 'float'),
  absorbCompleted,
  neverAboveMaximum,
  noChargeBelowMinimum,
};

const base = (requirement: Requirement) => ({ requirement, unit: requirement.unit, digits: requirement.digits, band: requirement.band });

const notTested = (requirement: Requirement, why: string, next: string): ProofRow => ({
  ...base(requirement),
  verdict: 'notTested',
  measured: null,
  uncertainty: null,
  budget: [],
  evidence: null,
  why,
  next,
});

function judged(requirement: Requirement, measured: Measured, evidence: { from: number; to: number }, why: string): ProofRow {
  const verdict = judge(measured, requirement.band);
  return {
    ...base(requirement),
    verdict,
    measured: measured.value,
    uncertainty: measured.uncertainty,
    budget: measured.budget,
    evidence,
    why,
    ...(verdict === 'inconclusive' ? { next: settle(measured, requirement.band, requirement.unit, requirement.digits) } : {}),
  };
}

const clock = (e: Evidence, seconds: number): string => formatClock(seconds, e.log.offsetMinutes);
const nameOf = (e: Evidence, id: string | undefined): string => e.plan.input.system.chargers.find((c) => c.id === id)?.name ?? 'The bank';

/** Least plateau that is evidence of a level, s. */
const leastPlateau = 120;

/** Median level of the regulated samples in a stage, with the logger's systematic error and the scatter of autocorrelated samples. */
function level(e: Evidence, requirement: Requirement, stage: 'absorb' | 'float'): ProofRow {
  const charger = requirement.charger ?? '';
  const levels = e.levels.get(charger);
  const spans = e.spans.get(charger);
  const name = nameOf(e, charger);
  if (!levels || !spans) return notTested(requirement, `The log has no current of ${name}.`, `Log ${name}’s own current.`);
  const amps = chargerAmps(e.log, charger);
  const at = stage === 'absorb' ? (e.regulated.get(charger) ?? null) : null;
  const volts: number[] = [];
  let from = Infinity;
  let to = -Infinity;
  let seconds = 0;
  for (const span of spans) {
    if (span.stage !== stage) continue;
    const settledFrom = span.from + (stage === 'float' ? 600 : 0);
    for (let i = span.first; i <= span.last; i++) {
      const now = e.log.time[i] ?? 0;
      const referred = referredVolts(e.log, levels, i);
      const regulated =
        stage === 'absorb'
          ? at !== null && referred >= at - levels.toleranceV && (amps?.[i] ?? 0) > levels.zeroA
          : now >= settledFrom && (amps?.[i] ?? 0) > levels.zeroA;
      if (!regulated) continue;
      volts.push(referred);
      from = Math.min(from, now);
      to = Math.max(to, now);
      seconds += i === 0 ? 0 : Math.min(longestStep(e.report), now - (e.log.time[i - 1] ?? 0));
    }
  }
  if (seconds < leastPlateau)
    return notTested(
      requirement,
      seconds === 0
        ? `${name} was never seen in ${stage} in this log.`
        : `${name} was in ${stage} for only ${formatDuration(seconds)}; ${formatDuration(leastPlateau)} are needed.`,
      stage === 'absorb' ? 'A day with enough sun to reach absorb would test it.' : 'A day that ends absorb before evening would test it.',
    );
  const { level: held, standardError } = robustLevel(regulatedOnly(volts, levels.toleranceV));
  const budget: BudgetLine[] = [
    ...readingBudget(e.instrument.name, held, e.instrument.volts),
    {
      name: `Scatter of ${volts.length} samples, counted as fewer because neighbours resemble each other`,
      halfWidth: standardError,
      divisor: 1,
      kind: 'random',
    },
    ...temperatureLine(e, levels.slope),
  ];
  const measured = measure(held, budget, e.plan.input.coverage);
  const referred = levels.slope !== 0 ? ` (referred to ${levels.referenceC} °C)` : '';
  return judged(
    requirement,
    measured,
    { from, to },
    `${name} held ${formatQuantity(held, 'V', 2)} ± ${formatQuantity(measured.uncertainty, 'V', 2)}${referred} for ${formatDuration(seconds)} in ${stage}; ${formatBand(requirement.band, 'V', 2)} is ${requirement.question === 'specified' ? 'asked' : 'programmed'}.`,
  );
}

/**
 * The samples that lie on the plateau, when most of them do: a dip under load or cloud is not the level a charger regulates at.
 * With less than half of them on it there is no plateau, and all samples count.
 */
function regulatedOnly(volts: readonly number[], tolerance: number): readonly number[] {
  const middle = median(volts);
  const near = volts.filter((v) => Math.abs(v - middle) <= tolerance);
  return near.length * 2 > volts.length ? near : volts;
}

/** What the battery temperature's own error does to a compensated voltage. */
const temperatureLine = (e: Evidence, slope: number): BudgetLine[] =>
  slope === 0
    ? []
    : [
        {
          name: `Battery temperature ± ${e.instrument.temperatureErrorC} °C × slope`,
          halfWidth: Math.abs(slope) * e.instrument.temperatureErrorC,
          divisor: rectangular,
          kind: 'systematic',
        },
      ];

/** Absorb is completed by time at voltage or by the bank's net current having fallen, whichever the log can show. */
function absorbCompleted(e: Evidence, requirement: Requirement): ProofRow {
  const charger = requirement.charger ?? '';
  const spans = e.spans.get(charger)?.filter((s) => s.stage === 'absorb');
  const levels = e.levels.get(charger);
  const name = nameOf(e, charger);
  if (!spans || !levels) return notTested(requirement, `The log has no current of ${name}.`, `Log ${name}’s own current.`);
  const best = spans.reduce<StageSpan | null>((a, b) => (a === null || b.atVoltageSeconds > a.atVoltageSeconds ? b : a), null);
  if (!best || best.atVoltageSeconds === 0)
    return notTested(requirement, `${name} was never seen at absorb voltage in this log.`, 'A day with enough sun to reach absorb would test it.');
  const interval = e.report.intervalSeconds;
  const edges = Math.max(2, countEdges(e, best, levels));
  const timeBudget: BudgetLine[] = [
    {
      name: `Sampling every ${formatDuration(interval)}: each of ${edges} edges is known to half a sample`,
      halfWidth: interval * Math.sqrt(edges) * 0.5,
      divisor: rectangular,
      kind: 'systematic',
    },
  ];
  const time = measure(best.atVoltageSeconds, timeBudget, e.plan.input.coverage);
  const span = { from: best.from, to: best.to };
  const byTime = requirement.band.min === undefined ? null : judge(time, requirement.band);
  const minutes = `${formatQuantity(time.value / 60, 'min', 0)} ± ${formatQuantity(Math.max(time.uncertainty / 60, 0.1), 'min', 1)} at voltage between ${clock(e, best.from)} and ${clock(e, best.to)}`;
  const asked = requirement.band.min === undefined ? '' : `, ${formatDuration(requirement.band.min)} asked`;
  const taper = taperAtEnd(e, charger, best, levels);
  const inMinutes = { ...base(requirement), unit: 'min', digits: 0, band: requirement.band.min === undefined ? {} : { min: requirement.band.min / 60 } };
  const timeRow = (verdict: Verdict, why: string, next?: string): ProofRow => ({
    ...inMinutes,
    verdict,
    measured: time.value / 60,
    uncertainty: time.uncertainty / 60,
    budget: time.budget.map((line) => ({ ...line, halfWidth: line.halfWidth / 60 })),
    evidence: span,
    why,
    ...(next ? { next } : {}),
  });
  if (byTime === 'pass') return timeRow('pass', `${name} counted ${minutes}${asked}.`);
  if (requirement.taperA !== undefined && taper) {
    const band = { max: requirement.taperA };
    const verdict = judge(taper, band);
    const words = `net bank current at the end ${formatQuantity(taper.value, 'A', 1)} ± ${formatQuantity(taper.uncertainty, 'A', 1)}, at most ${formatQuantity(requirement.taperA, 'A', 1)} asked`;
    if (verdict === 'pass')
      return {
        ...base(requirement),
        unit: 'A',
        digits: 1,
        band,
        verdict,
        measured: taper.value,
        uncertainty: taper.uncertainty,
        budget: taper.budget,
        evidence: span,
        why: `${name} counted ${minutes}; ${words}. The fallen current ends absorb.`,
      };
    if (byTime === 'fail' && verdict === 'fail') return timeRow('fail', `${name} counted only ${minutes}${asked}, and the ${words}.`);
    return timeRow(
      'inconclusive',
      `${name} counted ${minutes}${asked}; ${words}.`,
      'A log with a shorter interval or a better current reading would settle it.',
    );
  }
  if (byTime === 'fail')
    return timeRow(
      requirement.taperA === undefined ? 'fail' : 'inconclusive',
      `${name} counted only ${minutes}${asked}${requirement.taperA === undefined ? '' : ', and the log does not show the bank current falling'}.`,
      'A longer sunny spell would settle it.',
    );
  return timeRow('inconclusive', `${name} counted ${minutes}${asked}.`, 'A log with a shorter interval would settle it.');
}

/** How often a span crosses the absorb level. */
function countEdges(e: Evidence, span: StageSpan, levels: ChargerLevels): number {
  let edges = 0;
  let before = false;
  for (let i = span.first; i <= span.last; i++) {
    const at = referredVolts(e.log, levels, i) >= levels.absorbV - levels.toleranceV;
    if (at !== before) edges++;
    before = at;
  }
  return edges;
}

/** Net bank current over the last minute at voltage; null without a bank current. */
function taperAtEnd(e: Evidence, charger: string, span: StageSpan, levels: ChargerLevels): Measured | null {
  const { bankAmps, time } = e.log;
  if (!bankAmps) return null;
  const level = e.regulated.get(charger) ?? levels.absorbV;
  const amps = chargerAmps(e.log, charger);
  const counts = (i: number): boolean =>
    referredVolts(e.log, levels, i) >= level - levels.toleranceV && (amps?.[i] ?? 0) > levels.zeroA && Number.isFinite(bankAmps[i]);
  let last = span.last;
  while (last > span.first && !counts(last)) last--;
  const values: number[] = [];
  for (let i = last; i >= span.first && (time[last] ?? 0) - (time[i] ?? 0) <= 60; i--) if (counts(i)) values.push(bankAmps[i] ?? 0);
  if (values.length === 0) return null;
  const { level: net, standardError } = robustLevel(values);
  return measure(
    net,
    [
      ...readingBudget(e.instrument.name, net, e.instrument.amps),
      { name: `Scatter of ${values.length} samples`, halfWidth: standardError, divisor: 1, kind: 'random' },
    ],
    e.plan.input.coverage,
  );
}

/** The highest voltage that was held for the dwell time, against the (for lead: compensated) maximum. */
function neverAboveMaximum(e: Evidence, requirement: Requirement): ProofRow {
  const { log } = e;
  const limit = requirement.band.max ?? Infinity;
  const slope = requirement.compensation?.slope ?? 0;
  const reference = requirement.compensation?.referenceC ?? 25;
  if (slope !== 0 && !log.batteryC)
    return notTested(requirement, 'The maximum moves with battery temperature, and the log has none.', 'Log the battery temperature too.');
  const referred = (i: number): number => (log.bankVolts[i] ?? NaN) - (slope === 0 ? 0 : slope * ((log.batteryC?.[i] ?? reference) - reference));
  const held = heldMaximum(log.time, referred, requirement.dwellSeconds);
  if (!held) return notTested(requirement, 'The log is too short to hold any voltage.', 'Bring in a longer log.');
  const budget: BudgetLine[] = [...readingBudget(e.instrument.name, held.value, e.instrument.volts), ...temperatureLine(e, slope)];
  const measured = measure(held.value, budget, e.plan.input.coverage);
  const above = held.value > limit;
  return judged(
    requirement,
    measured,
    { from: held.from, to: held.to },
    `The highest voltage held for ${formatDuration(requirement.dwellSeconds)} was ${formatQuantity(held.value, 'V', 2)} ± ${formatQuantity(measured.uncertainty, 'V', 2)}${slope === 0 ? '' : ` referred to ${reference} °C`} at ${clock(e, held.from)}; ${formatQuantity(limit, 'V', 2)} is the most${above ? `, ${formatQuantity(held.value - limit, 'V', 2)} less` : ''}.`,
  );
}

/**
 * The greatest of all least values over windows of `dwell` seconds: the highest level that was *held*.
 * One pass with a monotone queue.
 */
export function heldMaximum(time: Float64Array, value: (i: number) => number, dwell: number): { value: number; from: number; to: number } | null {
  const queue: number[] = [];
  let head = 0;
  let start = 0;
  let best: { value: number; from: number; to: number } | null = null;
  for (let i = 0; i < time.length; i++) {
    while (queue.length > head && value(queue[queue.length - 1] ?? 0) >= value(i)) queue.pop();
    queue.push(i);
    while ((time[i] ?? 0) - (time[start + 1] ?? Infinity) >= dwell) start++;
    while ((queue[head] ?? 0) < start) head++;
    if ((time[i] ?? 0) - (time[start] ?? 0) < dwell) continue;
    const least = value(queue[head] ?? i);
    if (Number.isFinite(least) && (best === null || least > best.value)) best = { value: least, from: time[start] ?? 0, to: time[i] ?? 0 };
  }
  return best;
}

/** The coldest battery at which this charger's current flowed for the dwell time. A pass needs cold hours in which it could have charged. */
function noChargeBelowMinimum(e: Evidence, requirement: Requirement): ProofRow {
  const charger = requirement.charger ?? '';
  const name = nameOf(e, charger);
  const { log } = e;
  const least = requirement.band.min ?? -Infinity;
  const amps = e.spans.has(charger) ? chargerAmps(log, charger) : undefined;
  const temperature = log.batteryC;
  if (!amps || !temperature)
    return notTested(requirement, `The log has no ${amps ? 'battery temperature' : `current of ${name}`}.`, 'Log both, through a cold morning.');
  const arrayV = log.chargers[charger]?.arrayVolts;
  const longest = longestStep(e.report);
  const budget: BudgetLine[] = [
    {
      name: `${e.instrument.name}: battery temperature ± ${e.instrument.temperatureErrorC} °C`,
      halfWidth: e.instrument.temperatureErrorC,
      divisor: rectangular,
      kind: 'systematic',
    },
  ];
  const uncertainty = expandedUncertainty(budget, e.plan.input.coverage);

  let coldest = Infinity;
  let coldestAt = 0;
  let coldestCharging = Infinity;
  let chargingAt = 0;
  let below = 0;
  let belowAh = 0;
  let mostA = 0;
  let from = Infinity;
  let to = -Infinity;
  let couldHave = 0;
  let runStart = -1;
  for (let i = 0; i <= log.time.length; i++) {
    const on = i < log.time.length && (amps[i] ?? 0) > requirement.zeroA;
    if (on && runStart < 0) runStart = i;
    if (!on && runStart >= 0) {
      if ((log.time[i - 1] ?? 0) - (log.time[runStart] ?? 0) >= requirement.dwellSeconds)
        for (let k = runStart; k < i; k++) {
          const t = temperature[k] ?? NaN;
          if (t < coldestCharging) {
            coldestCharging = t;
            chargingAt = log.time[k] ?? 0;
          }
          if (t < least) {
            const step = Math.min(longest, (log.time[k] ?? 0) - (log.time[k - 1] ?? log.time[k] ?? 0));
            below += step;
            belowAh += ((amps[k] ?? 0) * step) / 3600;
            mostA = Math.max(mostA, amps[k] ?? 0);
            from = Math.min(from, log.time[k] ?? 0);
            to = Math.max(to, log.time[k] ?? 0);
          }
        }
      runStart = -1;
    }
    if (i === log.time.length) break;
    const t = temperature[i] ?? NaN;
    if (t < coldest) {
      coldest = t;
      coldestAt = log.time[i] ?? 0;
    }
    if (t < least - uncertainty && canCharge(arrayV?.[i], log.bankVolts[i] ?? 0))
      couldHave += i === 0 ? 0 : Math.min(longest, (log.time[i] ?? 0) - (log.time[i - 1] ?? 0));
  }
  const measured = { value: coldestCharging, uncertainty, budget };
  const c = (value: number): string => formatQuantity(value, '°C', 1);
  if (coldestCharging < least) {
    const verdict = judge(measured, requirement.band);
    const words = `${name} charged at ${c(coldestCharging)} ± ${c(uncertainty)} at ${clock(e, chargingAt)}. From ${clock(e, from)} to ${clock(e, to)} it gave up to ${formatQuantity(mostA, 'A', 1)}, ${formatQuantity(belowAh, 'Ah', 1)} in ${formatDuration(below)}, below ${c(least)}.`;
    return { ...judged(requirement, measured, { from, to }, words), verdict };
  }
  const cold = `The battery was never colder than ${c(coldest)} (${clock(e, coldestAt)})`;
  if (coldest >= least - uncertainty)
    return notTested(
      requirement,
      `${cold}, so the log cannot show what happens below ${c(least)}.`,
      'A log through a colder morning, or the ice-water test of the sensor, would test it.',
    );
  if (arrayV === undefined)
    return notTested(
      requirement,
      `The battery fell to ${c(coldest)} without charge, but the log has no array voltage, so nobody can tell whether ${name} was held or simply had no sun.`,
      `Log “${charger}_array_V” too.`,
    );
  if (couldHave < 600)
    return notTested(
      requirement,
      `The battery fell to ${c(coldest)}, but ${name} had a live array for only ${formatDuration(couldHave)} of that time.`,
      'A cold, sunny morning would test it.',
    );
  if (!Number.isFinite(coldestCharging))
    return {
      ...base(requirement),
      verdict: 'pass',
      measured: null,
      uncertainty: null,
      budget,
      evidence: { from: coldestAt, to: coldestAt },
      why: `${name} had a live array for ${formatDuration(couldHave)} with the battery down to ${c(coldest)}, and did not charge at all.`,
    };
  return judged(
    requirement,
    measured,
    { from: chargingAt, to: chargingAt },
    `${name} had a live array for ${formatDuration(couldHave)} below ${c(least)} and did not charge; the coldest at which it did was ${c(coldestCharging)} ± ${c(uncertainty)}, at ${clock(e, chargingAt)}.`,
  );
}
