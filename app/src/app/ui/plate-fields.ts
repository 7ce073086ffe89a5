import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { systemClasses, withInputAsked, type Card } from '@calm-keel/core/card';
import { chemistryWords, type Chemistry } from '@calm-keel/core/sheet';
import { asChargerKind, chargerKinds } from './charger-kinds';
import { ChoiceField } from './choice-field';
import { NumberField } from './number-field';
import { TextField } from './text-field';

const chemistries = Object.keys(chemistryWords) as Chemistry[];

/** A change of what the plate of a device says: its name for undo, the part it is of, and what it makes of a card. */
export interface PlateEdit {
  readonly label: string;
  readonly part: string;
  readonly change: (card: Card) => Card;
}

/** The fields of a plate, among others of a form: names and revisions, kind, ratings, batteries. */
@Component({
  selector: 'ck-plate-fields',
  imports: [ChoiceField, NumberField, TextField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let c = card();
    <ck-text-field label="Maker" [value]="c.maker" [max]="60" (changed)="put('the maker', { maker: $event })" />
    <ck-text-field label="Model" [value]="c.model" [max]="60" (changed)="put('the model', { model: $event })" />
    <ck-text-field label="Firmware" [value]="c.describes.firmware" [max]="40" (changed)="describe('the firmware', { firmware: $event })" />
    <ck-text-field label="Menu revision" [value]="c.describes.menuRevision" [max]="40" (changed)="describe('the menu revision', { menuRevision: $event })" />
    @if (kinds(); as list) {
      <ck-choice-field label="What it is" [value]="c.kind" [options]="list" (changed)="kind($event)" />
    }
    @if (c.ratings.outputA > 0) {
      <ck-number-field label="Output" unit="A" [value]="c.ratings.outputA" [min]="0.5" [max]="1000" (changed)="rate('outputA', $event)" />
    }
    @if (solar()) {
      <ck-number-field
        label="Most volts from the array"
        unit="V"
        [optional]="true"
        [value]="c.ratings.arrayVoltsMax"
        [min]="5"
        [max]="1000"
        (changed)="rate('arrayVoltsMax', $event)"
      />
      @if (whole()) {
        <ck-number-field
          label="Most amps from the array"
          unit="A"
          [optional]="true"
          [value]="c.ratings.arrayAmpsMax"
          [min]="0.1"
          [max]="1000"
          (changed)="rate('arrayAmpsMax', $event)"
        />
      }
    }
    <fieldset>
      <legend class="lbl">Made for batteries of</legend>
      @for (volts of classes(); track volts) {
        <label class="tick"><input type="checkbox" [checked]="c.ratings.systemVolts.includes(volts)" (change)="toggleVolts(volts)" /> {{ volts }} V</label>
      }
    </fieldset>
    @if (whole()) {
      <fieldset>
        <legend class="lbl">Made for</legend>
        @for (chemistry of chemistries; track chemistry) {
          <label class="tick"
            ><input type="checkbox" [checked]="c.ratings.chemistries.includes(chemistry)" (change)="toggleChemistry(chemistry)" />
            {{ chemistryWords[chemistry] }}</label
          >
        }
      </fieldset>
    }
  `,
  styles: `
    :host {
      display: contents;
    }
    fieldset {
      grid-column: 1 / -1;
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
export class PlateFields {
  readonly card = input.required<Card>();
  /** Also what only a manual says: most amps of the array, and the batteries it is made for. */
  readonly whole = input(false);
  readonly edited = output<PlateEdit>();
  protected readonly chemistries = chemistries;
  protected readonly chemistryWords = chemistryWords;
  protected readonly solar = computed(() => this.card().kind.startsWith('solar'));
  /** Usual classes, and what this one has besides. */
  protected readonly classes = computed(() => [...new Set([...systemClasses, ...this.card().ratings.systemVolts])].sort((a, b) => a - b));
  /** Chargers change among their own; a monitor stays one. */
  protected readonly kinds = computed(() => (asChargerKind(this.card().kind) ? chargerKinds : null));

  private emit(what: string, change: PlateEdit['change']): void {
    this.edited.emit({ label: `Change ${what}`, part: what, change });
  }

  protected put(what: string, change: Partial<Card>): void {
    this.emit(what, (card) => ({ ...card, ...change }));
  }

  protected describe(what: string, change: Partial<Card['describes']>): void {
    this.emit(what, (card) => ({ ...card, describes: { ...card.describes, ...change } }));
  }

  protected kind(value: string): void {
    const kind = asChargerKind(value);
    if (kind) this.emit('what it is', (card) => withInputAsked({ ...card, kind }));
  }

  protected rate(key: 'outputA' | 'arrayVoltsMax' | 'arrayAmpsMax', value: number | undefined): void {
    if (value === undefined && key === 'outputA') return;
    this.emit({ outputA: 'its output', arrayVoltsMax: 'the volts of its array', arrayAmpsMax: 'the amps of its array' }[key], (card) => {
      const { [key]: _before, ...ratings } = card.ratings;
      const next = { ...card, ratings: { ...ratings, ...(value === undefined ? {} : { [key]: value }) } as Card['ratings'] };
      return key === 'arrayVoltsMax' ? withInputAsked(next) : next;
    });
  }

  private rated(what: string, change: (ratings: Card['ratings']) => Partial<Card['ratings']>): void {
    this.emit(what, (card) => ({ ...card, ratings: { ...card.ratings, ...change(card.ratings) } }));
  }

  protected toggleVolts(volts: number): void {
    this.rated('the battery volts', ({ systemVolts: has }) => ({
      systemVolts: has.includes(volts) ? has.filter((v) => v !== volts) : [...has, volts].sort((a, b) => a - b),
    }));
  }

  protected toggleChemistry(chemistry: Chemistry): void {
    this.rated('what it is made for', ({ chemistries: has }) => ({
      chemistries: chemistries.filter((c) => (c === chemistry ? !has.includes(c) : has.includes(c))),
    }));
  }
}
