import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import type { Role } from '@calm-keel/core/card';
import { formatNumber, formatQuantity } from '@calm-keel/core/quantity';
import { compensationOf, devicesOf, referenceC, setpointAt, type Plan } from '@calm-keel/core/settings';
import { scaleVolts, statedFigure } from '@calm-keel/core/sheet';
import { cutoffMargin, lowestTrip, readsBattery } from '@calm-keel/core/system';
import { Units } from '../data/units';
import { Axis } from '../ui/axis';
import { Moves } from '../ui/moves';
import { axis, pointsPath, ticksOf } from '../ui/scales';

const curves: readonly { role: Role; name: string; colour: string }[] = [
  { role: 'equaliseVoltage', name: 'equalise', colour: 'var(--ck-equalise)' },
  { role: 'absorbVoltage', name: 'absorb', colour: 'var(--ck-absorb)' },
  { role: 'floatVoltage', name: 'float', colour: 'var(--ck-float)' },
];

/** Setpoints against battery temperature with their clamps, and the permitted current with cutoff, resume and the margin taken apart. */
@Component({
  selector: 'ck-temperature-view',
  imports: [Axis, Moves],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './temperature-view.html',
  styleUrl: './temperature-view.scss',
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
    const x = axis([low, high], [left, right]);
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
    const y = axis([floor, top], [bottom, 22]);
    const step = [0.2, 0.5, 1, 2, 5].find((s) => (top - floor) / s <= 7) ?? 5;
    const moves = compensationOf(plan, id);
    const points = [low, site.bankLowC, moves?.coldestC ?? low, referenceC(plan), moves?.hottestC ?? high, site.bankHighC, high]
      .filter((c) => c >= low && c <= high)
      .sort((a, b) => a - b);
    const path = (f: (c: number) => number): string => pointsPath(points.map((c) => [x(c), y(f(c))]));
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
      volts: ticksOf(y, step, (v) => formatNumber(v, step < 1 ? 1 : 0)),
      degrees: ticksOf(x, 10, (c) => this.units.degrees(c)),
      trip: tripV === undefined ? null : y(tripV),
      tripText: tripV === undefined ? '' : `BMS trip ${formatQuantity(tripV, 'V', 1)}`,
      loads: loads.maxVolts === undefined ? null : y(loads.maxVolts),
      loadsText: loads.maxVolts === undefined ? '' : `loads: at most ${formatQuantity(loads.maxVolts, 'V', 1)}`,
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
        allowed: Number.isFinite(stair.amps) ? formatQuantity(stair.amps, 'A', 0) : 'not on the sheet',
        sum: formatQuantity(sum, 'A', 0),
        over: sum > stair.amps + 1e-9,
        who: on.map((s) => `${s.name} ${formatNumber(s.amps, 0)}`).join(', '),
      };
    });
  });
}
