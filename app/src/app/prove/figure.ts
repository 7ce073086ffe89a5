import type { Explanation, Trace } from '@calm-keel/core/proof';
import { isoWithOffset } from '@calm-keel/core/quantity';
import type { Plan } from '@calm-keel/core/settings';
import { figureOnBank, statedFigure } from '@calm-keel/core/sheet';
import type { LogView } from '../workers/log.worker';
import { colour } from '../ui/tokens';
import { plainForPlot, type PlotSpec } from './plot';

/** Margins of the plot, shared with the ribbons below it so that they line up, px. */
export const plotMargins = { left: 84, right: 4 } as const;

const lineStyles = ['solid', 'dash', 'dot', 'dashdot', 'longdash', 'longdashdot'] as const;
const lineWords = ['solid', 'dashed', 'dotted', 'dash-dot', 'long dashes', 'long dash-dot'] as const;

/** What a log shows beyond a limit by less than this is on it, V. */
const reads = 0.005;

/** What is marked on the plot besides the traces. */
export interface Marks {
  readonly gaps: readonly { readonly from: number; readonly to: number }[];
  readonly odd: readonly Explanation[];
  readonly chosenAt: number | null;
  /** More than a day and a half: days are told on the axis, and a slider stands below. */
  readonly days: boolean;
}

/** Parts of a trace that lie outside, to be redrawn. */
function outside(trace: Trace, over: number): Trace {
  const value = trace.value.map((v) => (v > over ? v : NaN));
  return { time: trace.time, value };
}

/**
 * The log as three lanes on one time axis: bank volts over the maker's bands, amps of each charger, battery temperature over the cold limit.
 *
 * @param toShown °C to the person's scale
 */
