import { ChangeDetectionStrategy, Component, computed, input, linkedSignal, output } from '@angular/core';
import { cardKindWords, isUnknown, type Card } from '@calm-keel/core/card';
import { capital, formatQuantity } from '@calm-keel/core/quantity';
import { chemistryWords, isLithium, type Chemistry } from '@calm-keel/core/sheet';
import { PlateFields, type PlateEdit } from '../ui/plate-fields';
import type { CardEdit } from './card-edit';
import { lookedUp } from './card-words';

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
  imports: [PlateFields],
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
        <ck-plate-fields [card]="c" [whole]="true" (edited)="change($event)" />
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
  `,
})
export class CardPlate {
  readonly card = input.required<Card>();
  readonly editable = input.required<boolean>();
  readonly edited = output<CardEdit>();
  /** Another card begins with everything closed; a change of this one does not. */
  private readonly id = computed(() => this.card().id);
  protected readonly open = linkedSignal<string, boolean>({ source: this.id, computation: () => false });

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
      ...(kind.startsWith('solar')
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
    const who = lookedUp(this.card());
    if (who) return `${capital(who)}.`;
    return this.editable() ? 'Nobody has said where this was looked up.' : 'A made-up sample, read-only. Make a copy of your own to change it.';
  });

  protected change({ label, change }: PlateEdit): void {
    this.edited.emit({ label, card: change(this.card()) });
  }
}
