import type { ElementRef } from '@angular/core';
import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, viewChild } from '@angular/core';
import { RouterLink } from '@angular/router';
import { changedAt, countVerdicts, countWords } from '@calm-keel/core/job';
import { verdictWords, type Explanation, type ProofRow, type StageSpan } from '@calm-keel/core/proof';
import { formatClock, formatDate } from '@calm-keel/core/quantity';
import { devicesOf } from '@calm-keel/core/settings';
import { requirementKey } from '@calm-keel/core/requirements';
import { JobStore } from '../data/job-store';
import { LiveRecord } from '../data/live-record';
import { Selection } from '../data/selection';
import { Units } from '../data/units';
import { ViewSize } from '../data/view-size';
import { Announcer } from '../ui/announcer';
import { FindingsList } from '../ui/findings-list';
import { Glyph } from '../ui/glyph';
import { measuredWidth } from '../ui/measured-width';
import { NextStation } from '../ui/next-station';
import { showInspector } from '../ui/show-inspector';
import { AlonePanel } from './alone-panel';
import { ExplainPanel } from './explain-panel';
import { logFigure } from './figure';
import { lanesOf, plotMargins } from './lanes';
import { LogAbout } from './log-about';
import { clockOf, clockText, momentOf, rangeOf, secondsOf, toldAt, type ClockRange } from './log-address';
import { LogTable } from './log-table';
import type { Stretch } from './log-window';
import { LogOverview } from './log-overview';
import { LogPicture } from './log-picture';
import { LogZoom } from './log-zoom';
import { Plot } from './plot';
import { ProveHead } from './prove-head';
import { ShownLog } from './shown-log';
import { StageRibbon } from './stage-ribbon';
import { ToldList } from './told-list';
import { VerdictInspector } from './verdict-inspector';
import { VerdictTable } from './verdict-table';
import { ProveWays } from './ways';

/** What the address may say of a log: a stretch of it, what is told of a moment, one verdict. */
type Place = Partial<Record<'from' | 'to' | 'at' | 'row', string | null>>;

