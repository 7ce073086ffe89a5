import { Router, RouterLink } from '@angular/router';
import { NgTemplateOutlet } from '@angular/common';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  inject,
  input,
  linkedSignal,
  untracked,
  viewChild,
  type ElementRef,
} from '@angular/core';
import { format, parseISO } from 'date-fns';
import type { DeviceValues, Role } from '@calm-keel/core/card';
import { contains, formatNumber, formatQuantity } from '@calm-keel/core/quantity';
import { atTheBattery, readingOf, type Look, type SheetStep } from '@calm-keel/core/runsheet';
import { cardOf, devicesOf, provingMeter, trueOf, type Plan } from '@calm-keel/core/settings';
import { indistinguishable } from '@calm-keel/core/system';
import { JobStore } from '../data/job-store';
import { RunWork } from '../data/run-work';
import { SurveyStore } from '../data/survey-store';
import { Glyph } from '../ui/glyph';
import { NumberField } from '../ui/number-field';
import { KeyPath } from './key-path';
import { OddReading } from './odd-reading';
import { SeenPanel } from './seen-panel';

/** What the main answer says, by what a step is. */
const plainAnswers: Readonly<Partial<Record<SheetStep['kind'], string>>> = {
  caution: 'Understood',
  tools: 'All within reach',
  balance: 'Balanced as the maker says',
  strings: 'Joined at equal voltage',
  open: 'It is off and tagged',
  wake: 'It is awake',
  reach: 'It is open',
  commit: 'Saved',
  link: 'It shows its leader’s figures',
  sensor: 'Done',
  passcode: 'Changed',
  close: 'It is on again',
  handBack: 'All done',
};

