import type { Trace } from '@calm-keel/core/proof';
import { isoWithOffset } from '@calm-keel/core/quantity';
import { colour } from '../ui/tokens';
import { laneShares, plotMargins, type Figure, type Lanes } from './lanes';
import type { Stretch } from './log-window';
import { plainForPlot, type PlotSpec } from './plot';

/** Plots of one lane: a line over time. */
const lined = { type: 'scatter', mode: 'lines', connectgaps: false } as const;

/**
 * The lanes of a log as the plot library draws them: with values under the pointer, stretches drawn out, moments chosen.
 *
 * @param label of the person's temperature scale
 */
export function logFigure(lanes: Lanes, offsetMinutes: number | null, whole: boolean, height: number, label: string): PlotSpec {
  // Times are given on the log's own clock; the plot library is told nothing of zones.
  const clock = (seconds: number): string => isoWithOffset(seconds + (offsetMinutes ?? 0) * 60, null);
  // Thousands of points go as numbers, which it need not read as text: ms as if the log's clock were UTC.
  const ms = (seconds: number): number => Math.round((seconds + (offsetMinutes ?? 0) * 60) * 1000);
  const x = (trace: Trace): number[] => trace.time.map(ms);
  const ink = colour('ink');
  const { marks } = lanes;
  const figuresFont = { family: 'Atkinson Hyperlegible Mono Variable, monospace' };
  const written = (figures: readonly Figure[]) => ({ tickvals: figures.map((f) => f.value), ticktext: figures.map((f) => f.words) });
  const lane = (name: keyof typeof laneShares) => ({
    domain: [...laneShares[name]],
    fixedrange: true,
    range: [...lanes[name].range],
    ...written(lanes[name].figures),
    showgrid: false,
    zeroline: false,
    linecolor: ink,
    linewidth: 1.5,
    mirror: true,
    tickfont: figuresFont,
  });
  const across = { type: 'rect', xref: 'paper', x0: 0, x1: 1, layer: 'below' } as const;
  const upright = ({ from, to }: Stretch) => ({ xref: 'x' as const, x0: clock(from), x1: clock(to), yref: 'paper' as const, y0: 0, y1: 1 });
  const words = (text: string, color: string) => ({ text, showarrow: false, font: { size: 12.5, color }, bgcolor: colour('surface', 0.8) });
  return {
    data: [
      {
        ...lined,
        name: 'Bank volts',
        x: x(lanes.trace),
        y: lanes.trace.value,
        line: { color: ink, width: 1.8 },
        hovertemplate: '%{x|%H:%M} %{y:.2f} V<extra></extra>',
      },
      ...(lanes.above === null
        ? []
        : [
            {
              ...lined,
              name: 'Above the maximum',
              x: x(lanes.above),
              y: lanes.above.value,
              line: { color: colour('stop'), width: 3.4 },
              hoverinfo: 'skip' as const,
            },
          ]),
      ...(lanes.odd.length === 0
        ? []
        : [
            {
              type: 'scatter' as const,
              mode: 'markers' as const,
              name: 'Odd in this log',
              x: lanes.odd.map((o) => clock(o.at)),
              y: lanes.odd.map((o) => o.volts),
              text: lanes.odd.map((o) => plainForPlot(o.title)),
              marker: { symbol: 'triangle-down', size: 11, color: colour('attention-wash'), line: { color: colour('attention'), width: 1.6 } },
              hovertemplate: '%{x|%H:%M} %{text}<extra></extra>',
            },
          ]),
      ...lanes.flows.map((f) => ({
        ...lined,
        name: plainForPlot(f.name),
        x: x(f.amps),
        y: f.amps.value,
        yaxis: 'y2' as const,
        line: { color: ink, width: 1.4, dash: f.line.plot },
        hovertemplate: `%{x|%H:%M} ${plainForPlot(f.name)} %{y:.1f} A<extra></extra>`,
      })),
      ...(lanes.warmth === null
        ? []
        : [
            {
              ...lined,
              name: 'Battery',
              x: x(lanes.warmth),
              y: lanes.warmth.value,
              yaxis: 'y3' as const,
              line: { color: ink, width: 1.8 },
              hovertemplate: `%{x|%H:%M} %{y:.1f} ${label}<extra></extra>`,
            },
          ]),
    ],
    layout: {
      height,
      margin: { l: plotMargins.left, r: plotMargins.right, t: plotMargins.top, b: plotMargins.bottom },
      paper_bgcolor: colour('surface'),
      plot_bgcolor: colour('surface'),
      font: { family: 'Atkinson Hyperlegible Next Variable, sans-serif', size: 12.5, color: ink },
      showlegend: false,
      hovermode: 'closest',
      dragmode: 'zoom',
      xaxis: {
        type: 'date',
        tickvals: lanes.times.map((t) => ms(t.value)),
        ticktext: lanes.times.map((t) => t.words),
        hoverformat: '%H:%M:%S',
        gridcolor: colour('rule'),
        linecolor: ink,
        linewidth: 1.5,
        mirror: 'all',
        tickfont: figuresFont,
        anchor: 'y3',
        ...(whole ? { autorange: true } : { range: [clock(lanes.window.from), clock(lanes.window.to)], autorange: false }),
      },
      yaxis: lane('volts'),
      yaxis2: { ...lane('amps'), zeroline: true, zerolinecolor: colour('rule-strong') },
      yaxis3: lane('battery'),
      shapes: [
        ...marks.gaps
          .slice(0, 60)
          .map((g) => ({ ...upright(g), type: 'rect' as const, fillcolor: colour('rule-strong', 0.22), line: { width: 0 }, layer: 'below' as const })),
        ...(marks.chosenAt === null
          ? []
          : [{ ...upright({ from: marks.chosenAt, to: marks.chosenAt }), type: 'line' as const, line: { color: colour('copper'), width: 2 } }]),
        ...lanes.bands.map((b) => ({
          ...across,
          yref: 'y' as const,
          y0: b.min,
          y1: b.max,
          fillcolor: colour(b.look.fill, b.look.opacity),
          line: { color: colour(b.look.edge), width: 1 },
        })),
        ...(lanes.recharge === undefined
          ? []
          : [
              {
                ...across,
                type: 'line' as const,
                yref: 'y' as const,
                y0: lanes.recharge,
                y1: lanes.recharge,
                line: { color: colour('ink-2'), width: 1.2, dash: 'dot' as const },
              },
            ]),
        ...(lanes.least === undefined
          ? []
          : [
              {
                ...across,
                yref: 'y3' as const,
                y0: lanes.battery.range[0] - 100,
                y1: lanes.least,
                fillcolor: colour('tx-cold', 0.25),
                line: { color: colour('cold'), width: 1 },
              },
            ]),
        ...(marks.evidence === null
          ? []
          : [
              {
                ...upright({ from: marks.evidence.from, to: Math.max(marks.evidence.to, marks.evidence.from + 30) }),
                type: 'rect' as const,
                fillcolor: colour('copper', 0.14),
                line: { color: colour('copper'), width: 1.5 },
                layer: 'below' as const,
              },
            ]),
      ],
      annotations: [
        ...(lanes.key === ''
          ? []
          : [
              {
                ...words(plainForPlot(lanes.key), colour('ink-2')),
                x: 1,
                xref: 'paper' as const,
                xanchor: 'right' as const,
                y: 1,
                yref: 'y2 domain' as const,
                yanchor: 'top' as const,
              },
            ]),
        ...lanes.bands.map((b) => ({
          ...words(b.name, colour(b.look.edge)),
          x: 0,
          xref: 'paper' as const,
          xanchor: 'left' as const,
          y: (b.min + b.max) / 2,
          yref: 'y' as const,
          yanchor: 'middle' as const,
        })),
      ],
    },
  };
}
