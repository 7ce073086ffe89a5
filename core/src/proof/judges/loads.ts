import { expandedUncertainty, formatDuration, formatQuantity, measure, readingBudget, rectangular, type Band } from '../../quantity';
import type { Requirement } from '../../requirements';
import { devicesOf } from '../../settings';
import { claimedSeconds, longestStep } from '../log';
import { median } from '../statistics';
import { clock, judged, notFromCoarse, notTested, noWitness, worstOf, type Evidence, type ProofRow } from './context';

/** Loads that are cut off stay off for at least so long, s. */
const leastOffS = 60;
/** A delay that nobody knows is no longer than this, s. */
const longestDelayS = 900;
/** In coarser samples a load that comes and goes is not seen, s. */
const finestS = 10;
/** Loads below this part of what they usually take, and this many amps, are off. */
const offPart = 0.05;
const offA = 0.3;

/** Loads that went off or came back at once. */
interface Switched {
  readonly to: 'off' | 'on';
  /** The first sample after it. */
  readonly at: number;
}

/** Where the loads went off and came back. */
function switchings(e: Evidence, loads: Float32Array): readonly Switched[] {
  const { time } = e.log;
  const longest = longestStep(e.report);
  const amps = (i: number): number => Math.abs(loads[i] ?? NaN);
  const on = [...loads.keys()].flatMap((i) => (amps(i) > offA ? [amps(i)] : []));
  if (on.length < 3) return [];
  const off = Math.max(offA, offPart * median(on));
  const found: Switched[] = [];
  let offFrom = -1;
  for (let i = 1; i < loads.length; i++) {
    if (claimedSeconds(time, i, longest) === 0) {
      offFrom = -1;
      continue;
    }
    if (amps(i) <= off && amps(i - 1) > 2 * off) offFrom = i;
    else if (offFrom >= 0 && amps(i) > off) {
      if ((time[i] ?? 0) - (time[offFrom] ?? 0) >= leastOffS)
        found.push({ to: 'off', at: offFrom }, ...(amps(i) > 2 * off ? [{ to: 'on', at: i } as const] : []));
      offFrom = -1;
    }
  }
  if (offFrom >= 0 && (time.at(-1) ?? 0) - (time[offFrom] ?? 0) >= leastOffS) found.push({ to: 'off', at: offFrom });
  return found;
}

/**
 * The voltage at which a switch acts lies between two that the log shows: one that had to last for its delay, and one that did not make it act.
 *
 * @returns V; null where the log does not reach back so far
 */
function actsBetween(e: Evidence, volts: Float32Array, { to, at }: Switched, delay: number | undefined): { low: number; high: number } | null {
  const { time } = e.log;
  const interval = e.report.intervalSeconds;
  const now = time[at] ?? 0;
  // Surely beyond it in the last sample before, and for the delay where that is known.
  const last = volts[at - 1] ?? NaN;
  // Between that sample and the next it went on as it had gone.
  const went = last - (volts[at - 2] ?? last);
  let inner = to === 'off' ? last + Math.min(0, went) : last + Math.max(0, went);
  // Not yet beyond it: one sample before the delay could have begun.
  let outer = last;
  let reaches = false;
  const beyond = to === 'off' ? Math.max : Math.min;
  for (let i = at - 1; i >= 0; i--) {
    const ago = now - (time[i] ?? 0);
    const v = volts[i] ?? NaN;
    if (delay !== undefined && ago <= delay - interval) inner = beyond(inner, v);
    outer = beyond(outer, v);
    if (ago > (delay ?? longestDelayS) + 2 * interval) {
      reaches = true;
      break;
    }
  }
  return reaches && Number.isFinite(inner + outer) ? { low: Math.min(inner, outer), high: Math.max(inner, outer) } : null;
}

