import { formatDuration, measure, said, warmth, warmthBy } from '../../quantity';
import type { Requirement } from '../../requirements';
import { claimedSeconds, longestStep } from '../log';
import { chargerAmps } from '../inference';
import { readyWords } from '../witness';
import { base, clock, judged, nameOf, notTested, noWitness, type Evidence, type ProofRow } from './context';

/** The hottest battery at which this charger’s current flowed for the dwell time. A pass needs hot hours in which it could have charged. */
export function noChargeAboveMaximum(e: Evidence, requirement: Requirement): ProofRow {
  const charger = requirement.charger ?? '';
  const name = nameOf(e, charger);
  const { log } = e;
  const amps = e.spans.has(charger) ? chargerAmps(log, charger) : undefined;
  const warm = log.batteryC;
  if (!amps || !warm) return notTested(requirement, `The log has no ${amps ? 'battery temperature' : `current of ${name}`}.`, 'Log both, on a hot day.');
  const most = requirement.band.max ?? Infinity;
  const longest = longestStep(e.report);
  let hottest = -Infinity;
  let hottestAt = 0;
  let charging = -Infinity;
  let at = 0;
  let run = 0;
  let could = 0;
  const ready = e.witnesses.readiness(charger);
  for (let i = 0; i < log.time.length; i++) {
    const c = warm[i] ?? NaN;
    const step = claimedSeconds(log.time, i, longest);
    if (c > hottest) {
      hottest = c;
      hottestAt = log.time[i] ?? 0;
    }
    run = (amps[i] ?? 0) > requirement.zeroA ? run + step : 0;
    if (run >= requirement.dwellSeconds && c > charging) {
      charging = c;
      at = log.time[i] ?? 0;
    }
    if (c > most && ready.could[i]) could += step;
  }
  const budget = e.temperature.lines;
  const measured = measure(charging, budget, e.plan.input.coverage);
  if (charging > most)
    return judged(
      requirement,
      measured,
      { from: at, to: at },
      said`${name} charged at ${warmth(charging)} ± ${warmthBy(measured.uncertainty)} at ${clock(e, at)}; ${warmth(most)} is the most.`,
      noWitness,
    );
  if (hottest <= most + measured.uncertainty || could < 600)
    return notTested(
      requirement,
      said`The battery was never hotter than ${warmth(hottest)} (${clock(e, hottestAt)})${hottest > most ? `, and the charger was seen to have its source for only ${formatDuration(could)} of that` : ''}, so the log cannot show what happens above ${warmth(most, 0)}.`,
      'A log through a hotter day would test it.',
    );
  return {
    ...base(requirement),
    verdict: 'pass',
    measured: Number.isFinite(charging) ? charging : null,
    uncertainty: Number.isFinite(charging) ? measured.uncertainty : null,
    budget,
    evidence: { from: hottestAt, to: hottestAt },
    why: said`${name} could have charged for ${formatDuration(could)} above ${warmth(most, 0)} and did not.`,
    witness: readyWords(ready),
  };
}
