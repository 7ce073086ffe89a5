import { range } from 'd3-array';
import { scaleLinear } from 'd3-scale';
import { parameterFor } from '@calm-keel/core/card';
import type { Trace } from '@calm-keel/core/proof';
import { formatDay, formatMoment, formatNumber } from '@calm-keel/core/quantity';
import type { RunSpan } from '@calm-keel/core/rehearsal';
import type { Plan } from '@calm-keel/core/settings';
import { figureOnBank, statedFigure } from '@calm-keel/core/sheet';
import { axis, tracePath, type Tick } from '../ui/scales';
import { stageLook } from '../ui/stages';
import type { RunView } from '../workers/run-view';

/** Room around the lanes, px. */
const margins = (phone: boolean) => ({ left: phone ? 74 : 92, right: 4 });

/** A maker's band behind the volts. */
interface BandMark {
  readonly kind: 'absorb' | 'float' | 'recharge';
  readonly y: number;
  readonly height: number;
  readonly name: string;
}

/** A piece of ribbon. */
interface Segment {
  readonly x: number;
  readonly width: number;
  readonly texture: string;
  readonly letter: string;
  readonly label: string;
}

/** One charger's lane: its current standing on its own ribbon. */
interface ChargerLane {
  readonly id: string;
  readonly name: string;
  readonly most: string;
  readonly top: number;
  readonly foot: number;
  readonly area: string;
  readonly line: string;
  readonly ghost: string;
  /** What its source had, where it could not take it all. */
  readonly ready: string;
  readonly ribbon: readonly Segment[];
  readonly ribbonB: readonly Segment[];
  /** Set instead of a lane that has nothing to show. */
  readonly idle: string | null;
}

/** A lane with one trace of each variant. */
interface PlainLane {
  readonly key: 'bank' | 'charge' | 'battery';
  readonly name: string;
  readonly unit: string;
  readonly top: number;
  readonly height: number;
  readonly line: string;
  readonly ghost: string;
  readonly extra: string;
  readonly ticks: readonly Tick[];
  /** Ground below a level: cold cells, or the zero line of a current. */
  readonly coldY: number | null;
  readonly zeroY: number | null;
}

/** The drawing of a rehearsed day. */
export interface DayLayout {
  readonly width: number;
  readonly height: number;
  readonly left: number;
  readonly right: number;
  readonly volts: {
    readonly top: number;
    readonly height: number;
    readonly line: string;
    readonly ghost: string;
    readonly over: string;
    readonly overGhost: string;
    readonly bands: readonly BandMark[];
    readonly ticks: readonly Tick[];
  };
  readonly chargers: readonly ChargerLane[];
  readonly lanes: readonly PlainLane[];
  readonly time: {
    readonly top: number;
    readonly blocks: readonly { readonly x: number; readonly width: number; readonly dark: boolean }[];
    readonly ticks: readonly Tick[];
  };
  readonly gridX: readonly number[];
  /** Foot of the lanes, where cursor and grid end. */
  readonly foot: number;
  readonly x: (t: number) => number;
  readonly at: (x: number) => number;
}

const days = ['Sun', 'Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat'];

/** The parts of a trace that lie above a level, as a path. */
const above = (trace: Trace, level: number, x: (t: number) => number, y: (v: number) => number): string =>
  tracePath({ time: trace.time, value: trace.value.map((v) => (v > level ? v : NaN)) }, x, y);

const extent = (traces: readonly (Trace | undefined)[], start: readonly number[] = []): [number, number] => {
  let low = Math.min(...start, Infinity);
  let high = Math.max(...start, -Infinity);
  for (const trace of traces)
    for (const v of trace?.value ?? [])
      if (Number.isFinite(v)) {
        low = Math.min(low, v);
        high = Math.max(high, v);
      }
  return [low, high];
};

/** Value of a trace at a moment: the sample before it. */
export function valueAt(trace: Trace, t: number): number {
  let low = 0;
  let high = trace.time.length - 1;
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if ((trace.time[middle] ?? Infinity) <= t) low = middle;
    else high = middle - 1;
  }
  return trace.value[low] ?? NaN;
}

/** Stage of a charger at a moment. */
export const spanAt = (spans: readonly RunSpan[], t: number): RunSpan | undefined => spans.find((s) => s.from <= t && t < s.to) ?? spans.at(-1);

/**
 * Lays out volts, one lane a charger, bank current, charge and temperature on one time axis.
 *
 * @param chosen the charger whose ribbon is taller and whose sensor is drawn
 * @param toShown °C to the person's scale
 */
