import { expandedUncertainty, formatDuration, formatQuantity, said, warmth, warmthBy, type Warmth } from '../../quantity';
import type { Requirement } from '../../requirements';
import { claimedSeconds, longestStep } from '../log';
import { chargerAmps } from '../inference';
import { readyWords } from '../witness';
import { base, blindSpot, clock, judged, nameOf, notTested, noWitness, openRow, type Evidence, type ProofRow } from './context';

/** The coldest battery at which this charger's current flowed for the dwell time. A pass needs cold hours in which it could have charged. */
export function noChargeBelowMinimum(e: Evidence, requirement: Requirement): ProofRow {
  const charger = requirement.charger ?? '';
  const name = nameOf(e, charger);
  const { log } = e;
  const least = requirement.band.min ?? -Infinity;
  const amps = e.spans.has(charger) ? chargerAmps(log, charger) : undefined;
  const temperature = log.batteryC;
  if (!amps || !temperature)
    return notTested(requirement, `The log has no ${amps ? 'battery temperature' : `current of ${name}`}.`, 'Log both, through a cold morning.');
  const ready = e.witnesses.readiness(charger);
  const longest = longestStep(e.report);
  const budget = e.temperature.lines;
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
  let blind = 0;
  /** Seconds in the cold in which it gave current and the loads took all of it. */
  let toLoads = 0;
  // What the loads take is no charge; without the bank's current nobody can tell.
  const net = e.bankAmps;
  const charges = (i: number): boolean => (amps[i] ?? 0) > requirement.zeroA && (net === undefined || !((net[i] ?? NaN) <= requirement.zeroA));
  let runStart = -1;
  for (let i = 0; i <= log.time.length; i++) {
    const on = i < log.time.length && charges(i);
    if (runStart >= 0 && (!on || (log.time[i] ?? 0) - (log.time[i - 1] ?? 0) > longest)) {
      if ((log.time[i - 1] ?? 0) - (log.time[runStart] ?? 0) >= requirement.dwellSeconds)
        for (let k = runStart; k < i; k++) {
          const t = temperature[k] ?? NaN;
          if (t < coldestCharging) {
            coldestCharging = t;
            chargingAt = log.time[k] ?? 0;
          }
          if (t < least) {
            const step = claimedSeconds(log.time, k, longest);
            below += step;
            belowAh += ((amps[k] ?? 0) * step) / 3600;
            mostA = Math.max(mostA, amps[k] ?? 0);
            from = Math.min(from, log.time[k] ?? 0);
            to = Math.max(to, log.time[k] ?? 0);
          }
        }
      runStart = -1;
    }
    if (on && runStart < 0) runStart = i;
    if (i === log.time.length) break;
    const t = temperature[i] ?? NaN;
    if (t < coldest) {
      coldest = t;
      coldestAt = log.time[i] ?? 0;
    }
    const step = claimedSeconds(log.time, i, longest);
    const live = t < least - uncertainty && ready.could[i] === 1;
    if (live && Number.isFinite(amps[i])) couldHave += step;
    if (t < least && !on && (amps[i] ?? 0) > requirement.zeroA) toLoads += step;
    // Charging at an unknown temperature, or an unknown current in the cold, could hide the very thing that is asked.
    if ((on && Number.isNaN(t)) || (live && !Number.isFinite(amps[i]))) blind += step;
  }
  const measured = { value: coldestCharging, uncertainty, budget };
  const zero = formatQuantity(requirement.zeroA, 'A', 1);
  const c = (value: number): Warmth => warmth(value);
  if (coldestCharging < least) {
    const words = said`${name} charged at ${c(coldestCharging)} ± ${warmthBy(uncertainty)} at ${clock(e, chargingAt)}. From ${clock(e, from)} to ${clock(e, to)} it gave up to ${formatQuantity(mostA, 'A', 1)}, ${formatQuantity(belowAh, 'Ah', 1)} in ${formatDuration(below)}, below ${c(least)}.`;
    const row = judged(requirement, measured, { from, to }, words, noWitness);
    return row.verdict === 'fail' && net === undefined && mostA <= e.plan.input.system.loads.maxA
      ? openRow(row, 'The loads may have taken all of it.', 'Log the bank’s current too.')
      : row;
  }
  const cold = said`The battery was never colder than ${c(coldest)} (${clock(e, coldestAt)})`;
  if (coldest >= least - uncertainty)
    return notTested(
      requirement,
      said`${cold}, so the log cannot show what happens below ${c(least)}.`,
      'A log through a colder morning, or the ice-water test of the sensor, would test it.',
    );
  if (couldHave < 600)
    return notTested(
      requirement,
      said`The battery fell to ${c(coldest)} without charge, but nothing shows that ${name} had its source then${couldHave > 0 ? ` for more than ${formatDuration(couldHave)}` : ''}: an array is at its open-circuit volts under snow too.`,
      'The light, the engine, a sister’s current, or its own a few minutes before or after, in the log of a cold morning would show it.',
    );
  const whole = (row: ProofRow): ProofRow => {
    if (row.verdict === 'pass' && toLoads > requirement.dwellSeconds)
      return openRow(
        row,
        `But for ${formatDuration(toLoads)} of the cold it gave current, which the loads took: nothing held it back.`,
        'A cold morning on which it gives more than the loads take would settle it.',
      );
    return blindSpot(row, blind, 'temperature while charging, or no current while cold', 'A log with both in every sample of a cold morning would settle it.');
  };
  if (!Number.isFinite(coldestCharging))
    return whole({
      ...base(requirement),
      verdict: 'pass',
      measured: null,
      uncertainty: null,
      budget,
      evidence: { from: coldestAt, to: coldestAt },
      why: said`${name} had its source for ${formatDuration(couldHave)} with the battery down to ${c(coldest)}, and did not charge at all (${zero} or more counts as charge).`,
      witness: readyWords(ready),
    });
  return whole(
    judged(
      requirement,
      measured,
      { from: chargingAt, to: chargingAt },
      said`${name} had its source for ${formatDuration(couldHave)} below ${c(least)} and did not charge; the coldest at which it did was ${c(coldestCharging)} ± ${warmthBy(uncertainty)}, at ${clock(e, chargingAt)} (${zero} or more counts as charge).`,
      { words: readyWords(ready) },
    ),
  );
}
