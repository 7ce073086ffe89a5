import { ChangeDetectionStrategy, Component, computed, effect, ElementRef, inject, input, linkedSignal, signal, untracked, DestroyRef } from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import { gradeWords, gradeSchema, subjectOf, testNamed, type Expected, type ReadingField, type TestStep } from '@calm-keel/core/fieldtest';
import { judgeTest } from '@calm-keel/core/job';
import { verdictWords, type ProofRow } from '@calm-keel/core/proof';
import { formatClock, formatDay, outsideBy, parseQuantity, saidBand } from '@calm-keel/core/quantity';
import { requirementKey, allowedWords } from '@calm-keel/core/requirements';
import { Photos } from '../data/photos';
import { JobStore } from '../data/job-store';
import { LiveRecord } from '../data/live-record';
import { keepAwake } from '../data/screen-awake';
import { TestWork } from '../data/test-work';
import { Units } from '../data/units';
import { Announcer } from '../ui/announcer';
import { Glyph } from '../ui/glyph';
import { measuredWords, verdictGlyphs } from '../ui/verdicts';
import { SmallPlot } from './small-plot';
import { HistoryPanel } from './history-file';
import { ProveWays } from './ways';

/** One guided test, step by step, with gloves on: what to do, what is expected, what was read, and what it comes to so far. */
@Component({
  selector: 'ck-test-page',
  imports: [Glyph, RouterLink, SmallPlot, HistoryPanel],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './test-page.html',
  styleUrl: './test-page.scss',
})
export class TestPage {
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
  private readonly router = inject(Router);
  protected readonly ways = inject(ProveWays);
  protected readonly store = inject(JobStore);
  protected readonly work = inject(TestWork);
  protected readonly live = inject(LiveRecord);
  protected readonly units = inject(Units);
  private readonly photos = inject(Photos);
  private readonly announcer = inject(Announcer);
  protected readonly glyphs = verdictGlyphs;
  protected readonly words = verdictWords;
  protected readonly grades = gradeSchema.options.map((value) => ({ value, words: gradeWords[value] }));

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
  protected readonly rows = computed<readonly ProofRow[]>(() => {
    const plan = this.store.settled();
    const job = this.store.job();
    const record = this.record();
    return plan && job && record ? judgeTest(plan, job, record) : [];
  });
  protected readonly series = computed(() => this.record()?.series ?? []);
  protected readonly points = computed(() =>
    this.series().flatMap((a) => {
      const volts = a.values['volts'];
      const celsius = a.values['celsius'];
      return typeof volts === 'number' ? [{ at: Date.parse(a.at) / 1000, volts, celsius: typeof celsius === 'number' ? celsius : NaN }] : [];
    }),
  );
  protected readonly livePoints = computed(() => this.live.recent().map((p) => ({ at: p.at, volts: p.volts, celsius: p.celsius })));
  protected readonly newest = computed(() => this.live.recent().at(-1) ?? null);

  private readonly key = computed(() => `${this.id()} ${this.step()?.id ?? ''}`);
  /** What was typed, and at which step: it outlives every save, and another step does not take it. */
  private readonly entered = signal<{ readonly key: string; readonly values: Readonly<Record<string, string>> }>({ key: '', values: {} });
  /** What stands in the fields of the step in view, as typed; else as it was answered. */
  protected readonly typed = computed<Readonly<Record<string, string>>>(() => {
    const { key, values } = this.entered();
    if (key === this.key()) return values;
    const step = this.step();
    const answer = step && this.answered().get(step.id);
    const fieldOf = (id: string): ReadingField | undefined => step?.fields?.find((f) => f.id === id);
    return Object.fromEntries(Object.entries(answer?.values ?? {}).map(([k, v]) => [k, this.entry(fieldOf(k), v)]));
  });
  /** When the reading was taken, as a date field holds it; empty means now. It outlives a reading: the next line of a notebook is minutes later. */
  protected readonly taken = linkedSignal<string, string>({ source: () => this.id(), computation: () => '' });
  private readonly askedWhen = linkedSignal<string, boolean>({ source: () => this.id(), computation: () => false });
  protected readonly when = computed(() => this.askedWhen() || this.taken() !== '' || this.record()?.code === 'history');
  protected askWhen(): void {
    this.askedWhen.set(true);
  }
  protected setTaken(text: string): void {
    this.taken.set(text);
    this.problem.set(null);
  }
  /** The moment as it is kept; undefined for now, null where it cannot be. */
  private moment(): string | undefined | null {
    const text = this.taken();
    if (text === '') return undefined;
    const at = new Date(text).getTime();
    if (Number.isNaN(at)) {
      this.problem.set('Taken at: not a date and time. Enter both, or leave it empty for now.');
      return null;
    }
    if (at > Date.now()) {
      this.problem.set('Taken at: that is still to come. Enter when it was read, or leave it empty for now.');
      return null;
    }
    return new Date(at).toISOString();
  }
  protected readonly problem = signal<string | null>(null);
  protected readonly left = signal<number | null>(null);
  private timer: ReturnType<typeof setInterval> | undefined;

