import { ChangeDetectionStrategy, Component, computed, inject, output } from '@angular/core';
import { cardQuirks, groupOf, unknownWords, unknownsOf } from '@calm-keel/core/card';
import { capital } from '@calm-keel/core/quantity';
import { asksOf, foundOnDevice, type SurveyPart } from '@calm-keel/core/survey';
import { surveyEnglish } from '@calm-keel/core/words';
import { SurveyStore } from '../data/survey-store';
import { Glyph } from '../ui/glyph';

/** What a survey has come to: what is peculiar, what is not known and what that costs, and the card. */
@Component({
  selector: 'ck-survey-result',
  imports: [Glyph],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (store.survey(); as s) {
      <h1 tabindex="-1" data-first>What you have found out</h1>
      <p class="sum">{{ sum() }}</p>
      @for (open of asks(); track open.id) {
        <p class="seen">
          <ck-glyph name="attention" [size]="18" /><span
            ><b>{{ open.label }}: {{ open.says }}</b> It counts as not known until it is corrected.
            <button type="button" class="link" (click)="go.emit({ part: 'walk', item: open.id })">Correct it</button></span
          >
        </p>
      }
      <div class="two">
        <section aria-label="What is peculiar">
          <h2>What is peculiar</h2>
          <ul>
            @for (quirk of quirks(); track quirk) {
              <li>{{ quirk }}</li>
            } @empty {
              <li class="why">Nothing yet.</li>
            }
          </ul>
        </section>
        <section aria-label="Not known">
          <h2>Not known, and what it costs</h2>
          <ul>
            @for (line of unknown(); track line.what) {
              <li>
                <b>{{ line.what }}</b><span class="why">{{ line.costs }}</span>
                @if (line.part) {
                  <button type="button" class="link" (click)="go.emit({ part: line.part })">Find out</button>
                }
              </li>
            } @empty {
              <li><ck-glyph name="done" [size]="16" /> Everything that is asked is known.</li>
            }
          </ul>
        </section>
      </div>
      <div class="answers">
        <button type="button" class="ghost" (click)="go.emit({ part: 'walk' })">Back to its settings</button>
        <button type="button" class="press" (click)="finished.emit()">{{ s.on ? 'Use it in the job' : 'Keep it in the library' }}</button>
      </div>
    }
  `,
  styleUrl: './part.scss',
  styles: `
    .sum {
      font-size: 1.0625rem;
    }
    .two {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 8px 32px;
    }
    li {
      padding: 7px 0;
      border-bottom: 1px solid var(--ck-rule);
      line-height: 1.35;
      b,
      .why {
        display: block;
      }
    }
    .seen {
      display: flex;
      gap: 10px;
      padding: 10px 12px;
      background: var(--ck-attention-wash);
      b,
      .link {
        display: block;
      }
    }
    @media (max-width: 767px) {
      .two {
        grid-template-columns: 1fr;
      }
    }
  `,
})
export class SurveyResult {
  protected readonly store = inject(SurveyStore);
  readonly finished = output();
  readonly go = output<{ readonly part: SurveyPart; readonly item?: string }>();

  protected readonly sum = computed(() => {
    const [survey, card] = [this.store.survey(), this.store.card()];
    if (!survey || !card) return '';
    const meant = survey.items.filter((i) => i.role != null).length;
    const read = Object.keys(foundOnDevice(survey, card)).length;
    const aside = survey.items.length - meant;
    return [
      `${meant} ${meant === 1 ? 'setting' : 'settings'} with a meaning`,
      ...(aside > 0 ? [`${aside} that nobody touches`] : []),
      ...(survey.on ? [`${read} ${read === 1 ? 'value' : 'values'} as found on the device`] : []),
      survey.walked ? 'the whole list walked' : 'the list not walked to its end',
    ].join(', ');
  });
  /** What is not known has a place of its own here. */
  protected readonly quirks = computed(() => {
    const card = this.store.card();
    return card ? cardQuirks(card, { unknowns: false }) : [];
  });
  protected readonly unknown = computed(() => {
    const card = this.store.card();
    if (!card) return [];
    const { costs } = surveyEnglish;
    return unknownsOf(card).map((what) => {
      const part: SurveyPart | null =
        what === 'ranges' || what === 'settings' ? 'walk' : what === 'input' ? 'plate' : what === 'displayAccuracy' ? null : 'habits';
      return { what: capital(unknownWords[what]), costs: costs[what] ?? (what === 'ranges' ? '' : costs[groupOf(what) ?? 'settings']), part };
    });
  });
  protected readonly asks = computed(() => {
    const survey = this.store.survey();
    return survey
      ? survey.items.flatMap((item) => {
          const [ask] = asksOf(survey, item.id);
          return ask ? [{ id: item.id, label: item.label || 'A setting without a name', says: surveyEnglish.asks(ask).says }] : [];
        })
      : [];
  });
}
