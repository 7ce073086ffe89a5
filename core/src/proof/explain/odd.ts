import { claimedSeconds } from '../log';
import { canCharge } from '../inference';
import { formatDuration, said, warmth, warmthBy, type Sentence } from '../../quantity';
import { clock } from '../judges/context';
import type { Explanation, Teller } from './explanation';
import { amps, looks, mean, stretches, volts } from './look';

/** Absorb that began on a touch, long before the voltage stayed. */
export const earlyAbsorb: Teller = (e) =>
  looks(e).flatMap((c) =>
    c.spans.flatMap((span): Explanation[] => {
      if (span.stage !== 'absorb') return [];
      const counted = stretches(e, span, c.longest, c.at);
      const first = counted[0];
      const main = [...counted].sort((a, b) => b.to - b.from - (a.to - a.from))[0];
      if (!first || !main || main === first || first.to - first.from > 180 || main.from - first.to < 900) return [];
      return [
        {
          kind: 'odd',
          code: 'early-absorb',
          charger: c.id,
          at: span.from,
          from: span.from - 300,
          to: main.to,
          title: 'Absorb began on a touch',
          cause: `${c.name} called it absorb at ${clock(e, span.from)}, when the voltage touched ${volts(c.absorbV)} for ${formatDuration(Math.max(first.to - first.from, e.report.intervalSeconds))}. It stayed there only from ${clock(e, main.from)}; ${formatDuration(span.atVoltageSeconds)} counted in all.`,
          means: 'Its display said absorb for all that time. That is not “nearly full”: the time counts only at voltage.',
          advice: 'If the charger has a hold time before absorb, a minute or two would wait for the voltage to stay.',
          counted,
        },
      ];
    }),
  );

/** Absorb that lasted long by the clock and counted little. */
export const timerWaits: Teller = (e) =>
  looks(e).flatMap((c) =>
    c.spans.flatMap((span): Explanation[] => {
      const lasted = span.to - span.from;
      if (span.stage !== 'absorb' || lasted < 3600 || span.atVoltageSeconds > 0.5 * lasted) return [];
      return [
        {
          kind: 'odd',
          code: 'timer-waits',
          charger: c.id,
          at: span.from,
          from: span.from,
          to: span.to,
          title: 'The absorb timer hardly counted',
          cause: `Absorb lasted ${formatDuration(lasted)} by the clock, and ${formatDuration(span.atVoltageSeconds)} of it were at voltage.${c.levels.absorbSeconds === null ? '' : ` It takes ${formatDuration(c.levels.absorbSeconds)}.`}`,
          means: 'Clouds or loads held the voltage below its level. The timer runs only at voltage.',
          advice: 'Nothing to change on a cloudy day. If clear days look like this, the array is small for the loads.',
          counted: stretches(e, span, c.longest, c.at),
        },
      ];
    }),
  );

/** A charger's current that cannot fall to its taper because the loads take it. */
export const loadsHoldTaper: Teller = (e) => {
  const { bankAmps } = e.log;
  if (!bankAmps) return [];
  return looks(e).flatMap((c) =>
    c.spans.flatMap((span): Explanation[] => {
      const taper = c.levels.taperA;
      if (span.stage !== 'absorb' || taper === null || taper <= 0 || span.atVoltageSeconds < 1200) return [];
      let seconds = 0;
      let from = 0;
      let last = span.first;
      for (let i = span.first; i <= span.last; i++) {
        if (!c.at(i) || !((bankAmps[i] ?? NaN) < taper) || !((c.amps[i] ?? 0) > 1.3 * taper)) continue;
        if (seconds === 0) from = e.log.time[i] ?? 0;
        seconds += claimedSeconds(e.log.time, i, c.longest);
        last = i;
      }
      if (seconds < 900) return [];
      const own = mean(c.amps, last - 5, last);
      const net = mean(bankAmps, last - 5, last);
      return [
        {
          kind: 'odd',
          code: 'loads-hold-taper',
          charger: c.id,
          at: from,
          from,
          to: e.log.time[last] ?? from,
          title: 'The loads keep it in absorb',
          cause: `For ${formatDuration(seconds)} only ${amps(net)} went into the bank, and ${c.name} still gave ${amps(own)}: the loads took ${amps(own - net)}. Its taper is ${amps(taper)} of its own current, so it did not see the bank as full.`,
          means: 'The bank was held at absorb voltage longer than it needed.',
          advice: 'Raise its taper by the standing loads, or let a shunt tell it the bank’s current, if it can.',
        },
      ];
    }),
  );
};

