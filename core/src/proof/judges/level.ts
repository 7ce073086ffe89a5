import { formatBand, formatDuration, formatQuantity, measure, readingBudget, type BudgetLine } from '../../quantity';
import type { Requirement } from '../../requirements';
import { claimedSeconds, longestStep } from '../log';
import { chargerAmps, referredVolts } from '../inference';
import { median, robustLevel } from '../statistics';
import { judged, nameOf, notTested, temperatureLine, type Evidence, type Judge, type ProofRow } from './context';

/** Nothing fails by less than this where the voltage was not seen to stand, s. */
const leastToFail = 1800;
/** Least plateau that is evidence of a level, s. */
const leastPlateau = 120;

/** Median level of the regulated samples in a stage, with the logger's systematic error and the scatter of autocorrelated samples. */
function level(e: Evidence, requirement: Requirement, stage: 'absorb' | 'float'): ProofRow {
  const charger = requirement.charger ?? '';
  const levels = e.levels.get(charger);
  const spans = e.spans.get(charger);
  const name = nameOf(e, charger);
  if (!levels || !spans) return notTested(requirement, `The log has no current of ${name}.`, `Log ${name}’s own current.`);
  if (levels.slope !== 0 && !e.log.batteryC)
    return notTested(requirement, `The level of ${name} moves with battery temperature, and the log has none.`, 'Log the battery temperature too.');
  const amps = chargerAmps(e.log, charger);
  const seenBy = e.inferred.get(charger);
  const at = stage === 'absorb' ? (seenBy?.absorbV ?? null) : null;
  // Held is what was held as the voltage really moves; the level is told as it was programmed or asked to move.
  const really = { ...levels, slope: seenBy?.slope ?? levels.slope };
  const asked = { ...levels, slope: requirement.question === 'specified' ? (requirement.compensation?.slope ?? 0) : levels.slope };
  const longest = longestStep(e.report);
  const volts: number[] = [];
  // A hundred thousand samples of one level tell no more than a tenth of them.
  const total = spans.reduce((sum, span) => sum + (span.stage === stage ? span.last - span.first + 1 : 0), 0);
  const every = Math.max(1, Math.floor(total / 20_000));
  let place = 0;
  let from = Infinity;
  let to = -Infinity;
  let seconds = 0;
  for (const span of spans) {
    if (span.stage !== stage) continue;
    const settledFrom = span.from + (stage === 'float' ? 600 : 0);
    for (let i = span.first; i <= span.last; i++) {
      const now = e.log.time[i] ?? 0;
      const regulated =
        stage === 'absorb'
          ? at !== null && referredVolts(e.log, really, i) >= at - levels.toleranceV && (amps?.[i] ?? 0) > levels.zeroA
          : now >= settledFrom && (amps?.[i] ?? 0) > levels.zeroA;
      if (!regulated) continue;
      if (place++ % every === 0) volts.push(referredVolts(e.log, asked, i));
      from = Math.min(from, now);
      to = Math.max(to, now);
      seconds += claimedSeconds(e.log.time, i, longest);
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
    ...temperatureLine(e, asked.slope),
  ];
  const measured = measure(held, budget, e.plan.input.coverage);
  const seen = stage === 'absorb' ? seenBy?.absorbSeen : seenBy?.floatSeen;
  const referred = asked.slope !== 0 ? ` (referred to ${levels.referenceC} °C)` : '';
  const row = judged(
    requirement,
    measured,
    { from, to },
    `${name} held ${formatQuantity(held, 'V', 2)} ± ${formatQuantity(measured.uncertainty, 'V', 2)}${referred} for ${formatDuration(seconds)} in ${stage}; ${formatBand(requirement.band, 'V', 2)} is ${requirement.question === 'specified' ? 'asked' : 'programmed'}.`,
  );
  // A level that was not seen to be held is none to fail by.
  if (row.verdict === 'fail' && !seen && seconds < leastToFail)
    return {
      ...row,
      verdict: 'inconclusive',
      why: `${row.why} The voltage was on its way there rather than held.`,
      next: `A longer stay in ${stage} would settle it: half an hour at one voltage.`,
    };
  return row;
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

/** The level held in absorb. */
export const absorbLevel: Judge = (evidence, requirement) => level(evidence, requirement, 'absorb');

/** The level held in float. */
export const floatLevel: Judge = (evidence, requirement) => level(evidence, requirement, 'float');
