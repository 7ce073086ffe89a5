import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { format } from 'date-fns';
import { isAnswered, judgeReading, readingOf, type SheetStep } from '@calm-keel/core/runsheet';
import { cardOf, devicesOf, type Plan } from '@calm-keel/core/settings';
import { RunWork } from '../data/run-work';

interface Line {
  readonly text: string;
  readonly done: boolean;
  readonly time: string;
}
const blank: Line = { text: '', done: false, time: '' };

/** What was filled in on paper, keyed in later: one line a step, checked like any reading; what does not fit stays open and says why. */
@Component({
  selector: 'ck-paper-entry',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="sech">
      <span role="heading" aria-level="2">Enter from paper</span><small>{{ open().length }} steps are open</small>
    </div>
    <p class="quiet">Fill in what the paper has. A line left empty stays open. Times are of today unless the paper is older; write them as on the paper.</p>
    <label class="day"><span>Day on the paper</span><input #date class="plain" type="date" [value]="day()" (change)="day.set(date.value || day())" /></label>
    <ol>
      @for (row of rows(); track row.step.id) {
        <li [class.bad]="row.why">
          <span class="n">{{ row.number }}</span>
          <span class="what"
            >{{ row.device ? row.device + ': ' : '' }}{{ row.step.title }}
            @if (row.step.value; as v) {
              <small class="n">{{ v.readBack }}</small>
            }
          </span>
          @if (row.step.value || row.step.kind === 'identify') {
            <input
              #read
              class="plain n"
              type="text"
              autocomplete="off"
              [attr.aria-label]="row.step.title + ', reads'"
              [value]="row.line.text"
              (input)="put(row.step.id, { text: read.value })"
            />
          } @else {
            <label class="tick"><input #tick type="checkbox" [checked]="row.line.done" (change)="put(row.step.id, { done: tick.checked })" /> done</label>
          }
          <input
            #time
            class="plain n time"
            type="time"
            [attr.aria-label]="row.step.title + ', time'"
            [value]="row.line.time"
            (change)="put(row.step.id, { time: time.value })"
          />
          @if (row.why) {
            <p class="wrong" role="alert">{{ row.why }}</p>
          }
        </li>
      }
    </ol>
    <div class="end">
      <button type="button" class="press" [disabled]="ready().length === 0" (click)="keep()">
        {{ ready().length === 0 ? 'Keep the answers' : ready().length === 1 ? 'Keep 1 answer' : 'Keep ' + ready().length + ' answers' }}
      </button>
      <button type="button" class="ghost" (click)="shut.emit()">Back to the step</button>
      @if (ready().length === 0) {
        <span class="quiet">Nothing is filled in yet.</span>
      }
    </div>
  `,
  styles: `
    .day {
      display: flex;
      gap: 10px;
      align-items: center;
      padding: 8px 0;
    }
    li {
      display: grid;
      grid-template-columns: 34px minmax(0, 1fr) 150px 110px;
      gap: 4px 10px;
      align-items: center;
      border-top: 1px solid var(--ck-rule);
      padding: 4px 0;
      font-size: 0.9062rem;
    }
    li.bad {
      background: var(--ck-attention-wash);
    }
    .what small {
      margin-left: 8px;
      font-size: 0.9062rem;
    }
    .wrong {
      grid-column: 2 / -1;
    }
    .tick {
      min-height: 40px;
    }
    input[type='checkbox'] {
      width: 20px;
      height: 20px;
    }
    .end {
      display: flex;
      gap: 12px;
      align-items: center;
      position: sticky;
      bottom: 0;
      background: var(--ck-surface);
      padding: 10px 0;
    }
    @media (max-width: 767px) {
      li {
        grid-template-columns: 30px 1fr 104px;
      }
      .what {
        grid-column: 2 / -1;
      }
      li > input:not(.time),
      .tick {
        grid-column: 2;
      }
    }
  `,
})
export class PaperEntry {
  private readonly work = inject(RunWork);
  readonly plan = input.required<Plan>();
  readonly shut = output();
  protected readonly day = signal(format(new Date(), 'yyyy-MM-dd'));
  private readonly lines = signal<ReadonlyMap<string, Line>>(new Map());

  /** Meter and display, and what a device shows before it is changed, are typed at their own steps: they want more than a line. */
  protected readonly open = computed(() => {
    const sheet = this.work.sheet();
    const kept = this.work.kept();
    return (sheet?.steps ?? []).flatMap((step, i) =>
      isAnswered(step, kept) || ['compare', 'readOff', 'blocked'].includes(step.kind) ? [] : [{ step, number: i + 1 }],
    );
  });
  protected readonly rows = computed(() => {
    const names = new Map(devicesOf(this.plan().input).map((d) => [d.id, d.name]));
    return this.open().map(({ step, number }) => {
      const line = this.lines().get(step.id) ?? blank;
      return { step, number, device: step.device ? (names.get(step.device) ?? '') : '', line, why: this.whyNot(step, line) };
    });
  });
  protected readonly ready = computed(() => this.rows().filter((r) => r.why === null && (r.line.text.trim() !== '' || r.line.done)));

  protected put(id: string, change: Partial<Line>): void {
    this.lines.update((map) => new Map(map).set(id, { ...(map.get(id) ?? blank), ...change }));
  }

  private read(step: SheetStep, text: string) {
    const device = devicesOf(this.plan().input).find((d) => d.id === step.device);
    const card = device && cardOf(this.plan().input, device);
    return card && step.value ? readingOf(card, step.value.role, text) : null;
  }

  /** Why a line cannot be kept; null when it can, or is empty. */
  private whyNot(step: SheetStep, line: Line): string | null {
    if (!step.value || line.text.trim() === '') return null;
    const read = this.read(step, line.text);
    if (!read) return null;
    if (!read.ok) return read.text;
    const judged = judgeReading(this.plan(), step, read.value);
    return judged.diagnosis === 'same' || judged.mayKeep ? null : `${judged.says} It stays open: answer it at its own step.`;
  }

  protected keep(): void {
    this.work.answerFromPaper(
      this.ready().map(({ step, line }) => {
        const at = new Date(`${this.day()}T${line.time || '12:00'}:00`).toISOString();
        if (step.kind === 'identify') return { step, at, given: { state: 'done' as const, reading: line.text.trim() } };
        const read = step.value ? this.read(step, line.text) : null;
        const reading = read?.ok ? read.value : undefined;
        const other = reading !== undefined && reading !== step.value?.to;
        const values = step.kind === 'persist' ? Object.fromEntries((step.looks ?? []).flatMap((l) => (l.want === null ? [] : [[l.role, l.want]]))) : undefined;
        return {
          step,
          at,
          given: {
            state: 'done' as const,
            ...(reading === undefined ? {} : { reading }),
            ...(other ? { reason: 'in its band, from paper' } : {}),
            ...(values ? { values } : {}),
          },
        };
      }),
    );
    this.lines.set(new Map());
  }
}
