import type { ElementRef } from '@angular/core';
import { Router } from '@angular/router';
import { ChangeDetectionStrategy, Component, computed, inject, linkedSignal, resource, signal, viewChild } from '@angular/core';
import {
  asEntered,
  unknownSensor,
  devicesOf,
  changedAt,
  celsiusDifferenceToFahrenheit,
  celsiusToFahrenheit,
  formatClock,
  formatDate,
  formatNumber,
  isoWithOffset,
  requirementKey,
  verdictWords,
  type Explanation,
  type LogEntry,
  type ProofRow,
  type StageSpan,
  type TestCode,
} from '@calm-keel/core';
import { JobBook } from '../data/job-book';
import { JobStore } from '../data/job-store';
import { LogImport } from '../data/log-import';
import { LogWork } from '../data/log-work';
import { LiveRecord } from '../data/live-record';
import { Selection } from '../data/selection';
import { TestWork } from '../data/test-work';
import { Units } from '../data/units';
import { ViewSize } from '../data/view-size';
import { ChoiceField } from '../ui/choice-field';
import { FindingsList } from '../ui/findings-list';
import { NextStation } from '../ui/next-station';
import { Glyph } from '../ui/glyph';
import { measuredWidth } from '../ui/measured-width';
import { showInspector } from '../ui/show-inspector';
import { ExplainPanel } from './explain-panel';
import { logFigure, plotMargins } from './figure';
import { GlancePanel } from './glance-panel';
import { ImportPanel } from './import-panel';
import { Plot } from './plot';
import { sensorChoices } from '../data/sensors';
import { StageRibbon } from './stage-ribbon';
import { TestsPanel } from './tests-panel';
import { VerdictTable } from './verdict-table';
import { verdictGlyphs } from '../ui/verdicts';

/** What a log came to, and which it was. */
interface LogAnswer {
  readonly log: string;
  readonly told: Awaited<ReturnType<LogWork['api']['view']>>;
}

