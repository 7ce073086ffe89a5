import { formatDuration, formatQuantity, measure, rectangular, said, type BudgetLine } from '../../quantity';
import { taperOnBank, type Requirement } from '../../requirements';
import { chargersWithCards } from '../../settings';
import { claimedSeconds, longestStep } from '../log';
import {
  bankCurrentMended,
  bankCurrentMissing,
  base,
  clock,
  gapSeconds,
  judged,
  nameOf,
  notTested,
  openRow,
  worstOf,
  type Evidence,
  type ProofRow,
} from './context';

/** How far apart the levels lie that the chargers were seen to regulate at. One instrument reads them all, so its own error cancels. */
export function chargersAgree(e: Evidence, requirement: Requirement): ProofRow {
  // One bus voltage is credited only to a charger that was seen to hold it by itself.
  const seen = [...e.inferred].flatMap(([id, i]) => {
    const spans = i.spans.filter((s) => s.stage === 'absorb');
    const held =
      i.absorbSeen &&
      spans.some((s) => e.witnesses.regulation({ charger: id, from: s.first, to: s.last, levelV: i.absorbV, slope: i.slope, alone: true }) !== null);
    return held ? [{ id, volts: i.absorbV, spans }] : [];
  });
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
  const row = judged(
    requirement,
    measured,
    { from, to },
    `${nameOf(e, high.id)} holds ${formatQuantity(high.volts, 'V', 2)} and ${nameOf(e, low.id)} ${formatQuantity(low.volts, 'V', 2)}: ${formatQuantity(apart, 'V', 2)} ± ${formatQuantity(measured.uncertainty, 'V', 2)} apart, ${formatQuantity(requirement.band.max ?? 0, 'V', 2)} is tolerated.${apart > (requirement.band.max ?? 0) ? ` The lower one drops back while ${nameOf(e, high.id)} works alone.` : ''}`,
    { words: `Each of ${seen.length} was seen to hold its level by itself.` },
  );
  // Of those that were not seen any may hold another level.
  const unseen = chargersWithCards(e.plan.input).filter(
    ({ charger }) => e.plan.setting(charger.id, 'absorbVoltage')?.trueValue != null && !seen.some((s) => s.id === charger.id),
  );
  if (row.verdict !== 'pass' || unseen.length === 0) return row;
  return openRow(
    row,
    `${unseen.map(({ charger }) => charger.name).join(', ')} ${unseen.length === 1 ? 'was' : 'were'} not seen to hold absorb.`,
    'A day on which each reaches absorb by itself, or the test with one after the other, would settle it.',
  );
}

/** A monitor may show full only when the bank was: absorb completed on some charger, or the taper seen. */
export function monitorFull(e: Evidence, requirement: Requirement): ProofRow {
  const soc = e.log.stateOfCharge;
  const name = e.plan.input.system.companions.find((c) => c.id === requirement.charger)?.name ?? 'The monitor';
  if (!soc) return notTested(requirement, 'The log has no state of charge.', 'Log what the monitor shows, or do the test at the end of absorb.');
  const jumps = [...soc.keys()].filter((i) => i > 0 && (soc[i] ?? 0) >= fullPercent && (soc[i - 1] ?? 0) < fullPercent);
  const rows = jumps.map((at) => fullAt(e, requirement, name, at, soc[at - 1] ?? 0));
  const worst = worstOf(rows);
  if (worst) return jumps.length > 1 ? { ...worst, why: said`${worst.why} ${jumps.length} times in all.` } : worst;
  const done = [...e.inferred.values()].some((i) => i.spans.some((s) => s.stage === 'float'));
  return notTested(
    requirement,
    done ? `${name} was not seen to jump to full in this log, though a charger went to float.` : `${name} was not seen to reach full in this log.`,
    'A day that ends absorb would test it.',
  );
}

/** A monitor shows full from here on, %. */
const fullPercent = 99.5;
/** What was held or ended within so long before it belongs to the same charge, s. */
const sameChargeS = 12 * 3600;
/** Two samples further apart than this can hold an absorb between them, s. */
const coarseS = 120;
/** A bulk for so long after absorb is another charge, s. */
const newChargeS = 1800;

/** The time at voltage is over from this part of it on: a charger’s own clock is a hundredth off, and the log’s edges are. */
const timeOverPart = 0.98;

/** A current this far above the sheet's taper is that of a bank which is not full. */
const notTaperedPart = 1.25;

