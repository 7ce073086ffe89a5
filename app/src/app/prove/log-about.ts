import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { unknownSensor, type LogEntry } from '@calm-keel/core/job';
import type { LogRow } from '../data/database';
import { JobStore } from '../data/job-store';
import { LiveRecord } from '../data/live-record';
import { sensorChoices } from '../data/sensors';
import { ChoiceField } from '../ui/choice-field';

/** What is known of a log: what wrote it, which sensor wrote its temperature, what was left out of it. */
@Component({
  selector: 'ck-log-about',
  imports: [ChoiceField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="sech"><span role="heading" aria-level="2">This log</span></div>
    <div class="about">
      <ck-choice-field label="Written by" [value]="entry().instrument" [options]="instruments()" (changed)="setInstrument($event)" />
      @if (sensors().length > 0) {
        <ck-choice-field label="Temperature read by" [value]="sensor()" [options]="sensors()" (changed)="setSensor($event)" />
      }
      <button type="button" class="ghost" (click)="remove()">Take this log out</button>
      @if (!live.running()) {
        <button type="button" class="ghost" (click)="record.emit()">Record from the devices</button>
      }
    </div>
    @for (note of notes(); track $index) {
      <p class="quiet">{{ note }}</p>
    }
    @if (row(); as r) {
      @for (note of r.report.notes; track $index) {
        <p class="quiet">{{ note }}</p>
      }
      @if (r.report.skipped > 0) {
        <details>
          <summary>{{ r.report.skipped.toLocaleString('en') }} lines could not be read; {{ r.report.rows.toLocaleString('en') }} were</summary>
          <ul>
            @for (line of r.report.firstSkipped; track line.line) {
              <li>Line {{ line.line }} {{ line.why }}.</li>
            }
          </ul>
        </details>
      }
    }
  `,
  styles: `
    :host {
      display: block;
    }
    .about {
      display: flex;
      flex-wrap: wrap;
      gap: 8px 14px;
      align-items: end;
      margin-bottom: 8px;
    }
    details {
      font-size: 0.8438rem;
    }
  `,
})
export class LogAbout {
  private readonly store = inject(JobStore);
  protected readonly live = inject(LiveRecord);
  readonly entry = input.required<LogEntry>();
  /** Its samples; null while they are read. */
  readonly row = input.required<LogRow | null>();
  /** What judging it had to say, in sentences. */
  readonly notes = input.required<readonly string[]>();
  readonly record = output();
  readonly removed = output();

  protected readonly instruments = computed(
    () => this.store.job()?.system.instruments.map((i) => ({ value: i.id, words: i.assumed ? `${i.name}, usual accuracy` : i.name })) ?? [],
  );
  /** Sensors that may have written the temperature, and which it was; none where the log has no temperature. */
  protected readonly sensors = computed(() =>
    this.row()?.log.batteryC ? [{ value: unknownSensor, words: 'a sensor nobody knows' }, ...sensorChoices(this.store.job()?.system.chargers ?? [])] : [],
  );
  protected readonly sensor = computed(() => {
    const id = this.entry().batterySensor ?? this.row()?.log.batterySensor;
    return this.sensors().some((s) => s.value === id) ? (id ?? unknownSensor) : unknownSensor;
  });

  private change(label: string, change: Partial<LogEntry>): void {
    const { id } = this.entry();
    this.store.edit(label, (job) => ({ ...job, logs: job.logs.map((l) => (l.id === id ? { ...l, ...change } : l)) }));
  }
  protected setInstrument(instrument: string): void {
    this.change('Choose the log’s instrument', { instrument });
  }
  protected setSensor(batterySensor: string): void {
    this.change('Say which sensor wrote the temperature', { batterySensor });
  }
  protected remove(): void {
    const { id, name } = this.entry();
    this.store.edit(`Take out ${name}`, (job) => ({ ...job, logs: job.logs.filter((l) => l.id !== id) }));
    this.removed.emit();
  }
}
