import { formatBand, formatDuration, formatQuantity, measure, readingBudget, type BudgetLine } from '../../quantity';
import type { Requirement } from '../../requirements';
import { claimedSeconds, longestStep } from '../log';
import { chargerAmps, referredVolts } from '../inference';
import { clock, dwellOf, gapsLeftOut, judged, nameOf, notTested, type Evidence, type Judge, type ProofRow } from './context';
import { heldMaximum } from './neverAboveMaximum';

/** A charge that begins after less than this in float or at rest may be the morning’s, s. */
const leastHeldS = 1800;

/** The lowest voltage while the charger held or rested, and the voltage at which it began a new charge. */
function recharge(e: Evidence, requirement: Requirement): ProofRow {
  const charger = requirement.charger ?? '';
  const name = nameOf(e, charger);
  const spans = e.spans.get(charger);
  const levels = e.levels.get(charger);
  const amps = spans ? chargerAmps(e.log, charger) : undefined;
  if (!spans || !levels || !amps) return notTested(requirement, `The log has no current of ${name}.`, `Log ${name}’s own current.`);
  const begun: { at: number; from: number; volts: number }[] = [];
  spans.forEach((span, k) => {
    const before = spans[k - 1];
    // Only a charge that begins by itself: after float or rest in daylight, not after a night.
    if (span.stage !== 'bulk' || !before || (before.stage !== 'float' && before.stage !== 'rest') || before.to - before.from < leastHeldS) return;
    let least = Infinity;
    for (let i = Math.max(before.first, span.first - 60); i <= Math.min(span.first + 2, span.last); i++)
      least = Math.min(least, referredVolts(e.log, levels, i));
    begun.push({ at: span.from, from: before.from, volts: least });
  });
  const highest = begun.reduce<(typeof begun)[number] | null>((a, b) => (a === null || b.volts > a.volts ? b : a), null);
  const band = requirement.band;
  if (!highest) {
    let lowest = Infinity;
    for (const s of spans)
      if (s.stage === 'float' || s.stage === 'rest') for (let i = s.first; i <= s.last; i++) lowest = Math.min(lowest, referredVolts(e.log, levels, i));
    return notTested(
      requirement,
      Number.isFinite(lowest)
        ? `While ${name} held or rested the bank never fell below ${formatQuantity(lowest, 'V', 2)}, so no new charge began by day.`
        : `${name} was never seen in float or at rest, so no new charge could begin.`,
      'A load that draws the bank down while the source is there would test it.',
    );
  }
  const budget: BudgetLine[] = [
    ...readingBudget(e.instrument.name, highest.volts, e.instrument.volts),
    {
      name: `Between two samples the voltage moved on by up to ${formatQuantity(0.05, 'V', 2)}`,
      halfWidth: 0.05,
      divisor: Math.sqrt(3),
      kind: 'random',
    },
  ];
  const measured = measure(highest.volts, budget, e.plan.input.coverage);
  return judged(
    requirement,
    measured,
    { from: highest.at - 300, to: highest.at + 300 },
    `${name} began a new charge at ${clock(e, highest.at)}, with the bank down to ${formatQuantity(highest.volts, 'V', 2)} ± ${formatQuantity(measured.uncertainty, 'V', 2)}${begun.length > 1 ? `; the highest of ${begun.length} times` : ''}. ${band.max === undefined ? '' : `${requirement.question === 'specified' ? `At most ${formatQuantity(band.max, 'V', 2)} is asked.` : `${formatBand(band, 'V', 2)} is programmed.`}`}`,
    { words: `${name} was in float or at rest, and gave full current again: a new charge.` },
  );
}

/** Recharge as the sheet asks, and as programmed. */
export const rechargeLevel: Judge = recharge;

/** Nobody equalised: the highest voltage this charger held for five minutes while it gave current. */
export function noEqualise(e: Evidence, requirement: Requirement): ProofRow {
  const charger = requirement.charger ?? '';
  const name = nameOf(e, charger);
  const levels = e.levels.get(charger);
  const amps = e.spans.has(charger) ? chargerAmps(e.log, charger) : undefined;
  if (!amps || !levels) return notTested(requirement, `The log has no current of ${name}.`, `Log ${name}’s own current.`);
  if (levels.slope !== 0 && !e.log.batteryC)
    return notTested(requirement, 'What would be equalising moves with battery temperature, and the log has none.', 'Log the battery temperature too.');
  const longest = longestStep(e.report);
  const dwell = dwellOf(e, requirement);
  const held = heldMaximum(e.log.time, (i) => ((amps[i] ?? NaN) > requirement.zeroA ? referredVolts(e.log, levels, i) : NaN), dwell, longest);
  let charged = 0;
  for (let i = 0; i < amps.length; i++) if ((amps[i] ?? 0) > requirement.zeroA) charged += claimedSeconds(e.log.time, i, longest);
  if (!held || charged < 3600)
    return notTested(requirement, `${name} charged for only ${formatDuration(charged)} in this log.`, 'A day of charging would test it.');
  const measured = measure(held.value, readingBudget(e.instrument.name, held.value, e.instrument.volts), e.plan.input.coverage);
  const absorbV = e.inferred.get(charger)?.absorbV ?? levels.absorbV;
  const reached = held.value >= absorbV - levels.toleranceV;
  return judged(
    requirement,
    measured,
    { from: held.from, to: held.to },
    `While ${name} charged, the highest voltage held for ${formatDuration(dwell)} was ${formatQuantity(held.value, 'V', 2)} ± ${formatQuantity(measured.uncertainty, 'V', 2)} at ${clock(e, held.from)}; more than ${formatQuantity(requirement.band.max ?? 0, 'V', 2)} would be equalising.${gapsLeftOut(e)}`,
    reached
      ? { words: `${name} came to absorb, from which an equalise begins, and charged for ${formatDuration(charged)} in all.` }
      : { missing: `${name} never came to absorb, from which an equalise begins.`, next: 'A day that reaches absorb would test it.' },
  );
}