/** One moment at which a monitor went to full. */
function fullAt(e: Evidence, requirement: Requirement, name: string, at: number, before: number): ProofRow {
  const now = e.log.time[at] ?? 0;
  let counted = 0;
  let done = false;
  for (const { spans } of e.inferred.values()) {
    const recent = spans.filter((s) => s.from <= now + 60 && s.to > now - sameChargeS);
    // What comes before a night or another bulk was another charge.
    const cut = recent.findLastIndex((s) => (s.stage === 'bulk' || s.stage === 'off') && Math.min(s.to, now) - s.from > newChargeS);
    for (const s of recent.slice(cut + 1)) {
      if (s.stage === 'absorb') counted = Math.max(counted, Math.min(s.atVoltageSeconds, now - s.from));
      if (s.stage === 'float' || s.stage === 'rest') done = true;
    }
  }
  const asked = [...e.levels.values()].reduce((most, l) => Math.max(most, l.absorbSeconds ?? 0), 0);
  const words = `${name} went from ${formatQuantity(before, '%', 0)} to full at ${clock(e, now)}, after ${formatDuration(counted)} at absorb voltage${asked > 0 ? ` of the ${formatDuration(asked)} that absorb takes` : ''}`;
  const evidence = { from: now - 1800, to: now + 600 };
  const row = { ...base(requirement), band: {}, measured: null, uncertainty: null, budget: [], evidence };
  // A bank that hardly takes anything more is full, however short the absorb was.
  const taperA = taperOnBank(e.plan);
  const taking = taperA === undefined || (e.bankAmps?.[at] ?? NaN) > notTaperedPart * taperA;
  // A charger that goes to float after a moment at voltage has not filled the bank.
  if (asked > 0 ? counted >= timeOverPart * asked : done)
    return {
      ...row,
      verdict: 'pass',
      why: `${words}.`,
      witness: asked > 0 ? 'The time at absorb voltage was over by then.' : 'A charger had ended absorb by then.',
    };
  // Of coarse samples the short absorb of a bank that is nearly full may be missing.
  if (taking && counted < 0.3 * asked && before < 97 && 2 * e.report.intervalSeconds <= coarseS)
    return { ...row, verdict: 'fail', why: `${words}: too early. Its count starts from a bank that was not full.` };
  return { ...row, verdict: 'inconclusive', why: `${words}.`, next: 'The bank’s current at that moment, against the sheet’s taper, would settle it.' };
}

/** A stretch in which the bank's current cannot be told from zero. */
interface Opening {
  readonly from: number;
  seconds: number;
  volts: number;
  amps: number;
  /** The bus went where no closed battery would let it. */
  left: boolean;
}

/** The least part of the log in which the bank's current must be known for it to be said that the BMS stayed closed. */
const leastKnown = 0.98;
/** An opening shorter than this is not looked for, s. */
const leastOpenS = 20;
/** How far the bus must leap for it, as a part of the bank's nominal volts, and how low it must fall. */
const leapPart = 0.02;
const collapsed = 0.75;
/** A battery's volts go the way its current goes. So far the other way, as a part of the nominal volts, and it is not the battery that was there. */
const againstPart = 0.004;

/**
 * A BMS that opens: the bank's current cannot be told from zero by that instrument while the bus leaps up from what the battery held, or collapses.
 * For a pass the current has to be known nearly all the time, and the chargers to have charged.
 */
