import type { ElementRef } from '@angular/core';
import { ChangeDetectionStrategy, Component, computed, inject, linkedSignal, resource, signal, viewChild } from '@angular/core';
import {
  celsiusDifferenceToFahrenheit,
  celsiusToFahrenheit,
  formatBand,
  formatClock,
  formatDate,
  formatNumber,
  isoWithOffset,
  requirementKey,
  verdictWords,
  type LogEntry,
  type Problem,
  type ProofRow,
  type StageSpan,
  type Verdict,
} from '@calm-keel/core';
import { storageProblem } from '../data/database';
import { freeId } from '../data/free-id';
import { JobBook } from '../data/job-book';
import { JobStore } from '../data/job-store';
import { LogWork } from '../data/log-work';
import { Selection } from '../data/selection';
import { Units } from '../data/units';
import { ViewSize } from '../data/view-size';
import { BandLine } from '../ui/band-line';
import { ChoiceField } from '../ui/choice-field';
import { FindingsList } from '../ui/findings-list';
import { Glyph, type GlyphName } from '../ui/glyph';
import { measuredWidth } from '../ui/measured-width';
import { showInspector } from '../ui/show-inspector';
import { logFigure, plotMargins } from './figure';
import { Plot } from './plot';
import { StageRibbon } from './stage-ribbon';

const glyphs: Readonly<Record<Verdict, GlyphName>> = { pass: 'proved', fail: 'stop', inconclusive: 'inconclusive', notTested: 'notyet' };
const marks: Readonly<Record<Verdict, string>> = {
  pass: 'var(--ck-proved)',
  fail: 'var(--ck-stop)',
  inconclusive: 'var(--ck-inconclusive)',
  notTested: 'var(--ck-notyet)',
};

