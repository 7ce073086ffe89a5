import { afterNextRender, ChangeDetectionStrategy, Component, computed, effect, ElementRef, inject, input, linkedSignal, output } from '@angular/core';
import { isPlain } from '@calm-keel/core/runsheet';
import type { Plan } from '@calm-keel/core/settings';
import { RunWork } from '../data/run-work';
import { Glyph } from '../ui/glyph';
import { KeyPath } from './key-path';
import { OddReading } from './odd-reading';
import { RunStep } from './run-step';
import type { StepRow } from './step-row';

/**
 * All steps of one device on one screen, in their order. Plain values are read back where they stand, one after the other; a step with a hazard, a
 * comparison or a save is shown whole in its place.
 */
@Component({
  selector: 'ck-device-steps',
  imports: [Glyph, KeyPath, OddReading, RunStep],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="sech">
      <span role="heading" aria-level="2">Every step of {{ name() }}</span>
      <span class="row">
        <small>{{ open() }} of {{ rows().length }} open</small>
        <button type="button" class="ghost" [disabled]="last() === null" (click)="work.undo()">
          {{ last() === null ? 'Nothing to undo' : 'Undo step ' + last() }}
        </button>
      </span>
    </div>
    <ol>
      @for (row of rows(); track row.step.id) {
        <li [class.now]="row.now" [class.later]="!row.now && !row.answered" [attr.aria-current]="row.now ? 'step' : null">
          @if (row.now && !plain()) {
            <ck-run-step class="here" [plan]="plan()" [step]="row.step" [number]="row.number" />
          } @else {
            <ck-glyph [name]="row.glyph" [size]="17" />
            <span class="n k">{{ row.number }}</span>
            <button type="button" class="title" (click)="whole.emit(row.step.id)">
              {{ row.step.title }}
              @if (row.step.value?.temporary) {
                <small>on the way only</small>
              }
            </button>
            <b class="n">{{ row.reading || row.step.value?.readBack || '' }}</b>
            @if (row.now && plain() && row.step.value; as v) {
              <div class="here">
                @if (odd()) {
                  <ck-odd-reading [plan]="plan()" [step]="row.step" (shut)="odd.set(false)" />
                } @else {
                  @if (row.step.keys?.length) {
                    <ck-key-path [strokes]="row.step.keys!" />
                  }
                  @if (row.step.notes.length > 0) {
                    <p class="quiet">{{ row.step.notes.join(' ') }}</p>
                  }
                  @if (row.step.timeoutS; as t) {
                    <p class="quiet">Left alone for {{ t }} s, the edit is lost.</p>
                  }
                  <div class="answers">
                    <button type="button" class="press" data-answer (click)="answer(row)">Reads {{ v.readBack }}</button>
                    <button type="button" class="ghost" (click)="odd.set(true)">Reads something else</button>
                  </div>
                }
              </div>
            }
          }
        </li>
      }
    </ol>
  `,
  styles: `
    :host {
      display: block;
    }
    .row {
      display: flex;
      align-items: center;
      gap: 12px;
    }
    li {
      display: grid;
      grid-template-columns: 20px 32px minmax(0, 1fr) auto;
      gap: 0 8px;
      align-items: center;
      border-top: 1px solid var(--ck-rule);
      min-height: 34px;
      font-size: 0.9375rem;
    }
    li.now {
      background: var(--ck-surface);
      border-left: 5px solid var(--ck-copper);
      padding: 6px 10px 12px 10px;
      margin-left: -5px;
    }
    li.now > b {
      font-size: 1.75rem;
    }
    li.later {
      color: var(--ck-ink-2);
    }
    .k {
      color: var(--ck-ink-2);
      font-size: 0.875rem;
    }
    .title {
      text-align: left;
      min-height: 34px;
      color: inherit;
    }
    li.now .title {
      font-weight: 620;
      font-size: 1.0625rem;
    }
    .title small {
      color: var(--ck-ink-2);
      margin-left: 6px;
      font-weight: 400;
    }
    .here {
      grid-column: 1 / -1;
      display: grid;
      grid-template-columns: minmax(0, 1fr);
      gap: 8px;
      padding-top: 6px;
    }
    .answers {
      display: grid;
      grid-template-columns: minmax(0, 1.2fr) minmax(0, 1fr);
      gap: 10px;
    }
    .answers button {
      min-height: 52px;
      font-size: 1.0625rem;
    }
    @media (max-width: 767px) {
      li,
      .title {
        min-height: 44px;
      }
    }
  `,
})
export class DeviceSteps {
  protected readonly work = inject(RunWork);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  readonly plan = input.required<Plan>();
  /** The steps of one device, in the order of the sheet. */
  readonly rows = input.required<readonly StepRow[]>();
  /** A step is to be shown whole, by its id. */
  readonly whole = output<string>();

  private readonly now = computed(() => this.rows().find((r) => r.now) ?? null);
  private readonly id = computed(() => this.now()?.step.id ?? null);
  protected readonly name = computed(() => this.rows()[0]?.device ?? '');
  protected readonly open = computed(() => this.rows().filter((r) => !r.answered).length);
  protected readonly plain = computed(() => {
    const now = this.now();
    return now !== null && isPlain(now.step);
  });
  /** Number of the step of this device that was answered last. */
  protected readonly last = computed(() => {
    const id = this.work.record()?.answers.at(-1)?.step;
    return this.rows().find((r) => r.answered && r.step.id === id)?.number ?? null;
  });
  protected readonly odd = linkedSignal<string | null, boolean>({ source: this.id, computation: () => false });

  constructor() {
    // A long list opens where the work is.
    afterNextRender(() => {
      this.host.nativeElement.querySelector('li.now')?.scrollIntoView({ block: 'center' });
    });
    // The answer moves on with the sheet: thumb and keys go on where the next value stands.
    let before: string | null = null;
    effect(() => {
      const id = this.id();
      if (before !== null && id !== null && before !== id)
        queueMicrotask(() => {
          const next = this.host.nativeElement.querySelector<HTMLElement>('li.now');
          (next?.querySelector<HTMLElement>('[data-answer]') ?? next?.querySelector<HTMLElement>('h2'))?.focus({ preventScroll: true });
          next?.scrollIntoView({ block: 'nearest' });
        });
      before = id;
    });
  }

  protected answer({ step }: StepRow): void {
    if (step.value) this.work.answer(step, { state: 'done', reading: step.value.to });
  }
}