/** Where the loads of a device were cut off or came back, against its setting. */
function acts(e: Evidence, requirement: Requirement, to: 'off' | 'on'): ProofRow {
  const id = requirement.charger ?? '';
  const name = devicesOf(e.plan.input).find((d) => d.id === id)?.name ?? 'The switch';
  const loads = e.log.loadAmps;
  const test = 'Log what the loads take, or do the test that draws the bank down.';
  if (!loads) return notTested(requirement, 'The log has no current of the loads.', test);
  // What the device measures at its own terminals is what it acts on.
  const volts = e.log.chargers[id]?.volts ?? e.log.bankVolts;
  const stayed = to === 'off' ? staysOn(e, requirement, loads, volts) : null;
  if (stayed) return stayed;
  const all = switchings(e, loads).filter((s) => s.to === to);
  const rows = all.flatMap((s): ProofRow[] => {
    const between = actsBetween(e, volts, s, requirement.delaySeconds);
    if (!between || farFrom(requirement.band, between, to)) return [];
    const value = (between.low + between.high) / 2;
    const measured = measure(
      value,
      [
        ...readingBudget(e.instrument.name, value, e.instrument.volts),
        {
          name: `It acted somewhere between ${formatQuantity(between.low, 'V', 2)} and ${formatQuantity(between.high, 'V', 2)}${requirement.delaySeconds === undefined ? ': nobody knows its delay' : ''}`,
          halfWidth: (between.high - between.low) / 2,
          divisor: rectangular,
          kind: 'systematic',
        },
      ],
      e.plan.input.coverage,
    );
    const at = e.log.time[s.at] ?? 0;
    const before = Math.abs(loads[s.at - 1] ?? 0);
    const after = Math.abs(loads[s.at] ?? 0);
    const row = judged(
      requirement,
      measured,
      { from: at - (requirement.delaySeconds ?? longestDelayS) - 300, to: at + 300 },
      `The loads ${to === 'off' ? 'went off' : 'came back'} at ${clock(e, at)}, with the bank at ${formatQuantity(value, 'V', 2)} ± ${formatQuantity(measured.uncertainty, 'V', 2)}${requirement.delaySeconds === undefined ? '' : ` ${formatDuration(requirement.delaySeconds)} before`}; ${bandWords(requirement.band)} is asked of ${name}.`,
      { words: `The current of the loads went from ${formatQuantity(before, 'A', 1)} to ${formatQuantity(after, 'A', 1)} at once.` },
    );
    return [notFromCoarse(e, row, finestS, 'moved the bank')];
  });
  const worst = worstOf(rows);
  if (worst) return worst;
  const lowest = volts.reduce((least, v) => (v < least ? v : least), Infinity);
  return notTested(
    requirement,
    to === 'off'
      ? all.length > 0
        ? `The loads went off ${all.length === 1 ? 'once' : `${all.length} times`} with the bank well above that: somebody may have switched them off.`
        : `The loads were not cut off in this log; the bank came down to ${formatQuantity(lowest, 'V', 2)}.`
      : 'The loads were not seen to come back by themselves in this log.',
    test,
  );
}

/** A switching so far from its band, V per V of it, is somebody’s hand, or other loads. */
const handPart = 0.04;

function farFrom({ min, max }: Band, { low, high }: { low: number; high: number }, to: 'off' | 'on'): boolean {
  return to === 'off' ? low > (max ?? min ?? Infinity) * (1 + handPart) : high < (min ?? max ?? -Infinity) * (1 - handPart);
}

const bandWords = ({ min, max }: Band): string =>
  min === undefined
    ? `at most ${formatQuantity(max ?? 0, 'V', 2)}`
    : max === undefined
      ? `at least ${formatQuantity(min, 'V', 2)}`
      : `${formatQuantity(min, 'V', 2)} to ${formatQuantity(max, 'V', 2)}`;

/** Loads that went on drawing with the bank below the disconnect for longer than its delay. Null where that was not seen. */
function staysOn(e: Evidence, requirement: Requirement, loads: Float32Array, volts: Float32Array): ProofRow | null {
  const least = requirement.band.min;
  if (least === undefined) return null;
  const { time } = e.log;
  const longest = longestStep(e.report);
  const surely = least - expandedUncertainty(readingBudget(e.instrument.name, least, e.instrument.volts), e.plan.input.coverage);
  const patience = (requirement.delaySeconds ?? longestDelayS) + 2 * e.report.intervalSeconds;
  let [seconds, from, highest, drawn] = [0, 0, -Infinity, 0];
  let worst: { seconds: number; from: number; to: number; highest: number; amps: number } | null = null;
  for (let i = 0; i < time.length; i++) {
    const step = claimedSeconds(time, i, longest);
    const amps = Math.abs(loads[i] ?? NaN);
    const low = (volts[i] ?? NaN) < surely && amps > offA;
    if (!low || (step === 0 && seconds > 0)) {
      [seconds, highest, drawn] = [0, -Infinity, 0];
      if (!low) continue;
    }
    if (seconds === 0 && highest === -Infinity) from = time[i] ?? 0;
    else seconds += step;
    highest = Math.max(highest, volts[i] ?? NaN);
    drawn = Math.max(drawn, amps);
    if (seconds > patience && (worst === null || seconds > worst.seconds)) worst = { seconds, from, to: time[i] ?? 0, highest, amps: drawn };
  }
  if (!worst) return null;
  const measured = measure(worst.highest, readingBudget(e.instrument.name, worst.highest, e.instrument.volts), e.plan.input.coverage);
  return judged(
    requirement,
    measured,
    { from: worst.from, to: worst.to },
    `From ${clock(e, worst.from)} the loads drew up to ${formatQuantity(worst.amps, 'A', 1)} for ${formatDuration(worst.seconds)} with the bank at ${formatQuantity(worst.highest, 'V', 2)} ± ${formatQuantity(measured.uncertainty, 'V', 2)} or lower, and were not cut off; ${bandWords(requirement.band)} is asked.`,
    noWitness,
  );
}

/** Where the loads are cut off. */
export const loadDisconnect = (e: Evidence, requirement: Requirement): ProofRow => acts(e, requirement, 'off');
/** Where they come back. */
export const loadReconnect = (e: Evidence, requirement: Requirement): ProofRow => acts(e, requirement, 'on');
