import { ChangeDetectionStrategy, Component, inject, output } from '@angular/core';
import { cardSchema } from '@calm-keel/core/card';
import { SurveyStore } from '../data/survey-store';
import { ChoiceField } from '../ui/choice-field';
import { PlateFields, type PlateEdit } from '../ui/plate-fields';
import { TextField } from '../ui/text-field';

/** The plate of a charger, and who looks it over from what. */
@Component({
  selector: 'ck-survey-plate',
  imports: [ChoiceField, PlateFields, TextField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (store.survey(); as s) {
      <h1 tabindex="-1" data-first>What does its plate say?</h1>
      <p class="why">The run sheet then tells you when the device in front of you is another model or firmware.</p>
      <div class="fields">
        <ck-plate-fields [card]="s.card" (edited)="change($event)" />
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
})
export class SurveyPlate {
  protected readonly store = inject(SurveyStore);
  readonly done = output();
  protected readonly sources = [
    { value: 'device', words: 'On the device' },
    { value: 'document', words: 'In a document' },
  ];

  /** A change of the card; one that would make no card is left. */
  protected change({ label, part, change }: PlateEdit): void {
    this.store.edit(
      label,
      (survey) => {
        const read = cardSchema.safeParse(change(survey.card));
        return read.success ? { ...survey, card: read.data } : survey;
      },
      `plate ${part}`,
    );
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
