import { ApplicationRef, ChangeDetectionStrategy, Component, computed, type ElementRef, inject, input, linkedSignal, viewChild } from '@angular/core';
import { linePrefix, type SheetStep } from '@calm-keel/core/runsheet';
import { RunWork } from '../data/run-work';

/** A line of one’s own before the step in view; one that stands there already can be taken out again. */
@Component({
  selector: 'ck-own-line',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (own()) {
      <button type="button" class="do" (click)="work.removeLine(step())">Remove this line from the run sheet</button>
    } @else if (adding()) {
      <div role="group" aria-label="A line of your own">
        <label class="lbl" for="own-line">What is to be done before this step</label>
        <input #text id="own-line" class="plain" type="text" maxlength="160" [value]="says()" (input)="says.set(text.value)" (keydown.enter)="add()" />
        <button type="button" class="ghost" [disabled]="says().trim() === ''" (click)="add()">Add the line</button>
        <button type="button" class="do" (click)="adding.set(false)">Leave it</button>
      </div>
    } @else {
      <button type="button" class="do" (click)="begin()">Add a line before this step</button>
    }
  `,
  styles: `
    :host {
      display: block;
      padding: 8px 0;
    }
    div {
      display: flex;
      flex-wrap: wrap;
      gap: 6px 12px;
      align-items: center;
    }
    label,
    input {
      flex: 1 1 100%;
    }
    .do {
      min-height: 28px;
    }
  `,
})
export class OwnLine {
  protected readonly work = inject(RunWork);
  private readonly application = inject(ApplicationRef);
  readonly step = input.required<SheetStep>();
  private readonly field = viewChild<ElementRef<HTMLInputElement>>('text');
  private readonly id = computed(() => this.step().id);
  protected readonly own = computed(() => this.id().startsWith(linePrefix));
  protected readonly adding = linkedSignal({ source: this.id, computation: () => false });
  protected readonly says = linkedSignal({ source: this.id, computation: () => '' });

  protected begin(): void {
    this.adding.set(true);
    // Drawn and in hand before the next key comes: a quick typist loses no letter.
    this.application.tick();
    this.field()?.nativeElement.focus();
  }

  protected add(): void {
    if (this.says().trim() === '') return;
    this.work.addLine(this.step(), this.says().trim());
    this.adding.set(false);
  }
}
