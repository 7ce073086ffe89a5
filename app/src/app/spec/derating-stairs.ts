import { ChangeDetectionStrategy, Component, inject, input, signal } from '@angular/core';
import type { Sheet } from '@calm-keel/core/sheet';
import { JobStore } from '../data/job-store';
import { NumberField } from '../ui/number-field';

/** A new stair ends so much warmer than the last, °C. */
const nextStairC = 5;

/** What the sheet allows one battery up to each temperature, stair by stair. */
@Component({
  selector: 'ck-derating-stairs',
  imports: [NumberField],
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
      <button type="button" class="ghost" (click)="addRow()">Add a stair</button>
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
  readonly sheet = input.required<Sheet>();

  protected editRow(index: number, change: Partial<Sheet['derating'][number]>): void {
    this.editDerating('Change current when cold', 'derating', (rows) => rows.map((row, i) => (i === index ? { ...row, ...change } : row)));
  }

  protected addRow(): void {
    this.editDerating('Add a stair', '', (rows) => [...rows, { toC: (rows.at(-1)?.toC ?? 0) + nextStairC, limit: 0.2, unit: 'C' }]);
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
