import { stageCode, type Stage } from '../../charger';
import type { Evidence } from '../judges';
import { formatDuration, said, warmth } from '../../quantity';
import { clock } from '../judges/context';
import type { Explanation, Teller } from './explanation';
import { amps, looks, mean, stretches, volts, type Look } from './look';

/** Most changes told of one charger. */
const mostTold = 120;
/** Shorter than this is a touch, s. */
const touchS = 90;

type Told = Pick<Explanation, 'title' | 'cause'> & Partial<Pick<Explanation, 'means' | 'sure' | 'advice' | 'counted'>>;

function began(e: Evidence, c: Look, k: number): Told {
  const span = c.spans[k];
  if (!span) return { title: '', cause: '' };
  const counted = stretches(e, span, c.longest, c.at);
  const first = counted[0];
  const i = span.first;
  const before = mean(c.amps, i - Math.max(1, Math.round(60 / e.report.intervalSeconds)), i - 1);
  const after = mean(c.amps, i, i + 1);
  const jump = Number.isFinite(before) && after > before * 1.25 + 1;
  const held = first ? first.to - first.from : 0;
  const soc = e.log.stateOfCharge?.[i] ?? NaN;
  const shown = Number.isFinite(soc) ? ` The monitor showed ${soc.toFixed(0)} % then.` : '';
  const asked = c.levels.absorbSeconds;
  const short = held < touchS && counted.length > 1;
  const drive = jump
    ? `A bright edge lifted the current of ${c.name} from ${amps(before)} to ${amps(after)}, and the voltage touched ${volts(c.volts(i))}`
    : `The voltage rose to ${volts(c.volts(i))} with ${amps(after)} from ${c.name}`;
  return {
    title: 'Absorb began',
    cause: `${drive}; the level is ${volts(c.absorbV)}. ${short ? `It stayed there for ${formatDuration(held)}. ` : ''}From here on ${formatDuration(span.atVoltageSeconds)} counted at voltage${asked === null ? '' : `; its timer says ${formatDuration(asked)}`}.${reported(e, c, k)}`,
    means: short
      ? `The bank was not nearly full: a touch of the level begins absorb, and its time counts only at voltage.${shown}`
      : soc < nearlyFull
        ? `The charger goes by voltage, not by charge: with ${amps(after)} the bank comes to the level before it is full.${shown}`
        : `From now on the charger holds the voltage and lets the current fall.${shown}`,
    counted,
  };
}

/** A bank with less than this is brought to its level by current rather than by charge, %. */
const nearlyFull = 90;
/** What a charger reports and what its volts show lie together within so long, s. */
const togetherS = 120;

/** What the charger itself reported of an absorb, in words: nothing where it reports nothing, or the same. */
function reported(e: Evidence, c: Look, k: number): string {
  const said = e.log.chargers[c.id]?.stage;
  const span = c.spans[k];
  if (!said || !span) return '';
  const before = c.spans[k - 1]?.first ?? span.first;
  let first = -1;
  let known = false;
  for (let i = before; i <= span.last && first < 0; i++) {
    if (said[i] === stageCode.absorb) first = i;
    known ||= said[i] !== 255;
  }
  if (!known) return '';
  if (first < 0) return ` ${c.name} itself reported no absorb here.`;
  const at = e.log.time[first] ?? span.from;
  return Math.abs(at - span.from) <= Math.max(togetherS, 2 * e.report.intervalSeconds) ? '' : ` ${c.name} itself reported absorb from ${clock(e, at)}.`;
}

function ended(e: Evidence, c: Look, k: number, to: Stage): Told {
  const span = c.spans[k];
  if (!span) return { title: '', cause: '' };
  const counted = stretches(e, span, c.longest, c.at);
  let last = span.last;
  while (last > span.first && !c.at(last)) last--;
  const own = mean(c.amps, last - 3, last);
  const net = mean(e.log.bankAmps, last - 3, last);
  const asked = c.levels.absorbSeconds;
  const byTime = asked !== null && span.atVoltageSeconds >= asked * 0.93;
  const taper = c.levels.taperA;
  const bySmall = taper !== null && taper > 0 && own <= taper * 1.15;
  const time = `${formatDuration(span.atVoltageSeconds)} at voltage${asked === null ? '' : `, ${formatDuration(asked)} asked`}`;
  const into = Number.isFinite(net) ? `; ${amps(net)} still went into the bank` : '';
  if (to === 'off')
    return {
      title: 'Absorb was cut short',
      cause: `The source of ${c.name} went at ${clock(e, span.to)} after ${time}${into}.`,
      means: byTime ? 'The time was all but done.' : 'The bank was not filled by this charger on this day.',
      counted,
    };
  const sheetTaper = e.plan.input.sheet.figures.taperCurrent;
  const cause = bySmall
    ? `Its own current had fallen to ${amps(own)}, ${amps(taper)} ends absorb; ${time} had counted${into}.`
    : byTime
      ? `Its time was done: ${time}, with ${amps(own)} of its own current${into}.`
      : `The voltage left ${volts(c.absorbV)} after ${time}, with ${amps(own)} of its own current${into}.`;
  return {
    title: to === 'rest' ? 'Charging stopped' : 'Absorb ended',
    cause,
    means:
      bySmall && Number.isFinite(net) && net > own * 2 + 2
        ? `Other chargers still gave: its own current fell because they did the work, not because the bank was full.`
        : sheetTaper?.state === 'stated' && Number.isFinite(net)
          ? 'Compare what still went into the bank with the sheet’s figure: it shows whether it was full.'
          : 'The charger holds the bank lower now.',
    sure:
      byTime || bySmall
        ? 'Time and current were read from the log; the charger’s own count may differ by a minute.'
        : 'Neither its time nor its current explains it: a counter of the charger’s own, a restart or a change at its keys may.',
    counted,
  };
}

