import { NgTemplateOutlet } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal, viewChild } from '@angular/core';
import type { Plan } from '@calm-keel/core/settings';
import { RunWork } from '../data/run-work';
import { ViewSize } from '../data/view-size';
import { Glyph } from '../ui/glyph';
import { DeviceSteps } from './device-steps';
import { FatesTable } from './fates-table';
import { OwnLine } from './own-line';
import { PaperEntry } from './paper-entry';
import { RunRows } from './run-rows';
import { RunStep } from './run-step';
import { SheetRuler } from './sheet-ruler';
import { StoppingPanel } from './stopping-panel';

/** A run sheet under way: how far it is, what is off, the step in view or another look at the steps, and what was done last. */
@Component({
  selector: 'ck-run-view',
  imports: [DeviceSteps, FatesTable, Glyph, NgTemplateOutlet, OwnLine, PaperEntry, RunStep, SheetRuler, StoppingPanel],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './run-view.html',
  styleUrls: ['./framed.scss', './run-view.scss'],
})
export class RunView {
  protected readonly work = inject(RunWork);
  protected readonly rows = inject(RunRows);
  protected readonly size = inject(ViewSize);
  readonly plan = input.required<Plan>();
  /** Room for the ruler, px. */
  readonly width = input.required<number>();
  readonly printed = output();
  protected readonly mode = signal<'step' | 'device' | 'list' | 'paper'>('step');
  protected readonly stopping = signal(false);
  protected readonly runStep = viewChild<RunStep>('runStep');

  protected readonly shownAt = computed(() => Math.min((this.work.standing()?.at ?? 0) + 1, this.work.sheet()?.steps.length ?? 0));
  /** The list of that device is in view; between devices the step itself is. */
  protected readonly wholeDevice = computed(() => this.mode() === 'device' && this.rows.ofDevice().length > 0);
  protected readonly recent = computed(() => {
    const order = new Map((this.work.record()?.answers ?? []).map((a, i) => [a.step, i]));
    return this.rows
      .listed()
      .filter((r) => r.answered)
      .sort((a, b) => (order.get(b.step.id) ?? 0) - (order.get(a.step.id) ?? 0))
      .slice(0, this.size.phone() ? 3 : 5);
  });
  protected readonly last = computed(() => this.recent()[0] ?? null);

  protected readonly endWords = computed(() => {
    const standing = this.work.standing();
    const open = (this.work.sheet()?.fates ?? []).filter((f) => f.ends === 'open').length;
    const skips = standing?.skipped ?? 0;
    return [
      skips > 0 ? `${skips === 1 ? 'One step was' : `${skips} steps were`} skipped with a reason.` : 'None was skipped.',
      open > 0 ? `${open === 1 ? 'One setting was' : `${open} settings were`} not entered.` : '',
      'What the chargers do with it is for Prove to say.',
    ]
      .filter((w) => w !== '')
      .join(' ');
  });

  /** Shows one step by itself. */
  protected open(id: string): void {
    this.work.show(id);
    this.mode.set('step');
  }
}