export function logFigure(
  plan: Plan,
  view: LogView,
  offsetMinutes: number | null,
  range: readonly [string, string] | null,
  evidence: { from: number; to: number } | null,
  height: number,
  scale: { label: string; toShown: (celsius: number) => number },
  marks: Marks,
): PlotSpec {
  // Times are given on the log's own clock; the plot library is told nothing of zones.
  const clock = (seconds: number): string => isoWithOffset(seconds + (offsetMinutes ?? 0) * 60, null);
  // Thousands of points go as numbers, which it need not read as text: ms as if the log's clock were UTC.
  const x = (trace: Trace): number[] => trace.time.map((seconds) => Math.round((seconds + (offsetMinutes ?? 0) * 60) * 1000));
  const ink = colour('ink');
  const bands = (['absorbVoltage', 'floatVoltage'] as const).flatMap((key) => {
    const figure = statedFigure(plan.input.sheet, key);
    const band = figure && figureOnBank(figure, plan.facts.shape).band;
    return band?.min !== undefined && band.max !== undefined ? [{ key, min: band.min, max: band.max }] : [];
  });
  const recharge = statedFigure(plan.input.sheet, 'rechargeVoltage');
  const rechargeV = recharge && figureOnBank(recharge, plan.facts.shape).band.max;
  const least = statedFigure(plan.input.sheet, 'chargeTemperature')?.min;
  const names = new Map(plan.input.system.chargers.map((c) => [c.id, c.name]));
  const label = (text: string, y: number, yref: 'y' | 'y3', color: string) => ({
    text,
    x: 0,
    xref: 'paper' as const,
    xanchor: 'left' as const,
    y,
    yref,
    yanchor: 'middle' as const,
    showarrow: false,
    font: { size: 12.5, color },
    bgcolor: colour('surface', 0.8),
  });
  const bandLook = {
    absorbVoltage: { fill: colour('absorb', 0.16), edge: colour('absorb'), name: 'Absorb band' },
    floatVoltage: { fill: colour('tx-float', 0.2), edge: colour('float'), name: 'Float band' },
  };
  const voltTicks = [...new Set([...bands.flatMap((b) => [b.min, b.max]), ...(rechargeV === undefined ? [] : [rechargeV])])];
  const low = Math.min(...view.volts.value.filter(Number.isFinite), ...voltTicks);
  const high = Math.max(...view.volts.value.filter(Number.isFinite), ...voltTicks);
  const warmth = (view.battery?.value ?? []).filter(Number.isFinite);
  const coldest = Math.min(...warmth, ...(least === undefined ? [] : [least])) - 3;
  const warmest = Math.max(...warmth, coldest + 6) + 2;
  // Of a log without any charger’s own current the bank’s is shown.
  const flows = view.chargers.length > 0 || !view.bankAmps ? view.chargers : [{ id: '', amps: view.bankAmps }];
  const flow = flows.flatMap((c) => c.amps.value).filter(Number.isFinite);
  const nameOf = (id: string): string => plainForPlot(id === '' ? 'Into the bank' : (names.get(id) ?? id));
  const pad = (high - low) * 0.06 || 0.5;
  const equalise = statedFigure(plan.input.sheet, 'equaliseVoltage');
  // Bands that move with temperature have no one line to be above.
  const moves = statedFigure(plan.input.sheet, 'compensationSlope') !== undefined;
  const most = moves ? undefined : ((equalise && figureOnBank(equalise, plan.facts.shape).band.max) ?? bands.find((b) => b.key === 'absorbVoltage')?.max);
  const over = most === undefined ? undefined : most + reads;
  const above = over !== undefined && view.volts.value.some((v) => v > over);
  const data: PlotSpec['data'] = [
    {
      type: 'scatter',
      mode: 'lines',
      name: 'Bank volts',
      x: x(view.volts),
      y: view.volts.value,
      line: { color: ink, width: 1.8 },
      hovertemplate: '%{x|%H:%M} %{y:.2f} V<extra></extra>',
      connectgaps: false,
    },
    ...(!above
      ? []
      : [
          {
            type: 'scatter' as const,
            mode: 'lines' as const,
            name: 'Above the maximum',
            x: x(view.volts),
            y: outside(view.volts, over).value,
            line: { color: colour('stop'), width: 3.4 },
            hoverinfo: 'skip' as const,
            connectgaps: false,
          },
        ]),
    ...(marks.odd.length > 0
      ? [
          {
            type: 'scatter' as const,
            mode: 'markers' as const,
            name: 'Odd in this log',
            x: marks.odd.map((o) => clock(o.at)),
            y: marks.odd.map((o) => voltsAt(view.volts, o.at) ?? high),
            text: marks.odd.map((o) => plainForPlot(o.title)),
            marker: { symbol: 'triangle-down', size: 11, color: colour('attention-wash'), line: { color: colour('attention'), width: 1.6 } },
            hovertemplate: '%{x|%H:%M} %{text}<extra></extra>',
          },
        ]
      : []),
    ...flows.map((c, i) => ({
      type: 'scatter' as const,
      mode: 'lines' as const,
      name: nameOf(c.id),
      x: x(c.amps),
      y: c.amps.value,
      yaxis: 'y2' as const,
      line: { color: ink, width: 1.4, dash: lineStyles[i % lineStyles.length] ?? 'solid' },
      hovertemplate: `%{x|%H:%M} ${nameOf(c.id)} %{y:.1f} A<extra></extra>`,
      connectgaps: false,
    })),
    ...(view.battery
      ? [
          {
            type: 'scatter' as const,
            mode: 'lines' as const,
            name: 'Battery',
            x: x(view.battery),
            y: view.battery.value.map(scale.toShown),
            yaxis: 'y3' as const,
            line: { color: ink, width: 1.8 },
            hovertemplate: `%{x|%H:%M} %{y:.1f} ${scale.label}<extra></extra>`,
            connectgaps: false,
          },
        ]
      : []),
  ];
  return {
    data,
    layout: {
      height,
      margin: { l: plotMargins.left, r: plotMargins.right, t: 6, b: 26 },
      paper_bgcolor: colour('surface'),
      plot_bgcolor: colour('surface'),
      font: { family: 'Atkinson Hyperlegible Next Variable, sans-serif', size: 12.5, color: ink },
      showlegend: false,
      hovermode: 'closest',
      dragmode: 'zoom',
      xaxis: {
        type: 'date',
        tickformat: marks.days ? '%-d %b<br>%H:%M' : '%H:%M',
        ...(marks.days ? { rangeslider: { visible: true, thickness: 0.07, bgcolor: colour('paper'), bordercolor: colour('rule'), borderwidth: 1 } } : {}),
        hoverformat: '%H:%M:%S',
        gridcolor: colour('rule'),
        linecolor: ink,
        linewidth: 1.5,
        anchor: 'y3',
        ...(range ? { range: [...range], autorange: false } : { autorange: true }),
      },
      yaxis: {
        domain: [0.5, 1],
        fixedrange: true,
        range: [low - pad, high + pad],
        // Without a sheet there is nothing to mark, and the volts are still read.
        ...(voltTicks.length > 0 ? { tickvals: voltTicks, ticktext: voltTicks.map((v) => v.toFixed(1)) } : { nticks: 5, tickformat: '.1f' }),
        showgrid: false,
        zeroline: false,
        linecolor: ink,
        linewidth: 1.5,
        mirror: true,
      },
      yaxis2: {
        domain: [0.26, 0.46],
        fixedrange: true,
        range: [Math.min(0, ...flow), Math.max(1, ...flow) * (view.chargers.length > 1 ? 1.45 : 1.1)],
        nticks: 4,
        showgrid: false,
        zeroline: true,
        zerolinecolor: colour('rule-strong'),
        linecolor: ink,
        linewidth: 1.5,
        mirror: true,
      },
      yaxis3: {
        domain: [0, 0.22],
        fixedrange: true,
        range: [scale.toShown(coldest), scale.toShown(warmest)],
        nticks: 4,
        showgrid: false,
        zeroline: false,
        linecolor: ink,
        linewidth: 1.5,
        mirror: true,
      },
      shapes: [
        ...marks.gaps.slice(0, 60).map((g) => ({
          type: 'rect' as const,
          xref: 'x' as const,
          x0: clock(g.from),
          x1: clock(g.to),
          yref: 'paper' as const,
          y0: 0,
          y1: 1,
          fillcolor: colour('rule-strong', 0.22),
          line: { width: 0 },
          layer: 'below' as const,
        })),
        ...(marks.chosenAt === null
          ? []
          : [
              {
                type: 'line' as const,
                xref: 'x' as const,
                x0: clock(marks.chosenAt),
                x1: clock(marks.chosenAt),
                yref: 'paper' as const,
                y0: 0,
                y1: 1,
                line: { color: colour('copper'), width: 2 },
              },
            ]),
        ...bands.map((b) => ({
          type: 'rect' as const,
          xref: 'paper' as const,
          x0: 0,
          x1: 1,
          yref: 'y' as const,
          y0: b.min,
          y1: b.max,
          fillcolor: bandLook[b.key].fill,
          line: { color: bandLook[b.key].edge, width: 1 },
          layer: 'below' as const,
        })),
        ...(rechargeV === undefined
          ? []
          : [
              {
                type: 'line' as const,
                xref: 'paper' as const,
                x0: 0,
                x1: 1,
                yref: 'y' as const,
                y0: rechargeV,
                y1: rechargeV,
                line: { color: colour('ink-2'), width: 1.2, dash: 'dot' as const },
                layer: 'below' as const,
              },
            ]),
        ...(least === undefined || !view.battery
          ? []
          : [
              {
                type: 'rect' as const,
                xref: 'paper' as const,
                x0: 0,
                x1: 1,
                yref: 'y3' as const,
                y0: scale.toShown(least - 60),
                y1: scale.toShown(least),
                fillcolor: colour('tx-cold', 0.25),
                line: { color: colour('cold'), width: 1 },
                layer: 'below' as const,
              },
            ]),
        ...(evidence
          ? [
              {
                type: 'rect' as const,
                xref: 'x' as const,
                x0: clock(evidence.from),
                x1: clock(Math.max(evidence.to, evidence.from + 30)),
                yref: 'paper' as const,
                y0: 0,
                y1: 1,
                fillcolor: colour('copper', 0.14),
                line: { color: colour('copper'), width: 1.5 },
                layer: 'below' as const,
              },
            ]
          : []),
      ],
      annotations: [
        ...(view.chargers.length > 1
          ? [
              {
                ...label(view.chargers.map((c, i) => `${lineWords[i % lineWords.length] ?? ''} ${nameOf(c.id)}`).join(', '), 1, 'y', colour('ink-2')),
                x: 1,
                xanchor: 'right' as const,
                yref: 'y2 domain' as const,
                yanchor: 'top' as const,
              },
            ]
          : []),
        ...bands.map((b) => label(bandLook[b.key].name, (b.min + b.max) / 2, 'y', bandLook[b.key].edge)),
      ],
    },
  };
}

/** The value of a trace at a moment: that of the nearest point. */
function voltsAt(trace: Trace, at: number): number | null {
  let low = 0;
  let high = trace.time.length - 1;
  if (high < 0) return null;
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if ((trace.time[middle] ?? 0) <= at) low = middle;
    else high = middle;
  }
  const value = trace.value[low] ?? NaN;
  return Number.isFinite(value) ? value : null;
}
