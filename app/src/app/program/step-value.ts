import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import type { Card } from '@calm-keel/core/card';
import { formatNumber, formatQuantity } from '@calm-keel/core/quantity';
import { atTheBattery, type SheetStep } from '@calm-keel/core/runsheet';
import type { Plan } from '@calm-keel/core/settings';

/** The value to key, huge, with the keys that raise and keep it, and what it must read back as. */
@Component({
  selector: 'ck-step-value',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p class="enter">
      {{ isChoice() ? 'Choose' : 'Enter' }} with
      @if (keys(); as e) {
        <kbd>{{ keyOf(e.raise) }}</kbd>
        @if (keyOf(e.lower) !== keyOf(e.raise)) {
          <kbd>{{ keyOf(e.lower) }}</kbd>
        }
        @if (e.keep) {
          then
          <span class="nb"
            >{{ howOf(e.keep) }} <kbd>{{ keyOf(e.keep) }}</kbd></span
          >
        }
      } @else {
        the keys its manual names
      }
    </p>
    <p class="huge" [class.word]="isChoice()" data-testid="to-set">
      @if (isChoice()) {
        {{ value().to }}
      } @else {
        <span class="n">{{ whole() }}</span>
        @if (fraction()) {
          <span class="n pt">.</span><span class="n">{{ fraction() }}</span>
        }
        <i [class.long]="value().unit.length > 5">{{ value().unit }}</i>
      }
    </p>
    @if (atBattery(); as words) {
      <p class="makes">{{ words }}</p>
    }
    @if (value().temporary) {
      <p class="makes"><b>On the way only.</b> The value wanted comes later.</p>
    }
    <p class="back">
      <span>It should read back</span><b class="n">{{ value().readBack }}</b>
    </p>
  `,
  styleUrl: './step-value.scss',
})
export class StepValue {
  readonly plan = input.required<Plan>();
  readonly step = input.required<SheetStep>();
  readonly value = input.required<NonNullable<SheetStep['value']>>();
  readonly keys = input.required<Card['entry'] | null>();

  protected readonly isChoice = computed(() => typeof this.value().to === 'string');
  private readonly figure = computed(() => {
    const { to, digits } = this.value();
    return typeof to === 'number' ? formatNumber(to, digits) : '';
  });
  protected readonly whole = computed(() => this.figure().split('.')[0] ?? '');
  protected readonly fraction = computed(() => this.figure().split('.')[1] ?? '');
  /** What it comes to at the battery, where the display counts in something else. */
  protected readonly atBattery = computed(() => {
    const volts = atTheBattery(this.plan(), this.step());
    const { to, unit, readBack } = this.value();
    if (volts === null || typeof to !== 'number') return null;
    const same = unit === 'V' && Math.abs(volts - to) < 0.005;
    return same ? null : `${readBack} on this display is ${formatQuantity(volts, 'V', 2)} at the battery`;
  });
  protected readonly keyOf = (text: string): string => text.split(': ')[0] ?? text;
  protected readonly howOf = (text: string): string => text.split(': ')[1] ?? 'press';
}