/** One log over the maker's bands, each charger's stages, and a verdict on every requirement. */
@Component({
  selector: 'ck-log-page',
  imports: [
    AlonePanel,
    RouterLink,
    NextStation,
    Plot,
    StageRibbon,
    Glyph,
    FindingsList,
    VerdictTable,
    ExplainPanel,
    ProveHead,
    ToldList,
    LogAbout,
    LogTable,
    LogOverview,
    LogPicture,
    LogZoom,
    VerdictInspector,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './log-page.html',
  styleUrl: './log-page.scss',
})
export class LogPage {
  protected readonly store = inject(JobStore);
  protected readonly units = inject(Units);
  protected readonly size = inject(ViewSize);
  private readonly live = inject(LiveRecord);
  private readonly selection = inject(Selection);
  private readonly announcer = inject(Announcer);
  protected readonly ways = inject(ProveWays);
  private readonly measure = viewChild.required<ElementRef<HTMLElement>>('measure');

  /** Which log, in the address; the newest where it names none. */
  readonly log = input<string>();
  readonly from = input<string>();
  readonly to = input<string>();
  readonly at = input<string>();
  readonly row = input<string>();

  protected readonly shown = new ShownLog(this.log);

  protected readonly margins = plotMargins;
  private readonly room = measuredWidth(this.measure);
  protected readonly width = computed(() => Math.max(280, this.room()));
  protected readonly height = computed(() => (this.size.phone() ? 300 : 350));
  /** Somebody points at the picture: values under the pointer, and stretches drawn out, are the plot library’s. */
  protected readonly pointed = signal(false);
  /** The plot lies over the picture. */
  protected readonly plotted = signal(false);

  /** The stretch in view, on the log's clock; null for the whole. */
  protected readonly range = computed<ClockRange | null>(() => rangeOf(this.from(), this.to()), {
    equal: (a, b) => a === b || (a?.[0] === b?.[0] && a?.[1] === b?.[1]),
  });
  protected readonly window = computed(() => {
    const entry = this.shown.entry();
    const range = this.range();
    if (!entry) return { from: 0, to: 1 };
    return range ? { from: secondsOf(range[0], this.shown.offset()), to: secondsOf(range[1], this.shown.offset()) } : { from: entry.from, to: entry.to };
  });
  protected readonly toldAt = computed(() => toldAt(this.shown.told(), this.at(), this.shown.offset()));
  /** What the log shows while nobody has said which battery it is of; empty once there is a sheet to judge it by. */
  protected readonly alone = computed(() => this.shown.view()?.alone ?? []);
  protected readonly explained = computed(() => this.shown.told()[this.toldAt()] ?? null);
  protected readonly chosen = computed(() => {
    const rows = this.shown.rows();
    return rows.find((r) => requirementKey(r) === this.row()) ?? rows.find((r) => r.verdict !== 'notTested') ?? rows[0] ?? null;
  });
  protected readonly ribbons = computed(() => {
    const spans = this.shown.view()?.proof.stages ?? [];
    return (this.store.plan()?.input.system.chargers ?? [])
      .map((c) => ({ id: c.id, name: c.name, spans: spans.filter((s) => s.charger === c.id), reported: this.reported(c.id, c.name) }))
      .filter((r) => r.spans.length > 0);
  });
  /** The stretch on a ribbon whose beginning is explained. */
  protected readonly chosenSpan = computed<StageSpan | null>(() => {
    const told = this.explained();
    if (told?.kind !== 'change') return null;
    return this.shown.view()?.proof.stages.find((s) => s.charger === told.charger && s.from === told.at) ?? null;
  });
  private readonly stretch = computed(() => (this.range() ? this.shown.thinned(this.window()) : this.shown.drawn()));
  protected readonly lanes = computed(() => {
    const plan = this.store.plan();
    const whole = this.shown.drawn();
    const stretch = this.stretch();
    if (!plan || !whole || !stretch) return null;
    return lanesOf(
      plan,
      { whole, stretch, window: this.window() },
      { offset: this.shown.offset(), width: this.width(), toShown: (c) => this.units.number(c) },
      {
        gaps: this.shown.row()?.report.gaps ?? [],
        odd: this.shown.odd(),
        chosenAt: this.explained()?.at ?? null,
        evidence: this.row() === undefined ? null : (this.chosen()?.evidence ?? null),
      },
    );
  });
  protected readonly figure = computed(() => {
    const lanes = this.pointed() ? this.lanes() : null;
    return lanes && logFigure(lanes, this.shown.offset(), this.range() === null, this.height(), this.units.label());
  });
  /** Devices whose settings were changed after this log ended: of them it tells what was. */
  protected readonly changedSince = computed(() => {
    const job = this.store.job();
    const entry = this.shown.entry();
    if (!job || !entry) return [];
    const end = new Date(entry.to * 1000).toISOString();
    return devicesOf(job)
      .filter((d) => (changedAt(job, d.id)?.at ?? '') > end)
      .map((d) => d.name);
  });
  private readonly day = (t: number): string => formatDate(t, this.shown.offset());
  protected readonly title = computed(() => {
    const entry = this.shown.entry();
    return entry ? `Log of ${this.day(entry.from)}` : 'Prove';
  });
  protected readonly about = computed(() => {
    const entry = this.shown.entry();
    const job = this.store.job();
    if (!entry || !job) return 'Bring in a log, and every requirement gets a verdict.';
    const offset = this.shown.offset();
    const by = job.system.instruments.find((i) => i.id === entry.instrument);
    const instrument = by?.assumed ? 'Its instrument is not known' : (by?.name ?? entry.instrument);
    const until = this.day(entry.to) === this.day(entry.from) ? '' : `${this.day(entry.to)}, `;
    return `${instrument}, ${formatClock(entry.from, offset)} to ${until}${formatClock(entry.to, offset)}, ${entry.rows.toLocaleString('en')} samples.`;
  });

  /** What the log in view came to; empty until it is judged. */
  private readonly judged = computed(() => {
    const rows = this.shown.rows();
    return rows.length === 0 ? '' : `${this.shown.entry()?.name ?? ''} is judged: ${countWords(countVerdicts(rows))}.`;
  });

  constructor() {
    // Said when it changes: the verdicts stand far below the plot.
    effect(() => {
      this.announcer.say(this.judged());
    });
  }

  /** Whether a log, as it was last judged, has a requirement that fails. */
  protected failing(log: string): boolean {
    return Object.values(this.store.kept()?.find((k) => k.logId === log)?.verdicts ?? {}).includes('fail');
  }

  /** What a charger says of its own stages, drawn only where that differs from what was inferred. */
  private reported(id: string, name: string): readonly StageSpan[] {
    const view = this.shown.view();
    const spans = view?.reported.find((r) => r.id === id)?.spans ?? [];
    const differs = view?.proof.notes.some((n) => n.includes('the stage it reports') && n.startsWith(name));
    if (!differs) return [];
    return spans.map((s) => ({ charger: id, stage: s.stage, from: s.from, to: s.to, first: 0, last: 0, confidence: 1, atVoltageSeconds: 0 }));
  }

  /** Goes to a place in the log in view: its address stays good in another tab, and after another log is brought in. */
  private go(place: Place, replaceUrl = false): void {
    const entry = this.shown.entry();
    if (entry) void this.ways.go(['log', entry.id], { queryParams: place, queryParamsHandling: 'merge', replaceUrl });
  }

  /** The address of a stretch with some room on both sides, within the log. */
  private around(span: Stretch | null): Place {
    const entry = this.shown.entry();
    if (!span || !entry) return {};
    const room = Math.max(900, (span.to - span.from) * 0.4);
    return this.between({ from: Math.max(entry.from, span.from - room), to: Math.min(entry.to, span.to + room) });
  }
  private between({ from, to }: Stretch): Place {
    return { from: clockOf(from, this.shown.offset()), to: clockOf(to, this.shown.offset()) };
  }

  protected choose(row: ProofRow): void {
    this.go({ row: requirementKey(row), at: null }, true);
    this.announcer.say(`${row.requirement.name}, ${this.nameOf(row.requirement.charger)}: ${verdictWords[row.verdict]}. ${this.units.speak(row.why)}`);
    if (this.size.phone()) showInspector();
  }

  /** Chooses a row and zooms the log to its evidence; on a phone the log is brought into view. */
  protected show(row: ProofRow): void {
    this.go({ ...this.around(row.evidence), row: requirementKey(row), at: null });
    if (this.size.phone()) scrollTo({ top: 0 });
  }

  /** Zooms to what a number of the log was seen in, with some room on both sides. */
  protected zoomTo(span: Stretch): void {
    this.go(this.around(span));
    if (this.size.phone()) scrollTo({ top: 0 });
  }
  /** Zooms to a stretch of the log; null shows the whole. */
  protected zoom(window: Stretch | null): void {
    this.go(window ? this.between(window) : { from: null, to: null });
  }
  protected zoomed(range: ClockRange | null): void {
    const drawn = range && rangeOf(range[0], range[1]);
    this.go({ from: drawn?.[0] ?? null, to: drawn?.[1] ?? null });
  }

  /** Chooses what is told of a stretch: the change that began it. */
  protected chooseSpan(span: StageSpan): void {
    const at = this.shown.told().findIndex((t) => t.kind === 'change' && t.charger === span.charger && t.at === span.from);
    this.go({ ...this.around(span), at: this.moment(at) });
  }
  /** Chooses what is told nearest to a moment. */
  protected tellAt(at: number): void {
    const weight = (x: Explanation): number => Math.abs(x.at - at) * (x.kind === 'odd' ? 0.3 : 1);
    const best = this.shown.told().reduce<Explanation | null>((least, t) => (least === null || weight(t) < weight(least) ? t : least), null);
    if (best) this.go({ at: this.moment(this.shown.told().indexOf(best)) }, true);
  }
  protected clickedAt(text: string): void {
    const clock = clockText(text);
    if (clock !== null) this.tellAt(secondsOf(clock, this.shown.offset()));
  }
  /** A finger needs the picture only, and the page is moved by it. */
  protected point(event: PointerEvent): void {
    if (event.pointerType !== 'touch') this.pointed.set(true);
  }
  protected tell(index: number): void {
    this.go({ at: this.moment(index) }, true);
    if (this.size.phone()) showInspector();
  }
  private moment(index: number): string | null {
    return momentOf(this.shown.told(), index, this.shown.offset());
  }
  protected zoomTold(): void {
    this.go(this.around(this.explained()));
    if (this.size.phone()) scrollTo({ top: 0 });
  }

  protected nameOf(charger: string | null | undefined): string {
    return this.store.plan()?.input.system.chargers.find((c) => c.id === charger)?.name ?? 'Bank';
  }
  protected readonly nameOfTold = (told: Explanation): string => this.nameOf(told.charger);

  protected startLive(): void {
    void this.live.begin(`Recorded ${new Date().toLocaleDateString('en-GB')}`, this.selection.charger());
  }
  /** A log that was taken out leaves its address. */
  protected leave(): void {
    void this.ways.go([], { replaceUrl: true });
  }

  protected readonly when = (row: ProofRow): string => {
    if (!row.evidence) return '';
    const from = formatClock(row.evidence.from, this.shown.offset());
    const to = formatClock(row.evidence.to, this.shown.offset());
    return from === to ? from : `${from}–${to}`;
  };
}
