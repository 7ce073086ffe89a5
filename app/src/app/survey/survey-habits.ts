import { ChangeDetectionStrategy, Component, computed, inject, output } from '@angular/core';
import { answersOf, habitsFor, type HabitId, type Survey } from '@calm-keel/core/survey';
import { surveyEnglish } from '@calm-keel/core/words';
import { SurveyStore } from '../data/survey-store';
import { NumberField } from '../ui/number-field';

/** What a charger does by itself, one question at a time, each with how to find out. */
@Component({
  selector: 'ck-survey-habits',
  imports: [NumberField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (question(); as q) {
      <p class="why n">{{ at() + 1 }} of {{ asked().length }}</p>
      <h1 tabindex="-1" data-first>{{ q.question }}</h1>
      <p class="how">{{ q.how }}</p>
      <div class="big" role="group" [attr.aria-label]="q.question">
        @for (answer of answers(); track answer.id) {
          <button type="button" [attr.aria-pressed]="given() === answer.id" (click)="give(answer.id)">{{ answer.words }}</button>
        }
      </div>
      @switch (id() + ' ' + (given() ?? '')) {
        @case ('timeout goes') {
          <div class="fields">
            <ck-number-field
              label="Lost after"
              unit="s"
              [optional]="true"
              [value]="store.survey()?.timeoutS"
              [min]="1"
              [max]="3600"
              (changed)="seconds('timeoutS', $event)"
            />
          </div>
        }
        @case ('absorbStart held') {
          <div class="fields">
            <ck-number-field
              label="Seconds at its voltage"
              unit="s"
              [optional]="true"
              [value]="store.survey()?.holdS"
              [min]="1"
              [max]="3600"
              (changed)="seconds('holdS', $event)"
            />
          </div>
        }
        @case ('powerCut some') {
          <fieldset>
            <legend class="lbl">Which ones?</legend>
            @for (item of store.survey()?.items ?? []; track item.id) {
              @if (item.role) {
                <label class="tick"
                  ><input type="checkbox" [checked]="store.survey()?.forgets?.includes(item.id) === true" (change)="forget(item.id)" /> {{ item.label }}</label
                >
              }
            }
          </fieldset>
        }
      }
      <p class="why">{{ q.hangs }}</p>
      <div class="answers">
        <button type="button" class="ghost" (click)="skip()">Not known</button>
        <button type="button" class="press" [disabled]="given() === undefined" (click)="onward()">
          {{ at() + 1 < asked().length ? 'Yes, next question' : 'Yes, go on' }}
        </button>
      </div>
    }
  `,
  styleUrl: './part.scss',
  styles: `
    .how {
      font-size: 1.0625rem;
      line-height: 1.4;
    }
    fieldset {
      border: 0;
      padding: 0;
      margin: 0;
    }
    .tick {
      min-height: 44px;
    }
  `,
})
export class SurveyHabits {
  protected readonly store = inject(SurveyStore);
  readonly done = output();
  /** Another question is in view. */
  readonly moved = output();

  protected readonly asked = computed(() => {
    const survey = this.store.survey();
    return survey ? habitsFor(this.store.card() ?? survey.card) : [];
  });
  /** The question in view: at first the first one without an answer. */
  protected readonly id = computed<HabitId>(() => {
    const survey = this.store.survey();
    const here = this.asked().find((h) => h === survey?.at.question);
    return here ?? this.asked().find((h) => survey?.habits[h] === undefined) ?? this.asked()[0] ?? 'save';
  });
  protected readonly at = computed(() => Math.max(0, this.asked().indexOf(this.id())));
  protected readonly question = computed(() => (this.asked().length === 0 ? null : surveyEnglish.habits[this.id()]));
  protected readonly answers = computed(() => {
    const words: Readonly<Record<string, string>> = surveyEnglish.habits[this.id()].answers;
    return answersOf(this.id()).map((id) => ({ id, words: words[id] ?? id }));
  });
  protected readonly given = computed(() => this.store.survey()?.habits[this.id()]);

  protected give(answer: string): void {
    const id = this.id();
    this.edit('Answer a question', id, (survey) => ({ ...survey, habits: { ...survey.habits, [id]: answer } }));
  }

  protected seconds(key: 'timeoutS' | 'holdS', value: number | undefined): void {
    this.edit('Type the seconds', this.id(), ({ [key]: _before, ...survey }): Survey => (value === undefined ? survey : { ...survey, [key]: value }), key);
  }

  protected forget(item: string): void {
    this.edit('Change what a power cut takes', this.id(), (survey) => ({
      ...survey,
      forgets: survey.forgets.includes(item) ? survey.forgets.filter((f) => f !== item) : [...survey.forgets, item],
    }));
  }

  protected skip(): void {
    const id = this.id();
    this.move('A question is not known', (survey) => {
      const { [id]: _before, ...habits } = survey.habits;
      return { ...survey, habits };
    });
  }

  protected onward(): void {
    this.move('Go on', (survey) => survey);
  }

  /** To the next question; behind the last one the part is done. */
  private move(label: string, change: (survey: Survey) => Survey): void {
    const next = this.asked()[this.at() + 1];
    this.edit(label, next ?? this.id(), change);
    if (next === undefined) this.done.emit();
    this.moved.emit();
  }

  /** A change at a question: the person is at that question afterwards, also when they come back tomorrow. */
  private edit(label: string, question: HabitId, change: (survey: Survey) => Survey, key = ''): void {
    this.store.edit(
      label,
      (survey) => {
        const next = change(survey);
        return { ...next, at: { ...next.at, question } };
      },
      key,
    );
  }
}
