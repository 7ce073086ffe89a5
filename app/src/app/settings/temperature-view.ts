import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import type { Role } from '@calm-keel/core/card';
import { formatNumber, formatQuantity } from '@calm-keel/core/quantity';
import { compensationOf, devicesOf, referenceC, setpointAt, type Plan } from '@calm-keel/core/settings';
import { scaleVolts, statedFigure } from '@calm-keel/core/sheet';
import { cutoffMargin, lowestTrip, readsBattery } from '@calm-keel/core/system';
import { Units } from '../data/units';
import { Moves } from '../ui/moves';

const curves: readonly { role: Role; name: string; colour: string }[] = [
  { role: 'equaliseVoltage', name: 'equalise', colour: 'var(--ck-equalise)' },
  { role: 'absorbVoltage', name: 'absorb', colour: 'var(--ck-absorb)' },
  { role: 'floatVoltage', name: 'float', colour: 'var(--ck-float)' },
];

/** Setpoints against battery temperature with their clamps, and the permitted current with cutoff, resume and the margin taken apart. */
@Component({
  selector: 'ck-temperature-view',
  imports: [Moves],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let d = drawing();
    <h2>Setpoints of {{ d.name }} against battery temperature</h2>
    <p class="quiet">{{ d.words }}</p>
    <svg [attr.width]="width()" [attr.height]="d.height" [attr.viewBox]="'0 0 ' + width() + ' ' + d.height" role="img" [attr.aria-label]="d.words">
      <rect [attr.x]="d.left" y="22" [attr.width]="d.right - d.left" [attr.height]="d.bottom - 22" fill="#fdfcf9" />
      @if (d.trip !== null) {
        <rect [attr.x]="d.left" y="22" [attr.width]="d.right - d.left" [attr.height]="d.trip - 22" fill="url(#out)" />
        <path [attr.d]="'M' + d.left + ' ' + d.trip + 'H' + d.right" stroke="#a0182e" stroke-width="2.5" />
        <text class="halo" [attr.x]="d.right - 6" [attr.y]="d.trip - 6" font-size="12.5" font-weight="620" text-anchor="end" fill="#a0182e">
          {{ d.tripText }}
        </text>
      }
      @if (d.loads !== null) {
        <path [attr.d]="'M' + d.left + ' ' + d.loads + 'H' + d.right" stroke="#a0182e" stroke-width="1.4" stroke-dasharray="6 4" />
        <text class="halo" [attr.x]="d.right - 6" [attr.y]="d.loads - 5" font-size="12.5" text-anchor="end" fill="#a0182e">{{ d.loadsText }}</text>
      }
      @for (g of d.grid; track g.y) {
        <path [attr.d]="'M' + d.left + ' ' + g.y + 'H' + d.right" stroke="#cdc5b3" />
        <text class="n" [attr.x]="d.left - 6" [attr.y]="g.y + 4.5" font-size="12.5" text-anchor="end" fill="#1d2a35">{{ g.text }}</text>
      }
      @for (m of d.marks; track m.text) {
        <path [attr.d]="'M' + m.x + ' 22V' + d.bottom" stroke="#1d2a35" stroke-width="1.3" [attr.stroke-dasharray]="m.dashed ? '4 3' : null" />
        <text [attr.x]="m.x + m.dx" y="14" font-size="12.5" [attr.text-anchor]="m.anchor" fill="#1d2a35">{{ m.text }}</text>
      }
      @for (c of d.lines; track c.name) {
        <path [attr.d]="c.sheet" fill="none" [attr.stroke]="c.colour" stroke-width="1.4" stroke-dasharray="2 4" />
        <path [attr.d]="c.path" fill="none" [attr.stroke]="c.colour" stroke-width="2.6" />
        <text class="halo" [attr.x]="d.left + 8" [attr.y]="c.labelY" font-size="13" font-weight="620" [attr.fill]="c.colour">{{ c.name }} {{ c.atLow }}</text>
        <text class="halo" [attr.x]="d.right - 8" [attr.y]="c.endY" font-size="13" font-weight="620" text-anchor="end" [attr.fill]="c.colour">
          {{ c.atHigh }}
        </text>
      }
      <path [attr.d]="'M' + d.left + ' ' + d.bottom + 'H' + d.right" stroke="#1d2a35" stroke-width="1.5" />
      @for (t of d.ticks; track t.x) {
        <path [attr.d]="'M' + t.x + ' ' + d.bottom + 'v5'" stroke="#1d2a35" />
        <text class="n" [attr.x]="t.x" [attr.y]="d.bottom + 18" font-size="12.5" text-anchor="middle" fill="#1d2a35">{{ t.text }}</text>
      }
      <text [attr.x]="d.right + 6" [attr.y]="d.bottom + 18" font-size="12.5" fill="#414e58">{{ units.label() }}</text>
    </svg>
    @if (margin(); as m) {
      <div class="sech">
        <span role="heading" aria-level="2">Sensor margin of {{ d.name }}</span
        ><small>{{ m.words }}</small>
      </div>
      <div ckMoves="Sensor margin">
        <table>
          <tbody>
            @for (row of m.rows; track row.name) {
              <tr [class.sum]="row.sum">
                <td>{{ row.name }}</td>
                <td class="bar"><span [style.margin-left.%]="row.from" [style.width.%]="row.size" [class.total]="row.sum"></span></td>
                <td class="n r">{{ row.text }}</td>
              </tr>
            }
          </tbody>
        </table>
      </div>
    }
    @if (stairs(); as rows) {
      <div class="sech">
        <span role="heading" aria-level="2">Permitted current</span><small>what the sheet allows and what the sources may give on each stair</small>
      </div>
      <div ckMoves="Permitted current">
        <table>
          <thead>
            <tr>
              <th scope="col">Cell temperature</th>
              <th scope="col" class="r">Sheet allows</th>
              <th scope="col" class="r">Sources may give</th>
              <th scope="col">Which</th>
            </tr>
          </thead>
          <tbody>
            @for (row of rows; track row.range) {
              <tr>
                <td class="n">{{ row.range }}</td>
                <td class="n r">{{ row.allowed }}</td>
                <td class="n r" [class.t-stop]="row.over">{{ row.sum }}</td>
                <td>{{ row.who }}</td>
              </tr>
            }
          </tbody>
        </table>
      </div>
    }
  `,
  styles: `
    :host {
      display: block;
    }
    h2 {
      font-size: 0.9375rem;
      font-weight: var(--ck-w-strong);
    }
    .halo {
      paint-order: stroke;
      stroke: #fdfcf9;
      stroke-width: 4px;
      stroke-linejoin: round;
    }
    table {
      border-collapse: collapse;
      width: 100%;
      font-size: 0.875rem;
      margin-bottom: 6px;
    }
    th {
      text-align: left;
      font-size: 0.8125rem;
      font-weight: 500;
      color: var(--ck-ink-2);
    }
    td,
    th {
      padding: 5px 10px 5px 0;
      border-bottom: 1px solid var(--ck-rule);
    }
    .r {
      text-align: right !important;
    }
    .bar {
      width: 45%;
      span {
        display: block;
        height: 9px;
        background: var(--ck-cold, #2f6479);
      }
      .total {
        background: var(--ck-ink);
      }
    }
    .sum td {
      font-weight: 620;
      border-top: 1.5px solid var(--ck-ink);
    }
    svg {
      display: block;
      max-width: 100%;
    }
  `,
})
export class TemperatureView {
  protected readonly units = inject(Units);
  readonly plan = input.required<Plan>();
  readonly charger = input<string | null>(null);
  readonly width = input.required<number>();

  private readonly device = computed(() => {
    const chargers = this.plan().input.system.chargers;
    return chargers.find((c) => c.id === this.charger()) ?? chargers[0] ?? devicesOf(this.plan().input)[0];
  });
  private readonly t = (c: number): string => this.units.temperature(c);

  protected readonly drawing = computed(() => {
    const plan = this.plan();
    const device = this.device();
    const id = device?.id ?? '';
    const { site, loads } = plan.input.system;
    const low = Math.min(site.bankLowC, 0) - 6;
    const high = Math.max(site.bankHighC, 30) + 6;
    const left = 52;
    const right = this.width() - 40;
    const height = 300;
    const bottom = height - 28;
    const x = (c: number): number => Math.round(10 * (left + ((c - low) / (high - low)) * (right - left))) / 10;
    const shown = curves.flatMap((c) => {
      const s = plan.setting(id, c.role);
      if (s?.trueValue == null || (c.role === 'equaliseVoltage' && plan.setting(id, 'equaliseEnabled')?.off === true)) return [];
      return [{ ...c, s, at: (celsius: number) => setpointAt(plan, s, celsius) ?? 0 }];
    });
    const sheetSlope = statedFigure(plan.input.sheet, 'compensationSlope');
    const perBank = sheetSlope ? scaleVolts(sheetSlope.target ?? 0, sheetSlope.basis, 'bank', plan.facts.shape) : 0;
    const bySheet = (at25: number, c: number): number => at25 + perBank * (c - referenceC(plan));
    const tripV = lowestTrip(plan.input.sheet, plan.input.system)?.volts;
    const all = [
      ...shown.flatMap((c) => [c.at(low), c.at(high), bySheet(c.at(referenceC(plan)), low)]),
      ...(tripV === undefined ? [] : [tripV]),
      ...(loads.maxVolts === undefined ? [] : [loads.maxVolts]),
    ];
    const pad = 0.03 * plan.facts.nominalVolts;
    const top = Math.max(plan.facts.nominalVolts, ...all) + pad;
    const floor = Math.min(...(all.length > 0 ? all : [plan.facts.nominalVolts]), ...shown.map((c) => c.at(high))) - pad;
    const y = (v: number): number => Math.round(10 * (bottom - ((v - floor) / (top - floor)) * (bottom - 22))) / 10;
    const step = [0.2, 0.5, 1, 2, 5].find((s) => (top - floor) / s <= 7) ?? 5;
    const grid: { y: number; text: string }[] = [];
    for (let v = Math.ceil(floor / step) * step; v <= top; v += step) grid.push({ y: y(v), text: formatNumber(v, step < 1 ? 1 : 0) });
    const moves = compensationOf(plan, id);
    const points = [low, site.bankLowC, moves?.coldestC ?? low, referenceC(plan), moves?.hottestC ?? high, site.bankHighC, high]
      .filter((c) => c >= low && c <= high)
      .sort((a, b) => a - b);
    const path = (f: (c: number) => number): string => points.map((c, i) => `${i === 0 ? 'M' : 'L'}${x(c)} ${y(f(c))}`).join('');
    const ticks: { x: number; text: string }[] = [];
    for (let c = Math.ceil(low / 10) * 10; c <= high; c += 10) ticks.push({ x: x(c), text: this.units.degrees(c) });
    const clamp = (c: number | undefined): boolean => c !== undefined && Number.isFinite(c) && c > low && c < high;
    const why = !moves
      ? plan.setting(id, 'compensationSlope') === undefined
        ? 'It has no compensation: its setpoints do not move.'
        : device && !readsBattery(device, plan.input.cards.find((k) => k.id === device.card) ?? plan.input.cards[0]!)
          ? 'No sensor gives it the battery’s temperature: its setpoints do not move.'
          : plan.setting(id, 'compensationSlope')?.noValue === 'missingFigure'
            ? 'The sheet gives no slope, so none is worked out. What the charger has from the factory stays active: read it off, and ask the maker.'
            : 'Compensation is off: its setpoints do not move.'
      : `${formatQuantity(moves.slope * 1000, 'mV/°C', 0)} for the bank, zero at ${this.t(moves.referenceC)}${clamp(moves.coldestC) ? `, no further below ${this.t(moves.coldestC)}` : ''}${clamp(moves.hottestC) ? `, nor above ${this.t(moves.hottestC)}` : ''}. Dotted: by the sheet’s slope.`;
    return {
      name: device?.name ?? '',
      left,
      right,
      bottom,
      height,
      grid,
      ticks,
      trip: tripV === undefined ? null : y(tripV),
      tripText: tripV === undefined ? '' : `BMS trip ${formatQuantity(tripV, 'V', 1)}`,
      loads: loads.maxVolts === undefined ? null : y(loads.maxVolts),
      loadsText: loads.maxVolts === undefined ? '' : `loads bear ${formatQuantity(loads.maxVolts, 'V', 1)}`,
      marks: [
        { x: x(site.bankLowC), text: `coldest ${this.t(site.bankLowC)}`, anchor: 'start', dx: -2, dashed: false },
        { x: x(site.bankHighC), text: `hottest ${this.t(site.bankHighC)}`, anchor: 'end', dx: 2, dashed: false },
        ...(clamp(moves?.coldestC) ? [{ x: x(moves?.coldestC ?? 0), text: '', anchor: 'start', dx: 0, dashed: true }] : []),
        ...(clamp(moves?.hottestC) && moves?.hottestC !== moves?.coldestC
          ? [{ x: x(moves?.hottestC ?? 0), text: ' ', anchor: 'start', dx: 0, dashed: true }]
          : []),
      ],
      lines: shown.map((c) => ({
        name: c.name,
        colour: c.colour,
        path: path(c.at),
        sheet: perBank === 0 || !moves ? '' : path((t) => bySheet(c.at(referenceC(plan)), t)),
        labelY: Math.min(y(c.at(low)), perBank === 0 || !moves ? Infinity : y(bySheet(c.at(referenceC(plan)), low))) - 7,
        endY: y(c.at(high - ((high - low) * 120) / (right - left))) - 8,
        atLow: moves ? `${formatQuantity(c.at(site.bankLowC), 'V', 2)} at ${this.t(site.bankLowC)}` : formatQuantity(c.at(site.bankLowC), 'V', 2),
        atHigh: moves ? `${formatQuantity(c.at(site.bankHighC), 'V', 2)} at ${this.t(site.bankHighC)}` : '',
      })),
      words: `${why} ${shown
        .map((c) =>
          moves
            ? `${c.name} ${formatQuantity(c.at(site.bankLowC), 'V', 2)} at ${this.t(site.bankLowC)}, ${formatQuantity(c.at(site.bankHighC), 'V', 2)} at ${this.t(site.bankHighC)}`
            : `${c.name} ${formatQuantity(c.at(site.bankLowC), 'V', 2)}`,
        )
        .join('; ')}.`,
    };
  });

  /** The cutoff’s margin taken apart; null where the charger has no cutoff. */
  protected readonly margin = computed(() => {
    const plan = this.plan();
    const device = this.device();
    const cutoff = device && plan.setting(device.id, 'lowTempCutoff');
    const least = statedFigure(plan.input.sheet, 'chargeTemperature')?.min;
    if (!device || cutoff?.trueValue == null || least === undefined) return null;
    const m = cutoffMargin(device.sensor, plan.input.system.site);
    const parts = [
      { name: 'Reads warmer than the cell', size: m.offset },
      { name: 'Lag while the bank cools', size: m.lag },
      { name: 'Error of the sensor', size: m.sensorError },
    ];
    const whole = Math.max(m.total, 0.1);
    let from = 0;
    const rows = parts.map((p) => {
      const row = { name: p.name, from: (100 * from) / whole, size: (100 * p.size) / whole, text: this.units.difference(p.size), sum: false };
      from += p.size;
      return row;
    });
    return {
      rows: [...rows, { name: 'Margin above the sheet', from: 0, size: 100, text: this.units.difference(m.total), sum: true }],
      words: `sheet ${this.t(least)}, cutoff ${this.units.temperature(cutoff.trueValue, 0)}`,
    };
  });

  protected readonly stairs = computed(() => {
    const plan = this.plan();
    if (plan.stairs.length === 0) return null;
    const { chargers } = plan.input.system;
    return plan.stairs.map((stair) => {
      const on = chargers.flatMap((c) => {
        const cutoff = plan.setting(c.id, 'lowTempCutoff')?.trueValue;
        const starts = cutoff == null ? -Infinity : cutoff - cutoffMargin(c.sensor, plan.input.system.site).total;
        const amps = plan.setting(c.id, 'chargeCurrentLimit')?.trueValue ?? plan.cold.sources.find((s) => s.charger === c.id)?.amps ?? 0;
        return starts < stair.toC - 1e-9 && amps > 0 ? [{ name: c.name, amps }] : [];
      });
      const sum = on.reduce((total, s) => total + s.amps, 0);
      return {
        range: `${this.t(stair.fromC)} to ${this.t(stair.toC)}`,
        allowed: formatQuantity(stair.amps, 'A', 0),
        sum: formatQuantity(sum, 'A', 0),
        over: sum > stair.amps + 1e-9,
        who: on.map((s) => `${s.name} ${formatNumber(s.amps, 0)}`).join(', '),
      };
    });
  });
}
