import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { linePlaces, roleInfo, type Card, type LinePlace, type Role } from '@calm-keel/core/card';
import { ChoiceField } from '../ui/choice-field';
import { TextField } from '../ui/text-field';
import type { CardEdit } from './card-edit';

type Line = NonNullable<Card['lines']>[number];

/** Places of the run sheet in words. */
const placeWords: Readonly<Record<(typeof linePlaces)[number], string>> = {
  wake: 'it is woken',
  identify: 'its firmware is read',
  compare: 'its display is compared',
  readOff: 'its values are read off',
  commit: 'it is saved',
  persist: 'its power is cut',
  end: 'nothing more: at its end',
};
const isPlace = (place: LinePlace): place is (typeof linePlaces)[number] => (linePlaces as readonly string[]).includes(place);
const wordsOf = (place: LinePlace): string => (isPlace(place) ? placeWords[place] : `${roleInfo[place].name} is set`);

const ways = [
  { key: 'factoryReset', label: 'To factory values' },
  { key: 'forgottenPasscode', label: 'Passcode forgotten' },
] as const;
type Way = (typeof ways)[number]['key'];

const yesNo = [
  { value: '', words: 'not known' },
  { value: 'yes', words: 'are gone' },
  { value: 'no', words: 'stay' },
];