  /** Which step is in view, for the ear. */
  private readonly place = computed(() => {
    const step = this.step();
    return step ? `Step ${this.at() + 1} of ${this.steps().length}: ${step.title}` : '';
  });

  constructor() {
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
    inject(DestroyRef).onDestroy(() => {
      clearInterval(this.timer);
    });
  }

  protected type(field: string, text: string): void {
    this.entered.set({ key: this.key(), values: { ...this.typed(), [field]: text } });
    this.problem.set(null);
  }

  /** The unit beside a field: the person's own for a temperature. */
  protected unitOf(field: ReadingField): string {
    return field.unit === '°C' ? this.units.label() : field.unit;
  }
  /** A number as it was taken, on the person's own scale. */
  private onScale(field: ReadingField | undefined, value: number): number {
    return field?.unit === '°C' ? this.units.number(value) : value;
  }
  /** What was taken, as it would be typed again: to a hundredth where a scale was changed on the way. */
  private entry(field: ReadingField | undefined, value: number | string): string {
    return typeof value === 'number' ? String(Number(this.onScale(field, value).toFixed(4))) : value;
  }

  /** Reads a field as typed: a number in the field's own unit, whatever unit was typed. */
  private valueOf(field: ReadingField): { ok: true; value: number | string | null } | { ok: false; why: string } {
    const text = (this.typed()[field.id] ?? '').trim();
    if (text === '') return field.optional ? { ok: true, value: null } : { ok: false, why: `${field.name}: nothing entered yet.` };
    if (field.choices || field.unit === '') return { ok: true, value: text.slice(0, 60) };
    // A bare number of °C is one in the person's own scale.
    const bare = field.unit === '°C' && this.units.scale() === 'F' && /^[-−+]?[\d.,]+$/.test(text) ? `${text} °F` : text;
    const read = parseQuantity(bare, field.unit);
    return read.ok ? { ok: true, value: read.value } : { ok: false, why: `${field.name}: ${read.problems[0]?.text ?? 'not a number'}` };
  }

  private values(step: TestStep): Readonly<Record<string, number | string>> | null {
    const out: Record<string, number | string> = {};
    for (const field of step.fields ?? []) {
      const read = this.valueOf(field);
      if (!read.ok) {
        this.problem.set(read.why);
        return null;
      }
      if (read.value !== null) out[field.id] = read.value;
    }
    return out;
  }

