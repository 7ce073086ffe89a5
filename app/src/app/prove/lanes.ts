import { scaleLinear, scaleUtc } from 'd3-scale';
import type { DrawnLog, Explanation, Trace } from '@calm-keel/core/proof';
import { formatClock, formatDay } from '@calm-keel/core/quantity';
import type { Plan } from '@calm-keel/core/settings';
import { figureOnBank, statedFigure } from '@calm-keel/core/sheet';
import type { ColourToken } from '../ui/tokens';
import type { Stretch } from './log-window';

/** Margins of the picture of a log, px; those at the sides are shared with what stands above and below, so that it lines up. */
export const plotMargins = { left: 84, right: 4, top: 6, bottom: 26 } as const;

/** Which part of the picture's height each lane has, from its foot. */
export const laneShares = { volts: [0.5, 1], amps: [0.26, 0.46], battery: [0, 0.22] } as const;

/** How the lines of several chargers are told apart. */
export const lineStyles = [
  { words: 'solid', plot: 'solid', dash: '' },
  { words: 'dashed', plot: 'dash', dash: '7 5' },
  { words: 'dotted', plot: 'dot', dash: '2 3' },
  { words: 'dash-dot', plot: 'dashdot', dash: '7 4 2 4' },
  { words: 'long dashes', plot: 'longdash', dash: '13 6' },
  { words: 'long dash-dot', plot: 'longdashdot', dash: '13 4 2 4' },
] as const;

/** What a log shows beyond a limit by less than this is on it, V. */
const reads = 0.005;

/** Half of what a time takes, px: one nearer to the right edge would be cut. */
const halfTime = 18;

/** Figures of the volts axis that are nearer than this would run into each other, as a share of the lane. */
const crowded = 0.08;

/** A figure of an axis: where, in its unit, and what is written. */
export interface Figure {
  readonly value: number;
  readonly words: string;
}

/** One lane: how far it reaches, in its unit, and the figures on its axis. */
interface Lane {
  readonly range: readonly [number, number];
  readonly figures: readonly Figure[];
}

/** Everything that is drawn of a log, whatever draws it. */
export interface Lanes {
  readonly volts: Lane;
  readonly amps: Lane;
  readonly battery: Lane;
  /** The stretch in view, s since 1970, and its times. */
  readonly window: Stretch;
  readonly times: readonly Figure[];
  readonly bands: readonly { readonly min: number; readonly max: number; readonly name: string; readonly look: BandLook }[];
  /** Where the sheet begins a new charge, V. */
  readonly recharge: number | undefined;
  /** Too cold to charge below this, in the person's scale. */
  readonly least: number | undefined;
  readonly trace: Trace;
  /** The parts of it that lie above the maximum; null where none does. */
  readonly above: Trace | null;
  readonly flows: readonly { readonly id: string; readonly name: string; readonly amps: Trace; readonly line: (typeof lineStyles)[number] }[];
  /** In the person's scale. */
  readonly warmth: Trace | null;
  /** How the lines of the chargers are told apart; empty where there is one. */
  readonly key: string;
  readonly marks: Marks;
  /** What is odd, with the volts of that moment. */
  readonly odd: readonly { readonly at: number; readonly volts: number; readonly title: string }[];
}

/** The colours of a band: its ground and its edges. */
interface BandLook {
  readonly fill: ColourToken;
  readonly opacity: number;
  readonly edge: ColourToken;
}

/** What is marked on a log besides its traces. */
export interface Marks {
  readonly gaps: readonly Stretch[];
  readonly odd: readonly Explanation[];
  readonly chosenAt: number | null;
  /** Where the chosen verdict was seen. */
  readonly evidence: Stretch | null;
}

/** What of a log is drawn: the stretch in view, and the whole, which says how far the axes of volts, amps and degrees reach. */
export interface Drawn {
  readonly whole: DrawnLog;
  readonly stretch: DrawnLog;
  readonly window: Stretch;
}

/** How the person reads it. */
export interface Reader {
  /** Minutes ahead of UTC of the log's clock. */
  readonly offset: number | null;
  /** Room from the left edge to the right one, px. */
  readonly width: number;
  readonly toShown: (celsius: number) => number;
}

const bandLooks = {
  absorbVoltage: { name: 'Absorb band', look: { fill: 'absorb', opacity: 0.16, edge: 'absorb' } },
  floatVoltage: { name: 'Float band', look: { fill: 'tx-float', opacity: 0.2, edge: 'float' } },
} as const;

