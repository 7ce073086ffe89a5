import { Router, RouterLink } from '@angular/router';
import { NgTemplateOutlet } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, effect, inject, input, linkedSignal, viewChild, type ElementRef } from '@angular/core';
import { contains } from '@calm-keel/core/quantity';
import type { SheetStep } from '@calm-keel/core/runsheet';
import { trueOf, type Plan } from '@calm-keel/core/settings';
import { JobStore } from '../data/job-store';
import { RunWork } from '../data/run-work';
import { SurveyStore } from '../data/survey-store';
import { clockWords } from '../ui/day-words';
import { Glyph } from '../ui/glyph';
import { NumberField } from '../ui/number-field';
import { KeepTimer } from './keep-timer';
import { KeyPath } from './key-path';
import { OddReading } from './odd-reading';
import { SeenPanel } from './seen-panel';
import { StepEntry } from './step-entry';
import { StepLooks } from './step-looks';
import { StepValue } from './step-value';

/** One step of the run sheet: what to do, the value huge, and the answers under the thumb. */
@Component({
  selector: 'ck-run-step',
  imports: [Glyph, KeepTimer, KeyPath, NumberField, OddReading, SeenPanel, StepLooks, StepValue, NgTemplateOutlet, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './run-step.html',
  styleUrl: './run-step.scss',
  providers: [StepEntry],
})
export class RunStep {
  private readonly work = inject(RunWork);
  private readonly store = inject(JobStore);
  private readonly surveys = inject(SurveyStore);
  protected readonly entry = inject(StepEntry);
  private readonly router = inject(Router);

  protected readonly jobId = computed(() => this.store.job()?.id ?? '');

  readonly plan = input.required<Plan>();
  readonly step = input.required<SheetStep>();
  readonly number = input.required<number>();
  private readonly title = viewChild<ElementRef<HTMLElement>>('title');

  /** What is being typed belongs to one step: it goes with it. */
  private readonly id = computed(() => this.step().id);
  protected readonly odd = linkedSignal({ source: this.id, computation: () => false });
  protected readonly skipping = linkedSignal({ source: this.id, computation: () => false });
  protected readonly reason = linkedSignal({ source: this.id, computation: () => '' });
  protected readonly device = this.entry.device;
  protected readonly card = this.entry.card;
  protected readonly whereWords = computed(() => (this.device() ? `, ${this.device()?.name ?? ''}` : ''));
  protected readonly model = computed(() => {
    const card = this.card();
    return card ? `${card.maker} ${card.model}` : '';
  });
  protected readonly answered = computed(() => this.work.kept().get(this.step().id) ?? null);
  /** The last thing that went wrong here and was not answered since. */
  protected readonly trouble = computed(() => {
    const t = this.work.record()?.trouble.findLast((x) => x.step === this.step().id);
    const answer = this.answered();
    return t && (!answer || answer.at < t.at) ? t.text : this.lostHere();
  });
  /** A value that a power cut took away is told at its own step too. */
  private readonly lostHere = computed(() => {
    const role = this.step().value?.label;
    const t =
      role === undefined
        ? undefined
        : this.work.record()?.trouble.findLast((x) => x.device === this.step().device && x.step.endsWith('/persist') && x.text.includes(role));
    return t && !this.answered() ? t.text : null;
  });
  protected readonly wasWords = computed(() => {
    const { value, device } = this.step();
    const setting = value && device ? this.plan().setting(device, value.role) : undefined;
    if (!value || !device || typeof value.from !== 'number' || !setting?.band) return '';
    const real = trueOf(this.plan(), device, value.role, value.from);
    if (real === null || contains(setting.band, real)) return '';
    return setting.band.max !== undefined && real > setting.band.max ? ', above the band' : ', below the band';
  });

  constructor() {
    effect(() => {
      this.entry.be(this.plan(), this.step());
    });
    // The step’s title takes the focus, so that keys and voices begin there; not when the page is first opened.
    let before: string | null = null;
    effect(() => {
      const id = this.id();
      if (before !== null && before !== id) this.title()?.nativeElement.focus({ preventScroll: true });
      before = id;
    });
  }

  /** Its menu is another one than the card says: it is surveyed, and the run sheet goes on with what was found. */
  protected async survey(): Promise<void> {
    const [card, device, job] = [this.card(), this.device(), this.store.job()];
    if (!card || !device || !job) return;
    await this.store.flush();
    await this.router.navigate(['/survey', await this.surveys.begin(card, { job: job.id, device: device.id })], { queryParams: { from: 'program' } });
  }

  protected readonly clock = clockWords;

  /** Opens the line for a reason. */
  openSkip(): void {
    this.skipping.set(true);
  }

  protected skip(): void {
    if (this.reason().trim() === '') return;
    this.work.answer(this.step(), { state: 'skipped', reason: this.reason().trim() });
  }
}
