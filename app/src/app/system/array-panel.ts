import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { onCharger } from '@calm-keel/core/job';
import { formatNumber, type Problem } from '@calm-keel/core/quantity';
import { cardOf, mostAmps } from '@calm-keel/core/settings';
import { arrayFacts, clearYearOf, compareLayouts, type Charger, type PanelArray } from '@calm-keel/core/system';
import { JobStore } from '../data/job-store';
import { Units } from '../data/units';
import { Glyph } from '../ui/glyph';
import { draftFor } from '../ui/draft';
import { NumberField } from '../ui/number-field';
import { TextField } from '../ui/text-field';
import { Moves } from '../ui/moves';

/** What has to be known of an array before anything can be worked out, in the order of a label. */
const needed = [
  { key: 'watts', label: 'Power', unit: 'W', step: 5, min: 1, max: 2000 },
  { key: 'vocV', label: 'Open circuit', unit: 'V', step: 0.1, min: 1, max: 500 },
  { key: 'vmpV', label: 'Working', unit: 'V', step: 0.1, min: 1, max: 500 },
  { key: 'iscA', label: 'Short circuit', unit: 'A', step: 0.1, min: 0.05, max: 100 },
  { key: 'impA', label: 'Working', unit: 'A', step: 0.1, min: 0.05, max: 100 },
  { key: 'bypassDiodes', label: 'Bypass diodes', unit: '', step: 1, min: 0, max: 12 },
  { key: 'inSeries', label: 'In series', unit: '', step: 1, min: 1, max: 40 },
  { key: 'inParallel', label: 'Strings side by side', unit: '', step: 1, min: 1, max: 40 },
  { key: 'tilt', label: 'Tilt', unit: '°', step: 5, min: 0, max: 90 },
  { key: 'azimuth', label: 'Looks to, from north', unit: '°', step: 10, min: 0, max: 360 },
] as const;
type Needed = (typeof needed)[number]['key'];
/** Those that are the roof’s, not the panel’s label. */
const ofRoof = ['inSeries', 'inParallel', 'tilt', 'azimuth'] as const;
const isRoofs = (key: Needed): key is (typeof ofRoof)[number] => (ofRoof as readonly string[]).includes(key);
/** Shade is asked once the array is there: nobody has spoken of any. */
const unshaded = { shaded: 0, shadeLight: 0.1 };
const dashes = ['', '7 4', '2 3', '9 3 2 3'] as const;

/** The array of a solar charger: what the label says, what the cold and the heat make of it, and how else its panels could be joined. */
@Component({
  selector: 'ck-array-panel',
  imports: [Moves, NumberField, TextField, Glyph],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './array-panel.html',
  styleUrl: './array-panel.scss',
})
export class ArrayPanel {
  private readonly store = inject(JobStore);
  protected readonly units = inject(Units);
  readonly charger = input.required<Charger>();
  private readonly refused = signal<{ field: string; problems: readonly Problem[] } | null>(null);
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
    const x = (v: number): number => Math.round(10 * (44 + (280 * v) / volts)) / 10;
    const y = (w: number): number => Math.round(10 * (132 - (118 * w) / watts)) / 10;
    const most = this.base()?.facts.mostVolts ?? null;
    return {
      curves: list.map((l, i) => ({
        name: l.name,
        dash: dashes[i % dashes.length] ?? '',
        d: l.curve.map((p, k) => `${k === 0 ? 'M' : 'L'}${x(p.volts)} ${y(p.watts)}`).join(''),
      })),
      limit: most !== null && most <= volts ? x(most) : null,
      most: formatNumber(most ?? 0, 0),
      volts: formatNumber(volts, 0),
      watts: formatNumber(watts, 0),
    };
  });

  protected problemAt(field: string): string | null {
    const refused = this.refused();
    return refused?.field === field ? `Not like this: ${(refused.problems[0]?.text ?? '').replace(/^[^:]*: /, '')}` : null;
  }

  private put(field: string, change: (array: PanelArray) => PanelArray): void {
    const { id } = this.charger();
    const problems = this.store.edit(
      'Change an array',
      (job) => onCharger(job, id, (c) => (c.array ? { ...c, array: change(c.array) } : c)),
      `${id} array ${field}`,
    );
    this.refused.set(problems.length > 0 ? { field, problems } : null);
  }

  /** An array being typed: it is one when everything is there. */
  protected readonly draft = draftFor<Partial<Record<Needed, number>>>(() => this.charger().id);
  protected readonly needed = needed;
  protected readonly missing = computed(() => needed.filter(({ key }) => this.draft()?.[key] === undefined).length);

  /** What stands in a field of the label: of the array, or of the one being typed. */
  protected typed(key: Needed): number | undefined {
    const array = this.array();
    if (!array) return this.draft()?.[key];
    return isRoofs(key) ? array[key] : array.panel[key];
  }

  protected type(key: Needed, value: number | undefined): void {
    if (this.array()) {
      if (isRoofs(key)) this.edit(key, value);
      else this.editPanel(key, value);
      return;
    }
    this.refused.set(null);
    this.draft.update((draft) => {
      const { [key]: _before, ...others } = draft ?? {};
      return value === undefined ? others : { ...others, [key]: value };
    });
  }

  protected save(): void {
    const { inSeries, inParallel, tilt, azimuth, ...panel } = this.draft() ?? {};
    // The schema says what is still missing, should it come to that.
    const array = { panel: { name: '', ...panel }, inSeries, inParallel, tilt, azimuth, ...unshaded } as PanelArray;
    const { id } = this.charger();
    const problems = this.store.edit('Enter an array', (job) => onCharger(job, id, (c) => ({ ...c, array })));
    const field = (problems[0]?.place ?? '').split(' › ').at(-1) ?? '';
    this.refused.set(problems.length > 0 ? { field, problems } : null);
    if (problems.length === 0) this.draft.set(null);
  }

  protected edit(field: Exclude<keyof PanelArray, 'panel'>, value: number | undefined): void {
    this.put(field, (array) => {
      const { [field]: _before, ...others } = array;
      return (value === undefined ? others : { ...others, [field]: value }) as PanelArray;
    });
  }

  protected editPanel(field: keyof PanelArray['panel'], value: number | string | undefined): void {
    this.put(field, (array) => {
      const { [field]: _before, ...others } = array.panel;
      return { ...array, panel: (value === undefined ? others : { ...others, [field]: value }) as PanelArray['panel'] };
    });
  }
}
