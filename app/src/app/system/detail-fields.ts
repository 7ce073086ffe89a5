import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { parseQuantity, type Job } from '@calm-keel/core';
import { JobStore } from '../data/job-store';
import { ChoiceField } from '../ui/choice-field';
import { NumberField } from '../ui/number-field';
import { TextField } from '../ui/text-field';
import { details, valueAt, withValue, type Detail, type DetailPlace } from './detail-list';

/** The further details of a part of the system, each of which some finding or setting asks for. */
@Component({
  selector: 'ck-details',
  imports: [NumberField, TextField, ChoiceField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="two">
      @for (d of asked(); track d.path.join('.')) {
        @switch (d.kind) {
          @case ('tick') {
            <label class="tick"><input #box type="checkbox" [checked]="read(d) === true" (change)="write(d, box.checked)" /> {{ d.label }}</label>
          }
          @case ('choice') {
            <ck-choice-field [label]="d.label" [value]="word(d)" [options]="options(d)" (changed)="write(d, $event)" />
          }
          @case ('text') {
            <ck-text-field [label]="d.label" [value]="word(d)" [max]="60" (changed)="write(d, $event)" />
          }
          @case ('numbers') {
            <span>
              <ck-text-field [label]="d.label + ', ' + d.unit" [value]="list(d)" [max]="200" (changed)="writeList(d, $event)" />
              @if (wrong(); as why) {
                <span class="wrong" role="alert">{{ why }}</span>
              }
            </span>
          }
          @default {
            <ck-number-field
              [label]="d.label"
              [unit]="d.unit ?? ''"
              [kind]="d.kind === 'temperature' ? 'temperature' : 'plain'"
              [optional]="true"
              [value]="number(d)"
              [min]="d.min ?? -1e5"
              [max]="d.max ?? 1e5"
              (changed)="write(d, $event)"
            />
          }
        }
      }
    </div>
  `,
  styles: `
    .two {
      display: grid;
      grid-template-columns: repeat(auto-fill, minmax(140px, 1fr));
      gap: 8px 12px;
      align-items: end;
      margin-top: 8px;
    }
    .tick input {
      width: 18px;
      height: 18px;
      flex: none;
    }
    .tick {
      display: flex;
      gap: 8px;
      align-items: center;
      min-height: 40px;
      font-size: 14px;
    }
  `,
})
export class DetailFields {
  private readonly store = inject(JobStore);
  readonly place = input.required<DetailPlace>();
  /** Of a charger or companion. */
  readonly id = input('');
  protected readonly wrong = signal<string | null>(null);

  private readonly part = computed(() => {
    const system = this.store.job()?.system;
    switch (this.place()) {
      case 'charger':
        return system?.chargers.find((c) => c.id === this.id());
      case 'companion':
        return system?.companions.find((c) => c.id === this.id());
      case 'bank':
        return system?.bank;
      case 'loads':
        return system?.loads;
      case 'site':
        return system?.site;
    }
  });
  protected readonly asked = computed<readonly Detail[]>(() => {
    const job = this.store.job();
    const part = this.part();
    if (!job || !part) return [];
    const card = 'card' in part ? job.cards.find((c) => c.id === part.card) : undefined;
    return details[this.place()].filter((d) => d.asked?.(card, job) ?? true);
  });

  protected read(d: Detail): unknown {
    return valueAt(this.part(), d.path);
  }
  protected word(d: Detail): string {
    const value = this.read(d);
    return typeof value === 'string' ? value : '';
  }
  protected number(d: Detail): number | undefined {
    const value = this.read(d);
    return typeof value === 'number' ? value : undefined;
  }
  protected list(d: Detail): string {
    const value = this.read(d);
    return Array.isArray(value) ? value.join('; ') : '';
  }
  protected options(d: Detail): readonly { readonly value: string; readonly words: string }[] {
    const job = this.store.job();
    return job ? (d.options?.(job, this.id()) ?? []) : [];
  }

  /** Takes numbers apart at semicolons and spaces; a comma is a decimal comma. */
  protected writeList(d: Detail, text: string): void {
    const numbers: number[] = [];
    for (const part of text.split(/[;\s]+/).filter((p) => p !== '')) {
      const read = parseQuantity(part, d.unit ?? '');
      if (!read.ok) {
        this.wrong.set(`“${part}” is not a number of ${d.unit ?? ''}. Separate several with a semicolon.`);
        return;
      }
      numbers.push(read.value);
    }
    this.wrong.set(null);
    this.write(d, numbers);
  }

  protected write(d: Detail, value: unknown): void {
    const [place, id] = [this.place(), this.id()];
    const change = <T extends object>(part: T): T => withValue(part, d.path, value);
    this.store.edit(
      `Change ${d.label.toLowerCase()}`,
      (job): Job => {
        const { system } = job;
        switch (place) {
          case 'charger':
            return { ...job, system: { ...system, chargers: system.chargers.map((c) => (c.id === id ? change(c) : c)) } };
          case 'companion':
            return { ...job, system: { ...system, companions: system.companions.map((c) => (c.id === id ? change(c) : c)) } };
          default:
            return { ...job, system: { ...system, [place]: change(system[place]) } };
        }
      },
      `${place} ${id} ${d.path.join('.')}`,
    );
  }
}
