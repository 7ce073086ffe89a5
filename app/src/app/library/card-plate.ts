import { ChangeDetectionStrategy, Component, computed, input, linkedSignal, output } from '@angular/core';
import {
  capital,
  cardKindWords,
  chemistryWords,
  formatQuantity,
  isLithium,
  isUnknown,
  quickKinds,
  systemClasses,
  type Card,
  type Chemistry,
} from '@calm-keel/core';
import { ChoiceField } from '../ui/choice-field';
import { NumberField } from '../ui/number-field';
import { TextField } from '../ui/text-field';
import type { CardEdit } from './card-edit';

const chemistries = Object.keys(chemistryWords) as Chemistry[];

/** Batteries in words: all kinds of lead by one. */
function madeFor(list: readonly Chemistry[]): string {
  const lead = chemistries.filter((c) => !isLithium(c));
  const all = lead.every((c) => list.includes(c));
  return [...list.filter((c) => !all || isLithium(c)).map((c) => chemistryWords[c]), ...(all ? ['every lead-acid'] : [])].join(', ');
}

/** What is printed on the plate of a device, and who looked it up. */
@Component({
  selector: 'ck-card-plate',
  imports: [ChoiceField, NumberField, TextField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let c = card();
    <dl>
      @for (line of lines(); track line.name) {
        <div>
          <dt>{{ line.name }}</dt>
          <dd [class.quiet]="!line.known" [class.n]="line.known && line.number">{{ line.says }}</dd>
        </div>
      }
    </dl>
    <p class="quiet">
      {{ source() }}
      @if (editable()) {
        <button type="button" class="do" [attr.aria-expanded]="open()" (click)="open.set(!open())">
          {{ open() ? 'Close the plate' : 'Change the plate' }}
        </button>
      }
    </p>
    @if (editable() && open()) {
      <div class="fields">
        <ck-text-field label="Maker" [value]="c.maker" [max]="60" (changed)="put('Maker', { maker: $event })" />
        <ck-text-field label="Model" [value]="c.model" [max]="60" (changed)="put('Model', { model: $event })" />
        <ck-text-field label="Firmware" [value]="c.describes.firmware" [max]="40" (changed)="describe('Firmware', { firmware: $event })" />
        <ck-text-field label="Menu revision" [value]="c.describes.menuRevision" [max]="40" (changed)="describe('Menu revision', { menuRevision: $event })" />
        @if (kinds(); as list) {
          <ck-choice-field label="What it is" [value]="c.kind" [options]="list" (changed)="kind($event)" />
        }
        @if (c.ratings.outputA > 0) {
          <ck-number-field label="Output" unit="A" [value]="c.ratings.outputA" [min]="0.5" [max]="1000" (changed)="rate({ outputA: $event })" />
        }
        @if (solar()) {
          <ck-number-field
            label="Most volts from the array"
            unit="V"
            [optional]="true"
            [value]="c.ratings.arrayVoltsMax"
            [min]="5"
            [max]="1000"
            (changed)="input($event)"
          />
          <ck-number-field
            label="Most amps from the array"
            unit="A"
            [optional]="true"
            [value]="c.ratings.arrayAmpsMax"
            [min]="0.1"
            [max]="1000"
            (changed)="rate({ arrayAmpsMax: $event })"
          />
        }
        <fieldset class="whole">
          <legend class="lbl">Made for batteries of</legend>
          @for (volts of classes(); track volts) {
            <label class="tick"><input type="checkbox" [checked]="c.ratings.systemVolts.includes(volts)" (change)="toggleVolts(volts)" /> {{ volts }} V</label>
          }
        </fieldset>
        <fieldset class="whole">
          <legend class="lbl">Made for</legend>
          @for (chemistry of chemistries; track chemistry) {
            <label class="tick"
              ><input type="checkbox" [checked]="c.ratings.chemistries.includes(chemistry)" (change)="toggleChemistry(chemistry)" />
              {{ chemistryWords[chemistry] }}</label
            >
          }
        </fieldset>
      </div>
    }
  `,
  styles: `
    dl {
      display: flex;
      flex-wrap: wrap;
      gap: 10px 34px;
      padding: 2px 0 6px;
    }
    dt {
      font-size: 0.8125rem;
      color: var(--ck-ink-2);
    }
    dd {
      font-size: 1.0625rem;
      font-weight: 560;
    }
    dd.quiet {
      font-weight: 450;
    }
    .fields {
      display: grid;
      grid-template-columns: repeat(auto-fill, minmax(170px, 1fr));
      gap: 8px 14px;
      align-items: end;
      padding: 8px 14px 10px;
      background: var(--ck-paper);
      border-left: 5px solid var(--ck-copper);
    }
    fieldset {
      border: 0;
      padding: 0;
      margin: 0;
      display: flex;
      flex-wrap: wrap;
      gap: 0 18px;
    }
    .whole {
      grid-column: 1 / -1;
    }
  `,
})
export class CardPlate {
  readonly card = input.required<Card>();
  readonly editable = input.required<boolean>();
  readonly edited = output<CardEdit>();
  /** Another card begins with everything closed; a change of this one does not. */
  private readonly id = computed(() => this.card().id);
  protected readonly open = linkedSignal<string, boolean>({ source: this.id, computation: () => false });
  protected readonly chemistries = chemistries;
  protected readonly chemistryWords = chemistryWords;
  protected readonly solar = computed(() => this.card().kind.startsWith('solar'));
  /** Usual classes, and what this one has besides. */
  protected readonly classes = computed(() => [...new Set([...systemClasses, ...this.card().ratings.systemVolts])].sort((a, b) => a - b));
  protected readonly kinds = computed(() =>
    quickKinds.some((k) => k === this.card().kind) ? quickKinds.map((value) => ({ value, words: capital(cardKindWords[value]) })) : null,
  );

  protected readonly lines = computed(() => {
    const { kind, ratings, describes } = this.card();
    const line = (name: string, says: string | undefined, number = true): { name: string; says: string; known: boolean; number: boolean } => ({
      name,
      says: says ?? 'not known',
      known: says !== undefined,
      number,
    });
    const { arrayVoltsMax, arrayAmpsMax, inputVolts, contact } = ratings;
    // A card made from the plate alone names them all, because nobody has said which.
    const open = isUnknown(this.card(), 'settings') && chemistries.every((c) => ratings.chemistries.includes(c));
    return [
      line('What it is', capital(cardKindWords[kind]), false),
      ...(ratings.outputA > 0 ? [line('Output', formatQuantity(ratings.outputA, 'A', 0).trim())] : []),
      line('Batteries', `${ratings.systemVolts.join(', ')} V`),
      ...(this.solar()
        ? [line('Array, at most', arrayVoltsMax === undefined ? undefined : `${arrayVoltsMax} V${arrayAmpsMax === undefined ? '' : `, ${arrayAmpsMax} A`}`)]
        : []),
      ...(inputVolts ? [line('Input', isUnknown(this.card(), 'input') ? undefined : `${inputVolts.min} to ${inputVolts.max} V`)] : []),
      ...(contact ? [line('Contact breaks', `${contact.amps} A at ${contact.volts} V`)] : []),
      line('Made for', open ? undefined : madeFor(ratings.chemistries), false),
      line('Firmware', describes.firmware || undefined),
      line('Menus', describes.menuRevision || undefined),
    ];
  });

  protected readonly source = computed(() => {
    const last = this.card().surveyed?.at(-1);
    if (last)
      return `Looked up by ${last.by || 'somebody'} on ${last.on}, ${last.from === 'device' ? 'on the device' : `in ${last.document ?? 'a document'}`}.`;
    return this.editable() ? 'Nobody has said where this was looked up.' : 'A made-up sample, read-only. Make a copy of your own to change it.';
  });

  protected put(label: string, change: Partial<Card>): void {
    this.edited.emit({ label, card: { ...this.card(), ...change } });
  }

  protected describe(label: string, change: Partial<Card['describes']>): void {
    this.put(label, { describes: { ...this.card().describes, ...change } });
  }

  protected rate(change: { readonly [K in keyof Card['ratings']]?: Card['ratings'][K] | undefined }): void {
    if ('outputA' in change && change.outputA === undefined) return;
    this.edited.emit({ label: 'Ratings', card: { ...this.card(), ratings: { ...this.card().ratings, ...change } } });
  }

  /** The volts that a solar input takes: while the plate does not name them they are among what is not known. */
  protected input(arrayVoltsMax: number | undefined): void {
    const card = this.card();
    const others = (card.notKnown ?? []).filter((what) => what !== 'input');
    this.edited.emit({
      label: 'Ratings',
      card: { ...card, ratings: { ...card.ratings, arrayVoltsMax }, notKnown: arrayVoltsMax === undefined ? [...others, 'input'] : others },
    });
  }

  protected kind(value: string): void {
    const kind = quickKinds.find((k) => k === value);
    if (!kind) return;
    const others = (this.card().notKnown ?? []).filter((what) => what !== 'input');
    const open = kind.startsWith('solar') && this.card().ratings.arrayVoltsMax === undefined;
    this.put('What it is', { kind, notKnown: open ? [...others, 'input'] : others });
  }

  protected toggleVolts(volts: number): void {
    const { systemVolts } = this.card().ratings;
    this.rate({ systemVolts: systemVolts.includes(volts) ? systemVolts.filter((v) => v !== volts) : [...systemVolts, volts].sort((a, b) => a - b) });
  }

  protected toggleChemistry(chemistry: Chemistry): void {
    const has = this.card().ratings.chemistries;
    this.rate({ chemistries: has.includes(chemistry) ? has.filter((c) => c !== chemistry) : chemistries.filter((c) => c === chemistry || has.includes(c)) });
  }
}