/** Prove: a log over the maker's bands, each charger's stages, and a verdict on every requirement. */
@Component({
  selector: 'ck-prove-page',
  imports: [Plot, StageRibbon, BandLine, Glyph, FindingsList, ChoiceField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './prove-page.html',
  styleUrl: './prove-page.scss',
})
export class ProvePage {
  protected readonly store = inject(JobStore);
  protected readonly selection = inject(Selection);
  protected readonly units = inject(Units);
  protected readonly size = inject(ViewSize);
  private readonly book = inject(JobBook);
  private readonly work = inject(LogWork);
  private readonly measure = viewChild.required<ElementRef<HTMLElement>>('measure');
  private readonly picker = viewChild.required<ElementRef<HTMLInputElement>>('picker');

  protected readonly glyphs = glyphs;
  protected readonly marks = marks;
  protected readonly words = verdictWords;
  protected readonly margins = plotMargins;
  private readonly room = measuredWidth(this.measure);
  protected readonly width = computed(() => Math.max(280, this.room()));

  protected readonly logs = computed(() => this.store.job()?.logs ?? []);
  protected readonly entry = computed<LogEntry | null>(() => this.logs().find((l) => l.id === this.selection.log()) ?? this.logs().at(-1) ?? null);

  protected readonly problems = signal<readonly Problem[]>([]);
  protected readonly progress = signal<{ rows: number; share: number } | null>(null);

  /** Which log is shown, as one word: an edit of the job that leaves it the same reads nothing anew. */
  private readonly shownKey = computed(() => {
    const id = this.store.job()?.id;
    const entry = this.entry();
    return id !== undefined && entry ? `${id} ${entry.id}` : undefined;
  });
  private readonly stored = resource({
    params: () => this.shownKey(),
    loader: async ({ params }) => {
      const [job = '', log = ''] = params.split(' ');
      return (await this.book.getLog(job, log)) ?? null;
    },
  });
  /** The log's samples are not on this device. */
  protected readonly lost = computed(() => this.entry() !== null && this.stored.status() === 'resolved' && this.stored.value() === null);
  private readonly viewed = resource({
    params: () => {
      const job = this.store.job();
      const row = this.stored.value();
      const entry = this.entry();
      return job && row && row.id === entry?.id ? { job, row, instrument: entry.instrument } : undefined;
    },
    loader: ({ params }) => this.work.api.view(params.job, params.row.log, params.row.report, params.instrument),
  });
  /** The last answer stays in view while the next one is worked out. */
  protected readonly view = linkedSignal<Awaited<ReturnType<typeof this.work.api.view>> | undefined, Awaited<ReturnType<typeof this.work.api.view>> | null>({
    source: () => this.viewed.value(),
    computation: (now, before) => now ?? before?.value ?? null,
  });
  protected readonly row = computed(() => this.stored.value() ?? null);
  protected readonly offset = computed(() => this.row()?.log.offsetMinutes ?? null);

  /** Chosen range on the log's clock. */
  protected readonly range = linkedSignal<string | undefined, readonly [string, string] | null>({ source: () => this.entry()?.id, computation: () => null });
  protected readonly chosenKey = linkedSignal<string | undefined, string | null>({ source: () => this.entry()?.id, computation: () => null });
  protected readonly chosenSpan = linkedSignal<string | undefined, StageSpan | null>({ source: () => this.entry()?.id, computation: () => null });
  protected readonly drawn = signal(false);

  protected readonly window = computed(() => {
    const entry = this.entry();
    const range = this.range();
    if (!entry) return { from: 0, to: 1 };
    if (!range) return { from: entry.from, to: entry.to };
    const seconds = (text: string): number => Date.parse(`${text.replace(' ', 'T').slice(0, 19).padEnd(19, ':00')}Z`) / 1000 - (this.offset() ?? 0) * 60;
    return { from: seconds(range[0]), to: seconds(range[1]) };
  });

  protected readonly groups = computed(() => {
    const rows = this.view()?.proof.rows ?? [];
    return [
      { question: 'specified', name: 'As specified', asks: 'as the maker asks', rows: rows.filter((r) => r.requirement.question === 'specified') },
      { question: 'programmed', name: 'As programmed', asks: 'as it was told', rows: rows.filter((r) => r.requirement.question === 'programmed') },
    ];
  });
  protected readonly chosen = computed(() => {
    const rows = this.view()?.proof.rows ?? [];
    return rows.find((r) => requirementKey(r) === this.chosenKey()) ?? rows[0] ?? null;
  });
  protected readonly ribbons = computed(() => {
    const spans = this.view()?.proof.stages ?? [];
    return (this.store.plan()?.input.system.chargers ?? [])
      .map((c) => ({ id: c.id, name: c.name, spans: spans.filter((s) => s.charger === c.id) }))
      .filter((r) => r.spans.length > 0);
  });
  protected readonly figure = computed(() => {
    const plan = this.store.plan();
    const view = this.view();
    if (!plan || !view) return null;
    const fahrenheit = this.units.scale() === 'F';
    return logFigure(
      plan,
      view,
      this.offset(),
      this.range(),
      this.chosenKey() === null ? null : (this.chosen()?.evidence ?? null),
      this.size.phone() ? 300 : 350,
      {
        label: this.units.label(),
        toShown: (c) => (fahrenheit ? celsiusToFahrenheit(c) : c),
      },
    );
  });
  protected readonly title = computed(() => {
    const entry = this.entry();
    return entry ? `Log of ${formatDate(entry.from, this.offset())}` : 'Prove';
  });
  protected readonly about = computed(() => {
    const entry = this.entry();
    const job = this.store.job();
    if (!entry || !job) return 'Bring in a log, and every requirement gets a verdict.';
    const instrument = job.system.instruments.find((i) => i.id === entry.instrument)?.name ?? entry.instrument;
    return `${instrument}, ${formatClock(entry.from, this.offset())} to ${formatClock(entry.to, this.offset())}, ${entry.rows.toLocaleString('en')} samples.`;
  });
  protected readonly instruments = computed(() => this.store.job()?.system.instruments.map((i) => ({ value: i.id, words: i.name })) ?? []);

  protected pick(): void {
    this.picker().nativeElement.click();
  }

  /** Reads a file in the worker; the job is only changed once all of it has been read and kept. */
  protected async bring(file: File | null | undefined): Promise<void> {
    const job = this.store.job();
    if (!file || !job || this.progress()) return;
    this.problems.set([]);
    this.progress.set({ rows: 0, share: 0 });
    try {
      const read = await this.work.api.readCsv(
        file,
        job.system.chargers.map((c) => c.id),
        this.work.proxy((rows: number, share: number) => {
          this.progress.set({ rows, share });
        }),
      );
      if (!read.ok) {
        this.problems.set(read.problems);
        return;
      }
      const { log, report } = read.value;
      const id = freeId(file.name, await this.book.contentIds(job.id), 'log');
      await this.book.putLog({ jobId: job.id, id, log, report });
      const instrument = job.system.instruments.find((i) => i.id === 'monitor')?.id ?? job.system.provingInstrument;
      const entry: LogEntry = { id, name: file.name.slice(0, 120), instrument, from: log.time[0] ?? 0, to: log.time.at(-1) ?? 0, rows: report.rows };
      this.store.edit(`Bring in ${entry.name}`, (j) => ({ ...j, logs: [...j.logs, entry] }));
      this.selection.log.set(id);
    } catch (error) {
      this.problems.set([{ code: 'storage', text: storageProblem(error) }]);
    } finally {
      this.progress.set(null);
    }
  }

  protected drop(event: DragEvent): void {
    event.preventDefault();
    void this.bring(event.dataTransfer?.files[0]);
  }

  protected cancel(): void {
    void this.work.api.cancel();
  }

  protected choose(row: ProofRow): void {
    this.chosenKey.set(requirementKey(row));
    this.chosenSpan.set(null);
    if (this.size.phone()) showInspector();
  }

  /** Chooses a row and zooms the log to its evidence; on a phone the log is brought into view. */
  protected show(row: ProofRow): void {
    this.chosenKey.set(requirementKey(row));
    this.chosenSpan.set(null);
    this.zoomTo(row.evidence);
    if (this.size.phone()) scrollTo({ top: 0 });
  }

  /** Zooms to a span with some room on both sides. */
  protected zoomTo(span: { from: number; to: number } | null): void {
    const entry = this.entry();
    if (!span || !entry) return;
    const room = Math.max(900, (span.to - span.from) * 0.4);
    const clock = (seconds: number): string => isoWithOffset(seconds + (this.offset() ?? 0) * 60, null);
    this.range.set([clock(Math.max(entry.from, span.from - room)), clock(Math.min(entry.to, span.to + room))]);
  }

  protected setInstrument(id: string): void {
    const entry = this.entry();
    if (entry)
      this.store.edit('Choose the log’s instrument', (job) => ({ ...job, logs: job.logs.map((l) => (l.id === entry.id ? { ...l, instrument: id } : l)) }));
  }

  protected removeLog(): void {
    const entry = this.entry();
    if (entry) this.store.edit(`Take out ${entry.name}`, (job) => ({ ...job, logs: job.logs.filter((l) => l.id !== entry.id) }));
  }

  protected nameOf(row: ProofRow): string {
    return this.store.plan()?.input.system.chargers.find((c) => c.id === row.requirement.charger)?.name ?? 'Bank';
  }

  protected readonly keyOf = requirementKey;

  protected half(width: number): string {
    const row = this.chosen();
    const unit = row?.unit ?? '';
    const fahrenheit = unit === '°C' && this.units.scale() === 'F';
    return `${formatNumber(fahrenheit ? celsiusDifferenceToFahrenheit(width) : width, 3)} ${fahrenheit ? '°F' : unit}`;
  }

  protected exampleColumns(): string {
    const id = this.store.job()?.system.chargers[0]?.id ?? 'charger-1';
    return `${id}_A, ${id}_array_V, ${id}_stage`;
  }

  protected measured(row: ProofRow): { value: string; plus: string; unit: string } | null {
    if (row.measured === null) return null;
    const fahrenheit = row.unit === '°C' && this.units.scale() === 'F';
    const value = fahrenheit ? celsiusToFahrenheit(row.measured) : row.measured;
    const plus = row.uncertainty === null ? null : fahrenheit ? celsiusDifferenceToFahrenheit(row.uncertainty) : row.uncertainty;
    return {
      value: formatNumber(value, row.digits),
      plus: plus === null ? '' : `± ${formatNumber(plus, Math.max(row.digits, row.unit === 'min' ? 1 : 0))}`,
      unit: fahrenheit ? '°F' : row.unit,
    };
  }

  protected allowed(row: ProofRow): string {
    if (row.unit === '°C') return row.band.min === undefined ? '' : `none below ${this.units.temperature(row.band.min)}`;
    if (row.unit === 's') return formatBand({ ...(row.band.min === undefined ? {} : { min: row.band.min / 60 }) }, 'min', 0);
    return formatBand(row.band, row.unit, row.digits);
  }

  protected when(row: ProofRow): string {
    if (!row.evidence) return '';
    const from = formatClock(row.evidence.from, this.offset());
    const to = formatClock(row.evidence.to, this.offset());
    return from === to ? from : `${from}–${to}`;
  }
}
