import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal } from '@angular/core';
import { deviceUnitLabel, isKnown, parameterFor, type Card } from '@calm-keel/core/card';
import type { SheetStep } from '@calm-keel/core/runsheet';
import { seenAsks, type Seen } from '@calm-keel/core/survey';
import { surveyEnglish } from '@calm-keel/core/words';
import { RunWork } from '../data/run-work';
import { Glyph } from '../ui/glyph';
import { NumberField } from '../ui/number-field';
import { TextField } from '../ui/text-field';

/** What a setting takes, noted while it is set: a card made from the plate grows by it, and the value to set is worked out anew. */
@Component({
  selector: 'ck-seen-panel',
  imports: [Glyph, NumberField, TextField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  // With nothing to note it takes no room among the lines of a step.
  host: { '[hidden]': 'missing().length === 0' },
  template: `
    @if (missing().length > 0) {
      <p>
        <button type="button" class="do" [attr.aria-expanded]="open()" (click)="open.set(!open())">
          {{ open() ? 'Close this' : 'Note what it takes: ' + missing().join(', ') }}
        </button>
      </p>
      @if (open()) {
        <div class="seen" role="group" aria-label="What it takes">
          <p class="quiet">{{ why() }}</p>
          <div class="fields">
            <ck-text-field label="Its display calls it" [value]="seen().label ?? label()" [max]="60" (changed)="put({ label: $event })" />
            @for (end of ends(); track end.key) {
              <ck-number-field [label]="end.words" [unit]="unit()" [optional]="true" [value]="seen()[end.key]" (changed)="putEnd(end.key, $event)" />
            }
          </div>
          @for (ask of asks(); track ask.says) {
            <p class="ask" role="status">
              <ck-glyph name="attention" [size]="18" /><span
                ><b>{{ ask.says }}</b> {{ ask.question }}</span
              >
            </p>
          }
          <button type="button" class="ghost" [disabled]="empty() || asks().length > 0" (click)="save()">Put it on the card</button>
        </div>
      }
    }
  `,
  styles: `
    :host {
      display: block;
      &[hidden] {
        display: none;
      }
    }
    .seen {
      display: grid;
      gap: 8px;
      justify-items: start;
      border-left: 5px solid var(--ck-copper);
      background: var(--ck-paper);
      padding: 8px 12px 12px;
    }
    .fields {
      display: grid;
      grid-template-columns: repeat(auto-fill, minmax(140px, 1fr));
      gap: 8px 12px;
      width: 100%;
    }
    .ask {
      display: flex;
      gap: 8px;
      line-height: 1.3;
    }
    .ghost {
      min-height: 48px;
    }
  `,
})
export class SeenPanel {
  private readonly work = inject(RunWork);
  readonly card = input.required<Card>();
  readonly step = input.required<SheetStep>();
  /** What is typed belongs to one step: it goes with it. */
  private readonly id = computed(() => this.step().id);
  protected readonly open = linkedSignal({ source: this.id, computation: () => false });
  protected readonly seen = linkedSignal<string, Seen>({ source: this.id, computation: () => ({}) });

  private readonly role = computed(() => this.step().value?.role ?? null);
  private readonly parameter = computed(() => {
    const role = this.role();
    const p = role === null ? undefined : parameterFor(this.card(), role);
    return p && p.unit !== 'choice' ? p : null;
  });
  protected readonly label = computed(() => this.parameter()?.label ?? '');
  protected readonly unit = computed(() => {
    const p = this.parameter();
    return p ? deviceUnitLabel(p) : '';
  });
  protected readonly ends = computed(() => {
    const p = this.parameter();
    return p
      ? (
          [
            { key: 'least', words: 'Lowest it goes' },
            { key: 'most', words: 'Highest it goes' },
            { key: 'step', words: 'One press moves it by' },
          ] as const
        ).filter(({ key }) => !isKnown(p, key))
      : [];
  });
  protected readonly missing = computed(() => this.ends().map(({ key }) => ({ least: 'its lower end', most: 'its upper end', step: 'its steps' })[key]));
  /** What the display shows now, as far as it was read. */
  private readonly shown = computed(() => {
    const from = this.step().value?.from;
    return typeof from === 'number' ? String(from) : '';
  });
  protected readonly why = computed(() => surveyEnglish.endsWhy(this.role(), this.shown()));
  protected readonly asks = computed(() => {
    const role = this.role();
    return role === null ? [] : seenAsks(this.card(), role, this.seen(), this.shown()).map(surveyEnglish.asks);
  });
  protected readonly empty = computed(() =>
    Object.entries(this.seen()).every(([key, value]) => value === undefined || (key === 'label' && value === this.label())),
  );

  protected put(change: Seen): void {
    this.seen.update((seen) => ({ ...seen, ...change }));
  }

  protected putEnd(key: 'least' | 'most' | 'step', value: number | undefined): void {
    this.put({ [key]: value });
  }

  protected save(): void {
    const [role, device] = [this.role(), this.step().device];
    if (role === null || device === null || this.empty()) return;
    this.work.learn(this.step(), role, this.seen(), this.shown());
    this.seen.set({});
    this.open.set(false);
  }
}
