import { ChangeDetectionStrategy, Component, computed, ElementRef, inject, input, linkedSignal, signal } from '@angular/core';
import { Router } from '@angular/router';
import { countVerdicts, dueOf } from '@calm-keel/core/job';
import { verdictOrder, verdictWords } from '@calm-keel/core/proof';
import { handover, openPoints, ownersCard, type Paper } from '@calm-keel/core/report';
import { download } from '../data/job-files';
import { JobStore, today } from '../data/job-store';
import { Library } from '../data/library';
import { Units } from '../data/units';
import { dayWords } from '../ui/day-words';
import { verdictGlyphs } from '../ui/verdicts';
import { Glyph } from '../ui/glyph';
import { svgText } from '../ui/svg-text';
import { Tabs } from '../ui/tabs';
import { FilesPanel } from './files-panel';
import { LabelsPanel } from './labels-panel';
import { paperPdf, type Drawings } from './paper-pdf';
import { PaperView } from './paper-view';
import { VisitsPanel } from './visits-panel';

const views = [
  { id: 'report', words: 'Report' },
  { id: 'card', words: 'Owner’s card' },
  { id: 'labels', words: 'Labels' },
  { id: 'files', words: 'Files' },
  { id: 'visits', words: 'Visits' },
] as const;
type View = (typeof views)[number]['id'];

const isView = (text: string | undefined): text is View => views.some((v) => v.id === text);

/** Hand over: the report, the owner's card, the labels, files for others, and the visits of the job. */
@Component({
  selector: 'ck-hand-over-page',
  imports: [Glyph, PaperView, VisitsPanel, LabelsPanel, FilesPanel, Tabs],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './hand-over-page.html',
  styleUrl: './hand-over-page.scss',
})
export class HandOverPage {
  private readonly units = inject(Units);
  protected readonly store = inject(JobStore);
  private readonly library = inject(Library);
  private readonly router = inject(Router);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  protected readonly views = views;
  protected readonly glyphs = verdictGlyphs;
  protected readonly words = verdictWords;
  protected readonly dayWords = dayWords;

  /** Which part, in the address: a reload and a link come back to it. */
  readonly view = input<string | undefined>();
  protected readonly shown = linkedSignal<View>(() => {
    const view = this.view();
    return isView(view) ? view : 'report';
  });
  protected readonly sums = signal(false);
  protected readonly making = signal(false);
  protected readonly problem = signal<string | null>(null);
  protected readonly made = signal<string | null>(null);

  protected readonly data = computed(() => {
    const job = this.store.job();
    const plan = this.store.settled();
    return job && plan ? { job, plan } : null;
  });
  /** Some log has not been judged as the job is now: its verdicts are still to come. */
  protected readonly judging = computed(() => {
    const job = this.store.job();
    return job !== null && job.logs.length > 0 && this.store.standing() === null;
  });
  protected readonly report = computed<Paper | null>(() => {
    const data = this.data();
    return data && handover(data.job, this.store.covered(), { today: today(), sums: this.sums(), scale: this.units.scale(), library: this.library.sheets() });
  });
  protected readonly card = computed<Paper | null>(() => {
    const data = this.data();
    return data && ownersCard(data.job, data.plan, today(), this.units.scale());
  });
  protected readonly paper = computed(() => (this.shown() === 'card' ? this.card() : this.report()));
  protected readonly counts = computed(() => {
    const counts = countVerdicts(this.store.covered());
    return verdictOrder.map((verdict) => ({ verdict, count: counts[verdict] })).filter((c) => c.count > 0);
  });
  protected readonly open = computed(() => {
    const job = this.store.job();
    return job ? openPoints(job, this.store.findings(), this.store.covered(), this.units.scale()) : [];
  });
  protected readonly due = computed(() => {
    const job = this.store.job();
    return job ? dueOf(job, this.store.covered(), today(), this.library.sheets())[0] : undefined;
  });
  protected readonly visit = computed(() => this.store.job()?.visits.findLast((v) => v.closed === null) ?? null);

  protected choose(view: View): void {
    this.shown.set(view);
    this.made.set(null);
    void this.router.navigate([], { queryParams: { view: view === 'report' ? null : view }, queryParamsHandling: 'merge' });
  }

  /** Brings a part of the report into view, and the focus with it. */
  protected goTo(id: string): void {
    const part = this.host.nativeElement.querySelector<HTMLElement>(`#part-${id}`);
    part?.scrollIntoView();
    part?.setAttribute('tabindex', '-1');
    part?.focus({ preventScroll: true });
  }

  protected print(): void {
    window.print();
  }

  /** The drawings in view as documents of their own. */
  private drawings(): Drawings {
    const all: Record<string, string> = {};
    for (const holder of this.host.nativeElement.querySelectorAll<HTMLElement>('[data-drawing]')) {
      const svg = holder.querySelector('svg');
      if (svg) all[holder.dataset['drawing'] ?? ''] = svgText(svg);
    }
    for (const svg of this.host.nativeElement.querySelectorAll<SVGSVGElement>('svg[data-log]')) all[`log-${svg.dataset['log'] ?? ''}`] = svgText(svg);
    return all;
  }

  protected async pdf(): Promise<void> {
    const paper = this.paper();
    const job = this.store.job();
    if (!paper || !job) return;
    this.making.set(true);
    this.problem.set(null);
    this.made.set(null);
    try {
      const blob = await paperPdf(paper, this.drawings());
      const name = `${job.id}-${this.shown() === 'card' ? 'owners-card' : 'hand-over'}-${today()}.pdf`;
      download(blob, name);
      this.made.set(`${name}, ${Math.max(1, Math.round(blob.size / 1000))} kB`);
    } catch (error) {
      this.problem.set(
        `The PDF could not be made (${error instanceof Error ? error.message : 'unknown reason'}). Print the page instead; it has the same parts.`,
      );
    } finally {
      this.making.set(false);
    }
  }
}
