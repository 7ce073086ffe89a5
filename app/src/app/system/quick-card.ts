import { afterNextRender, ChangeDetectionStrategy, Component, computed, ElementRef, inject, output, signal } from '@angular/core';
import { quickCard, systemClasses, type Card, type QuickKind } from '@calm-keel/core/card';
import { freeId } from '../data/free-id';
import { JobStore } from '../data/job-store';
import { Library } from '../data/library';
import { asChargerKind, chargerKinds } from '../ui/charger-kinds';
import { ChoiceField } from '../ui/choice-field';
import { NumberField } from '../ui/number-field';
import { TextField } from '../ui/text-field';

/** A charger that has no card: its plate is enough to begin. Everything else about it stays not known until somebody says it. */
@Component({
  selector: 'ck-quick-card',
  imports: [ChoiceField, NumberField, TextField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="sech"><span role="heading" aria-level="2">Your charger, by its plate</span><small>its menu can be described later</small></div>
    <div class="form">
      <ck-text-field label="Maker" [value]="maker()" [max]="60" (changed)="maker.set($event)" />
      <ck-text-field label="Model" [value]="model()" [max]="60" (changed)="model.set($event)" />
      <ck-choice-field label="What it is" [value]="kind()" [options]="kinds" (changed)="setKind($event)" />
      <ck-number-field label="Output" unit="A" [optional]="true" [value]="outputA()" [min]="0.5" [max]="1000" (changed)="outputA.set($event)" />
      @if (inputLabel(); as label) {
        <ck-number-field [label]="label" unit="V" [optional]="true" [value]="inputV()" [min]="5" [max]="1000" (changed)="inputV.set($event)" />
      }
      <fieldset>
        <legend class="lbl">Made for batteries of</legend>
        @for (volts of classes; track volts) {
          <label class="tick"><input type="checkbox" [checked]="systemVolts().includes(volts)" (change)="toggle(volts)" /> {{ volts }} V</label>
        }
      </fieldset>
    </div>
    <div class="acts">
      <button type="button" class="press" [disabled]="lacks().length > 0" (click)="make()">Add this charger</button>
      <button type="button" class="ghost" (click)="closed.emit()">Back to the list</button>
      @if (lacks().length > 0) {
        <small class="quiet">Still needed: {{ lacks().join(', ') }}.</small>
      } @else {
        <small class="quiet">Its ranges, steps and habits stay “not known”. Settings gives exact values, and the run sheet finds out what it accepts.</small>
      }
    </div>
    @if (problem()) {
      <p class="wrong" role="alert">{{ problem() }}</p>
    }
  `,
  styles: `
    .form {
      display: grid;
      grid-template-columns: repeat(3, 1fr);
      gap: 10px 14px;
      align-items: end;
      padding-bottom: 10px;
    }
    fieldset {
      grid-column: 1 / -1;
      border: 0;
      padding: 0;
      margin: 0;
      display: flex;
      flex-wrap: wrap;
      gap: 4px 14px;
    }
    legend {
      padding: 0;
    }
    fieldset .tick {
      min-height: 40px;
    }
    .acts {
      padding-bottom: 12px;
    }
    @media (max-width: 767px) {
      .form {
        grid-template-columns: 1fr 1fr;
      }
      fieldset .tick {
        min-height: 44px;
      }
    }
  `,
})
export class QuickCard {
  private readonly store = inject(JobStore);
  private readonly library = inject(Library);
  readonly made = output<Card>();
  readonly closed = output();
  protected readonly classes = systemClasses;
  protected readonly kinds = [{ value: '', words: 'Choose' }, ...chargerKinds];

  protected readonly maker = signal('');
  protected readonly model = signal('');
  protected readonly kind = signal<QuickKind | ''>('');
  protected readonly outputA = signal<number | undefined>(undefined);
  protected readonly systemVolts = signal<readonly number[]>([]);
  protected readonly inputV = signal<number | undefined>(undefined);
  protected readonly problem = signal('');

  constructor() {
    const host = inject<ElementRef<HTMLElement>>(ElementRef);
    afterNextRender(() => {
      host.nativeElement.querySelector('input')?.focus();
    });
  }

  /** What its input is asked for; nothing of one that has none to speak of. */
  protected readonly inputLabel = computed(() => {
    switch (this.kind()) {
      case 'solarMppt':
      case 'solarPwm':
        return 'Most volts from the array';
      case 'dcdc':
      case 'turbine':
        return 'Most input volts';
      default:
        return null;
    }
  });
  protected readonly lacks = computed(() => [
    ...(this.model().trim() === '' ? ['model'] : []),
    ...(this.kind() === '' ? ['what it is'] : []),
    ...(this.outputA() === undefined ? ['output'] : []),
    ...(this.systemVolts().length === 0 ? ['battery volts'] : []),
  ]);

  protected setKind(value: string): void {
    this.kind.set(asChargerKind(value) ?? '');
  }

  protected toggle(volts: number): void {
    this.systemVolts.update((list) => (list.includes(volts) ? list.filter((v) => v !== volts) : [...list, volts].sort((a, b) => a - b)));
  }

  /** Makes the card, keeps it in this device's library, and gives it to the job. */
  protected make(): void {
    const kind = this.kind();
    const outputA = this.outputA();
    if (kind === '' || outputA === undefined || this.lacks().length > 0) return;
    const taken = [...this.library.cards(), ...(this.store.job()?.cards ?? [])].map((c) => c.id);
    const [maker, model] = [this.maker().trim(), this.model().trim()];
    const card = quickCard({
      id: freeId(`${maker} ${model}`, taken, 'charger'),
      maker,
      model,
      kind,
      outputA,
      systemVolts: this.systemVolts(),
      inputVoltsMax: this.inputLabel() === null ? undefined : this.inputV(),
    });
    // The job has its own copy, whether or not this device has room for one in its library.
    this.library.putCard(card).catch(() => {
      this.problem.set('This device has no room to keep the card in its library. The job has it.');
    });
    this.made.emit(card);
  }
}