  /** How a typed value lies by what was expected. */
  protected fit(field: ReadingField): 'inside' | 'outside' | null {
    const read = this.valueOf(field);
    if (!read.ok || typeof read.value !== 'number' || !field.expected) return null;
    return outsideBy(field.expected, read.value) === 0 ? 'inside' : 'outside';
  }
  protected expectedOf(field: ReadingField): string {
    return field.expected ? `expected ${this.units.speak(saidBand(field.expected, field.unit, field.unit === 'V' ? 2 : 1))}` : '';
  }
  protected expected(e: Expected): string {
    return this.units.speak(saidBand(e.band, e.unit, e.digits));
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
    const values = this.values(step);
    const taken = values && this.moment();
    if (!values || taken === null) return;
    this.work.answer(record.id, step.id, values, taken === undefined ? {} : { taken });
    this.goTo(null);
  }
  protected addReading(): void {
    const step = this.step();
    const record = this.record();
    const values = step && this.values(step);
    const taken = values && this.moment();
    if (!step || !record || !values || taken === null) return;
    this.work.read(record.id, step.id, values, taken);
    this.entered.set({ key: this.key(), values: {} });
    // Typed and taken within one frame the page has drawn nothing in between, and would leave the old text standing.
    const fields = this.host.querySelectorAll<HTMLInputElement>('.fields input');
    for (const field of fields) field.value = '';
    if (this.host.contains(document.activeElement) && document.activeElement instanceof HTMLInputElement) fields[0]?.focus();
  }
  /** Takes what the device tells at this moment into the fields. */
  protected fromWire(): void {
    const now = this.newest();
    if (!now) return;
    this.entered.set({
      key: this.key(),
      values: {
        ...this.typed(),
        ...(Number.isFinite(now.volts) ? { volts: now.volts.toFixed(2) } : {}),
        ...(Number.isFinite(now.amps) ? { amps: now.amps.toFixed(1) } : {}),
        ...(Number.isFinite(now.celsius) ? { celsius: this.units.number(now.celsius).toFixed(1) } : {}),
      },
    });
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

  protected count(seconds: number): void {
    clearInterval(this.timer);
    const until = Date.now() + seconds * 1000;
    const tick = (): void => {
      this.left.set(Math.max(0, Math.round((until - Date.now()) / 1000)));
      if (Date.now() >= until) clearInterval(this.timer);
    };
    tick();
    this.timer = setInterval(tick, 500);
  }
  protected minutes(seconds: number): string {
    return `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, '0')}`;
  }

  protected async startLive(): Promise<void> {
    const record = this.record();
    if (!record) return;
    const id = await this.live.begin(`${this.test()?.name ?? 'Test'}, ${this.device()}`, record.device);
    if (id) this.work.note(record.id, { log: id });
  }

  protected setNote(note: string): void {
    const record = this.record();
    if (record) this.work.note(record.id, { note: note.slice(0, 1000) });
  }
  protected setGrade(value: string): void {
    const record = this.record();
    if (record) this.work.note(record.id, { grade: gradeSchema.parse(value) });
  }
  protected setInstrument(value: string): void {
    const record = this.record();
    if (record) this.work.note(record.id, { instrument: value });
  }
  protected readonly instruments = computed(() => this.store.job()?.system.instruments ?? []);

  protected async photo(file: File | null | undefined): Promise<void> {
    const job = this.store.job();
    const record = this.record();
    if (!file || !job || !record) return;
    const entry = await this.photos.keep(job, file, record.id, `Photo, ${this.test()?.name ?? 'test'}, ${this.device()}`);
    if (typeof entry === 'string') {
      this.problem.set(entry);
      return;
    }
    this.store.edit('Add a photo', (j) => ({
      ...j,
      attachments: [...j.attachments, entry],
      tests: j.tests.map((t) => (t.id === record.id ? { ...t, photos: [...t.photos, entry.id].slice(0, 12) } : t)),
    }));
  }

  protected readonly keyOf = requirementKey;
  protected measured(row: ProofRow) {
    return measuredWords(row, this.units.scale());
  }
  protected allowed(row: ProofRow): string {
    return allowedWords(row, (c) => this.units.temperature(c));
  }
  /** A moment by the clock here; with its day where that is another than the one the test was begun on. */
  protected clock(iso: string): string {
    const seconds = Date.parse(iso) / 1000;
    const zone = -new Date(iso).getTimezoneOffset();
    const day = (of: string): string => formatDay(Date.parse(of) / 1000 + zone * 60);
    const begun = this.record()?.begunAt ?? iso;
    return day(begun) === day(iso) ? formatClock(seconds, zone) : `${day(iso)}, ${formatClock(seconds, zone)}`;
  }
  protected valuesOf(values: Readonly<Record<string, number | string>>): string {
    return (this.step()?.fields ?? [])
      .flatMap((f) => {
        const value = values[f.id];
        if (value === undefined) return [];
        return [`${typeof value === 'number' ? this.onScale(f, value).toFixed(f.unit === 'V' ? 2 : 1) : value} ${this.unitOf(f)}`.trim()];
      })
      .join(', ');
  }
}