/** Current while the battery is colder than the cutoff: the sensor reads warmer than the cells. */
export const coldSensorWarm: Teller = (e) => {
  const { batteryC } = e.log;
  if (!batteryC) return [];
  return looks(e).flatMap((c): Explanation[] => {
    const { cutoffC } = c.levels;
    if (cutoffC === null) return [];
    let seconds = 0;
    let coldest = Infinity;
    let from = 0;
    let to = 0;
    let firstC = NaN;
    for (let i = 0; i < c.amps.length; i++) {
      const t = batteryC[i] ?? NaN;
      if (!((c.amps[i] ?? 0) > c.levels.zeroA) || !(t < cutoffC - e.temperature.errorC)) continue;
      if (seconds === 0) {
        from = e.log.time[i] ?? 0;
        firstC = t;
      }
      seconds += claimedSeconds(e.log.time, i, c.longest);
      coldest = Math.min(coldest, t);
      to = e.log.time[i] ?? 0;
    }
    if (seconds < 300) return [];
    const sensor = e.plan.input.system.chargers.find((x) => x.id === c.id)?.sensor;
    const place =
      sensor?.place === 'pad' ? ' It is fitted on a pad, which makes it warmer than the cells.' : sensor?.fitted === false ? ' No sensor is fitted.' : '';
    return [
      {
        kind: 'odd',
        code: 'cold-sensor-warm',
        charger: c.id,
        at: from,
        from,
        to,
        title: 'The cold sensor reads warm, or is not heeded',
        cause: said`${c.name} gave current for ${formatDuration(seconds)} with the battery below its cutoff of ${warmth(cutoffC)}, down to ${warmth(coldest)}. When it began the battery was at ${warmth(firstC)}, so what it reads is at least ${warmthBy(cutoffC - firstC)} warmer, or it does not act on it.${place}`,
        means: 'The cutoff acts degrees too late. Lithium below its least temperature is harmed for good.',
        advice: 'Move the sensor onto the cell case, under tape, and repeat the ice test. Until then switch this source off on cold mornings.',
      },
    ];
  });
};

/** Sources there, battery warm, nothing flows and nothing explains it. */
export const idleInSun: Teller = (e) =>
  looks(e).flatMap((c): Explanation[] => {
    const arrayV = e.log.chargers[c.id]?.arrayVolts;
    if (!arrayV) return [];
    let seconds = 0;
    let from = 0;
    let to = 0;
    for (let i = 0; i < c.amps.length; i++) {
      const low = c.volts(i) < (c.levels.rechargeV ?? c.absorbV - 1) && (c.amps[i] ?? NaN) <= c.levels.zeroA && canCharge(arrayV[i], c.volts(i));
      const cold = c.levels.cutoffC !== null && (e.log.batteryC?.[i] ?? -99) <= c.levels.cutoffC + 4;
      if (!low || cold) continue;
      if (seconds === 0) from = e.log.time[i] ?? 0;
      seconds += claimedSeconds(e.log.time, i, c.longest);
      to = e.log.time[i] ?? 0;
    }
    if (seconds < 1800) return [];
    return [
      {
        kind: 'odd',
        code: 'idle-in-sun',
        charger: c.id,
        at: from,
        from,
        to,
        title: 'No new charge although the bank was low',
        cause: `For ${formatDuration(seconds)} the bank was below ${volts(c.levels.rechargeV ?? c.absorbV - 1)} with the input of ${c.name} above it, and no current flowed.`,
        means:
          'An input is as high under snow or behind an open isolator. Where neither was: its recharge may need the voltage to be low for longer, or count from another figure than was entered; a lost sensor can hold it too.',
        advice: 'Read its recharge value and its sensor back on the display.',
      },
    ];
  });

