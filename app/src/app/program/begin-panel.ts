import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal, signal } from '@angular/core';
import type { Job } from '@calm-keel/core/job';
import { RunWork } from '../data/run-work';
import { WhoIsThere } from '../data/who-is-there';

/** Before the first step: who works, and with which meter. */
@Component({
  selector: 'ck-begin-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="begin" role="group" aria-label="Begin the run sheet">
      <label class="field"
        ><span>Initials</span
        ><input
          #who
          class="plain"
          type="text"
          maxlength="20"
          autocomplete="off"
          [value]="initials()"
          (input)="initials.set(who.value)"
          (keydown.enter)="begin()"
      /></label>
      <label class="field"
        ><span>Meter in hand</span>
        <select #meter class="plain" (change)="instrument.set(meter.value)">
          @for (i of job().system.instruments; track i.id) {
            <option [value]="i.id" [selected]="i.id === instrument()">{{ i.name }}</option>
          }
        </select></label
      >
      <button type="button" class="press" [disabled]="why() !== null" (click)="begin()">{{ again() ? 'Begin a new run sheet' : 'Begin the run sheet' }}</button>
      @if (why(); as w) {
        <p class="quiet">{{ w }}</p>
      } @else {
        <p class="quiet">{{ steps() }} steps. It can be left at any step and is found there again.</p>
      }
    </div>
  `,
  styles: `
    .begin {
      display: grid;
      grid-template-columns: 110px minmax(140px, 220px) auto;
      gap: 4px 14px;
      align-items: end;
      padding: 10px 0 12px;
    }
    p {
      grid-column: 1 / -1;
    }
    .press {
      min-height: 44px;
    }
    @media (max-width: 767px) {
      .begin {
        grid-template-columns: 100px 1fr;
        row-gap: 10px;
      }
      .press {
        grid-column: 1 / -1;
        min-height: 64px;
        font-size: 1.25rem;
      }
    }
  `,
})
export class BeginPanel {
  private readonly work = inject(RunWork);
  readonly job = input.required<Job>();
  readonly stops = input.required<number>();
  private readonly who = inject(WhoIsThere);
  protected readonly initials = signal(this.who.initials());
  protected readonly instrument = linkedSignal(() => this.job().system.provingInstrument);
  protected readonly again = computed(() => this.job().programming !== null);
  protected readonly steps = computed(() => this.work.sheet()?.steps.length ?? 0);
  protected readonly why = computed(() =>
    this.stops() > 0
      ? `${this.stops() === 1 ? '1 stop is' : `${this.stops()} stops are`} open. Resolve or accept ${this.stops() === 1 ? 'it' : 'them'} first.`
      : this.initials().trim() === ''
        ? 'Enter your initials: they go with every reading.'
        : null,
  );

  protected begin(): void {
    if (this.why() === null) this.work.begin(this.initials().trim(), this.instrument());
  }
}
