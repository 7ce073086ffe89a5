import { formatDuration, formatQuantity, measure, rectangular, type BudgetLine } from '../../quantity';
import type { Requirement } from '../../requirements';
import { claimedSeconds, longestStep } from '../log';
import { base, clock, gapsLeftOut, judged, nameOf, notTested, type Evidence, type ProofRow } from './context';

/** How far apart the levels lie that the chargers were seen to regulate at. One instrument reads them all, so its own error cancels. */
export function chargersAgree(e: Evidence, requirement: Requirement): ProofRow {
  const seen = [...e.inferred].filter(([, i]) => i.absorbSeen).map(([id, i]) => ({ id, volts: i.absorbV, spans: i.spans.filter((s) => s.stage === 'absorb') }));
  if (seen.length < 2)
    return notTested(
      requirement,
      seen.length === 0 ? 'No charger was seen to hold absorb in this log.' : `Only ${nameOf(e, seen[0]?.id)} was seen to hold absorb in this log.`,
      'A day on which two or more chargers reach absorb, or the test with one after the other, would test it.',
    );
  seen.sort((a, b) => a.volts - b.volts);
  const [low, high] = [seen[0], seen.at(-1)];
  if (!low || !high) return notTested(requirement, '', '');
  const apart = high.volts - low.volts;
  const budget: BudgetLine[] = [
    { name: 'Resolution of the log, at each level', halfWidth: e.instrument.volts.resolution * Math.SQRT2, divisor: rectangular, kind: 'random' },
    { name: 'What a charger’s own cable drops at its current', halfWidth: 0.02, divisor: rectangular, kind: 'systematic' },
  ];
  const measured = measure(apart, budget, e.plan.input.coverage);
  const from = Math.min(...seen.flatMap((s) => s.spans.map((x) => x.from)));
  const to = Math.max(...seen.flatMap((s) => s.spans.map((x) => x.to)));
  return judged(
    requirement,
    measured,
    { from, to },
    `${nameOf(e, high.id)} holds ${formatQuantity(high.volts, 'V', 2)} and ${nameOf(e, low.id)} ${formatQuantity(low.volts, 'V', 2)}: ${formatQuantity(apart, 'V', 2)} ± ${formatQuantity(measured.uncertainty, 'V', 2)} apart, ${formatQuantity(requirement.band.max ?? 0, 'V', 2)} is let pass.${apart > (requirement.band.max ?? 0) ? ` The lower one drops back while ${nameOf(e, high.id)} works alone.` : ''}`,
  );
}

/** A monitor may show full only when the bank was: absorb completed on some charger, or the taper seen. */
export function monitorFull(e: Evidence, requirement: Requirement): ProofRow {
  const soc = e.log.stateOfCharge;
  const name = e.plan.input.system.companions.find((c) => c.id === requirement.charger)?.name ?? 'The monitor';
  if (!soc) return notTested(requirement, 'The log has no state of charge.', 'Log what the monitor shows, or do the test at the end of absorb.');
  let at = -1;
  for (let i = 1; i < soc.length && at < 0; i++) if ((soc[i] ?? 0) >= 99.5 && (soc[i - 1] ?? 0) < 99.5) at = i;
  if (at < 0) {
    const done = [...e.inferred.values()].some((i) => i.spans.some((s) => s.stage === 'float'));
    return notTested(
      requirement,
      done ? `${name} was not seen to jump to full in this log, though a charger went to float.` : `${name} was not seen to reach full in this log.`,
      'A day that ends absorb would test it.',
    );
  }
  const now = e.log.time[at] ?? 0;
  const before = soc[at - 1] ?? 0;
  let counted = 0;
  for (const [, i] of e.inferred)
    for (const s of i.spans) if (s.stage === 'absorb' && s.from <= now) counted = Math.max(counted, Math.min(s.atVoltageSeconds, now - s.from));
  const done = [...e.inferred.values()].some((i) =>
    i.spans.some((s) => (s.stage === 'float' || s.stage === 'rest') && s.from <= now + 60 && s.from > now - 86_400),
  );
  const asked = [...e.levels.values()].reduce((most, l) => Math.max(most, l.absorbSeconds ?? 0), 0);
  const words = `${name} went from ${formatQuantity(before, '%', 0)} to full at ${clock(e, now)}, after ${formatDuration(counted)} at absorb voltage${asked > 0 ? ` of the ${formatDuration(asked)} that absorb takes` : ''}`;
  const evidence = { from: now - 1800, to: now + 600 };
  const row = { ...base(requirement), band: {}, measured: null, uncertainty: null, budget: [], evidence };
  if (done || (asked > 0 && counted >= 0.9 * asked)) return { ...row, verdict: 'pass', why: `${words}.` };
  if (counted < 0.3 * asked && before < 97) return { ...row, verdict: 'fail', why: `${words}: too early. Its count starts from a bank that was not full.` };
  return { ...row, verdict: 'inconclusive', why: `${words}.`, next: 'The bank’s current at that moment, against the sheet’s taper, would settle it.' };
}

