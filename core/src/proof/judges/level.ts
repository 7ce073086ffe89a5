import { formatBand, formatDuration, formatQuantity, measure, readingBudget, type BudgetLine } from '../../quantity';
import type { Requirement } from '../../requirements';
import { claimedSeconds, longestStep } from '../log';
import { chargerAmps, referredVolts } from '../stages';
import { median, robustLevel } from '../statistics';
import { judged, nameOf, notTested, temperatureLine, type Evidence, type Judge, type ProofRow } from './context';

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
  const longest = longestStep(e.report);
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

/** The level held in absorb. */
export const absorbLevel: Judge = (evidence, requirement) => level(evidence, requirement, 'absorb');

/** The level held in float. */
export const floatLevel: Judge = (evidence, requirement) => level(evidence, requirement, 'float');
