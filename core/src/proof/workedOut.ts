import type { Plan } from '../settings';
import type { Requirement } from '../requirements';
import type { Log } from './log';

/** Part of the power at its input that a charger gives on, where nobody measured its loss. Good enough to see that it gives, not how much. */
const givenOn = 0.95;
/** A sum of readings tells nothing below this, A, nor below this part of the largest of them. */
const leastA = 0.5;
const leastPart = 0.03;

/** A log whose chargers without a current of their own have one that was worked out, and how, in words, by charger. */
export interface WorkedOut {
  readonly log: Log;
  readonly how: ReadonlyMap<string, string>;
}

/**
 * Gives chargers without a current of their own one from what else the log has: the bank’s current and what the loads take, less what the others give
 * (Kirchhoff’s current law at the bus), or the power at its input.
 *
 * @param bankAmps net current into the bank where its sign can be believed
 */
export function workedOut(plan: Plan, log: Log, bankAmps: Float32Array | undefined): WorkedOut {
  const { loadAmps, bankVolts } = log;
  const chargers = plan.input.system.chargers;
  const unknown = chargers.filter((c) => !log.chargers[c.id]?.amps);
  const how = new Map<string, string>();
  const given: Record<string, Float32Array> = {};
  const [last] = unknown;
  if (last && unknown.length === 1 && bankAmps && loadAmps) {
    const others = chargers.flatMap((c) => log.chargers[c.id]?.amps ?? []);
    given[last.id] = Float32Array.from(bankAmps, (net, i) => {
      const loads = Math.abs(loadAmps[i] ?? NaN);
      const theirs = others.map((amps) => amps[i] ?? NaN);
      const sum = net + loads - theirs.reduce((a, b) => a + b, 0);
      return Math.abs(sum) < Math.max(leastA, leastPart * Math.max(Math.abs(net), loads, ...theirs.map(Math.abs))) ? 0 : sum;
    });
    how.set(last.id, `the bank’s current and what the loads take${others.length > 0 ? ', less what the others give' : ''}`);
  }
  for (const { id } of unknown) {
    const watts = log.chargers[id]?.inputWatts;
    if (given[id] || !watts) continue;
    given[id] = Float32Array.from(watts, (w, i) => {
      const amps = (givenOn * w) / (bankVolts[i] ?? NaN);
      return Math.abs(amps) < leastA ? 0 : amps;
    });
    how.set(id, 'the power at its input');
  }
  if (how.size === 0) return { log, how };
  const withAmps = Object.fromEntries(Object.entries(given).map(([id, amps]) => [id, { ...log.chargers[id], amps }]));
  return { log: { ...log, chargers: { ...log.chargers, ...withAmps } }, how };
}

/** Requirements that rest on how many amps flow, or that none do: a current that was worked out does not settle them. */
export const onAmps: readonly Requirement['code'][] = [
  'currentAsProgrammed',
  'currentCeiling',
  'currentForTemperature',
  'noChargeBelowMinimum',
  'noChargeAboveMaximum',
];