/** A bank that takes nothing while chargers give: its BMS has opened. */
export function noDisconnect(e: Evidence, requirement: Requirement): ProofRow {
  const { bankAmps, time, bankVolts, chargers } = e.log;
  const all = e.plan.input.system.chargers.flatMap((c) => {
    const amps = chargers[c.id]?.amps;
    return amps ? [amps] : [];
  });
  if (!bankAmps || all.length === 0)
    return notTested(
      requirement,
      'The log lacks the current of the bank or of the chargers; a BMS that opens shows where the two part.',
      'Log the bank’s current and that of every charger.',
    );
  const longest = longestStep(e.report);
  let charged = 0;
  let at = -1;
  let seconds = 0;
  let worst: { from: number; seconds: number; volts: number; amps: number } | null = null;
  for (let i = 1; i < time.length; i++) {
    const given = all.reduce((sum, a) => sum + (a[i] ?? 0), 0);
    if (given > 2) charged += claimedSeconds(time, i, longest);
    // Exactly nothing through the shunt, for long, while the voltage leapt: loads and chargers alone on the bus.
    const open = Math.abs(bankAmps[i] ?? 1) < 0.05 && (given > 2 || Math.abs((bankVolts[i] ?? 0) - (bankVolts[Math.max(0, i - 1)] ?? 0)) > 0.6);
    if (open) {
      if (at < 0) {
        at = i;
        seconds = 0;
      }
      seconds += claimedSeconds(time, i, longest);
      const leap = Math.abs((bankVolts[i] ?? 0) - (bankVolts[Math.max(0, at - 1)] ?? 0));
      if (leap > 0.5 && seconds >= 20 && (!worst || seconds > worst.seconds)) worst = { from: time[at] ?? 0, seconds, volts: bankVolts[i] ?? 0, amps: given };
    } else at = -1;
  }
  const row = { ...base(requirement), measured: null, uncertainty: null, budget: [] };
  if (worst)
    return {
      ...row,
      verdict: 'fail',
      evidence: { from: worst.from - 120, to: worst.from + worst.seconds + 120 },
      why: `From ${clock(e, worst.from)} no current went into the bank for ${formatDuration(worst.seconds)} while the chargers gave ${formatQuantity(worst.amps, 'A', 1)} and the bus stood at ${formatQuantity(worst.volts, 'V', 2)}: the BMS had opened.`,
    };
  if (charged < 3600)
    return notTested(requirement, `The chargers gave current for only ${formatDuration(charged)} in this log.`, 'A day of charging would test it.');
  return {
    ...row,
    verdict: 'pass',
    evidence: { from: time[0] ?? 0, to: time.at(-1) ?? 0 },
    why: `The bank took or gave current all through the log.${gapsLeftOut(e)}`,
  };
}