/** One step of the run sheet: what to do, the value huge, and the answers under the thumb. */
@Component({
  selector: 'ck-run-step',
  imports: [Glyph, KeyPath, NumberField, OddReading, SeenPanel, NgTemplateOutlet, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './run-step.html',
  styleUrl: './run-step.scss',
})
export class RunStep {
  private readonly work = inject(RunWork);
  private readonly store = inject(JobStore);
  private readonly surveys = inject(SurveyStore);
  private readonly router = inject(Router);

  protected readonly jobId = computed(() => this.store.job()?.id ?? '');

  /** Its menu is another one than the card says: it is surveyed, and the run sheet goes on with what was found. */
  protected async survey(): Promise<void> {
    const [card, device, job] = [this.card(), this.device(), this.store.job()];
    if (!card || !device || !job) return;
    await this.store.flush();
    await this.router.navigate(['/survey', await this.surveys.begin(card, { job: job.id, device: device.id })], { queryParams: { from: 'program' } });
  }

  readonly plan = input.required<Plan>();
  readonly step = input.required<SheetStep>();
  readonly number = input.required<number>();
  private readonly title = viewChild<ElementRef<HTMLElement>>('title');

  /** What is being typed belongs to one step: it goes with it. */
  private readonly id = computed(() => this.step().id);
  protected readonly odd = linkedSignal({ source: this.id, computation: () => false });
  protected readonly skipping = linkedSignal({ source: this.id, computation: () => false });
  protected readonly reason = linkedSignal({ source: this.id, computation: () => '' });
  protected readonly ticked = linkedSignal<string, ReadonlySet<string>>({ source: this.id, computation: () => new Set() });
  protected readonly seen = linkedSignal<string, ReadonlyMap<Role, string>>({
    source: this.id,
    computation: () => untracked(() => new Map(this.step().kind === 'readOff' ? this.noted() : [])),
  });
  protected readonly text = linkedSignal({ source: this.id, computation: () => untracked(() => this.device()?.firmware ?? '') });
  protected readonly meterV = linkedSignal<string, number | undefined>({ source: this.id, computation: () => undefined });
  protected readonly displayV = linkedSignal<string, number | undefined>({ source: this.id, computation: () => undefined });

  protected readonly device = computed(() => devicesOf(this.plan().input).find((d) => d.id === this.step().device) ?? null);
  protected readonly card = computed(() => {
    const device = this.device();
    return device ? (cardOf(this.plan().input, device) ?? null) : null;
  });
  protected readonly whereWords = computed(() => (this.device() ? `, ${this.device()?.name ?? ''}` : ''));
  protected readonly model = computed(() => {
    const card = this.card();
    return card ? `${card.maker} ${card.model}` : '';
  });
  protected readonly entry = computed(() => this.card()?.entry ?? null);
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
  protected readonly isChoice = computed(() => typeof this.step().value?.to === 'string');
  private readonly figure = computed(() => {
    const v = this.step().value;
    return v && typeof v.to === 'number' ? formatNumber(v.to, v.digits) : '';
  });
  protected readonly whole = computed(() => this.figure().split('.')[0] ?? '');
  protected readonly fraction = computed(() => this.figure().split('.')[1] ?? '');
  protected readonly atBattery = computed(() => {
    const volts = atTheBattery(this.plan(), this.step());
    const v = this.step().value;
    if (volts === null || !v || typeof v.to !== 'number') return null;
    const same = v.unit === 'V' && Math.abs(volts - v.to) < 0.005;
    return same ? null : `${v.readBack} on this display is ${formatQuantity(volts, 'V', 2)} at the battery`;
  });
  protected readonly wasWords = computed(() => {
    const { value, device } = this.step();
    const setting = value && device ? this.plan().setting(device, value.role) : undefined;
    if (!value || !device || typeof value.from !== 'number' || !setting?.band) return '';
    const real = trueOf(this.plan(), device, value.role, value.from);
    if (real === null || contains(setting.band, real)) return '';
    return setting.band.max !== undefined && real > setting.band.max ? ', above the band' : ', below the band';
  });

  /** Seconds left to keep an edit; null while nobody counts. */
  protected readonly left = linkedSignal<string, number | null>({ source: this.id, computation: () => null });
  private ticking: ReturnType<typeof setInterval> | null = null;

  constructor() {
    // The step’s title takes the focus, so that keys and voices begin there; not when the page is first opened.
    let before: string | null = null;
    effect(() => {
      const id = this.id();
      if (before !== null && before !== id) this.title()?.nativeElement.focus({ preventScroll: true });
      before = id;
    });
    inject(DestroyRef).onDestroy(() => {
      if (this.ticking) clearInterval(this.ticking);
    });
  }

  protected readonly clock = (iso: string): string => format(parseISO(iso), 'HH:mm');
  protected readonly keyOf = (text: string): string => text.split(': ')[0] ?? text;
  protected readonly howOf = (text: string): string => text.split(': ')[1] ?? 'press';

  protected startTimer(seconds: number): void {
    if (this.ticking) clearInterval(this.ticking);
    const end = Date.now() + seconds * 1000;
    this.left.set(seconds);
    this.ticking = setInterval(() => {
      if (this.left() === null) return;
      this.left.set(Math.max(0, Math.ceil((end - Date.now()) / 1000)));
    }, 250);
  }

  private noted(): [Role, string][] {
    const found = this.work.record()?.found[this.step().device ?? ''] ?? {};
    return (this.step().looks ?? []).flatMap((l) => (found[l.role] === undefined ? [] : [[l.role, String(found[l.role])] as [Role, string]]));
  }

  protected tick(item: string, on: boolean): void {
    this.ticked.update((set) => {
      const next = new Set(set);
      if (on) next.add(item);
      else next.delete(item);
      return next;
    });
  }

  protected see(look: Look, text: string): void {
    this.seen.update((map) => {
      const next = new Map(map);
      if (text.trim() === '') next.delete(look.role);
      else next.set(look.role, text);
      return next;
    });
  }

  private readLook(look: Look): { ok: true; value: number | string } | { ok: false; text: string } | null {
    const text = this.seen().get(look.role);
    const card = this.card();
    return text === undefined || !card ? null : readingOf(card, look.role, text);
  }
  protected lookProblem(look: Look): string | null {
    const read = this.readLook(look);
    return read && !read.ok ? read.text : null;
  }
  protected oddLook(look: Look): boolean {
    const read = this.readLook(look);
    return look.want !== null && read?.ok === true && read.value !== look.want;
  }
  private readonly looked = computed((): { values: DeviceValues; odd: number; wrong: boolean } => {
    const values: Partial<Record<Role, number | string>> = {};
    let odd = 0;
    let wrong = false;
    for (const look of this.step().looks ?? []) {
      const read = this.readLook(look);
      if (read && !read.ok) wrong = true;
      if (read?.ok) {
        values[look.role] = read.value;
        if (look.want !== null && read.value !== look.want) odd++;
      } else if (look.want !== null) values[look.role] = look.want;
    }
    return { values, odd, wrong };
  });

  /** How meter and display differ, and what follows from it. */
  protected readonly comparison = computed(() => {
    const [meterV, displayV] = [this.meterV(), this.displayV()];
    const card = this.card();
    if (meterV === undefined || displayV === undefined || !card) return null;
    const error = displayV - meterV;
    const input = this.plan().input;
    const limit = indistinguishable(provingMeter(input), card.display.stepV, meterV, input.coverage);
    const size = formatQuantity(Math.abs(error), 'V', 2);
    if (Math.abs(error) > 0.1 * meterV) return `${size} apart: these are not two readings of the same voltage. Look at both again.`;
    if (Math.abs(error) <= limit) return `They agree within ± ${formatQuantity(limit, 'V', 2)}: there is nothing to correct.`;
    const way = error > 0 ? 'high' : 'low';
    const suspect = Math.abs(error) > 0.01 * meterV ? ' More than 1 %: look for a bad lead first.' : '';
    return card.display.calibratable
      ? `The display reads ${size} ${way}. Calibrate it, and compare again.${suspect}`
      : `The display reads ${size} ${way}. The values to key move by as much.${suspect}`;
  });
  private readonly comparable = computed(() => {
    const [meterV, displayV] = [this.meterV(), this.displayV()];
    return meterV !== undefined && displayV !== undefined && Math.abs(displayV - meterV) <= 0.1 * meterV;
  });

  /** What the main answer says, and why it cannot be given yet. */
  protected readonly primary = computed((): { words: string; why: string | null } => {
    const s = this.step();
    switch (s.kind) {
      case 'edit':
        return { words: `Reads ${this.isChoice() ? String(s.value?.to) : this.figure()}`, why: null };
      case 'identify':
        return this.text().trim() === ''
          ? { words: 'Note it', why: 'Enter what its screen shows, or skip with a reason.' }
          : { words: `Note ${this.text().trim()}`, why: null };
      case 'compare':
        return this.comparable()
          ? { words: 'Keep the comparison', why: null }
          : { words: 'Keep the comparison', why: 'Enter what both read, or skip with a reason.' };
      case 'readOff': {
        const { values, wrong } = this.looked();
        const count = Object.keys(values).length;
        return wrong
          ? { words: 'Note the values', why: 'One line cannot be read: mend it first.' }
          : count === 0
            ? { words: 'Note the values', why: 'Enter at least one, or skip with a reason.' }
            : { words: count === 1 ? 'Note 1 value' : `Note ${count} values`, why: null };
      }
      case 'persist': {
        const { odd, wrong } = this.looked();
        if (wrong) return { words: 'All read so', why: 'One line cannot be read: mend it first.' };
        return { words: odd === 0 ? 'All read so' : odd === 1 ? 'Record 1 that reads otherwise' : `Record ${odd} that read otherwise`, why: null };
      }
      case 'tools':
      case 'handBack':
        return this.ticked().size < (s.items ?? []).length
          ? { words: plainAnswers[s.kind] ?? 'Done', why: `${(s.items ?? []).length - this.ticked().size} not ticked yet.` }
          : { words: plainAnswers[s.kind] ?? 'Done', why: null };
      default:
        return { words: plainAnswers[s.kind] ?? 'Done', why: null };
    }
  });

  protected go(): void {
    const s = this.step();
    if (this.primary().why !== null) return;
    const [meterV, displayV] = [this.meterV(), this.displayV()];
    const instrument = this.work.record()?.instrument;
    switch (s.kind) {
      case 'edit':
        if (s.value) this.work.answer(s, { state: 'done', reading: s.value.to });
        return;
      case 'identify':
        this.work.answer(s, { state: 'done', reading: this.text().trim() });
        return;
      case 'compare':
        if (meterV !== undefined && displayV !== undefined)
          this.work.answer(s, { state: 'done', meterV, displayV, ...(instrument === undefined ? {} : { instrument }) });
        return;
      case 'readOff':
      case 'persist':
        this.work.answer(s, { state: 'done', values: this.looked().values });
        return;
      default:
        this.work.answer(s, { state: 'done' });
    }
  }

  /** Opens the line for a reason. */
  openSkip(): void {
    this.skipping.set(true);
  }

  protected skip(): void {
    if (this.reason().trim() === '') return;
    this.work.answer(this.step(), { state: 'skipped', reason: this.reason().trim() });
  }
}