/** A log as three lanes on one time axis: bank volts over the maker's bands, amps of each charger, battery temperature over the cold limit. */
export function lanesOf(plan: Plan, { whole, stretch, window }: Drawn, reader: Reader, marks: Marks): Lanes {
  const { sheet, system } = plan.input;
  const { shape } = plan.facts;
  const bands = (['absorbVoltage', 'floatVoltage'] as const).flatMap((key) => {
    const figure = statedFigure(sheet, key);
    const band = figure && figureOnBank(figure, shape).band;
    return band?.min !== undefined && band.max !== undefined ? [{ min: band.min, max: band.max, ...bandLooks[key] }] : [];
  });
  const recharged = statedFigure(sheet, 'rechargeVoltage');
  const recharge = recharged && figureOnBank(recharged, shape).band.max;
  const marked = [...new Set([...bands.flatMap((b) => [b.min, b.max]), ...(recharge === undefined ? [] : [recharge])])];
  const [lowest, highest] = reach(whole.volts, marked);
  const pad = (highest - lowest) * 0.06 || 0.5;
  const volts = [lowest - pad, highest + pad] as const;

  // Of a log without any charger’s own current the bank’s is shown.
  const flowsOf = (of: DrawnLog) => (of.chargers.length > 0 || !of.bankAmps ? of.chargers : [{ id: '', amps: of.bankAmps }]);
  const names = new Map(system.chargers.map((c) => [c.id, c.name]));
  const flows = flowsOf(stretch).map(({ id, amps }, i) => ({
    id,
    amps,
    name: id === '' ? 'Into the bank' : (names.get(id) ?? id),
    line: lineStyles[i % lineStyles.length] ?? lineStyles[0],
  }));
  const [leastFlow, mostFlow] = reach({ value: flowsOf(whole).flatMap((f) => f.amps.value) }, [0, 1]);
  const amps = [leastFlow, mostFlow * (flows.length > 1 ? 1.45 : 1.1)] as const;

  const least = statedFigure(sheet, 'chargeTemperature')?.min;
  const [coldest, warmest] = reach(whole.battery ?? { value: [] }, least === undefined ? [] : [least]);
  const battery = [reader.toShown(coldest - 3), reader.toShown(Math.max(warmest, coldest + 3) + 2)] as const;

  // Bands that move with temperature have no one line to be above.
  const moves = statedFigure(sheet, 'compensationSlope') !== undefined;
  const equalise = statedFigure(sheet, 'equaliseVoltage');
  const most = moves ? undefined : ((equalise && figureOnBank(equalise, shape).band.max) ?? bands.find((b) => b.name === bandLooks.absorbVoltage.name)?.max);
  const over = most === undefined ? undefined : most + reads;
  return {
    // Without a sheet there is nothing to mark, and the volts are still read.
    volts: { range: volts, figures: marked.length > 0 ? apart(marked, (volts[1] - volts[0]) * crowded) : figures(volts, 5, 1) },
    amps: { range: amps, figures: figures(amps, 3) },
    battery: { range: battery, figures: figures(battery, 3) },
    window,
    times: timesOf(window, reader),
    bands,
    recharge,
    least: least === undefined || !whole.battery ? undefined : reader.toShown(least),
    trace: stretch.volts,
    above: over !== undefined && stretch.volts.value.some((v) => v > over) ? outside(stretch.volts, over) : null,
    flows,
    warmth: stretch.battery ? { time: stretch.battery.time, value: stretch.battery.value.map(reader.toShown) } : null,
    key: flows.length > 1 ? flows.map((f) => `${f.line.words} ${f.name}`).join(', ') : '',
    marks,
    odd: marks.odd.map((o) => ({ at: o.at, title: o.title, volts: voltsAt(stretch.volts, o.at) ?? highest })),
  };
}

/** The least and the greatest of what is known; 0 and 0 where nothing is. */
function reach({ value }: { readonly value: readonly number[] }, also: readonly number[]): [number, number] {
  const known = [...value.filter(Number.isFinite), ...also];
  return known.length === 0 ? [0, 0] : [Math.min(...known), Math.max(...known)];
}

/** Round figures of an axis. */
function figures(range: readonly [number, number], count: number, digits?: number): Figure[] {
  return scaleLinear(range, [0, 1])
    .ticks(count)
    .map((value) => ({ value, words: digits === undefined ? String(value) : value.toFixed(digits) }));
}

/** Figures that were given, without those that would run into the one below. */
function apart(values: readonly number[], least: number): Figure[] {
  const written: Figure[] = [];
  for (const value of [...values].sort((a, b) => a - b)) {
    const below = written.at(-1);
    if (!below || value - below.value >= least) written.push({ value, words: value.toFixed(1) });
  }
  return written;
}

/** Round times of the stretch in view on the log's clock; midnight is told by its day where there are several. */
function timesOf({ from, to }: Stretch, { offset, width }: Reader): Figure[] {
  const shift = (offset ?? 0) * 60;
  const several = to - from > 36 * 3600;
  const room = width - plotMargins.left - plotMargins.right;
  const place = scaleUtc([new Date((from + shift) * 1000), new Date((to + shift) * 1000)], [0, room]);
  return place
    .ticks(Math.max(2, Math.floor(room / 95)))
    .filter((moment) => room - place(moment) >= halfTime)
    .map((moment) => {
      const value = moment.getTime() / 1000 - shift;
      return { value, words: several && moment.getTime() % 86_400_000 === 0 ? formatDay(moment.getTime() / 1000) : formatClock(value, offset) };
    });
}

/** Parts of a trace that lie above, to be drawn over again. */
const outside = (trace: Trace, over: number): Trace => ({ time: trace.time, value: trace.value.map((v) => (v > over ? v : NaN)) });

/** The value of a trace at a moment: that of the last point before it. */
function voltsAt(trace: Trace, at: number): number | null {
  const value = trace.value[trace.time.findLastIndex((t) => t <= at)] ?? NaN;
  return Number.isFinite(value) ? value : null;
}