/** Prove: a log over the maker's bands, each charger's stages, and a verdict on every requirement. */
@Component({
  selector: 'ck-prove-page',
  imports: [NextStation, Plot, StageRibbon, Glyph, FindingsList, ChoiceField, VerdictTable, ExplainPanel, ImportPanel, GlancePanel, TestsPanel],
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
  private readonly tests = inject(TestWork);
  protected readonly import = inject(LogImport);
  private readonly router = inject(Router);
  protected readonly live = inject(LiveRecord);
  private readonly measure = viewChild.required<ElementRef<HTMLElement>>('measure');
  private readonly picker = viewChild.required<ElementRef<HTMLInputElement>>('picker');

  protected readonly glyphs = verdictGlyphs;
  protected readonly words = verdictWords;
  protected readonly margins = plotMargins;
  private readonly room = measuredWidth(this.measure);
  protected readonly width = computed(() => Math.max(280, this.room()));

  /** Whether a log, as it was last judged, has a requirement that fails. */
  protected failing(log: string): boolean {
    return Object.values(this.store.kept()?.find((k) => k.logId === log)?.verdicts ?? {}).includes('fail');
  }
  protected readonly logs = computed(() => this.store.job()?.logs ?? []);
  protected readonly entry = computed<LogEntry | null>(() => this.logs().find((l) => l.id === this.selection.log()) ?? this.logs().at(-1) ?? null);

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
      return job && row && row.id === entry?.id ? { job, row, entry } : undefined;
    },
    loader: async ({ params }) => ({
      log: params.entry.id,
      told: await this.work.api.view(params.job, asEntered(params.row.log, params.entry), params.row.report, params.entry.instrument),
    }),
  });
  private readonly answered = linkedSignal<LogAnswer | undefined, LogAnswer | null>({
    source: () => this.viewed.value(),
    computation: (now, before) => now ?? before?.value ?? null,
  });
  /** The last answer stays in view while the next one of the same log is worked out; another log’s would stand under this one’s name. */
  protected readonly view = computed(() => {
    const answer = this.answered();
    return answer && answer.log === this.entry()?.id ? answer.told : null;
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

  protected readonly views = [
    { view: 'log', words: 'Logs' },
    { view: 'tests', words: 'Guided tests' },
    { view: 'glance', words: 'At a glance' },
  ] as const;
  protected readonly rows = computed(() => this.view()?.proof.rows ?? []);
  /** What is told of the log, in the order of time. */
  protected readonly told = computed<readonly Explanation[]>(() => this.view()?.proof.told ?? []);
  protected readonly odd = computed(() => this.told().filter((t) => t.kind === 'odd'));
  protected readonly toldAt = linkedSignal<string | undefined, number | null>({ source: () => this.entry()?.id, computation: () => null });
  protected readonly explained = computed(() => this.told()[this.toldAt() ?? -1] ?? null);
  protected readonly days = computed(() => {
    const entry = this.entry();
    if (!entry || entry.to - entry.from < 36 * 3600) return [];
    const offset = (this.offset() ?? 0) * 60;
    const first = Math.floor((entry.from + offset) / 86_400);
    const last = Math.floor((entry.to + offset) / 86_400);
    return Array.from({ length: Math.min(62, last - first + 1) }, (_, i) => {
      const from = (first + i) * 86_400 - offset;
      return { from, to: from + 86_400, words: formatDate(from + 3600, this.offset()).replace(/ \d{4}$/, '') };
    });
  });
  protected readonly chosen = computed(() => {
    return this.rows().find((r) => requirementKey(r) === this.chosenKey()) ?? this.rows().find((r) => r.verdict !== 'notTested') ?? this.rows()[0] ?? null;
  });
  protected readonly ribbons = computed(() => {
    const spans = this.view()?.proof.stages ?? [];
    return (this.store.plan()?.input.system.chargers ?? [])
      .map((c) => ({ id: c.id, name: c.name, spans: spans.filter((s) => s.charger === c.id), reported: this.reported(c.id) }))
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
      {
        gaps: this.row()?.report.gaps ?? [],
        odd: this.odd(),
        chosenAt: this.explained()?.at ?? null,
        days: this.days().length > 0,
      },
    );
  });
  /** Devices whose settings were changed after this log ended: of them it tells what was. */
  protected readonly changedSince = computed(() => {
    const job = this.store.job();
    const entry = this.entry();
    if (!job || !entry) return [];
    const end = new Date(entry.to * 1000).toISOString();
    return devicesOf(job)
      .filter((d) => (changedAt(job, d.id)?.at ?? '') > end)
      .map((d) => d.name);
  });
  private readonly day = (t: number): string => formatDate(t, this.offset());
  protected readonly title = computed(() => {
    const entry = this.entry();
    return entry ? `Log of ${this.day(entry.from)}` : 'Prove';
  });
  protected readonly about = computed(() => {
    const entry = this.entry();
    const job = this.store.job();
    if (!entry || !job) return 'Bring in a log, and every requirement gets a verdict.';
    const instrument = job.system.instruments.find((i) => i.id === entry.instrument)?.name ?? entry.instrument;
    const until = this.day(entry.to) === this.day(entry.from) ? '' : `${this.day(entry.to)}, `;
    return `${instrument}, ${formatClock(entry.from, this.offset())} to ${until}${formatClock(entry.to, this.offset())}, ${entry.rows.toLocaleString('en')} samples.`;
  });
  protected readonly instruments = computed(() => this.store.job()?.system.instruments.map((i) => ({ value: i.id, words: i.name })) ?? []);

  protected pick(): void {
    this.picker().nativeElement.click();
  }

  /** What a charger says of its own stages, drawn only where that differs from what was inferred. */
  private reported(id: string): readonly StageSpan[] {
    const told = this.view()?.chargers.find((c) => c.id === id)?.reported ?? [];
    const differs = this.view()?.proof.notes.some(
      (n) => n.includes('the stage it reports') && n.startsWith(this.store.job()?.system.chargers.find((c) => c.id === id)?.name ?? '?'),
    );
    if (!told || !differs) return [];
    return told.map((s) => ({ charger: id, stage: s.stage, from: s.from, to: s.to, first: 0, last: 0, confidence: 1, atVoltageSeconds: 0 }));
  }

  protected bring(list: FileList | null | undefined): Promise<void> {
    return this.import.bring([...(list ?? [])]);
  }

  protected drop(event: DragEvent): void {
    event.preventDefault();
    void this.bring(event.dataTransfer?.files);
  }

  protected choose(row: ProofRow): void {
    this.chosenKey.set(requirementKey(row));
    this.toldAt.set(null);
    this.chosenSpan.set(null);
    if (this.size.phone()) showInspector();
  }

  /** Chooses a row and zooms the log to its evidence; on a phone the log is brought into view. */
  protected show(row: ProofRow): void {
    this.chosenKey.set(requirementKey(row));
    this.toldAt.set(null);
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

  /** Chooses what is told of a stretch: the change that began it. */
  protected chooseSpan(span: StageSpan): void {
    this.chosenSpan.set(span);
    const at = this.told().findIndex((t) => t.kind === 'change' && t.charger === span.charger && t.at === span.from);
    this.toldAt.set(at < 0 ? null : at);
    this.zoomTo(span);
  }
  /** Chooses what is told nearest to a moment of the plot. */
  protected clickedAt(text: string): void {
    const at = Date.parse(`${text.replace(' ', 'T').slice(0, 19).padEnd(19, ':00')}Z`) / 1000 - (this.offset() ?? 0) * 60;
    let best = -1;
    this.told().forEach((t, i) => {
      const before = this.told()[best];
      const weight = (x: Explanation): number => Math.abs(x.at - at) * (x.kind === 'odd' ? 0.3 : 1);
      if (!before || weight(t) < weight(before)) best = i;
    });
    if (best >= 0) this.toldAt.set(best);
  }
  protected tell(index: number): void {
    this.toldAt.set(index);
    if (this.size.phone()) showInspector();
  }
  protected zoomTold(): void {
    const told = this.explained();
    if (told) this.zoomTo({ from: told.from, to: told.to });
    if (this.size.phone()) scrollTo({ top: 0 });
  }
  protected nameOfTold(told: Explanation): string {
    return this.store.job()?.system.chargers.find((c) => c.id === told.charger)?.name ?? 'Bank';
  }
  protected clockAt(seconds: number): string {
    return formatClock(seconds, this.offset());
  }
  protected zoomDay(day: { from: number; to: number }): void {
    const clock = (seconds: number): string => isoWithOffset(seconds + (this.offset() ?? 0) * 60, null);
    this.range.set([clock(day.from), clock(day.to)]);
  }

  protected beginTest(of: { code: TestCode; device: string }): void {
    const id = this.tests.begin(of.code, of.device);
    if (id) this.openTest(id);
  }
  protected openTest(id: string): void {
    void this.router.navigate(['/job', this.store.job()?.id ?? '', 'prove', 'test', id]);
  }
  protected openLog(id: string): void {
    this.selection.log.set(id);
    this.selection.prove.set('log');
  }
  protected startLive(): void {
    void this.live.begin(`Recorded ${new Date().toLocaleDateString('en-GB')}`, this.selection.charger());
  }
  protected async stopLive(): Promise<void> {
    const id = this.live.running()?.id;
    await this.live.end();
    if (id) this.openLog(id);
  }

  protected setInstrument(id: string): void {
    const entry = this.entry();
    if (entry)
      this.store.edit('Choose the log’s instrument', (job) => ({ ...job, logs: job.logs.map((l) => (l.id === entry.id ? { ...l, instrument: id } : l)) }));
  }

  /** Sensors that may have written the temperature, and which it was; none where the log has no temperature. */
  protected readonly sensors = computed(() =>
    this.row()?.log.batteryC ? [{ value: unknownSensor, words: 'a sensor nobody knows' }, ...sensorChoices(this.store.job()?.system.chargers ?? [])] : [],
  );
  protected readonly sensor = computed(() => {
    const id = this.entry()?.batterySensor ?? this.row()?.log.batterySensor;
    return this.sensors().some((s) => s.value === id) ? (id ?? unknownSensor) : unknownSensor;
  });
  protected setSensor(batterySensor: string): void {
    const entry = this.entry();
    if (entry)
      this.store.edit('Say which sensor wrote the temperature', (job) => ({
        ...job,
        logs: job.logs.map((l) => (l.id === entry.id ? { ...l, batterySensor } : l)),
      }));
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

  protected readonly when = (row: ProofRow): string => {
    if (!row.evidence) return '';
    const from = formatClock(row.evidence.from, this.offset());
    const to = formatClock(row.evidence.to, this.offset());
    return from === to ? from : `${from}–${to}`;
  };
}
