import { stages } from '../charger';
import { formatDuration, formatQuantity, outsideBy, said, warmth, type Band, type Sentence } from '../quantity';
import { seenBy, type Requirement } from '../requirements';
import type { Plan } from '../settings';
import { clockOf } from './clock';
import type { ChargerTrace, Run, RunEvent } from './record';

/** What a rehearsal says of a requirement. It proves nothing: that is for Prove. */
export type Holding = 'holds' | 'breaks' | 'cannotTell';

/** A holding in words. */
export const holdingWords: Readonly<Record<Holding, string>> = { holds: 'Holds', breaks: 'Breaks', cannotTell: 'Cannot tell' };

/** One requirement on one rehearsed run. */
export interface Outcome {
  readonly requirement: Requirement;
  readonly holding: Holding;
  /** In the requirement's unit; null where there is none. */
  readonly value: number | null;
  readonly why: Sentence;
  /** Where to look, seconds since 1970. */
  readonly from?: number;
  readonly to?: number;
}

/** What every judge of a requirement sees. */
interface Seen {
  readonly plan: Plan;
  readonly run: Run;
  readonly requirement: Requirement;
  readonly trace: ChargerTrace | undefined;
  readonly name: string;
}

type Answer = Omit<Outcome, 'requirement'>;

const volts = (value: number): string => formatQuantity(value, 'V', 2);
const amps = (value: number): string => formatQuantity(value, 'A', 0);
const cannotTell = (why: Sentence): Answer => ({ holding: 'cannotTell', value: null, why });
const inBand = (band: Band, value: number): boolean => Math.abs(outsideBy(band, value)) < 0.005;

/** Volts with the compensation of the sheet taken off. */
function referred({ run, requirement }: Seen, value: number, i: number): number {
  const c = requirement.compensation;
  return c ? value - c.slope * ((run.batteryC[i] ?? c.referenceC) - c.referenceC) : value;
}

/** The highest voltage that was held as long as the requirement counts. */
function neverAboveMaximum(seen: Seen): Answer {
  const { run, requirement } = seen;
  const need = Math.max(1, Math.ceil(requirement.dwellSeconds / run.everyS));
  let best = -Infinity;
  let at = 0;
  for (let i = need; i < run.time.length; i++) {
    let low = Infinity;
    for (let k = i - need + 1; k <= i; k++) low = Math.min(low, referred(seen, run.bankLow[k] ?? Infinity, k));
    if (low > best) {
      best = low;
      at = run.time[i] ?? 0;
    }
  }
  if (!Number.isFinite(best)) return cannotTell('The run is too short to hold any voltage.');
  const most = requirement.band.max ?? Infinity;
  const fine = best <= most + 0.005;
  return {
    holding: fine ? 'holds' : 'breaks',
    value: best,
    why: said`The bank was held at up to ${volts(best)}${requirement.compensation ? said` referred to ${warmth(requirement.compensation.referenceC, 0)}` : ''} at ${clockOf(run, at)}; ${volts(most)} is the most${fine ? '' : `, ${volts(best - most)} less`}.`,
    from: at - requirement.dwellSeconds,
    to: at,
  };
}

/** Mean level while a charger regulated in a stage. */
const level =
  (stage: 'absorb' | 'float') =>
  (seen: Seen): Answer => {
    const { run, requirement, trace, name } = seen;
    if (!trace) return cannotTell(`${name} was not rehearsed.`);
    const code = stages.indexOf(stage);
    let sum = 0;
    let count = 0;
    let from = Infinity;
    let to = -Infinity;
    const settled = stage === 'float' ? Math.ceil(600 / run.everyS) : 0;
    let into = 0;
    for (let i = 0; i < run.time.length; i++) {
      if (trace.stage[i] !== code) {
        into = 0;
        continue;
      }
      into++;
      const own = trace.amps[i] ?? 0;
      if (into <= settled || own <= 0.02 || own >= (trace.ready[i] ?? 0) * 0.995) continue;
      sum += referred(seen, run.bankVolts[i] ?? 0, i);
      count++;
      from = Math.min(from, run.time[i] ?? 0);
      to = Math.max(to, run.time[i] ?? 0);
    }
    const { absorbS, absorbVs, floatS, floatVs } = trace.totals;
    const [s, vs] = stage === 'absorb' ? [absorbS, absorbVs] : [floatS, floatVs];
    const value = count > 0 ? sum / count : s > 0 && !requirement.compensation ? vs / s : NaN;
    if (Number.isNaN(value)) return cannotTell(`${name} never held its voltage in ${stage} on this ${run.to - run.from > 90_000 ? 'stretch' : 'day'}.`);
    const off = outsideBy(requirement.band, value);
    const fine = inBand(requirement.band, value);
    return {
      holding: fine ? 'holds' : 'breaks',
      value,
      why: `With ${name} in ${stage} the bank was at ${volts(value)}${fine ? '' : `, ${volts(Math.abs(off))} ${off > 0 ? 'above' : 'below'} the sheet’s figure`}.`,
      ...(Number.isFinite(from) ? { from, to } : {}),
    };
  };