/** One charger in float while another holds absorb above it. */
export const sistersApart: Teller = (e) => {
  const all = looks(e);
  const list: Explanation[] = [];
  for (const low of all)
    for (const high of all) {
      if (low === high) continue;
      let seconds = 0;
      let from = 0;
      let to = 0;
      for (const a of low.spans) {
        if (a.stage !== 'float' && a.stage !== 'rest') continue;
        for (const b of high.spans) {
          if (b.stage !== 'absorb') continue;
          const start = Math.max(a.from, b.from);
          const end = Math.min(a.to, b.to);
          if (end - start < 600) continue;
          if (seconds === 0) from = start;
          seconds += end - start;
          to = end;
        }
      }
      if (seconds < 1200) continue;
      const apart = high.absorbV - low.absorbV;
      list.push({
        kind: 'odd',
        code: 'sisters-apart',
        charger: low.id,
        at: from,
        from: from - 600,
        to,
        title: `${low.name} had gone to float while ${high.name} held absorb`,
        cause: `For ${formatDuration(seconds)} from ${clock(e, from)} ${high.name} held ${volts(high.absorbV)} and ${low.name}, whose absorb is ${volts(low.absorbV)}, gave next to nothing.${apart > 0.05 ? ` They are ${volts(apart)} apart.` : ''}`,
        means:
          apart > 0.05
            ? 'The higher one works alone and the lower one drops back early.'
            : 'Each counts its own time and its own current; the one that began first is done first.',
        advice:
          apart > 0.05
            ? 'Set both so that the bank sees one level: compare their displays with one meter.'
            : 'Let them share: some chargers of one make can follow a leader.',
      });
    }
  return list;
};

/** A temperature that leaps, or stands still for a day: a sensor that is not where it should be. */
export const strangeTemperature: Teller = (e) => {
  const { batteryC, time } = e.log;
  if (!batteryC || batteryC.length < 100) return [];
  const list: Explanation[] = [];
  for (let i = 1; i < batteryC.length && list.length < 3; i++) {
    const leap = (batteryC[i] ?? NaN) - (batteryC[i - 1] ?? NaN);
    if (!(Math.abs(leap) > 8) || claimedSeconds(time, i, 5 * e.report.intervalSeconds) === 0) continue;
    list.push({
      kind: 'odd',
      code: 'temperature-leaps',
      at: time[i] ?? 0,
      from: (time[i] ?? 0) - 600,
      to: (time[i] ?? 0) + 600,
      title: 'The battery temperature leapt',
      cause: said`It went from ${warmth(batteryC[i - 1] ?? NaN)} to ${warmth(batteryC[i] ?? NaN)} between two samples, at ${clock(e, time[i] ?? 0)}. No battery does that.`,
      means: 'A sensor was unplugged, put back, or moved. Chargers that lose theirs use a fixed temperature, or stop.',
      advice: 'Look where the sensor sits and at its plug.',
    });
  }
  const span = (time.at(-1) ?? 0) - (time[0] ?? 0);
  let low = Infinity;
  let high = -Infinity;
  for (const c of batteryC) {
    if (c < low) low = c;
    if (c > high) high = c;
  }
  if (span > 20 * 3600 && high - low < 0.05)
    list.push({
      kind: 'odd',
      code: 'temperature-stands',
      at: time[0] ?? 0,
      from: time[0] ?? 0,
      to: time.at(-1) ?? 0,
      title: 'The battery temperature never moved',
      cause: said`It stayed at ${warmth(low)} for ${formatDuration(span)}.`,
      means: 'That is what a fixed value looks like that replaces a missing sensor.',
      advice: 'Warm the sensor in the hand and watch the reading.',
    });
  return list;
};

/** What a verdict already says, told where it happened: a monitor that resets too early, a BMS that opened. */
export const fromVerdicts =
  (
    rows: readonly {
      requirement: { code: string; charger?: string; name: string };
      verdict: string;
      why: Sentence;
      evidence: { from: number; to: number } | null;
    }[],
  ): Teller =>
  () =>
    rows.flatMap((row): Explanation[] => {
      if (row.verdict !== 'fail' || !row.evidence) return [];
      const told = { monitorFull: 'The monitor called it full too early', noDisconnect: 'The BMS opened' }[row.requirement.code];
      if (!told) return [];
      return [
        {
          kind: 'odd',
          code: row.requirement.code === 'monitorFull' ? 'monitor-early' : 'bms-opened',
          ...(row.requirement.charger ? { charger: row.requirement.charger } : {}),
          at: row.evidence.from + 1800 * (row.requirement.code === 'monitorFull' ? 1 : 0),
          from: row.evidence.from,
          to: row.evidence.to,
          title: told,
          cause: row.why,
          means:
            row.requirement.code === 'monitorFull'
              ? 'Every later figure of charge counts from a bank that was not full.'
              : 'Chargers and loads were alone on the bus: spikes, dead alternator diodes, lost loads.',
          advice:
            row.requirement.code === 'monitorFull'
              ? 'Set its full voltage, current and time so that it waits for the end of absorb.'
              : 'Find which limit of the BMS it was before anything else is charged: cell voltage, current or temperature.',
        },
      ];
    });