/** Ways back, and what is to be done by hand at places of the run sheet. */
@Component({
  selector: 'ck-card-lines',
  imports: [ChoiceField, TextField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let c = card();
    @if (editable() || lines().length > 0 || c.procedures) {
      <div class="sech"><span role="heading" aria-level="2">Ways back, and lines of its own</span></div>
    }
    @if (editable()) {
      <div class="fields">
        @for (way of ways; track way.key) {
          <label class="area"
            ><span class="lbl">{{ way.label }}, one step a line</span
            ><textarea
              #area
              class="plain"
              rows="3"
              maxlength="1600"
              placeholder="not known"
              [value]="
                steps(way.key).join(
                  '
'
                )
              "
              (change)="setSteps(way.key, area.value)"
            ></textarea>
          </label>
        }
        @if (c.procedures?.forgottenPasscode; as p) {
          <ck-choice-field
            label="After a forgotten passcode its settings"
            [value]="p.resets === undefined ? '' : p.resets ? 'yes' : 'no'"
            [options]="yesNo"
            (changed)="setResets($event)"
          />
        }
      </div>
      @if (c.procedures?.factoryReset; as r) {
        <fieldset>
          <legend class="lbl">A reset leaves these as they are</legend>
          <label class="tick"><input type="checkbox" [checked]="r.spares === undefined" (change)="spareKnown(r.spares !== undefined)" /> not known</label>
          @if (r.spares; as spares) {
            @for (p of c.parameters; track p.role) {
              <label class="tick"><input type="checkbox" [checked]="spares.includes(p.role)" (change)="spare(p.role)" /> {{ p.label }}</label>
            }
          }
        </fieldset>
      }
      <ul aria-label="Lines of its own in the run sheet">
        @for (line of lines(); track $index; let i = $index) {
          <li>
            <ck-text-field [late]="true" [label]="'Line ' + (i + 1)" [max]="160" [value]="line.says" (changed)="changeLine(i, { says: $event })" />
            <ck-choice-field [label]="'Line ' + (i + 1) + ' comes before'" [value]="line.before" [options]="places()" (changed)="place(i, $event)" />
            <button type="button" class="do" (click)="removeLine(i)" [attr.aria-label]="'Remove line ' + (i + 1)">Remove</button>
          </li>
        }
      </ul>
      @if (lines().length < 20) {
        <button type="button" class="do" (click)="addLine()">Add a line to its run sheet</button>
      }
    } @else {
      <dl>
        @for (way of ways; track way.key) {
          @if (steps(way.key).length > 0) {
            <dt>{{ way.label }}</dt>
            <dd>
              @for (step of steps(way.key); track $index) {
                <span>{{ step }}</span>
              }
            </dd>
          }
        }
        @for (line of lines(); track $index) {
          <dt>Before {{ words(line.before) }}</dt>
          <dd>{{ line.says }}</dd>
        }
      </dl>
    }
  `,
  styleUrl: './card-part.scss',
  styles: `
    dd span {
      display: block;
    }
    .area {
      display: grid;
    }
    li {
      display: grid;
      grid-template-columns: 1fr auto;
      gap: 6px 10px;
      align-items: end;
      padding: 8px 0;
      border-bottom: 1px solid var(--ck-rule);
    }
    li ck-text-field {
      grid-column: 1 / -1;
    }
  `,
})
export class CardLines {
  readonly card = input.required<Card>();
  readonly editable = input.required<boolean>();
  readonly edited = output<CardEdit>();
  protected readonly ways = ways;
  protected readonly yesNo = yesNo;
  protected readonly words = wordsOf;
  protected readonly lines = computed<readonly Line[]>(() => this.card().lines ?? []);
  /** Places that there are on this card. */
  protected readonly places = computed(() => [...linePlaces, ...this.card().parameters.map((p) => p.role)].map((value) => ({ value, words: wordsOf(value) })));

  protected steps(way: Way): readonly string[] {
    return this.card().procedures?.[way]?.steps ?? [];
  }

  /** What is empty is not on the card. */
  private put(label: string, change: Pick<Card, 'procedures' | 'lines'>): void {
    const { procedures = {}, lines = [], ...card } = { ...this.card(), ...change };
    this.edited.emit({ label, card: { ...card, ...(Object.keys(procedures).length > 0 ? { procedures } : {}), ...(lines.length > 0 ? { lines } : {}) } });
  }

  protected setSteps(way: Way, text: string): void {
    const steps = text
      .split('\n')
      .map((step) => step.trim())
      .filter((step) => step !== '');
    const { [way]: before, ...others } = this.card().procedures ?? {};
    this.put(ways.find((w) => w.key === way)?.label ?? '', { procedures: steps.length === 0 ? others : { ...others, [way]: { ...before, steps } } });
  }

  protected setResets(value: string): void {
    const { procedures } = this.card();
    const { resets: _before, ...rest } = procedures?.forgottenPasscode ?? { steps: [] };
    this.put('What becomes of its settings', { procedures: { ...procedures, forgottenPasscode: value === '' ? rest : { ...rest, resets: value === 'yes' } } });
  }

  private putSpares(spares: readonly Role[] | undefined): void {
    const { procedures } = this.card();
    const { spares: _before, ...rest } = procedures?.factoryReset ?? { steps: [] };
    const factoryReset = spares === undefined ? rest : { ...rest, spares: [...spares] };
    this.put('What a reset leaves alone', { procedures: { ...procedures, factoryReset } });
  }

  protected spareKnown(unknown: boolean): void {
    this.putSpares(unknown ? undefined : []);
  }

  protected spare(role: Role): void {
    const spares = this.card().procedures?.factoryReset?.spares ?? [];
    this.putSpares(spares.includes(role) ? spares.filter((r) => r !== role) : [...spares, role]);
  }

  protected changeLine(index: number, change: Partial<Line>): void {
    this.put(`Line ${index + 1}`, { lines: this.lines().map((l, i) => (i === index ? { ...l, ...change } : l)) });
  }

  protected place(index: number, before: string): void {
    const found = this.places().find((p) => p.value === before);
    if (found) this.changeLine(index, { before: found.value });
  }

  protected addLine(): void {
    this.put('Add a line', { lines: [...this.lines(), { before: 'wake', says: 'What is to be done' }] });
  }

  protected removeLine(index: number): void {
    this.put(`Remove line ${index + 1}`, { lines: this.lines().filter((_, i) => i !== index) });
  }
}
