import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { formatNumber, formatQuantity } from '@calm-keel/core/quantity';
import { scenarioKinds, scenarioNamed, variantWords, type Rehearsal, type Scenario } from '@calm-keel/core/rehearsal';
import type { Plan } from '@calm-keel/core/settings';
import { JobStore } from '../data/job-store';
import { RehearseWork } from '../data/rehearse-work';
import { Units } from '../data/units';
import { ChoiceField } from '../ui/choice-field';
import { NumberField } from '../ui/number-field';

const monthWords = ['January', 'February', 'March', 'April', 'May', 'June', 'July', 'August', 'September', 'October', 'November', 'December'];

/** A ruler with one handle. */
interface Handle {
  readonly key: 'clearness' | 'dawnC' | 'duty' | 'snow' | 'engine' | 'flow';
  readonly name: string;
  readonly words: string;
  readonly least: number;
  readonly most: number;
  readonly step: number;
  readonly value: number;
  readonly ends: readonly [string, string];
}

/** The day as a sentence whose underlined words are the choices, rulers for weather and loads, and everything else of it behind a fold. */
@Component({
  selector: 'ck-day-sentence',
  imports: [NumberField, ChoiceField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './day-sentence.html',
  styleUrl: './day-sentence.scss',
})
export class DaySentence {
  private readonly store = inject(JobStore);
  private readonly work = inject(RehearseWork);
  protected readonly units = inject(Units);
  readonly plan = input.required<Plan>();
  readonly rehearsal = input.required<Rehearsal>();
  protected readonly s = computed(() => this.rehearsal().scenario);

  protected readonly kinds = computed(() => scenarioKinds.filter((k) => k.suits(this.plan()) || k.name === this.s().name));
  protected readonly months = monthWords;
  protected readonly charges = [10, 20, 30, 40, 50, 60, 70, 80, 90, 95];
  protected readonly charge = computed(() => Math.round(this.s().charge * 100));
  protected readonly turns = computed(() => this.has('alternator') || this.has('dcdc'));
  protected readonly engineHours = Array.from({ length: 24 }, (_, i) => i);
  protected readonly chargers = computed(() => this.plan().input.system.chargers);
  protected readonly logs = computed(() => this.store.job()?.logs ?? []);
  protected readonly others = computed(() => [
    { value: 'none', words: 'nothing' },
    ...(this.rehearsal().nudges.length > 0 ? [{ value: 'asSet', words: 'as set, nothing tried' }] : []),
    ...(['asFound', 'factory', 'lastVisit'] as const).map((value) => ({ value, words: variantWords[value] })),
  ]);
  protected readonly logChoices = computed(() => [
    { value: '', words: 'weather made for the day' },
    ...this.logs().map((l) => ({ value: l.id, words: l.name })),
  ]);
  protected readonly raisedChoices = computed(() => [{ value: '', words: 'none' }, ...this.chargers().map((c) => ({ value: c.id, words: c.name }))]);

  protected has(kind: string): boolean {
    const { system, cards } = this.plan().input;
    return system.chargers.some((c) => cards.find((card) => card.id === c.card)?.kind === kind);
  }

  protected readonly handles = computed<readonly Handle[]>(() => {
    const s = this.s();
    const { site, loads } = this.plan().input.system;
    const list: Handle[] = [];
    if (s.replay !== null) return list;
    const solar = this.chargers().some((c) => c.array);
    if (solar)
      list.push({
        key: 'clearness',
        name: 'Cloud',
        words: `clearness ${formatNumber(s.clearness, 2)}`,
        least: 0.05,
        most: 1,
        step: 0.05,
        value: s.clearness,
        ends: ['closed', 'clear'],
      });
    list.push({
      key: 'dawnC',
      name: 'Cold',
      words: `${this.units.temperature(s.dawnC)} at dawn`,
      least: Math.floor(Math.min(site.bankLowC, s.dawnC)) - 6,
      most: Math.ceil(Math.max(site.bankHighC, s.dawnC)),
      step: 1,
      value: s.dawnC,
      ends: [this.units.temperature(Math.floor(Math.min(site.bankLowC, s.dawnC)) - 6), this.units.temperature(Math.ceil(Math.max(site.bankHighC, s.dawnC)))],
    });
    if (loads.maxA > 0)
      list.push({
        key: 'duty',
        name: 'Load',
        words: `fridge on ${Math.round(s.load.duty * 100)} %`,
        least: 0,
        most: 1,
        step: 0.02,
        value: s.load.duty,
        ends: [formatQuantity(s.load.baseA, 'A', 0), formatQuantity(s.load.baseA + s.load.fridgeA, 'A', 0)],
      });
    if (s.engine)
      list.push({
        key: 'engine',
        name: 'Engine',
        words: `${formatNumber(s.engine.hours, 1)} h`,
        least: 0.5,
        most: 12,
        step: 0.5,
        value: s.engine.hours,
        ends: ['half an hour', '12 h'],
      });
    if (solar && s.snow > 0)
      list.push({
        key: 'snow',
        name: 'Snow',
        words: `${Math.round(s.snow * 100)} % of the arrays`,
        least: 0,
        most: 1,
        step: 0.05,
        value: s.snow,
        ends: ['none', 'all'],
      });
    if (this.has('turbine'))
      list.push({
        key: 'flow',
        name: 'Stream',
        words: `${Math.round(s.flow * 100)} % of its peak`,
        least: 0,
        most: 1.2,
        step: 0.05,
        value: s.flow,
        ends: ['dry', 'spate'],
      });
    return list;
  });

  private with(key: Handle['key'], value: number): Scenario {
    const s = this.s();
    switch (key) {
      case 'duty':
        return { ...s, load: { ...s.load, duty: value } };
      case 'engine':
        return { ...s, engine: s.engine && { ...s.engine, hours: value } };
      default:
        return { ...s, [key]: value };
    }
  }

  /** While a handle is dragged the day follows; it is kept when the finger lets go. */
  protected drag(key: Handle['key'], value: string): void {
    this.work.draft.set({ ...this.rehearsal(), scenario: this.with(key, Number(value)) });
  }

  protected drop(key: Handle['key'], value: string): void {
    this.keep(this.with(key, Number(value)), key);
  }

  protected change(change: Partial<Scenario>): void {
    this.keep({ ...this.s(), ...change }, Object.keys(change).join(' '));
  }

  protected load(change: Partial<Scenario['load']>): void {
    this.change({ load: { ...this.s().load, ...change } });
  }

  /** Changes of the same thing in quick succession are one step to undo; another thing is another. */
  private keep(scenario: Scenario, what: string): void {
    this.work.keep('Change the rehearsed day', { ...this.rehearsal(), scenario }, `rehearsal ${what}`);
  }

  /** Another kind of day: everything it speaks of changes, and the month with it. */
  protected kind(name: string): void {
    const next = scenarioNamed(this.plan(), name);
    if (next) this.keep({ ...next, seed: this.s().seed }, name);
  }

  protected setAgainst(value: string): void {
    const against = value as Rehearsal['against'];
    this.work.keep('Compare with another', { ...this.rehearsal(), against }, 'rehearsal against');
  }

  protected engineAt(text: string): void {
    const hour = Number(text);
    const engine = this.s().engine;
    this.change({ engine: text === '' ? null : { fromHour: hour, hours: engine?.hours ?? 2, output: engine?.output ?? 0.7 } });
  }

  protected mainsAt(text: string): void {
    this.change({ mains: text === '' ? null : { fromHour: Number(text), hours: this.s().mains?.hours ?? 10 } });
  }

  protected unplug(charger: string, out: boolean): void {
    const others = this.s().unplugged.filter((id) => id !== charger);
    this.change({ unplugged: out ? [...others, charger] : others });
  }

  protected raise(charger: string): void {
    this.change({ raised: charger === '' ? null : { charger, volts: this.s().raised?.volts ?? 0.4 } });
  }

  protected replay(log: string): void {
    this.change({ replay: log === '' ? null : log });
  }

  protected hourWords(hour: number): string {
    return `${String(hour).padStart(2, '0')}:00`;
  }

  protected roundOr(before: number, value: number | undefined): number {
    return value === undefined ? before : Math.round(value);
  }
}
