import { ChangeDetectionStrategy, Component, computed, effect, ElementRef, inject, input, linkedSignal, untracked, viewChild } from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import { subjectOf, testNamed, type TestStep } from '@calm-keel/core/fieldtest';
import { formatClock, formatDay } from '@calm-keel/core/quantity';
import { JobStore } from '../data/job-store';
import { LiveRecord } from '../data/live-record';
import { keepAwake } from '../data/screen-awake';
import { TestWork } from '../data/test-work';
import { Units } from '../data/units';
import { Announcer } from '../ui/announcer';
import { Glyph } from '../ui/glyph';
import { SmallPlot } from './small-plot';
import { HistoryPanel } from './history-file';
import { TestAside } from './test-aside';
import { TestEntry } from './test-entry';
import { TestFields } from './test-fields';
import { TestLive } from './test-live';
import { TestTimer } from './test-timer';
import { ProveWays } from './ways';

/** One guided test, step by step, with gloves on: what to do, what is expected, what was read, and what it comes to so far. */
@Component({
  selector: 'ck-test-page',
  imports: [Glyph, RouterLink, SmallPlot, HistoryPanel, TestAside, TestFields, TestLive, TestTimer],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './test-page.html',
  styleUrl: './test-page.scss',
  providers: [TestEntry],
})
export class TestPage {
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
  private readonly router = inject(Router);
  protected readonly ways = inject(ProveWays);
  protected readonly store = inject(JobStore);
  protected readonly work = inject(TestWork);
  protected readonly live = inject(LiveRecord);
  protected readonly units = inject(Units);
  protected readonly entry = inject(TestEntry);
  private readonly fields = viewChild(TestFields);
  private readonly announcer = inject(Announcer);
  /** Which test, in the address, and which of its steps; the first open one where it names none. */
  readonly id = input.required<string>();
  readonly open = input<string>();
  protected readonly record = computed(() => this.store.job()?.tests.find((t) => t.id === this.id()) ?? null);
  private readonly subject = computed(() => {
    const plan = this.store.settled();
    const record = this.record();
    return plan && record ? subjectOf(plan, record.device) : null;
  });
  protected readonly test = computed(() => {
    const record = this.record();
    return record && testNamed(record.code);
  });
  protected readonly ready = computed(() => {
    const plan = this.store.settled();
    const subject = this.subject();
    const test = this.test();
    return plan && subject && test ? test.prepare(plan, subject) : null;
  });
  protected readonly device = computed(() => this.subject()?.device.name ?? '');
  protected readonly steps = computed(() => this.ready()?.steps ?? []);
  private readonly answered = computed(() => new Map(this.record()?.answers.map((a) => [a.step, a]) ?? []));
  /** The step in view: the one the address names, else the first that is not answered. */
  protected readonly at = linkedSignal<string, number>({
    source: () => `${this.id()} ${this.record()?.answers.length ?? 0} ${this.steps().length} ${this.open() ?? ''}`,
    // Looked at once: a save, or another tab, must not turn the page.
    computation: () =>
      untracked(() => {
        const named = this.steps().findIndex((s) => s.id === this.open());
        const open = this.steps().findIndex((s) => !this.answered().has(s.id));
        return named >= 0 ? named : open < 0 ? this.steps().length : open;
      }),
  });
  protected readonly step = computed<TestStep | null>(() => this.steps()[this.at()] ?? null);
  protected readonly isAnswered = (step: TestStep): boolean => this.answered().has(step.id);
  protected readonly series = computed(() => this.record()?.series ?? []);
  protected readonly points = computed(() =>
    this.series().flatMap((a) => {
      const volts = a.values['volts'];
      const celsius = a.values['celsius'];
      return typeof volts === 'number' ? [{ at: Date.parse(a.at) / 1000, volts, celsius: typeof celsius === 'number' ? celsius : NaN }] : [];
    }),
  );
  private readonly key = computed(() => `${this.id()} ${this.step()?.id ?? ''}`);
  /** Which step is in view, for the ear. */
  private readonly place = computed(() => {
    const step = this.step();
    return step ? `Step ${this.at() + 1} of ${this.steps().length}: ${step.title}` : '';
  });

  /** The test and its device, in a line. */
  protected readonly title = computed(() => `${this.test()?.name ?? 'Test'}, ${this.device()}`);

  constructor() {
    effect(() => {
      const record = this.record();
      if (record) this.entry.be(record, this.step());
    });
    keepAwake(computed(() => this.record()?.endedAt === null));
    // A step begins at its head, where the caution stands; on the phone the whole page scrolls.
    effect(() => {
      this.announcer.say(this.place());
    });
    effect(() => {
      this.key();
      this.host.querySelector('.sheet')?.scrollTo({ top: 0 });
      window.scrollTo({ top: 0 });
    });
  }

  protected done(): void {
    const step = this.step();
    const record = this.record();
    if (!step || !record) return;
    if (step.kind === 'series') {
      this.work.answer(record.id, step.id, {});
      this.goTo(null);
      return;
    }
    const values = this.entry.values(step);
    const taken = values && this.entry.moment();
    if (!values || taken === null) return;
    this.work.answer(record.id, step.id, values, taken === undefined ? {} : { taken });
    this.goTo(null);
  }
  protected addReading(): void {
    const step = this.step();
    const record = this.record();
    const values = step && this.entry.values(step);
    const taken = values && this.entry.moment();
    if (!step || !record || !values || taken === null) return;
    this.work.read(record.id, step.id, values, taken);
    this.fields()?.begin();
  }
  protected skip(): void {
    const step = this.step();
    const record = this.record();
    if (!step || !record) return;
    this.work.answer(record.id, step.id, {}, { skipped: 'not done here' });
    this.goTo(null);
  }
  protected undo(): void {
    const record = this.record();
    const last = record?.answers.at(-1);
    if (!record || !last) return;
    this.work.undo(record.id, last.step);
    this.goTo(null);
  }
  protected drop(at: string): void {
    const record = this.record();
    if (record) this.work.unread(record.id, at);
  }
  protected end(): void {
    const record = this.record();
    if (!record) return;
    this.work.end(record.id);
    if (this.live.running()) void this.live.end();
  }
  /** Goes to a step, whose address comes back to it; null to the first that is open. */
  protected goTo(step: TestStep | null): void {
    if (step === null && this.open() === undefined) return;
    void this.router.navigate([], { queryParams: { open: step?.id ?? null }, queryParamsHandling: 'merge', replaceUrl: step === null });
  }
  protected back(): void {
    void this.ways.go(['tests']);
  }

  /** A moment by the clock here; with its day where that is another than the one the test was begun on. */
  protected clock(iso: string): string {
    const seconds = Date.parse(iso) / 1000;
    const zone = -new Date(iso).getTimezoneOffset();
    const day = (of: string): string => formatDay(Date.parse(of) / 1000 + zone * 60);
    const begun = this.record()?.begunAt ?? iso;
    return day(begun) === day(iso) ? formatClock(seconds, zone) : `${day(iso)}, ${formatClock(seconds, zone)}`;
  }
}
