import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { capital, type Problem } from '@calm-keel/core/quantity';
import { withSaid, type Assumable } from '@calm-keel/core/settings';
import {
  capacityText,
  cellsInSeries,
  chemistrySchema,
  chemistryWords,
  hasFigures,
  isLithium,
  rankedAs,
  ranks,
  rankWords,
  unitOfChemistry,
  unitOfVolts,
  type Chemistry,
  type Rank,
  type Sheet,
} from '@calm-keel/core/sheet';
import { JobStore } from '../data/job-store';
import { ChoiceField } from '../ui/choice-field';
import { NumberField } from '../ui/number-field';
import { TextField } from '../ui/text-field';

/** Battery and document: what the sheet is of, and what paper it is. */
@Component({
  selector: 'ck-sheet-form',
  imports: [NumberField, TextField, ChoiceField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (sheet(); as s) {
      <div class="form">
        <ck-text-field label="Maker" [value]="s.maker" [max]="80" (changed)="edit('maker', { maker: $event })" />
        <ck-text-field label="Battery" [value]="s.battery" [max]="80" (changed)="edit('battery', { battery: $event })" />
        <ck-choice-field label="Chemistry" [value]="assumed('chemistry') ? '' : s.chemistry" [options]="chemistries()" (changed)="setChemistry($event)" />
        <ck-number-field
          label="Nominal, one battery"
          unit="V"
          [value]="assumed('nominalVolts') ? undefined : s.unit.nominalVolts"
          [assumed]="s.unit.nominalVolts"
          [step]="0.1"
          [min]="0.5"
          [max]="1000"
          (changed)="setVolts($event)"
        />
        <ck-number-field
          label="Capacity, one battery"
          unit="Ah"
          [value]="s.unit.capacityAh"
          [step]="1"
          [min]="0.1"
          [max]="100000"
          [optional]="true"
          (changed)="setCapacity($event)"
        />
        <ck-number-field
          label="Cells in series in it"
          [value]="assumed('cellsInSeries') ? undefined : s.unit.cellsInSeries"
          [assumed]="s.unit.cellsInSeries"
          [step]="1"
          [min]="1"
          [max]="400"
          [refused]="problemAt('unit')"
          (changed)="setCells($event)"
        />
        <ck-text-field label="Document" [value]="s.document" [max]="160" (changed)="edit('document', { document: $event })" />
        <ck-text-field label="Revision" [value]="s.revision" [max]="40" (changed)="edit('revision', { revision: $event })" />
        <ck-choice-field label="Whose figures" [value]="s.rank ?? 'notSaid'" [options]="rankOptions" (changed)="setRank($event)" />
        <div class="dates">
          <ck-text-field label="Dated, as 2026-02" [value]="s.date" [max]="10" (changed)="edit('date', { date: $event })" />
          <ck-text-field label="Fetched on" [value]="s.fetched ?? ''" [max]="10" (changed)="setFetched($event)" />
        </div>
        @if (problemAt('date') || problemAt('fetched')) {
          <span class="wrong wide" role="alert">Write dates as 2026-02 or 2026-02-14.</span>
        }
        <div class="wide">
          <label class="lbl" for="advice">What else it says on storage, long absences and care</label>
          <textarea
            #advice
            id="advice"
            class="plain"
            rows="2"
            maxlength="2000"
            [value]="s.advice ?? ''"
            (input)="edit('advice', { advice: advice.value })"
          ></textarea>
        </div>
      </div>
      <p class="quiet">{{ bankWords() }}</p>
    }
  `,
  styles: `
    .form {
      display: grid;
      grid-template-columns: repeat(3, 1fr);
      gap: 10px 16px;
    }
    .dates {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 8px;
    }
    .wide {
      grid-column: 1 / -1;
    }
    p {
      padding-top: 6px;
    }
    @media (max-width: 767px) {
      .form {
        grid-template-columns: 1fr 1fr;
      }
    }
  `,
})
export class SheetForm {
  private readonly store = inject(JobStore);
  private readonly refused = signal<{ field: string; problems: readonly Problem[] } | null>(null);
  protected readonly sheet = computed(() => this.store.job()?.sheet ?? null);
  protected readonly chemistries = computed(() => [
    ...(this.assumed('chemistry') ? [{ value: '', words: 'Choose' }] : []),
    ...chemistrySchema.options.map((value) => ({ value, words: chemistryWords[value] })),
  ]);
  protected readonly rankOptions = ['notSaid' as const, ...ranks.filter((rank) => rank !== 'notSaid')].map((value) => ({
    value,
    words: capital(rankWords[value]),
  }));

  /** Whether nobody has said this of the battery yet. */
  protected assumed(key: Assumable): boolean {
    return this.store.job()?.assumed?.[key] === true;
  }
  protected readonly bankWords = computed(() => {
    const plan = this.store.plan();
    if (!plan) return '';
    const { unitsInSeries, stringsInParallel } = plan.input.system.bank;
    return `On this bank: ${unitsInSeries} in series × ${stringsInParallel} in parallel, ${cellsInSeries(plan.facts.shape)} cells, ${plan.facts.nominalVolts.toFixed(1)} V, ${capacityText(plan.facts.ratedAh)}. Change that on System.`;
  });

  protected problemAt(field: string): string | null {
    const refused = this.refused();
    return refused?.field === field ? (refused.problems[0]?.text ?? null) : null;
  }

  protected edit(field: string, change: Partial<Sheet>): void {
    const problems = this.store.edit('Change the sheet', (job) => ({ ...job, sheet: { ...job.sheet, ...change } }), `sheet ${field}`);
    this.refused.set(problems.length > 0 ? { field, problems } : null);
  }

  protected setFetched(text: string): void {
    if (text.trim() !== '') {
      this.edit('fetched', { fetched: text.trim() });
      return;
    }
    this.store.edit('Change the sheet', (job) => {
      const { fetched: _gone, ...sheet } = job.sheet;
      return { ...job, sheet };
    });
    this.refused.set(null);
  }

  protected editUnit(change: Partial<Sheet['unit']>, said: readonly Assumable[] = []): void {
    const problems = this.store.edit(
      'Change the battery',
      (job) => withSaid({ ...job, sheet: { ...job.sheet, unit: { ...job.sheet.unit, ...change } } }, said),
      'sheet unit',
    );
    this.refused.set(problems.length > 0 ? { field: 'unit', problems } : null);
  }

  protected setVolts(volts: number | undefined): void {
    const sheet = this.sheet();
    if (!sheet || volts === undefined) return;
    this.editUnit(hasFigures(sheet) ? { nominalVolts: volts } : unitOfVolts(sheet.unit, sheet.chemistry, volts), ['nominalVolts', 'cellsInSeries']);
  }

  protected setCells(cellsInSeries: number | undefined): void {
    if (cellsInSeries !== undefined) this.editUnit({ cellsInSeries }, ['cellsInSeries']);
  }

  protected setCapacity(capacityAh: number | undefined): void {
    if (capacityAh !== undefined) {
      this.editUnit({ capacityAh });
      return;
    }
    this.store.edit(
      'Change the battery',
      (job) => {
        const { capacityAh: _gone, ...unit } = job.sheet.unit;
        return { ...job, sheet: { ...job.sheet, unit } };
      },
      'sheet unit',
    );
  }

  /** Says whose figures the document holds; those of which nobody had said it are taken for the same. */
  protected setRank(value: string): void {
    this.store.edit('Say whose figures they are', (job) => ({ ...job, sheet: rankedAs(job.sheet, value as Rank) }));
  }

  /** While nothing was read off a sheet yet, battery and bank follow their chemistry: cells, nominal volts, and whether there is a BMS. */
  protected setChemistry(value: string): void {
    if (value === '') return;
    const chemistry = value as Chemistry;
    this.store.edit('Change the chemistry', (before) => {
      const job = withSaid(before, ['chemistry']);
      const { sheet, system } = job;
      if (hasFigures(sheet)) return { ...job, sheet: { ...sheet, chemistry } };
      const unit = unitOfChemistry(sheet.unit, sheet.chemistry, chemistry);
      return { ...job, sheet: { ...sheet, chemistry, unit }, system: { ...system, bank: { ...system.bank, hasBms: isLithium(chemistry) } } };
    });
  }
}