/** Why one stage gave way to another. */
function tell(e: Evidence, c: Look, k: number): Told | null {
  const before = c.spans[k - 1];
  const span = c.spans[k];
  if (!span) return null;
  const i = span.first;
  const v = c.volts(i);
  const temperature = e.log.batteryC?.[i];
  const warm = temperature === undefined || Number.isNaN(temperature) ? '' : said` The battery was at ${warmth(temperature)}.`;
  if (span.stage === 'absorb') return began(e, c, k);
  if (before?.stage === 'absorb') return ended(e, c, k - 1, span.stage);
  if (span.stage === 'bulk' && (before?.stage === 'float' || before?.stage === 'rest')) {
    const net = mean(e.log.bankAmps, i - 6, i);
    return {
      title: 'A new charge began',
      cause: `The bank had sunk to ${volts(v)}${c.levels.rechargeV === null ? '' : `; below ${volts(c.levels.rechargeV)} a new charge begins`}.${Number.isFinite(net) && net < 0 ? ` Loads drew ${amps(-net)} more than the sources gave.` : ''}`,
      means: 'Absorb comes again when the voltage has risen.',
    };
  }
  if (span.stage === 'bulk' && before?.stage === 'cold')
    return {
      title: 'Charging resumed',
      cause: said`${c.name} gave ${amps(mean(c.amps, i, i + 2))} again at ${volts(v)}.${warm}`,
      means: 'What its sensor read had passed its resume temperature.',
    };
  if (span.stage === 'bulk') return { title: 'Charging began', cause: said`${c.name} gave ${amps(mean(c.amps, i, i + 2))} at ${volts(v)}.${warm}` };
  if (span.stage === 'cold')
    return {
      title: 'Held by the cold',
      cause: said`The source of ${c.name} was there and no current flowed.${warm}${c.levels.cutoffC === null ? '' : said` Its cutoff is ${warmth(c.levels.cutoffC)}.`}`,
      means: 'The charger waits until its sensor reads warm enough.',
    };
  if (span.stage === 'off' && before?.stage === 'bulk') {
    let highest = -Infinity;
    for (let n = before.first; n <= before.last; n++) highest = Math.max(highest, c.volts(n));
    return {
      title: 'Charging ended without absorb',
      cause: `The voltage reached ${volts(highest)} at most; absorb begins at ${volts(c.absorbV)}. ${c.name} gave no current from ${clock(e, span.from)}.`,
      means: 'The bank was not filled on this day.',
    };
  }
  if (span.stage === 'off' && before) return { title: 'The source went', cause: `${c.name} gave no current from ${clock(e, span.from)}, at ${volts(v)}.` };
  if (span.stage === 'float' && before && before.stage !== 'rest')
    return {
      title: 'Float without absorb',
      cause: `${c.name} came up at ${clock(e, span.from)} and held ${volts(v)}, without absorb before it.`,
      means: 'After a power cut or a restart some chargers begin in float, or the log begins there.',
    };
  return null;
}

/** Each change of stage, of each charger. */
export const changes: Teller = (e) =>
  looks(e).flatMap((c) =>
    c.spans.slice(0, mostTold).flatMap((span, k) => {
      const told = tell(e, c, k);
      if (!told) return [];
      const before = c.spans[k - 1]?.stage;
      return [
        {
          kind: 'change' as const,
          code: `${before ?? 'begin'}-${span.stage}`,
          charger: c.id,
          at: span.from,
          from: span.from - 600,
          to: Math.max(span.from + 600, told.counted ? span.to : 0),
          ...(before ? { before } : {}),
          after: span.stage,
          sure: `Read from ${formatDuration(e.report.intervalSeconds)} samples; the samples fit this stage to ${Math.round(span.confidence * 100)} %.`,
          ...told,
        },
      ];
    }),
  );
