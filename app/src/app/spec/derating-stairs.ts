import { ApplicationRef, ChangeDetectionStrategy, Component, ElementRef, inject, input, signal } from '@angular/core';
import type { Sheet } from '@calm-keel/core/sheet';
import { JobStore } from '../data/job-store';
import { ChoiceField } from '../ui/choice-field';
import { draftFor, withTyped } from '../ui/draft';
import { NumberField } from '../ui/number-field';

type Stair = Sheet['derating'][number];
/** What tables of sheets count in. */
const units = [
  { value: 'C', words: 'C, times the capacity' },
  { value: 'A', words: 'amps' },
];

/** What the sheet allows one battery up to each temperature, stair by stair. */
@Component({
  selector: 'ck-derating-stairs',
  imports: [ChoiceField, NumberField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="sech"><span role="heading" aria-level="2">Current when cold</span><small>what the sheet allows one battery up to each temperature</small></div>
    <div class="stairs">
      @for (row of sheet().derating; track $index; let i = $index) {
        <div class="stair">
          <ck-number-field label="Up to" kind="temperature" [value]="row.toC" [step]="1" [min]="-60" [max]="90" (changed)="editRow(i, { toC: $event! })" />
          <ck-number-field label="Allowed" [unit]="row.unit" [value]="row.limit" [step]="0.05" [min]="0" (changed)="editRow(i, { limit: $event! })" />
          <button type="button" class="do" (click)="removeRow(i)" [attr.aria-label]="'Remove the stair up to ' + row.toC + ' °C'">Remove</button>
        </div>
      } @empty {
        <p class="quiet">The sheet gives no table: the greatest current holds over the whole charging temperature.</p>
      }
      @if (deratingWrong(); as why) {
        <span class="wrong" role="alert">{{ why }}</span>
      }
      @if (draft(); as d) {
        <div class="stair" role="group" aria-label="New stair">
          <ck-number-field
            label="Up to"
            kind="temperature"
            [optional]="true"
            [value]="d.toC"
            [step]="1"
            [min]="-60"
            [max]="90"
            (changed)="type('toC', $event)"
          />
          <ck-number-field
            label="Allowed"
            [unit]="d.unit ?? 'C'"
            [optional]="true"
            [value]="d.limit"
            [step]="0.05"
            [min]="0"
            (changed)="type('limit', $event)"
          />
          <ck-choice-field label="In" [value]="d.unit ?? 'C'" [options]="units" (changed)="type('unit', asUnit($event))" />
          <button type="button" class="do" (click)="draft.set(null)">Discard</button>
        </div>
        <button type="button" class="ghost" [disabled]="d.toC === undefined || d.limit === undefined" (click)="addRow()">Save the stair</button>
        @if (d.toC === undefined || d.limit === undefined) {
          <p class="quiet">Enter both, as the sheet has them.</p>
        }
      } @else {
        <button type="button" class="ghost" (click)="begin()">Add a stair</button>
      }
    </div>
  `,
  styles: `
    .stairs {
      display: flex;
      flex-wrap: wrap;
      gap: 10px 20px;
      align-items: end;
    }
    .stair {
      display: grid;
      grid-template-columns: 96px 96px auto;
      &[role='group'] {
        display: flex;
        flex-wrap: wrap;
        ck-number-field {
          width: 96px;
        }
      }
      gap: 6px;
      align-items: end;
      .do {
        margin-bottom: 6px;
      }
    }
  `,
})
export class DeratingStairs {
  private readonly store = inject(JobStore);
  private readonly application = inject(ApplicationRef);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
  readonly sheet = input.required<Sheet>();

  protected editRow(index: number, change: Partial<Sheet['derating'][number]>): void {
    this.editDerating('Change current when cold', 'derating', (rows) => rows.map((row, i) => (i === index ? { ...row, ...change } : row)));
  }

  /** A stair being typed: it is one when the sheet’s two figures are there. */
  protected readonly draft = draftFor<Partial<Stair>>(() => this.sheet().id);

  protected readonly units = units;
  protected readonly asUnit = (value: string): Stair['unit'] => (value === 'A' ? 'A' : 'C');

  /** The table counts in one unit: as its other stairs, until somebody says. */
  protected begin(): void {
    this.draft.set({ unit: this.sheet().derating.at(-1)?.unit ?? 'C' });
    // Drawn and in hand before the next key comes.
    this.application.tick();
    this.host.querySelector<HTMLElement>('[role=group] input')?.focus();
  }

  protected type<K extends keyof Stair>(key: K, value: Stair[K] | undefined): void {
    this.draft.update((draft) => withTyped(draft, key, value));
  }

  protected addRow(): void {
    const { toC, limit, unit = 'C' } = this.draft() ?? {};
    if (toC === undefined || limit === undefined) return;
    this.editDerating('Add a stair', '', (rows) => [...rows, { toC, limit, unit }].sort((a, b) => a.toC - b.toC));
    if (this.deratingWrong() === null) this.draft.set(null);
  }

  protected removeRow(index: number): void {
    this.editDerating('Remove a stair', '', (rows) => rows.filter((_, i) => i !== index));
  }

  /** Why the last change could not be taken. */
  protected readonly deratingWrong = signal<string | null>(null);

  private editDerating(label: string, mergeKey: string, change: (rows: Sheet['derating']) => Sheet['derating']): void {
    const problems = this.store.edit(label, (job) => ({ ...job, sheet: { ...job.sheet, derating: change(job.sheet.derating) } }), mergeKey);
    this.deratingWrong.set(problems.length > 0 ? 'Each stair must end warmer than the one before. Change the temperatures so that they rise.' : null);
  }
}
