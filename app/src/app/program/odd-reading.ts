import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { parameterFor } from '@calm-keel/core/card';
import { judgeReading, readingOf, type SheetStep } from '@calm-keel/core/runsheet';
import { cardOf, devicesOf, type Plan } from '@calm-keel/core/settings';
import { Glyph } from '../ui/glyph';
import { RunWork } from '../data/run-work';

let count = 0;

/** “What do you see instead?”: the reading is judged as it is typed, and every answer leads on. */
@Component({
  selector: 'ck-odd-reading',
  imports: [Glyph],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="odd" role="group" aria-label="What it reads instead">
      <label class="ask" [attr.for]="id">What does it show instead?</label>
      <div class="line">
        @if (choices().length > 0) {
          <span class="box"
            ><select #pick [id]="id" (change)="typed.set(pick.value)">
              <option value="">choose</option>
              @for (choice of choices(); track choice) {
                <option [value]="choice" [selected]="typed() === choice">{{ choice }}</option>
              }
            </select></span
          >
        } @else {
          <span class="box" [class.bad]="wrong()"
            ><input
              #field
              class="n"
              type="text"
              inputmode="decimal"
              autocomplete="off"
              [id]="id"
              [value]="typed()"
              (input)="typed.set(field.value)"
              (keydown.enter)="verdict()?.mayKeep ? keep() : null"
            /><i>{{ step().value?.unit }}</i></span
          >
        }
        <button type="button" class="ghost" (click)="shut.emit()">Back to the value</button>
      </div>
      @if (wrong(); as why) {
        <p class="wrong" role="alert">{{ why }}</p>
      }
      @if (verdict(); as v) {
        <div class="verdict" role="status">
          <ck-glyph [name]="v.diagnosis === 'same' ? 'done' : v.mayKeep ? 'note' : 'attention'" [size]="18" />
          <div>
            <p>
              <b>{{ v.says }}</b>
            </p>
            <p>{{ v.next }}</p>
          </div>
        </div>
        @if (v.diagnosis === 'same') {
          <button type="button" class="press big" (click)="keep()">It reads as it should</button>
        } @else {
          <button type="button" class="press big" (click)="again()">Set it again</button>
          @if (v.mayKeep) {
            <button type="button" class="ghost big" (click)="keep()">Record {{ typed() }} and go on</button>
          } @else {
            <label class="reason"
              ><span>Or keep it, because</span><input #why class="plain" type="text" maxlength="300" [value]="reason()" (input)="reason.set(why.value)"
            /></label>
            <button type="button" class="ghost big" [disabled]="reason().trim() === ''" (click)="keep()">Keep it with this reason</button>
          }
        }
      }
    </div>
  `,
  styles: `
    .odd {
      border: 2px solid var(--ck-ink);
      padding: 12px 14px 14px;
      display: grid;
      gap: 10px;
    }
    .ask {
      font-size: 1.125rem;
      font-weight: var(--ck-w-strong);
    }
    .line {
      display: flex;
      flex-wrap: wrap;
      gap: 10px;
    }
    .line .box {
      flex: 1 1 150px;
      min-height: 52px;
      input,
      select {
        font-size: 1.5rem;
      }
    }
    .line .ghost {
      min-height: 52px;
    }
    .verdict {
      display: grid;
      grid-template-columns: 20px 1fr;
      gap: 8px;
      font-size: 0.9375rem;
      line-height: 1.35;
      p + p {
        margin-top: 4px;
      }
    }
    .big {
      min-height: 56px;
      font-size: 1.0625rem;
    }
    .reason span {
      display: block;
      font-size: 0.8125rem;
      color: var(--ck-ink-2);
    }
  `,
})
export class OddReading {
  private readonly work = inject(RunWork);
  readonly plan = input.required<Plan>();
  readonly step = input.required<SheetStep>();
  readonly shut = output();
  protected readonly id = `ck-odd-${count++}`;
  protected readonly typed = signal('');
  protected readonly reason = signal('');

  private readonly card = computed(() => {
    const place = devicesOf(this.plan().input).find((d) => d.id === this.step().device);
    return place ? cardOf(this.plan().input, place) : undefined;
  });
  protected readonly choices = computed(() => {
    const card = this.card();
    const p = card && this.step().value ? parameterFor(card, this.step().value!.role) : undefined;
    return p?.unit === 'choice' ? p.options.map((o) => o.value) : [];
  });
  private readonly read = computed(() => {
    const card = this.card();
    const value = this.step().value;
    return card && value && this.typed().trim() !== '' ? readingOf(card, value.role, this.typed()) : null;
  });
  protected readonly wrong = computed(() => {
    const read = this.read();
    return read && !read.ok ? read.text : null;
  });
  protected readonly verdict = computed(() => {
    const read = this.read();
    return read?.ok ? judgeReading(this.plan(), this.step(), read.value) : null;
  });

  /** Keeps what it reads, and goes on. */
  protected keep(): void {
    const verdict = this.verdict();
    if (!verdict) return;
    const reason = verdict.diagnosis === 'same' ? '' : verdict.mayKeep ? 'in its band' : this.reason().trim();
    if (verdict.diagnosis !== 'same' && reason === '') return;
    this.work.answer(this.step(), { state: 'done', reading: verdict.reading, ...(reason === '' ? {} : { reason }) });
    this.shut.emit();
  }

  /** Notes what was seen, and shows the value again. */
  protected again(): void {
    const verdict = this.verdict();
    if (verdict) this.work.trouble(this.step(), `${this.step().title}: ${verdict.says}`);
    this.shut.emit();
  }
}
