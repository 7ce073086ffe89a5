import type { ElementRef } from '@angular/core';
import { ChangeDetectionStrategy, Component, computed, effect, inject, signal, viewChild } from '@angular/core';
import { RouterLink } from '@angular/router';
import { formatBand, formatDuration, formatMoment, formatNumber, formatQuantity } from '@calm-keel/core/quantity';
import { holdingWords, scenarioWords, togetherBy, variantWords, type Holding, type Outcome, type Together } from '@calm-keel/core/rehearsal';
import { requirementKey } from '@calm-keel/core/requirements';
import { download } from '../data/job-files';
import { JobStore } from '../data/job-store';
import { RehearseWork } from '../data/rehearse-work';
import { Selection } from '../data/selection';
import { Units } from '../data/units';
import { ViewSize } from '../data/view-size';
import { Moves } from '../ui/moves';
import { NextStation } from '../ui/next-station';
import { Announcer } from '../ui/announcer';
import { Glyph, type GlyphName } from '../ui/glyph';
import { measuredWidth } from '../ui/measured-width';
import { showInspector } from '../ui/show-inspector';
import { stageLook } from '../ui/stages';
import type { RunView } from '../workers/run-view';
import { ChosenMoment } from './chosen-moment';
import { spanAt, valueAt } from './day-layout';
import { DayPlot } from './day-plot';
import { DaySentence } from './day-sentence';
import { svgText } from '../ui/svg-text';
import { plotAsPng } from './save-plot';
import { TryPanel } from './try-panel';

const glyphs: Readonly<Record<Holding, GlyphName>> = { holds: 'done', breaks: 'stop', cannotTell: 'inconclusive' };