export function layoutDay(
  plan: Plan,
  a: RunView,
  b: RunView | null,
  width: number,
  phone: boolean,
  chosen: string | null,
  scale: { readonly label: string; readonly toShown: (celsius: number) => number },
): DayLayout {
  const { left, right } = margins(phone);
  const span = a.to - a.from || 1;
  const room = Math.max(50, width - left - right);
  // Not to a tenth of a pixel: a moment is found again by its place.
  const x = scaleLinear([a.from, a.from + span], [left, left + room]);
  const { sheet } = plan.input;
  const figure = (key: 'absorbVoltage' | 'floatVoltage' | 'rechargeVoltage') => {
    const f = statedFigure(sheet, key);
    return f && figureOnBank(f, plan.facts.shape);
  };
  const absorb = figure('absorbVoltage')?.band;
  const float = figure('floatVoltage')?.band;
  const recharge = figure('rechargeVoltage')?.band.max;
  const marks = [absorb?.min, absorb?.max, float?.min, float?.max, recharge].filter((v) => v !== undefined);
  const [low, high] = extent([a.volts, b?.volts], marks);
  const pad = Math.max(0.08, (high - low) * 0.05);
  const voltsTop = 6;
  const voltsHeight = phone ? 150 : 128;
  // Room below the lowest line for its name.
  const below = pad + (high - low) * 0.1;
  const vy = axis([low - below, high + pad], [voltsTop + voltsHeight, voltsTop]);
  const bandOf = (kind: 'absorb' | 'float', band: { min?: number; max?: number } | undefined, name: string): BandMark[] =>
    band?.min === undefined || band.max === undefined ? [] : [{ kind, y: vy(band.max), height: Math.max(1.5, vy(band.min) - vy(band.max)), name }];
  const tickWords = [...new Set(marks)].sort((p, q) => q - p).map((v) => ({ at: vy(v), words: formatNumber(v, 1) }));
  const ticks = tickWords.filter((t, i) => i === 0 || t.at - (tickWords[i - 1]?.at ?? 0) >= 12);
  const over = absorb?.max === undefined ? Infinity : absorb.max + 0.005;

  let top = voltsTop + voltsHeight + (phone ? 12 : 14);
  const segments = (spans: readonly RunSpan[]): Segment[] =>
    spans
      .filter((s) => s.to > s.from && stageLook[s.stage].texture !== '')
      .map((s) => {
        const { letter, texture, words } = stageLook[s.stage];
        const clock = (t: number): string => formatMoment(t, span > 86_400);
        return { x: x(s.from), width: Math.max(1, x(s.to) - x(s.from)), texture, letter, label: `${words} from ${clock(s.from)} to ${clock(s.to)}` };
      });
  const chargers = plan.input.system.chargers.map((charger): ChargerLane => {
    const own = a.chargers.find((c) => c.id === charger.id);
    const other = b?.chargers.find((c) => c.id === charger.id);
    const card = plan.input.cards.find((c) => c.id === charger.card);
    const never = (v: RunView['chargers'][number] | undefined): boolean => !v || v.spans.every((s) => s.stage === 'off');
    const [, peak] = extent([own?.amps, other?.amps], [0, 1]);
    const limit =
      plan.setting(charger.id, 'chargeCurrentLimit')?.trueValue ?? (card && parameterFor(card, 'chargeCurrentLimit') ? null : card?.ratings.outputA);
    const laneTop = top;
    if (never(own) && never(other)) {
      top += 22;
      return {
        id: charger.id,
        name: charger.name,
        most: '',
        top: laneTop,
        foot: laneTop + 14,
        area: '',
        line: '',
        ghost: '',
        ready: '',
        ribbon: [],
        ribbonB: [],
        idle: 'off: its source gives nothing on this day',
      };
    }
    const height = charger.id === chosen ? 34 : 24;
    const foot = laneTop + height;
    const cy = axis([0, peak * 1.05], [foot, foot - height]).clamp(true);
    const line = own ? tracePath(own.amps, x, cy) : '';
    const ribbonHeight = charger.id === chosen ? 28 : 18;
    top = foot + ribbonHeight + (b ? 9 : 0) + 8;
    return {
      id: charger.id,
      name: charger.name,
      most: `to ${formatNumber(limit ?? peak, 0)} A`,
      top: laneTop,
      foot,
      line,
      area: line === '' || !own ? '' : `${line}L${x(own.amps.time.at(-1) ?? a.to).toFixed(1)} ${foot}L${x(own.amps.time[0] ?? a.from).toFixed(1)} ${foot}Z`,
      ghost: other ? tracePath(other.amps, x, cy) : '',
      ready: own && charger.id === chosen ? tracePath(own.ready, x, cy) : '',
      ribbon: own ? segments(own.spans) : [],
      ribbonB: other ? segments(other.spans) : [],
      idle: null,
    };
  });

  const lanes: PlainLane[] = [];
  const lane = (
    key: PlainLane['key'],
    name: string,
    unit: string,
    height: number,
    of: readonly (Trace | undefined)[],
    range: readonly number[],
    words: (v: number) => string,
  ): void => {
    const [from, to] = extent(of, range);
    const gap = Math.max(1e-6, to - from) * 0.08;
    const laneTop = top;
    const y = axis([from - gap, to + gap], [laneTop + height, laneTop]);
    const least = statedFigure(sheet, 'chargeTemperature')?.min;
    const shownLeast = least === undefined ? null : scale.toShown(least);
    lanes.push({
      key,
      name,
      unit,
      top: laneTop,
      height,
      line: of[0] ? tracePath(of[0], x, y) : '',
      ghost: of[1] ? tracePath(of[1], x, y) : '',
      extra: of[2] ? tracePath(of[2], x, y) : '',
      ticks: [...new Set(key === 'charge' ? [0, 100] : [Math.ceil(from), Math.floor(to)])].map((v) => ({ at: y(v), words: words(v) })),
      coldY: key === 'battery' && shownLeast !== null && shownLeast > from - gap ? Math.max(laneTop, Math.min(laneTop + height, y(shownLeast))) : null,
      zeroY: key === 'bank' ? y(0) : null,
    });
    top += height + 10;
  };
  const mapped = (trace: Trace | undefined, by: (v: number) => number): Trace | undefined => trace && { time: trace.time, value: trace.value.map(by) };
  const warm = (trace: Trace | undefined): Trace | undefined => mapped(trace, scale.toShown);
  const percent = (trace: Trace | undefined): Trace | undefined => mapped(trace, (v) => Math.min(100, Math.max(0, v * 100)));
  const sensor = a.chargers.find((c) => c.id === chosen)?.sensor;
  lane('bank', 'Bank', 'A in and out', 36, [a.bankAmps, b?.bankAmps], [0, 1], (v) => formatNumber(v, 0));
  lane('charge', 'Charge', '%', 30, [percent(a.charge), percent(b?.charge)], [0, 100], (v) => formatNumber(v, 0));
  lane('battery', 'Battery', scale.label, 38, [warm(a.battery), warm(b?.battery), warm(sensor)], [], (v) => formatNumber(v, 0));
  const foot = top - 4;

  // Time: a scale bar in even blocks, hours on a day, days on a week, months on a year.
  const step = span <= 2 * 86_400 ? 7200 : span <= 12 * 86_400 ? 86_400 : span <= 70 * 86_400 ? 7 * 86_400 : 30.4375 * 86_400;
  const each = room / (span / step) < 44 ? 2 : 1;
  const first = Math.ceil(a.from / Math.min(step, 86_400)) * Math.min(step, 86_400);
  const times = range(first, a.to + 1, step);
  const edges = [a.from, ...times.filter((t) => t > a.from && t < a.to), a.to];
  return {
    width,
    height: foot + 30,
    left,
    right,
    volts: {
      top: voltsTop,
      height: voltsHeight,
      line: tracePath(a.volts, x, vy),
      ghost: b ? tracePath(b.volts, x, vy) : '',
      over: above(a.volts, over, x, vy),
      overGhost: b ? above(b.volts, over, x, vy) : '',
      bands: [
        ...bandOf('absorb', absorb, 'Absorb band'),
        ...bandOf('float', float, 'Float band'),
        ...(recharge === undefined ? [] : [{ kind: 'recharge' as const, y: vy(recharge), height: 0, name: 'Recharge at most' }]),
      ],
      ticks,
    },
    chargers,
    lanes,
    time: {
      top: foot,
      blocks: edges.slice(1).map((t, i) => ({ x: x(edges[i] ?? a.from), width: x(t) - x(edges[i] ?? a.from), dark: i % 2 === 0 })),
      ticks: times
        .filter((_, i) => i % each === 0)
        .map((t) => {
          const date = new Date(t * 1000);
          const words =
            span <= 2 * 86_400 ? formatMoment(t, false) : span <= 12 * 86_400 ? `${days[date.getUTCDay()] ?? ''} ${date.getUTCDate()}` : formatDay(t);
          return { at: x(t), words };
        })
        .filter((t) => t.at > left + 14 && t.at < width - 20),
    },
    gridX: times.filter((t) => t > a.from && t < a.to).map(x),
    foot,
    x,
    at: (px) => x.invert(Math.min(left + room, Math.max(left, px))),
  };
}
