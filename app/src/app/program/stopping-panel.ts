import { afterNextRender, ChangeDetectionStrategy, Component, computed, ElementRef, inject, output } from '@angular/core';
import { editOf, runSheet } from '@calm-keel/core/runsheet';
import { JobStore } from '../data/job-store';
import { RunWork } from '../data/run-work';
import { RunRows } from './run-rows';

/** The day ends early: put back, leave and switch on, or end the sheet as it is. */
@Component({
  selector: 'ck-stopping-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="stopping" role="group" aria-label="Stop here, make safe">
      <p><b>The day ends early.</b> What was entered and not saved is lost at the next power cut; what is open stays open until it is closed here.</p>
      <button type="button" class="ghost big" (click)="putBack()">
        Put back as found<small>{{ backWords() }}</small>
      </button>
      <button type="button" class="ghost big" (click)="closeUp()">
        Leave the values, switch everything on again<small>go to the first step that closes</small>
      </button>
      <button type="button" class="ghost big" [disabled]="hazards() !== null" (click)="endHere()">
        End the run sheet as it is<small>{{ hazards() === null ? 'open steps stay open in the record' : 'first switch on again what is off' }}</small>
      </button>
      <button type="button" class="ghost big" (click)="shut.emit()">Go on</button>
    </div>
  `,
  styleUrl: './framed.scss',
  styles: `
    :host {
      display: block;
    }
  `,
})
export class StoppingPanel {
  private readonly store = inject(JobStore);
  private readonly work = inject(RunWork);
  private readonly rows = inject(RunRows);
  readonly shut = output();
  protected readonly hazards = this.rows.hazards;

  protected readonly backWords = computed(() => {
    const plan = this.store.settled();
    const record = this.work.record();
    if (!plan || !record) return '';
    const edits = runSheet(plan, { ...record, aim: 'putBack' }).steps.filter((s) => s.kind === 'edit').length;
    const keyed = [...this.work.kept().values()].filter((a) => a.state === 'done' && editOf(a.step));
    // What was never noted before it was changed cannot be put back.
    const unnoted = keyed.filter((a) => {
      const edit = editOf(a.step);
      return edit && record.found[edit.device]?.[edit.role] === undefined;
    }).length;
    const on = 'then everything that is off goes on again';
    const lost =
      unnoted === 0
        ? ''
        : unnoted === 1
          ? ' One value was never noted before it was changed: it stays.'
          : ` ${unnoted} values were never noted before they were changed: they stay.`;
    return `${edits === 0 ? `Nothing to enter, ${on}` : edits === 1 ? `One edit, ${on}` : `${edits} edits, ${on}`}.${lost}`;
  });

  constructor() {
    const host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
    // On a phone its button is far below: the ways out come into view.
    afterNextRender(() => {
      host.scrollIntoView({ block: 'center' });
    });
  }

  protected putBack(): void {
    this.shut.emit();
    this.work.aim('putBack');
  }

  protected endHere(): void {
    this.shut.emit();
    this.work.end();
  }

  /** Goes to the first step that switches something on again. */
  protected closeUp(): void {
    this.shut.emit();
    const rows = this.rows.listed();
    const row = rows.find((r) => r.step.kind === 'close' && !r.answered) ?? rows.find((r) => r.step.kind === 'handBack');
    if (row) this.work.show(row.step.id);
  }
}