/** Rehearse: what the settings will do on a day, before anything is keyed in. */
@Component({
  selector: 'ck-rehearse-page',
  imports: [Moves, NextStation, DayPlot, DaySentence, TryPanel, Glyph, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './rehearse-page.html',
  styleUrl: './rehearse-page.scss',
  providers: [ChosenMoment],
})
export class RehearsePage {
  protected readonly store = inject(JobStore);
  protected readonly selection = inject(Selection);
  protected readonly size = inject(ViewSize);
  protected readonly units = inject(Units);
  protected readonly work = inject(RehearseWork);
  private readonly measure = viewChild.required<ElementRef<HTMLElement>>('measure');
  private readonly plot = viewChild(DayPlot);

  protected readonly glyphs = glyphs;
  protected readonly words = holdingWords;
  private readonly room = measuredWidth(this.measure);
  protected readonly width = computed(() => Math.max(300, this.room()));
  protected readonly rehearsal = this.work.rehearsal;
  protected readonly shown = this.work.shown;
  protected readonly charger = computed(() => {
    const all = this.store.plan()?.input.system.chargers ?? [];
    return (all.find((c) => c.id === this.selection.charger()) ?? all[0])?.id ?? null;
  });

  protected readonly chosen = inject(ChosenMoment);
  protected readonly cursor = this.chosen.at;
  protected readonly long = computed(() => {
    const a = this.shown()?.a;
    return a !== undefined && a.to - a.from > 86_400;
  });
  /** What stands at the chosen moment. */
  protected readonly moment = computed(() => {
    const shown = this.shown();
    const plan = this.store.settled();
    if (!shown || !plan) return null;
    const { a, b } = shown;
    const t = this.cursor();
    const of = (run: RunView) => ({
      volts: formatQuantity(valueAt(run.volts, t), 'V', 2),
      amps: formatQuantity(valueAt(run.bankAmps, t), 'A', 1),
      charge: `${Math.round(Math.min(1, Math.max(0, valueAt(run.charge, t))) * 100)} %`,
      battery: this.units.temperature(valueAt(run.battery, t), 1),
    });
    return {
      clock: formatMoment(t, this.long()),
      a: of(a),
      b: b && of(b),
      chargers: plan.input.system.chargers.flatMap((c) => {
        const own = a.chargers.find((x) => x.id === c.id);
        const span = own && spanAt(own.spans, t);
        return own && span && span.stage !== 'off'
          ? [{ id: c.id, words: `${c.name} ${stageLook[span.stage].words}, ${formatQuantity(valueAt(own.amps, t), 'A', 1)}` }]
          : [];
      }),
    };
  });
  /** Events nearest to the chosen moment, in their order. */
  protected readonly near = computed(() => {
    const a = this.shown()?.a;
    if (!a) return [];
    const t = this.cursor();
    const nearest = [...a.events].sort((p, q) => Math.abs(p.at - t) - Math.abs(q.at - t)).slice(0, this.size.phone() ? 3 : 4);
    return nearest.sort((p, q) => p.at - q.at).map((e) => ({ ...e, clock: formatMoment(e.at, this.long()) }));
  });
  protected readonly allEvents = computed(() => this.shown()?.a.events.map((e) => ({ ...e, clock: formatMoment(e.at, this.long()) })) ?? []);

  /** One row for each thing the sheet asks: A beside B, and in how many varied days A breaks. */
  protected readonly rows = computed(() => {
    const shown = this.shown();
    if (!shown) return [];
    const b = new Map(shown.b ? togetherBy(shown.b.outcomes).map((t) => [t.code, t]) : []);
    const study = this.work.study();
    return togetherBy(shown.a.outcomes).map((a) => {
      const keys = new Set(a.all.map(requirementKey));
      // Of the charger that breaks most.
      const of = study?.running === false ? study.results.filter((r) => keys.has(r.key)) : [];
      const worst = of.reduce<(typeof of)[number] | null>((w, r) => (w === null || r.breaks > w.breaks ? r : w), null);
      const other = b.get(a.code);
      return {
        code: a.code,
        name: a.name,
        asked: this.asked(a),
        a,
        b: other ?? null,
        aValue: this.value(a.shown),
        bValue: other ? this.value(other.shown) : '',
        worst,
        part: worst ? worst.breaks / Math.max(1, worst.runs) : null,
        partWords: worst ? `${Math.round((100 * worst.breaks) / Math.max(1, worst.runs))} %` : '',
      };
    });
  });
  protected readonly code = signal<Together['code'] | null>(null);
  protected readonly row = computed(() => {
    const rows = this.rows();
    return rows.find((r) => r.code === this.code()) ?? rows.find((r) => r.a.holding === 'breaks') ?? rows[0] ?? null;
  });
  /** What drives the chosen requirement's breaking. */
  protected readonly drivers = computed(() => {
    const worst = this.row()?.worst;
    if (!worst) return null;
    const most = Math.max(0.0001, ...worst.influences.map((i) => Math.abs(i.rank)));
    return {
      breaks: worst.breaks,
      runs: worst.runs,
      bars: worst.influences.slice(0, 8).map((i) => ({
        words: i.words,
        less: i.rank < 0,
        width: (100 * Math.abs(i.rank)) / most,
        figure: `${i.rank < 0 ? '−' : '+'}${Math.abs(i.rank).toFixed(2)}`,
      })),
    };
  });
  protected readonly counts = [100, 500, 1000];
  protected readonly count = signal(100);

  /** The day in figures, A and B. */
  protected readonly figures = computed(() => {
    const shown = this.shown();
    if (!shown) return [];
    const of = (run: RunView | null): readonly string[] => {
      if (!run) return ['', '', '', '', '', '', ''];
      const t = run.totals;
      const longest = Math.max(0, ...run.chargers.map((c) => c.totals.atVoltage));
      const coldest = Math.min(Infinity, ...run.chargers.map((c) => c.totals.coldest));
      const clock = (at: number): string => (Number.isFinite(at) ? formatMoment(at, this.long()) : 'never');
      return [
        longest > 0 ? formatDuration(Math.round(longest / 60) * 60) : 'never',
        clock(t.fullAt),
        Number.isFinite(t.ahToFull) ? formatQuantity(t.ahToFull, 'Ah', 0) : '—',
        formatQuantity(t.highest, 'V', 2),
        formatQuantity(t.lowest, 'V', 2),
        Number.isFinite(coldest) ? this.units.temperature(coldest, 1) : '—',
        String(t.bmsOpenings),
      ];
    };
    const a = of(shown.a);
    const b = of(shown.b);
    return ['At absorb voltage', '99 % reached', 'Charge it took', 'Highest voltage', 'Lowest voltage', 'Coldest charging', 'BMS opened, times'].map(
      (name, i) => ({
        name,
        a: a[i] ?? '',
        b: b[i] ?? '',
      }),
    );
  });
  protected readonly percent = computed(() => `${Math.round(100 * (this.work.part() ?? 0))} %`);
  protected readonly title = computed(() => scenarioWords(this.rehearsal()?.scenario.name ?? ''));
  protected readonly otherWords = computed(() => {
    const against = this.rehearsal()?.against;
    return against === undefined || against === 'none' ? '' : variantWords[against];
  });
  protected readonly aWords = computed(() => ((this.rehearsal()?.nudges.length ?? 0) > 0 ? 'as set, with what is tried' : 'as set'));

  private readonly announcer = inject(Announcer);
  /** What the day came to, for the ear; empty while it is worked out. */
  private readonly outcome = computed(() => {
    if (!this.shown() || this.work.running()) return '';
    const breaks = this.rows().filter((r) => r.a.holding === 'breaks').length;
    return `Rehearsed: ${breaks === 0 ? 'nothing breaks' : breaks === 1 ? '1 requirement breaks' : `${breaks} requirements break`}.`;
  });

  constructor() {
    effect(() => {
      this.work.visited.set(this.store.job()?.id ?? null);
    });
    effect(() => {
      this.announcer.say(this.outcome());
    });
  }

  private asked(a: Together): string {
    const { band, unit, digits, taperA } = a.shown.requirement;
    if (a.code === 'absorbCompleted')
      return [band.min === undefined ? '' : formatDuration(band.min), taperA === undefined ? '' : formatQuantity(taperA, 'A', 1)]
        .filter((t) => t !== '')
        .join(' or ');
    if ((unit === 'V' || unit === '°C') && (band.min !== undefined || band.max !== undefined))
      return unit === '°C' ? `at least ${this.units.temperature(band.min ?? 0)}` : formatBand(band, unit, Math.min(1, digits));
    return '';
  }

  private value(o: Outcome): string {
    if (o.value === null) return '';
    switch (o.requirement.code) {
      case 'absorbCompleted':
      case 'loadsStayOn':
        return o.value === 0 ? '' : formatDuration(Math.round(o.value));
      case 'noChargeBelowMinimum':
        return this.units.temperature(o.value, 1);
      case 'monitorFull':
        return `${Math.round(o.value)} %`;
      case 'noDisconnect':
        return o.value === 0 ? '' : formatNumber(o.value, 0);
      default:
        return formatQuantity(o.value, o.requirement.unit, o.requirement.digits);
    }
  }

  protected choose(code: Together['code']): void {
    this.code.set(code);
    const at = this.row()?.a.shown.from;
    if (at !== undefined) this.chosen.go(at);
    if (this.size.phone()) showInspector();
  }

  protected look(o: Outcome): void {
    if (o.from !== undefined) this.chosen.go(o.from);
    const { charger } = o.requirement;
    if (charger !== undefined && this.store.plan()?.input.system.chargers.some((c) => c.id === charger)) this.selection.charger.set(charger);
  }

  protected async save(kind: 'csv' | 'png' | 'svg'): Promise<void> {
    const job = this.store.job();
    const drawing = this.plot()?.drawing().nativeElement;
    if (!job || !drawing) return;
    const name = `${job.id}-${this.rehearsal()?.scenario.name ?? 'day'}`;
    if (kind === 'csv') download(new Blob([await this.work.csv()], { type: 'text/csv' }), `${name}.csv`);
    else if (kind === 'svg') download(new Blob([svgText(drawing)], { type: 'image/svg+xml' }), `${name}.svg`);
    else download(await plotAsPng(drawing), `${name}.png`);
  }
}