/** Whether each absorb that its charger ended had the time at voltage, or the fallen current, that the sheet asks. */
function absorbCompleted({ run, requirement, trace, name }: Seen): Answer {
  const ended = run.events.filter((e) => e.kind === 'stage' && e.device === requirement.charger && e.before === 'absorb' && e.cause !== 'sourceOff');
  const begun = trace?.spans.some((s) => s.stage === 'absorb') ?? false;
  if (!begun) return cannotTell(`${name} never reached absorb.`);
  const own = ended.filter((e) => e.cause !== 'cold' && e.cause !== 'restart' && e.cause !== 'alarm');
  if (own.length === 0) return cannotTell(`${name} began absorb and its source was gone before it ended.`);
  const least = requirement.band.min ?? 0;
  const short = own.find((e) => (e.counted ?? 0) < least - 1 && e.bankA > (requirement.taperA ?? -Infinity));
  const shown = short ?? own[0];
  const counted = shown?.counted ?? 0;
  return {
    holding: short ? 'breaks' : 'holds',
    value: counted,
    why: `${name} ended absorb at ${clockOf(run, shown?.at ?? 0)} after ${formatDuration(Math.round(counted))} at voltage, with ${formatQuantity(shown?.bankA ?? 0, 'A', 1)} into the bank${short ? `: neither ${formatDuration(least)} nor a current of ${formatQuantity(requirement.taperA ?? 0, 'A', 1)} or less` : ''}.`,
    ...(shown ? { from: shown.at - (shown.lasted ?? 0), to: shown.at } : {}),
  };
}

function noChargeBelowMinimum({ run, requirement, trace, name }: Seen): Answer {
  if (!trace) return cannotTell(`${name} was not rehearsed.`);
  const { coldAh, coldest, coldestAt, coldReady } = trace.totals;
  const least = requirement.band.min ?? -Infinity;
  if (coldAh > 0.005)
    return {
      holding: 'breaks',
      value: coldest,
      why: said`${name} charged cells of ${warmth(coldest)} at ${clockOf(run, coldestAt)}: ${formatQuantity(coldAh, 'Ah', 1)} below ${warmth(least, 0)}.`,
      from: coldestAt,
      to: coldestAt,
    };
  if (coldReady < 600)
    return cannotTell(said`The cells were never below ${warmth(least, 0)} while ${name} could have charged; the coldest was ${warmth(run.totals.coldest)}.`);
  return {
    holding: 'holds',
    value: Number.isFinite(coldest) ? coldest : null,
    why: said`${name} had its source for ${formatDuration(coldReady)} with the cells below ${warmth(least, 0)} and did not charge.`,
  };
}

function currentForTemperature({ run }: Seen): Answer {
  const t = run.totals;
  if (t.overA > 0) {
    // Where the record shows it best: the sample with the most current beside that moment.
    const near = Math.round((t.overAt - run.from) / run.everyS);
    const at = [near - 1, near, near + 1].reduce((best, i) => ((run.bankAmps[i] ?? -Infinity) > (run.bankAmps[best] ?? -Infinity) ? i : best), near);
    const shown = run.time[at] ?? t.overAt;
    return {
      holding: 'breaks',
      value: t.overTook,
      why: said`At ${clockOf(run, t.overAt)} the bank took ${amps(t.overTook)} at ${warmth(t.overC)}; the sheet allows ${amps(t.overAllowed)}. Above it for ${formatDuration(Math.round(t.overSeconds))} in all.`,
      from: shown,
      to: shown,
    };
  }
  if (t.nearTook === 0) return cannotTell('The bank was not charged.');
  return {
    holding: 'holds',
    value: t.nearTook,
    why: said`Nearest it came: ${amps(t.nearTook)} at ${warmth(t.nearC)}, where ${amps(t.nearAllowed)} are allowed.`,
  };
}

