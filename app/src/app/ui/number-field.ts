import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal, output, signal, untracked } from '@angular/core';
import { celsiusDifferenceToFahrenheit, celsiusToFahrenheit, parseQuantity, tidy, type Result } from '@calm-keel/core/quantity';
import { Units } from '../data/units';

let count = 0;

/**
 * A number with its unit inside the field. It takes a comma or a point and any unit that fits ("2 h" in minutes, "39 °F", "6 AWG"), keeps what
 * was typed while it is wrong, and says what is wrong below. Values are in the core's unit; `scale` is core units per shown unit (60 for minutes of seconds). Temperatures follow the
 * person's scale.
 */
@Component({
  selector: 'ck-number-field',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <label class="lbl" [attr.for]="id">{{ label() }}</label>
    <div class="box" [class.bad]="problem()">
      <input
        #field
        class="n"
        type="text"
        inputmode="decimal"
        autocomplete="off"
        [id]="id"
        [value]="text()"
        [placeholder]="assumedText()"
        [attr.aria-invalid]="problem() ? true : null"
        [attr.aria-describedby]="problem() ? id + '-why' : null"
        (input)="typed(field.value)"
        (keydown.arrowup)="nudge($event, 1)"
        (keydown.arrowdown)="nudge($event, -1)"
      />
      @if (shownUnit()) {
        <i>{{ shownUnit() }}</i>
      }
    </div>
    @if (problem(); as why) {
      <span class="wrong" role="alert" [id]="id + '-why'">{{ why }}</span>
    }
  `,
})
export class NumberField {
  private readonly units = inject(Units);
  readonly label = input.required<string>();
  readonly value = input.required<number | undefined>();
  readonly unit = input('');
  /** Core units in one shown unit. */
  readonly scale = input(1);
  readonly kind = input<'plain' | 'temperature' | 'difference'>('plain');
  readonly step = input(1);
  readonly min = input(-Infinity);
  readonly max = input(Infinity);
  /** An empty field means "not known". */
  readonly optional = input(false);
  /** What is taken while nothing was said; shown pale in the empty field. */
  readonly assumed = input<number | undefined>();
  /** A reason from outside why the value cannot stand. */
  readonly refused = input<string | null>(null);
  readonly changed = output<number | undefined>();

  protected readonly id = `ck-number-${count++}`;
  private readonly own = signal<string | null>(null);
  protected readonly problem = computed(() => this.own() ?? this.refused());
  protected readonly assumedText = computed(() => (this.assumed() === undefined ? '' : `${this.shown(this.assumed())} assumed`));
  protected readonly shownUnit = computed(() => (this.kind() === 'plain' ? this.unit() : this.units.label()));
  /** What stands in the field: as typed while that is wrong or means the value; a value from elsewhere replaces it. */
  protected readonly text = linkedSignal<{ value: number | undefined; shown: string }, string>({
    source: () => ({ value: this.value(), shown: this.shown(this.value()) }),
    computation: ({ value, shown }, previous) =>
      previous && untracked(() => this.own() !== null || this.means(previous.value, value)) ? previous.value : shown,
  });

  /** Whether a text already says this value: “28.” says 28. */
  private means(text: string, value: number | undefined): boolean {
    if (text.trim() === '' || value === undefined) return text.trim() === '' && value === undefined;
    const read = this.read(text);
    return read.ok && Math.abs(read.value - value) < 1e-9;
  }

  private shown(value: number | undefined): string {
    if (value == null) return '';
    const f = this.units.scale() === 'F';
    const shown =
      this.kind() === 'temperature' && f
        ? celsiusToFahrenheit(value)
        : this.kind() === 'difference' && f
          ? celsiusDifferenceToFahrenheit(value)
          : value / this.scale();
    return String(Number(tidy(shown).toPrecision(9))).replace('-', '−');
  }

  /** What a text means in the core's unit. A temperature without a unit is on the person's scale. */
  private read(text: string): Result<number> {
    if (this.kind() === 'plain') {
      const read = parseQuantity(text, this.unit());
      return read.ok ? { ok: true, value: tidy(read.value * this.scale()) } : read;
    }
    const unit = this.kind() === 'difference' ? '°C difference' : '°C';
    const named = text.trim() === '' || /[a-z°]/i.test(text) ? text : `${text} ${this.units.label()}`;
    const read = parseQuantity(named, unit);
    return read.ok ? { ok: true, value: tidy(read.value) } : read;
  }

  protected typed(text: string): void {
    this.text.set(text);
    if (text.trim() === '' && this.optional()) {
      this.own.set(null);
      this.changed.emit(undefined);
      return;
    }
    const read = this.read(text);
    if (!read.ok) {
      this.own.set(read.problems[0]?.text ?? 'This cannot be read.');
      return;
    }
    const { value } = read;
    if (value < this.min() || value > this.max()) {
      const limit = value < this.min() ? this.min() : this.max();
      this.own.set(`${value < this.min() ? 'At least' : 'At most'} ${this.shown(limit)} ${this.shownUnit()}.`);
      return;
    }
    this.own.set(null);
    this.changed.emit(value);
  }

  protected nudge(event: Event, by: number): void {
    const read = this.read(this.text());
    if (!read.ok) return;
    event.preventDefault();
    this.typed(String(tidy(Number(this.shown(read.value).replace('−', '-')) + by * this.step())).replace('-', '−'));
  }
}
