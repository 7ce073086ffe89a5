import { Router } from '@angular/router';
import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { cardKindWords, cardQuirks, isUnknown, unknownsOf, type Card, type Role } from '@calm-keel/core/card';
import { withFound, onCharger, withoutDevice, withTwin } from '@calm-keel/core/job';
import { ampacity, ampacitySource } from '@calm-keel/core/physics';
import { formatNumber, formatTemperatureDifference, nearestAwg } from '@calm-keel/core/quantity';
import { cardOf } from '@calm-keel/core/settings';
import { cutoffMargin, type Charger } from '@calm-keel/core/system';
import { freeId } from '../data/free-id';
import { JobStore } from '../data/job-store';
import { Selection } from '../data/selection';
import { SurveyStore } from '../data/survey-store';
import { Units } from '../data/units';
import { draftFor, withTyped } from '../ui/draft';
import { NumberField } from '../ui/number-field';
import { DetailFields } from './detail-fields';
import { FoundFields } from './found-fields';

/** A charger: its sensor, its display against the meter, what was found on it, its source and its wiring. */
@Component({
  selector: 'ck-charger-panel',
  imports: [NumberField, DetailFields, FoundFields],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './charger-panel.html',
  styleUrl: './charger-panel.scss',
})
export class ChargerPanel {
  private readonly store = inject(JobStore);
  private readonly selection = inject(Selection);
  private readonly units = inject(Units);
  readonly charger = input.required<Charger>();
  protected readonly kindWords = cardKindWords;
  protected readonly quirks = cardQuirks;

  private readonly surveys = inject(SurveyStore);
  private readonly router = inject(Router);

  /** How much nobody knows of its card. */
  protected readonly open = (card: Card): number => unknownsOf(card).length;

  /** One more with the same card, array and wiring; what was read on this one is not known of it. */
  protected twin(): void {
    const job = this.store.job();
    if (!job) return;
    const { id, name } = this.charger();
    const devices = [...job.system.chargers, ...job.system.companions];
    const next = freeId(
      'charger',
      devices.map((d) => d.id),
      'charger',
    );
    const base = name.replace(/ \d+$/, '');
    let n = 2;
    while (devices.some((d) => d.name === `${base} ${n}`)) n++;
    this.store.edit(`Add another like ${name}`, (now) => withTwin(now, id, { id: next, name: `${base} ${n}`.slice(0, 60) }));
    this.selection.charger.set(next);
  }

  /** Begins a survey of it, or goes on with the one that was begun. */
  protected async survey(): Promise<void> {
    const [card, job] = [this.card(), this.store.job()];
    if (!card || !job) return;
    await this.store.flush();
    await this.router.navigate(['/survey', await this.surveys.begin(card, { job: job.id, device: this.charger().id })]);
  }

  protected readonly card = computed(() => {
    const plan = this.store.plan();
    return plan ? (cardOf(plan.input, this.charger()) ?? null) : null;
  });
  protected readonly uses = computed(() => {
    const card = this.card();
    const uses = card?.sensor.usedFor ?? [];
    return card && isUnknown(card, 'sensorUse') ? 'not known' : uses.length > 0 ? uses.join(' and ') : 'nothing';
  });
  protected readonly margin = computed(() => {
    const site = this.store.job()?.system.site;
    const { sensor } = this.charger();
    return site && sensor.fitted ? formatTemperatureDifference(cutoffMargin(sensor, site).total, this.units.scale()) : '';
  });
  protected readonly bears = computed(() => {
    const { wire } = this.charger();
    if (wire?.areaMm2 === undefined) return '';
    const air = wire.airC === undefined ? '' : ` in air at ${this.units.temperature(wire.airC)}`;
    return `${formatNumber(ampacity(wire.areaMm2, wire.airC), 0)} A${air}, about ${nearestAwg(wire.areaMm2)} (${ampacitySource})`;
  });

  /** What the comparisons say: one gives an offset, two or more a gain between them. */
  protected readonly displayWords = computed(() => {
    const readings = [...this.charger().displayReadings].sort((a, b) => a.meterV - b.meterV);
    const first = readings[0];
    const last = readings.at(-1);
    if (!first || !last) return '';
    const say = (r: { meterV: number; displayV: number }): string => {
      const error = r.displayV - r.meterV;
      const at = `at ${formatNumber(r.meterV, 1)} V`;
      return Math.abs(error) < 0.005 ? `right ${at}` : `${formatNumber(Math.abs(error), 2)} V ${error > 0 ? 'high' : 'low'} ${at}`;
    };
    if (readings.length === 1 || last.meterV === first.meterV) return `The display reads ${say(first)}: an offset, taken to hold everywhere.`;
    const gain = (last.displayV - first.displayV) / (last.meterV - first.meterV);
    return `The display reads ${say(first)} and ${say(last)}: gain ${formatNumber(gain, 3)}, used between the readings only.`;
  });

  private edit(label: string, key: string, change: (charger: Charger) => Charger): void {
    const { id } = this.charger();
    this.store.edit(label, (job) => onCharger(job, id, change), key && `system ${id} ${key}`);
  }

  protected editReading(index: number, key: 'meterV' | 'displayV', value: number | undefined): void {
    if (value === undefined) return;
    this.edit('Change a comparison', `reading ${index} ${key}`, (c) => ({
      ...c,
      displayReadings: c.displayReadings.map((r, i) => (i === index ? { ...r, [key]: value } : r)),
    }));
  }

  /** A comparison being typed: it is one when both readings are there. */
  protected readonly draft = draftFor<{ readonly meterV?: number; readonly displayV?: number }>(() => this.charger().id);

  protected draftReading(key: 'meterV' | 'displayV', value: number | undefined): void {
    this.draft.update((draft) => withTyped(draft, key, value));
  }

  protected saveReading(): void {
    const { meterV, displayV } = this.draft() ?? {};
    if (meterV === undefined || displayV === undefined) return;
    this.edit('Add a comparison', '', (c) => ({ ...c, displayReadings: [...c.displayReadings, { meterV, displayV }] }));
    this.draft.set(null);
  }

  protected removeReading(index: number): void {
    this.edit('Remove a comparison', '', (c) => ({ ...c, displayReadings: c.displayReadings.filter((_, i) => i !== index) }));
  }

  protected found(role: Role, value: number | string | undefined): void {
    const { id } = this.charger();
    this.store.edit('Note a value as found', (job) => withFound(job, id, role, value), `system ${id} present ${role}`);
  }

  protected remove(): void {
    const { id } = this.charger();
    this.store.edit('Remove a charger', (job) => withoutDevice(job, id));
    this.selection.charger.set(null);
  }
}
