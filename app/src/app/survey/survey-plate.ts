import { ChangeDetectionStrategy, Component, computed, inject, output } from '@angular/core';
import { capital, cardKindWords, cardSchema, quickKinds, systemClasses, type Card } from '@calm-keel/core';
import { SurveyStore } from '../data/survey-store';
import { ChoiceField } from '../ui/choice-field';
import { NumberField } from '../ui/number-field';
import { TextField } from '../ui/text-field';

/** The plate of a charger, and who looks it over from what. */
@Component({
  selector: 'ck-survey-plate',
  imports: [ChoiceField, NumberField, TextField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (store.survey(); as s) {
      <h1 tabindex="-1" data-first>What does its plate say?</h1>
      <p class="why">The run sheet then tells you when you stand before another model or firmware.</p>
      <div class="fields">
        <ck-text-field label="Maker" [value]="s.card.maker" [max]="60" (changed)="put('maker', { maker: $event })" />
        <ck-text-field label="Model" [value]="s.card.model" [max]="60" (changed)="put('model', { model: $event })" />
        <ck-text-field label="Firmware" [value]="s.card.describes.firmware" [max]="40" (changed)="describe('firmware', $event)" />
        <ck-text-field label="Menu revision" [value]="s.card.describes.menuRevision" [max]="40" (changed)="describe('menuRevision', $event)" />
        @if (kinds(); as list) {
          <ck-choice-field label="What it is" [value]="s.card.kind" [options]="list" (changed)="kind($event)" />
        }
        @if (s.card.ratings.outputA > 0) {
          <ck-number-field label="Output" unit="A" [value]="s.card.ratings.outputA" [min]="0.5" [max]="1000" (changed)="rate('outputA', $event)" />
        }
        @if (s.card.kind.startsWith('solar')) {
          <ck-number-field
            label="Most volts from the array"
            unit="V"
            [optional]="true"
            [value]="s.card.ratings.arrayVoltsMax"
            [min]="5"
            [max]="1000"
            (changed)="rate('arrayVoltsMax', $event)"
          />
        }
        <fieldset class="whole">
          <legend class="lbl">Made for batteries of</legend>
          @for (volts of classes; track volts) {
            <label class="tick"><input type="checkbox" [checked]="s.card.ratings.systemVolts.includes(volts)" (change)="toggle(volts)" /> {{ volts }} V</label>
          }
        </fieldset>
        <ck-text-field label="Your initials" [value]="s.by" [max]="20" (changed)="who($event)" />
        <ck-choice-field label="Looked up" [value]="s.from" [options]="sources" (changed)="from($event)" />
        @if (s.from === 'document') {
          <ck-text-field class="whole" label="Document and page" [value]="s.document ?? ''" [max]="120" (changed)="paper($event)" />
        }
      </div>
      <div class="answers">
        <button type="button" class="press" (click)="done.emit()">Next: how it is set</button>
      </div>
    }
  `,
  styleUrl: './part.scss',
  styles: `
    fieldset {
      border: 0;
      padding: 0;
      margin: 0;
      display: flex;
      flex-wrap: wrap;
      gap: 0 18px;
    }
    .tick {
      min-height: 48px;
    }
  `,
})
export class SurveyPlate {
  protected readonly store = inject(SurveyStore);
  readonly done = output();
  protected readonly classes = systemClasses;
  protected readonly sources = [
    { value: 'device', words: 'On the device' },
    { value: 'document', words: 'In a document' },
  ];
  /** Chargers change among their own; a monitor stays one. */
  protected readonly kinds = computed(() => {
    const kind = this.store.survey()?.card.kind;
    return quickKinds.some((k) => k === kind) ? quickKinds.map((value) => ({ value, words: capital(cardKindWords[value]) })) : null;
  });

  /** A change of the card; one that would make no card is left. */
  private change(label: string, key: string, change: (card: Card) => Card): void {
    this.store.edit(
      label,
      (survey) => {
        const read = cardSchema.safeParse(change(survey.card));
        return read.success ? { ...survey, card: read.data } : survey;
      },
      `plate ${key}`,
    );
  }

  protected put(key: string, change: Partial<Card>): void {
    this.change(`Change the ${key}`, key, (card) => ({ ...card, ...change }));
  }

  protected describe(key: 'firmware' | 'menuRevision', text: string): void {
    this.change(`Change the ${key === 'firmware' ? 'firmware' : 'menu revision'}`, key, (card) => ({ ...card, describes: { ...card.describes, [key]: text } }));
  }

  protected kind(value: string): void {
    const kind = quickKinds.find((k) => k === value);
    if (kind) this.change('Change what it is', '', (card) => ({ ...card, kind, notKnown: withInput(card, kind) }));
  }

  protected rate(key: 'outputA' | 'arrayVoltsMax', value: number | undefined): void {
    this.change('Change a rating', key, (card) => {
      const { [key]: _before, ...ratings } = card.ratings;
      if (value === undefined && key === 'outputA') return card;
      const next = { ...ratings, ...(value === undefined ? {} : { [key]: value }) } as Card['ratings'];
      return { ...card, ratings: next, notKnown: key === 'arrayVoltsMax' ? withInput({ ...card, ratings: next }, card.kind) : card.notKnown };
    });
  }

  protected toggle(volts: number): void {
    this.change('Change the battery volts', '', (card) => {
      const { systemVolts } = card.ratings;
      const next = systemVolts.includes(volts) ? systemVolts.filter((v) => v !== volts) : [...systemVolts, volts].sort((a, b) => a - b);
      return { ...card, ratings: { ...card.ratings, systemVolts: next } };
    });
  }

  protected who(by: string): void {
    this.store.edit('Change the initials', (survey) => ({ ...survey, by }), 'by');
  }

  protected from(value: string): void {
    this.store.edit('Change where it was looked up', (survey) => ({ ...survey, from: value === 'document' ? 'document' : 'device' }));
  }

  protected paper(document: string): void {
    this.store.edit('Change the document', ({ document: _before, ...survey }) => (document === '' ? survey : { ...survey, document }), 'document');
  }
}

/** What is not known of a card, the volts of a solar input among it while its plate does not name them. */
function withInput(card: Card, kind: Card['kind']): NonNullable<Card['notKnown']> {
  const others = (card.notKnown ?? []).filter((what) => what !== 'input');
  return kind.startsWith('solar') && card.ratings.arrayVoltsMax === undefined ? [...others, 'input'] : others;
}
