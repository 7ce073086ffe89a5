import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal, signal } from '@angular/core';
import type { HistoryFile, HistoryRow, TestRecord } from '@calm-keel/core/fieldtest';
import { changedAt } from '@calm-keel/core/job';
import { formatQuantity, type Problem } from '@calm-keel/core/quantity';
import { JobStore, today } from '../data/job-store';
import { LogWork } from '../data/log-work';
import { TestWork } from '../data/test-work';
import { FileButton } from '../ui/file-button';
import { Glyph } from '../ui/glyph';

/** Most lines of one test. */
const mostDays = 400;

/** A charger’s own daily history brought in from a file, in place of typing its days. */
@Component({
  selector: 'ck-history-file',
  imports: [FileButton, Glyph],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ck-file-button words="Bring in its history as a file" label="History file" accept=".csv,.txt,.tsv,.xlsx,.zip" (chosen)="open($event)" />
    @for (p of problems(); track $index) {
      <p class="said bad" role="alert">
        <ck-glyph name="stop" /><span class="line">{{ p.text }} Nothing was taken.</span>
      </p>
    }
    @if (file(); as f) {
      <section role="status">
        <p>
          <b
            >{{ f.days.length }} {{ f.days.length === 1 ? 'day' : 'days' }},
            {{ f.days.length === 1 ? f.days[0]?.date : f.days[0]?.date + ' to ' + f.days.at(-1)?.date }}.</b
          >
          Highest {{ highest() }}.
        </p>
        <label
          >Only from<input #from class="plain n" type="date" [value]="since()" (change)="since.set(from.value)" />
          <small class="quiet">{{
            changed() ? 'Its settings were changed on ' + changed() + ': what is older tells what was.' : 'Leave out days on which somebody tested.'
          }}</small></label
        >
        @if (f.leftOut.length > 0) {
          <details>
            <summary class="quiet">{{ f.leftOut.length === 1 ? '1 line' : f.leftOut.length + ' lines' }} left out</summary>
            <ul>
              @for (l of f.leftOut; track l) {
                <li>{{ l }}</li>
              }
            </ul>
          </details>
        }
        <div class="acts">
          <button type="button" class="ghost" [disabled]="chosen().length === 0" (click)="take()">
            {{ chosen().length === 0 ? 'No day is left' : chosen().length === 1 ? 'Add 1 day' : 'Add ' + chosen().length + ' days' }}
          </button>
          <button type="button" class="do" (click)="file.set(null)">Leave it</button>
        </div>
      </section>
    }
  `,
  styles: `
    :host {
      display: block;
      padding: 8px 0;
    }
    section {
      border-top: 1.5px solid var(--ck-ink);
      margin-top: 8px;
      padding-top: 6px;
      display: grid;
      gap: 6px;
      p,
      small {
        white-space: normal;
      }
      label {
        display: grid;
        gap: 2px;
        justify-items: start;
        input {
          width: 200px;
        }
      }
    }
  `,
})
export class HistoryPanel {
  private readonly store = inject(JobStore);
  private readonly work = inject(LogWork);
  private readonly tests = inject(TestWork);
  readonly record = input.required<TestRecord>();
  readonly step = input.required<string>();

  protected readonly problems = signal<readonly Problem[]>([]);
  protected readonly file = linkedSignal<string, HistoryFile | null>({ source: () => this.record().id, computation: () => null });
  /** When the device’s settings were last changed, as a date; empty where that is not known. */
  protected readonly changed = computed(() => {
    const job = this.store.job();
    return (job && changedAt(job, this.record().device)?.at.slice(0, 10)) ?? '';
  });
  /** The first day that counts: the one after the last change. */
  protected readonly since = linkedSignal<string, string>({
    source: () => this.changed(),
    computation: (changed) => (changed === '' ? '' : dayAfter(changed)),
  });
  protected readonly chosen = computed(() => {
    const there = new Set(this.record().series.map((a) => a.at));
    // A day to come is a wrong clock, and no reading.
    return (this.file()?.days ?? [])
      .filter((d) => d.date >= this.since() && d.date <= today() && !there.has(noonOf(d)))
      .slice(-(mostDays - this.record().series.length));
  });
  protected readonly highest = computed(() => formatQuantity(Math.max(...(this.file()?.days ?? []).map((d) => d.highest)), 'V', 2));

  protected async open(file: File): Promise<void> {
    this.problems.set([]);
    this.file.set(null);
    const read = await this.work.api.history(file, file.name);
    if (read.ok) this.file.set(read.value);
    else this.problems.set(read.problems);
  }

  protected take(): void {
    const list = this.chosen().map((d) => ({
      at: noonOf(d),
      values: { highest: d.highest, ...(d.absorb === undefined ? {} : { absorb: d.absorb }), ...(d.celsius === undefined ? {} : { celsius: d.celsius }) },
    }));
    this.tests.readAll(this.record().id, this.step(), list);
    this.file.set(null);
  }
}

/** A day as a moment: its noon on this device’s clock. */
const noonOf = ({ date }: HistoryRow): string => new Date(`${date}T12:00:00`).toISOString();
const dayAfter = (date: string): string => new Date(Date.parse(`${date}T12:00:00Z`) + 86_400_000).toISOString().slice(0, 10);
