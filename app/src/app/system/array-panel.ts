import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { onCharger } from '@calm-keel/core/job';
import { formatNumber, type Problem } from '@calm-keel/core/quantity';
import { cardOf, mostAmps } from '@calm-keel/core/settings';
import { arrayFacts, clearYearOf, compareLayouts, type Charger } from '@calm-keel/core/system';
import { JobStore } from '../data/job-store';
import { Units } from '../data/units';
import { Glyph } from '../ui/glyph';
import { Moves } from '../ui/moves';
import { axis, pointsPath } from '../ui/scales';
import { ArrayFields, type ArrayEdit } from './array-fields';

const dashes = ['', '7 4', '2 3', '9 3 2 3'] as const;

/** The array of a solar charger: what the label says, what the cold and the heat make of it, and how else its panels could be joined. */
@Component({
  selector: 'ck-array-panel',
  imports: [Moves, ArrayFields, Glyph],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './array-panel.html',
  styleUrls: ['./figures.scss', './array-panel.scss'],
})
export class ArrayPanel {
  private readonly store = inject(JobStore);
  protected readonly units = inject(Units);
  readonly charger = input.required<Charger>();
  protected readonly number = formatNumber;

  protected readonly array = computed(() => this.charger().array ?? null);
  private readonly base = computed(() => {
    const plan = this.store.plan();
    const array = this.array();
    const card = plan && cardOf(plan.input, this.charger());
    if (!plan || !array || !card) return null;
    const absorb = plan.setting(this.charger().id, 'absorbVoltage')?.trueValue ?? plan.facts.nominalVolts;
    const { site } = plan.input.system;
    return { array, card, site, facts: arrayFacts(array, card, site, absorb, mostAmps(plan, this.charger(), card)) };
  });
  /** Each check in words, with whether it holds. */
  protected readonly checks = computed(() => {
    const base = this.base();
    if (!base) return [];
    const { array, facts, site } = base;
    const low = this.units.temperature(site.recordLowC);
    const high = this.units.temperature(site.recordHighC);
    const year = clearYearOf(base.array, site, facts);
    return [
      {
        name: `Open circuit at ${low}`,
        value: `${formatNumber(facts.coldVolts, 1)} V`,
        limit: facts.mostVolts === null ? 'no limit on the card' : `at most ${formatNumber(facts.mostVolts, 0)} V`,
        good: facts.mostVolts === null || facts.coldMostVolts <= facts.mostVolts,
        how: `${
          facts.cold.from === 'coefficient'
            ? `× ${formatNumber(facts.cold.factor, 3)} by its coefficient`
            : `× ${formatNumber(facts.cold.factor, 2)} by the cold-factor table`
        }; up to ${formatNumber(facts.coldMostVolts, 1)} V with 3 % of label tolerance on a clear night`,
      },
      {
        name: `Working at ${high} in the air`,
        value: `${formatNumber(facts.hotVolts, 1)} V`,
        limit: `at least ${formatNumber(facts.leastVolts, 1)} V`,
        good: facts.hotVolts >= facts.leastVolts,
        how: `cells ${this.units.difference(30, 0)} above the air, ${array.panel.vmpPercentPerC === undefined ? '−0.4 %/°C where the label is silent' : 'by its coefficient'}`,
      },
      {
        name: 'Short circuit in bright light',
        value: `${formatNumber(facts.designA, 1)} A`,
        limit: facts.mostA === null ? 'no limit on the card' : `at most ${formatNumber(facts.mostA, 0)} A`,
        good: facts.mostA === null || facts.designA <= facts.mostA,
        how: '1.25 × the label',
      },
      {
        name: 'Power by the label',
        value: `${formatNumber(facts.stcW, 0)} W`,
        limit: `passes on ${formatNumber(facts.ceilingW, 0)} W in absorb`,
        good: true,
        how:
          year === null
            ? 'enter the latitude for a year of it'
            : year.clippedKWh < 1
              ? `${formatNumber(year.kWh, 0)} kWh in a year of clear days, none of it lost`
              : `${formatNumber(year.clippedKWh, 0)} of ${formatNumber(year.kWh, 0)} kWh lost in a year of clear days`,
      },
    ];
  });
  protected readonly layouts = computed(() => {
    const base = this.base();
    return base ? compareLayouts(base.array, base.card, base.site, base.facts.leastVolts) : [];
  });
  /** Power curves in shade on one scale. */
  protected readonly plot = computed(() => {
    const list = this.layouts().filter((l) => l.curve.length > 0);
    const volts = Math.max(10, ...list.flatMap((l) => l.curve.map((p) => p.volts)));
    const watts = Math.max(10, ...list.flatMap((l) => l.curve.map((p) => p.watts)));
    const x = axis([0, volts], [44, 324]);
    const y = axis([0, watts], [132, 14]);
    const most = this.base()?.facts.mostVolts ?? null;
    return {
      curves: list.map((l, i) => ({
        name: l.name,
        dash: dashes[i % dashes.length] ?? '',
        d: pointsPath(l.curve.map((p) => [x(p.volts), y(p.watts)])),
      })),
      limit: most !== null && most <= volts ? x(most) : null,
      most: formatNumber(most ?? 0, 0),
      volts: formatNumber(volts, 0),
      watts: formatNumber(watts, 0),
    };
  });

  /** Holds what was typed of it. */
  protected readonly hold = ({ field, array }: ArrayEdit): readonly Problem[] => {
    const { id } = this.charger();
    const label = this.array() ? 'Change an array' : 'Enter an array';
    return this.store.edit(label, (job) => onCharger(job, id, (c) => ({ ...c, array })), `${id} array ${field}`);
  };
}
