import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { consequenceOf, schoolQuestions, type Plan, type Schools, type SchoolQuestion, type SpokenFinding } from '@calm-keel/core';
import { JobStore, today } from '../data/job-store';
import { Speech } from '../data/speech';
import { ChoiceField } from '../ui/choice-field';
import { NumberField } from '../ui/number-field';
import { TextField } from '../ui/text-field';

/** Another school of a question, and what it would come to. */
interface Other {
  readonly value: string;
  readonly words: string;
  readonly gives: string;
  readonly changes: readonly string[];
  readonly gone: readonly SpokenFinding[];
  readonly come: readonly SpokenFinding[];
}

/** Where practitioners differ: each question with its schools, what each would come to on this job, who chose and why. */
@Component({
  selector: 'ck-schools',
  imports: [ChoiceField, NumberField, TextField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="sech">
      <span role="heading" aria-level="2">Schools</span><small>where practitioners differ; each choice is kept with who made it and why</small>
    </div>
    <div class="who">
      <ck-text-field label="Chosen by (their role)" [value]="by()" [max]="60" (changed)="by.set($event)" />
      <ck-text-field label="Reason, kept with the next choice" [value]="reason()" [max]="300" (changed)="reason.set($event)" />
    </div>
    <div class="list">
      @for (q of questions(); track q.school) {
        <div class="q">
          <ck-choice-field [label]="q.question" [value]="value(q)" [options]="q.options" (changed)="choose(q.school, $event)" />
          <p class="quiet">{{ gives(q) }}</p>
          @if (record(q); as r) {
            <p class="quiet">{{ r }}</p>
          }
          @if (q.school === 'topCharge' && value(q) === 'gentle') {
            <ck-number-field
              label="A full charge at least every"
              unit="d"
              [value]="plan().input.schools.fullEveryDays"
              [min]="1"
              [max]="365"
              (changed)="choose('fullEveryDays', $event ?? 14)"
            />
          }
          <button
            type="button"
            class="do"
            [attr.aria-expanded]="open() === q.school"
            [attr.aria-label]="(open() === q.school ? 'Close: ' : 'What the others would come to: ') + q.question"
            (click)="open.set(open() === q.school ? null : q.school)"
          >
            {{ open() === q.school ? 'Close' : 'What the others would come to' }}
          </button>
          @if (open() === q.school) {
            @for (o of others(); track o.value) {
              <div class="other">
                <h3>{{ o.words }}</h3>
                <p class="quiet">{{ o.gives }}</p>
                @for (line of o.changes.slice(0, 8); track line) {
                  <p class="n">{{ line }}</p>
                } @empty {
                  <p>No value to enter changes.</p>
                }
                @if (o.changes.length > 8) {
                  <p>and {{ o.changes.length - 8 }} more values.</p>
                }
                @for (f of o.gone; track f.text) {
                  <p class="t-done">Goes: {{ f.text }}</p>
                }
                @for (f of o.come; track f.text) {
                  <p class="t-attention">Comes: {{ f.text }}</p>
                }
              </div>
            }
          }
        </div>
      }
    </div>
  `,
  styles: `
    :host {
      display: block;
    }
    .who,
    .list {
      display: grid;
      grid-template-columns: repeat(auto-fill, minmax(240px, 1fr));
      gap: 12px 18px;
    }
    .who {
      margin-bottom: 10px;
    }
    .q {
      display: grid;
      gap: 3px;
      align-content: start;
      justify-items: start;
      ck-choice-field,
      ck-number-field {
        width: 100%;
      }
    }
    .other {
      border-top: 1px solid var(--ck-rule-strong);
      padding-top: 4px;
      font-size: 0.8438rem;
      line-height: 1.35;
      .n {
        font-size: 0.8125rem;
        white-space: normal;
      }
    }
    h3 {
      font-size: 0.875rem;
      font-weight: var(--ck-w-strong);
    }
    @media (max-width: 767px) {
      .do {
        min-height: 40px;
      }
    }
  `,
})
export class SchoolsPanel {
  private readonly store = inject(JobStore);
  private readonly speech = inject(Speech);
  readonly plan = input.required<Plan>();
  protected readonly by = signal('technician');
  protected readonly reason = signal('');
  protected readonly open = signal<string | null>(null);

  protected readonly questions = computed(() => schoolQuestions.filter((q) => q.bears(this.plan())));

  protected value(q: SchoolQuestion): string {
    return this.plan().input.schools[q.school];
  }

  protected gives(q: SchoolQuestion): string {
    return q.options.find((o) => o.value === this.value(q))?.gives ?? '';
  }

  /** "Chosen by the technician on 2026-06-09: owner wants long life." */
  protected record(q: SchoolQuestion): string | null {
    const choice = this.store
      .job()
      ?.choices.filter((c) => c.school === q.school && c.to === this.value(q))
      .at(-1);
    return choice ? `Chosen by the ${choice.by} on ${choice.date}${choice.reason ? `: ${choice.reason}` : ''}.` : null;
  }

  /** What each other school would come to; worked out only for the question that is open. */
  protected readonly others = computed<readonly Other[]>(() => {
    const q = schoolQuestions.find((s) => s.school === this.open());
    const plan = this.store.settled();
    if (!q || !plan) return [];
    return q.options
      .filter((o) => o.value !== this.value(q))
      .map((o) => {
        const { changes, gone, come } = consequenceOf(plan, q.school, o.value, today());
        const { speech } = this;
        return { ...o, changes: changes.map((c) => speech.changed(c)), gone: speech.findings(gone), come: speech.findings(come) };
      });
  });

  protected choose(school: keyof Schools, to: string | number): void {
    this.store.apply('Change school', [
      { kind: 'setSchool', school, to, chosen: { by: this.by().trim() || 'technician', reason: this.reason().trim(), date: today() } },
    ]);
    this.reason.set('');
  }
}