function rechargeLevel({ run, requirement, name }: Seen): Answer {
  const again = run.events.filter((e) => e.kind === 'stage' && e.device === requirement.charger && e.cause === 'recharge');
  const most = requirement.band.max ?? Infinity;
  const worst = again.reduce<RunEvent | null>((a, e) => (a === null || e.bankV > a.bankV ? e : a), null);
  if (!worst) return cannotTell(`${name} never began anew by voltage; the bank fell to ${volts(run.totals.lowest)}, and ${volts(most)} is the most for it.`);
  const fine = worst.bankV <= most + 0.005;
  return {
    holding: fine ? 'holds' : 'breaks',
    value: worst.bankV,
    why: `${name} began anew at ${clockOf(run, worst.at)} with the bank at ${volts(worst.bankV)}${fine ? '' : `, ${volts(worst.bankV - most)} above the sheet’s most`}.`,
    from: worst.at,
    to: worst.at,
  };
}

function noDisconnect({ run }: Seen): Answer {
  const trips = run.events.filter((e) => e.kind === 'bmsOpen' && e.trip !== 'scenario');
  const first = trips[0];
  return first
    ? {
        holding: 'breaks',
        value: trips.length,
        why: `The BMS opened at ${clockOf(run, first.at)}, ${trips.length === 1 ? 'once' : `${trips.length} times in all`}.`,
        from: first.at,
        to: first.at,
      }
    : { holding: 'holds', value: 0, why: 'The BMS stayed closed.' };
}

function loadsStayOn({ run }: Seen): Answer {
  const off = run.totals.loadOffSeconds;
  const first = run.events.find((e) => e.kind === 'loadOff');
  return first
    ? {
        holding: 'breaks',
        value: off,
        why: `The loads were cut off at ${clockOf(run, first.at)}, for ${formatDuration(Math.round(off))} in all.`,
        from: first.at,
        to: first.at,
      }
    : { holding: 'holds', value: 0, why: `The bank never fell lower than ${volts(run.totals.lowest)}.` };
}

/** A monitor's full counts as right from this charge on, 0 to 1. */
const nearlyFull = 0.95;

function monitorFull({ run, requirement, name }: Seen): Answer {
  const shown = run.events.filter((e) => e.kind === 'monitorFull' && e.device === requirement.charger);
  const early = shown.find((e) => e.charge < nearlyFull);
  const first = early ?? shown[0];
  if (first)
    return {
      holding: early ? 'breaks' : 'holds',
      value: Math.min(100, first.charge * 100),
      why: `${name} shows full at ${clockOf(run, first.at)}, with the bank at ${Math.round(Math.min(1, first.charge) * 100)} %.`,
      from: first.at,
      to: first.at,
    };
  if (Number.isNaN(run.totals.fullAt)) return cannotTell('The bank did not become full.');
  return {
    holding: 'breaks',
    value: null,
    why: `The bank was full at ${clockOf(run, run.totals.fullAt)}, and ${name} did not show it.`,
    from: run.totals.fullAt,
    to: run.totals.fullAt,
  };
}

const judges: Readonly<Partial<Record<Requirement['code'], (seen: Seen) => Answer>>> = {
  neverAboveMaximum,
  absorbLevel: level('absorb'),
  floatLevel: level('float'),
  absorbCompleted,
  noChargeBelowMinimum,
  currentForTemperature,
  rechargeLevel,
  noDisconnect,
  loadsStayOn,
  monitorFull,
};

/** Judges every requirement on a run. */
export function evaluateRun(plan: Plan, run: Run): readonly Outcome[] {
  const names = new Map([...plan.input.system.chargers, ...plan.input.system.companions].map((d) => [d.id, d.name]));
  return seenBy(plan, 'rehearsal').map((requirement) => ({
    requirement,
    ...(judges[requirement.code] ?? (() => cannotTell('A rehearsal does not show it.')))({
      plan,
      run,
      requirement,
      trace: run.chargers.find((c) => c.id === requirement.charger),
      name: names.get(requirement.charger ?? '') ?? 'the bank',
    }),
  }));
}

/** All outcomes of one requirement over the chargers, as one: the worst of them; what holds somewhere and cannot be told elsewhere holds. */
export interface Together {
  readonly code: Requirement['code'];
  readonly name: string;
  readonly holding: Holding;
  /** The outcome that decides. */
  readonly shown: Outcome;
  readonly all: readonly Outcome[];
}

/** Outcomes put together by requirement, in the order of the list. */
export function togetherBy(outcomes: readonly Outcome[]): readonly Together[] {
  const codes = [...new Set(outcomes.map((o) => o.requirement.code))];
  const strength: readonly Holding[] = ['breaks', 'holds', 'cannotTell'];
  return codes.flatMap((code) => {
    const all = outcomes.filter((o) => o.requirement.code === code);
    const shown = [...all].sort((a, b) => strength.indexOf(a.holding) - strength.indexOf(b.holding))[0];
    return shown ? [{ code, name: shown.requirement.name, holding: shown.holding, shown, all }] : [];
  });
}
