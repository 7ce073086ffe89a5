import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { roleInfo, type Card, type Role } from '@calm-keel/core/card';
import { ChoiceField } from '../ui/choice-field';
import type { CardEdit } from './card-edit';

type Dictated = NonNullable<Card['dictated']>;

const lost: Readonly<Record<NonNullable<Dictated['whenLost']>, string>> = {
  ownFigures: 'its own figures count',
  lastFigures: 'the last figures go on',
  stops: 'it stops charging',
};

/** Which of its settings another device may say over a data line, and what counts when that line is lost. */
@Component({
  selector: 'ck-card-dictated',
  imports: [ChoiceField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (editable() || said()) {
      <div class="sech"><span role="heading" aria-level="2">Figures over a data line</span></div>
    }
    @if (editable()) {
      <fieldset>
        <legend class="lbl">A battery, an inverter or a monitor may say its</legend>
        @for (p of card().parameters; track p.role) {
          <label class="tick"><input type="checkbox" [checked]="said()?.roles?.includes(p.role) === true" (change)="toggle(p.role)" /> {{ p.label }}</label>
        }
      </fieldset>
      @if (said(); as s) {
        <ck-choice-field label="When the line is lost" [value]="s.whenLost ?? ''" [options]="options" (changed)="setLost($event)" />
      }
    } @else if (said(); as s) {
      <p>Another device may say its {{ names() }}. When the line is lost, {{ s.whenLost ? lost[s.whenLost] : 'what counts is not known' }}.</p>
    }
  `,
  styleUrl: './card-part.scss',
  styles: `
    p {
      padding: 4px;
      line-height: 1.35;
    }
  `,
})
export class CardDictated {
  readonly card = input.required<Card>();
  readonly editable = input.required<boolean>();
  readonly edited = output<CardEdit>();
  protected readonly lost = lost;
  protected readonly options = [{ value: '', words: 'not known' }, ...Object.entries(lost).map(([value, words]) => ({ value, words }))];
  protected readonly said = computed(() => this.card().dictated ?? null);
  protected readonly names = computed(() => (this.said()?.roles ?? []).map((role) => roleInfo[role].name).join(', '));

  private put(label: string, dictated: unknown): void {
    const { dictated: _before, ...card } = this.card();
    this.edited.emit({ label, card: dictated === null ? card : { ...card, dictated } });
  }

  protected toggle(role: Role): void {
    const said = this.said();
    const roles = said?.roles ?? [];
    const next = roles.includes(role) ? roles.filter((r) => r !== role) : [...roles, role];
    this.put('What comes over a data line', next.length === 0 ? null : { ...said, roles: next });
  }

  protected setLost(value: string): void {
    const { whenLost: _before, ...said } = this.said() ?? { roles: [] };
    this.put('When the data line is lost', value === '' ? said : { ...said, whenLost: value });
  }
}