export function noDisconnect(e: Evidence, requirement: Requirement): ProofRow {
  const { time, bankVolts, chargers } = e.log;
  const { bankAmps } = e;
  const all = e.plan.input.system.chargers.flatMap((c) => {
    // A current that was worked out from the bank’s says nothing of the bank’s.
    const amps = e.worked.has(c.id) ? undefined : chargers[c.id]?.amps;
    return amps ? [amps] : [];
  });
  if (!bankAmps || all.length === 0)
    return notTested(
      requirement,
      bankAmps ? 'The log lacks the current of the chargers; a BMS that opens shows where bank and chargers part.' : bankCurrentMissing(e),
      bankAmps ? 'Log the current of every charger too.' : bankCurrentMended(e),
    );
  const longest = longestStep(e.report);
  const nominal = e.plan.facts.nominalVolts;
  const { amps: accuracy } = e.instrument;
  // A shunt idles at a tenth of an amp and at what its resolution is.
  const zero = Math.max(0.15, 2 * accuracy.resolution * Math.max(1, accuracy.digits));
  let charged = 0;
  let blind = 0;
  /** Seconds in which chargers fed the loads and the bank took nothing: with the BMS open it would look the same. */
  let alike = 0;
  let before = NaN;
  let beforeA = 0;
  let opening: Opening | null = null;
  let worst = null as Opening | null;
  for (let i = 1; i < time.length; i++) {
    const step = claimedSeconds(time, i, longest);
    const given = all.reduce((sum, a) => sum + (a[i] ?? 0), 0);
    const [net, volts] = [bankAmps[i] ?? NaN, bankVolts[i] ?? NaN];
    if (given > 2) charged += step;
    if (!Number.isFinite(net) || !Number.isFinite(volts)) blind += step;
    if (!(Math.abs(net) <= zero)) {
      opening = null;
      if (Number.isFinite(net) && Number.isFinite(volts)) [before, beforeA] = [volts, net];
      continue;
    }
    if (given > 1) alike += step;
    if (!opening || step === 0) opening = { from: time[i] ?? 0, seconds: 0, volts, amps: given, left: false };
    else opening.seconds += step;
    // Up where chargers push against nothing; down where loads are left without a battery. Sinking from absorb to float is neither.
    // A load that goes lets the bank come up by itself: only from rest or charge is it a leap, and only with something that pushes.
    const leapt = given > 1 && beforeA > -2 * zero && volts - before > leapPart * nominal;
    const against = opening.seconds === 0 && Math.abs(beforeA) > 2 * zero && (volts - before) * Math.sign(beforeA) > againstPart * nominal;
    if (against || leapt || volts < collapsed * nominal) {
      opening.left = true;
      opening.volts = volts;
      opening.amps = Math.max(opening.amps, given);
    }
    if (opening.left && opening.seconds >= leastOpenS && (!worst || opening.seconds >= worst.seconds)) worst = opening;
  }
  const row = { ...base(requirement), measured: null, uncertainty: null, budget: [] };
  // Of samples that lie far apart one may be a load that came and went.
  if (worst && 2 * e.report.intervalSeconds > requirement.dwellSeconds && worst.volts >= collapsed * nominal)
    return {
      ...row,
      verdict: 'inconclusive',
      evidence: { from: worst.from - 120, to: worst.from + worst.seconds + 120 },
      why: `From ${clock(e, worst.from)} no current that this instrument could tell from zero went into the bank, and the bus moved to ${formatQuantity(worst.volts, 'V', 2)}; with samples ${formatDuration(e.report.intervalSeconds)} apart a load may have done that.`,
      next: `A log with a sample every ${formatDuration(requirement.dwellSeconds / 2)} or more often would settle it.`,
    };
  if (worst)
    return {
      ...row,
      verdict: 'fail',
      evidence: { from: worst.from - 120, to: worst.from + worst.seconds + 120 },
      why: `From ${clock(e, worst.from)} no current that this instrument could tell from zero went into the bank for ${formatDuration(worst.seconds)}, and the bus went to ${formatQuantity(worst.volts, 'V', 2)} while the chargers gave ${formatQuantity(worst.amps, 'A', 1)}: the BMS had opened.`,
    };
  if (charged < 3600)
    return notTested(requirement, `The chargers gave current for only ${formatDuration(charged)} in this log.`, 'A day of charging would test it.');
  const whole = (time.at(-1) ?? 0) - (time[0] ?? 0);
  const gaps = gapSeconds(e);
  const evidence = { from: time[0] ?? 0, to: time.at(-1) ?? 0 };
  const why = `The bank’s current was known for ${formatDuration(whole - gaps - blind)} of ${formatDuration(whole)}, and the bus never left the battery’s volts while it was zero.`;
  if (alike > (1 - leastKnown) * whole)
    return {
      ...row,
      verdict: 'inconclusive',
      evidence,
      why: `${why} But for ${formatDuration(alike)} the chargers fed the loads and the bank’s current could not be distinguished from zero: with the BMS open it would look the same.`,
      next: 'A shunt that shows hundredths of an amp, or the BMS’s own record, would settle it.',
    };
  if (2 * e.report.intervalSeconds > requirement.dwellSeconds)
    return {
      ...row,
      verdict: 'inconclusive',
      evidence,
      why: `${why} Its samples are ${formatDuration(e.report.intervalSeconds)} apart: an opening between two of them would not show.`,
      next: `A log with a sample every ${formatDuration(requirement.dwellSeconds / 2)} or more often would settle it.`,
    };
  const unseen = e.plan.input.system.chargers.filter((c) => e.worked.has(c.id) || !chargers[c.id]?.amps);
  if (unseen.length > 0)
    return {
      ...row,
      verdict: 'inconclusive',
      evidence,
      why: `${why} But the log does not say what ${unseen.map((c) => c.name).join(', ')} gave: with the BMS open it may have fed the loads.`,
      next: 'A log with the current of every charger would settle it.',
    };
  if (blind + gaps > (1 - leastKnown) * whole)
    return {
      ...row,
      verdict: 'inconclusive',
      evidence,
      why: `${why} The BMS may have opened in the rest.`,
      next: 'A log with the bank’s current in nearly every sample would settle it.',
    };
  return {
    ...row,
    verdict: 'pass',
    evidence,
    why,
    witness: `The chargers gave current for ${formatDuration(charged)}: an opening would have sent the bus up or down.`,
  };
}
